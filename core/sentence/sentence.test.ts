import { describe, expect, it } from 'vitest';
import { openRule, type Rule } from '../rules/index.ts';
import type { Source } from '../values/index.ts';
import { Cutter } from './cut.ts';
import { completeAt, couldStandAt, type Known, readSentence, saySentence, type Spoken } from './index.ts';
import { KEYWORDS, PHRASES } from './words/index.ts';

const LOANS: Source = {
  id: 'loans',
  kind: 'records',
  name: 'Loan agreements',
  titleField: 'title',
  fields: [
    { id: 'title', name: 'Loan', type: 'text' },
    { id: 'status', name: 'Status', type: 'choice', options: ['Requested', 'Agreed', 'On view', 'Empty'] },
    { id: 'exhibition', name: 'Exhibition', type: 'choice', options: ['Woven Waters', 'Small Fires'] },
    { id: 'lender', name: 'Lender', type: 'link', to: 'lenders' },
    { id: 'registrar', name: 'Registrar', type: 'person' },
    { id: 'insured', name: 'Insured value', type: 'money' },
    { id: 'cover', name: 'Cover limit', type: 'money' },
    { id: 'due', name: 'Due back', type: 'date' },
  ],
};
const LENDERS: Source = {
  id: 'lenders',
  kind: 'records',
  name: 'Lenders',
  titleField: 'name',
  fields: [
    { id: 'name', name: 'Lender', type: 'text' },
    { id: 'rating', name: 'Rating', type: 'choice', options: ['Trusted', 'On hold'] },
    { id: 'keeper', name: 'Keeper', type: 'person' },
  ],
};
const KNOWN: Known = {
  sources: new Map([LOANS, LENDERS].map((source) => [source.id, source])),
  people: [
    { id: 'ines', name: 'Inés Calder' },
    { id: 'mei', name: 'Mei Okafor' },
  ],
  groups: [{ id: 'insurers', name: 'Insurers' }],
  contacts: [],
  webhooks: [],
  folders: [],
  senders: [],
  wordings: [],
  items: [{ id: 'reed', name: 'Reed Gate', source: 'lenders' }],
};
const ENGLISH: Spoken = {
  locale: 'en-GB',
  language: 'en',
  known: KNOWN,
  base: { ...openRule('r', 'R', 'ines', ['loans']), zone: 'Europe/Madrid' },
};
const SPANISH: Spoken = { ...ENGLISH, locale: 'es-ES', language: 'es' };
const read = (text: string, spoken = ENGLISH) => {
  const { rule, marks } = readSentence(text, spoken);
  return { rule, at: marks[0], marks: marks.map(({ from, to, code }) => [text.slice(from, to), code]) };
};
const whole = (text: string, spoken = ENGLISH): Rule => {
  const { rule, marks } = read(text, spoken);
  expect(marks).toEqual([]);
  return rule;
};

describe('a rule typed', () => {
  const GOES_ON_VIEW = {
    all: [
      { was: { field: 'status', op: 'oneOf', value: ['Requested', 'Agreed'] } },
      { became: { field: 'status', op: 'is', value: 'On view' } },
    ],
  };

  it.each([
    [
      ENGLISH,
      'tell the registrar and her manager when a loan of Woven Waters goes from Requested or Agreed to On view, once settled, not imports',
    ],
    [
      SPANISH,
      'avisa a su registrar y a su superior cuando un loan de Woven Waters pasa de Requested o Agreed a On view, una vez asentado, sin importaciones',
    ],
  ])('is the rule that it says', (spoken, text) => {
    expect(whole(text, spoken)).toMatchObject({
      to: [{ field: 'registrar' }, { managerOf: { field: 'registrar' } }],
      scope: { sources: ['loans'], where: { field: 'exhibition', op: 'is', value: 'Woven Waters' } },
      when: { kinds: [], if: GOES_ON_VIEW },
      pace: { kind: 'settled', quiet: 'PT10M', most: 'PT2H' },
      by: { only: [], except: [{ system: 'import' }] },
      zone: 'Europe/Madrid',
    });
  });

  it('may say the field before its source, or behind it', () => {
    const status = { became: { field: 'status', op: 'is', value: 'On view' } };
    for (const then of [
      'a loan becomes On view',
      'a loan’s Status becomes On view',
      'the Status of a loan becomes On view',
      'Status of loan agreements becomes On view',
      'Status becomes On view',
    ])
      expect(whole(`tell me when ${then}`)).toMatchObject({
        to: [{ person: 'ines' }],
        scope: { sources: ['loans'] },
        when: { if: status },
      });
    expect(whole('tell Insurers when Insured value is above Cover limit').when?.if).toEqual({
      field: 'insured',
      op: 'above',
      value: { field: 'cover' },
    });
    // Where no source is known, a field alone says nothing.
    expect(readSentence('tell me when Status becomes On view', { ...ENGLISH, isSourceOpen: true }).marks).not.toEqual(
      [],
    );
    expect(
      readSentence('tell me when a loan’s Status becomes On view', { ...ENGLISH, isSourceOpen: true }).marks,
    ).toEqual([]);
    expect(whole('avísame cuando el Status de un loan pasa a ser On view', SPANISH).when?.if).toEqual(status);
  });

  it('speaks of documents as such, and of the folder that they lie in', () => {
    const papers: Source = {
      id: 'papers',
      kind: 'folders',
      name: 'Exhibition papers',
      titleField: 'name',
      fields: [{ id: 'name', name: 'Name', type: 'text' }],
    };
    const known: Known = {
      ...KNOWN,
      sources: new Map([...KNOWN.sources, [papers.id, papers]]),
      folders: [{ id: 'contracts', name: 'Contracts', source: 'papers' }],
    };
    const opened = { scope: { sources: ['papers'], under: ['contracts'] }, when: { kinds: ['opened'] } };
    for (const where of ['document of Exhibition papers below', 'document in Exhibition papers under'])
      expect(whole(`tell me when a ${where} Contracts is opened`, { ...ENGLISH, known })).toMatchObject(opened);
    expect(
      whole('avísame cuando un documento de Exhibition papers en la carpeta Contracts se abre', { ...SPANISH, known }),
    ).toMatchObject(opened);
  });

  it('takes several of something as what one is called, and offers that but once', () => {
    expect(whole('tell me when loans of Woven Waters change').scope.sources).toEqual(['loans']);
    expect(whole('tell me every Monday at 08:00 all loans where Status is Agreed').scope.sources).toEqual(['loans']);
    // *Lenders* are a source of that name, and no other.
    expect(whole('tell me when Lenders change').scope.sources).toEqual(['lenders']);
    const text = 'tell me when a zzz changes';
    const offered = couldStandAt(text, read(text).at as never, ENGLISH);
    expect(offered).toContain('Loan');
    expect(offered).not.toContain('Loans');
  });

  it('tells others by what a field holds, as people say it', () => {
    const cases = {
      cases: [
        {
          if: { field: 'exhibition', op: 'is', value: 'Woven Waters' },
          to: [{ person: 'ines' }, { field: 'registrar' }],
        },
        {
          if: { field: 'exhibition', op: 'is', value: 'Small Fires' },
          to: [{ tell: { person: 'mei' }, channels: ['text'] }],
        },
      ],
      else: [{ group: 'insurers' }],
    };
    for (const [to, others] of [
      ['otherwise Insurers', []],
      ['otherwise: Insurers, Inés Calder', [{ person: 'ines' }]],
    ] as const)
      expect(
        whole(
          `tell for Woven Waters Inés Calder and its Registrar, for Small Fires: Mei Okafor by text, ${to} when a loan changes`,
        ).to,
      ).toEqual([cases, ...others]);
    expect(
      whole(
        'avisa para Woven Waters a Inés Calder; para Small Fires a Mei Okafor; si no a Insurers cuando un loan cambia',
        SPANISH,
      ).to,
    ).toMatchObject([
      { cases: [{ to: [{ person: 'ines' }] }, { to: [{ person: 'mei' }] }], else: [{ group: 'insurers' }] },
    ]);
    expect(read('tell for Nowhere Inés Calder when a loan changes').marks[0]?.[0]).toContain('Nowhere');
    expect(whole('tell me when a loan changes, once settled for 20 minutes').pace).toMatchObject({ quiet: 'PT20M' });
  });

  it('may name its ways with or without saying that there are no others', () => {
    for (const by of ['by email', 'only by email'])
      expect(whole(`tell Insurers when a loan changes, ${by}, not imports`).channels).toEqual(['email']);
    expect(whole('avisa a Insurers cuando un loan cambia, por correo', SPANISH).channels).toEqual(['email']);
    expect(read('tell Insurers when a loan changes, by email, only in Ojo').marks).toEqual([['only', 'saidTwice']]);
  });

  it('has several lead times, and reports, as people say them', () => {
    for (const leads of ['14 days and 2 days', '14 days and again 2 days'])
      expect(whole(`tell me ${leads} before Due back of a loan`).due).toMatchObject({ offset: ['-P14D', '-P2D'] });
    for (const all of ['a report of', 'all of', 'all'])
      expect(whole(`tell me every Monday at 08:00 ${all} Loan agreements where Status is Agreed`).report).toMatchObject(
        {
          every: 'week',
          on: ['MO'],
          at: '08:00',
        },
      );
  });

  it('narrows by what is linked', () => {
    const held = { through: 'lender', holds: { field: 'rating', op: 'is', value: 'On hold' }, every: false };
    expect(whole('tell me when a loan of a lender whose Rating is On hold changes').scope.where).toEqual(held);
    expect(whole('avísame cuando un loan de un lender cuyo Rating es On hold cambia', SPANISH).scope.where).toEqual(
      held,
    );
    expect(read('tell me when a lender of a loan whose Status is Agreed changes').marks).toEqual([['loan', 'notHere']]);
  });

  it('is read and gone on with whatever its shape: in brackets, in rows, in quotes, without an end', () => {
    const test = 'Status is any of Agreed or On view';
    for (const text of [
      `tell Insurers when a loan changes so that ${Array(40).fill(test).join(' or ')} or `,
      `tell Insurers when a loan changes so that ${`(${test} and `.repeat(12)}`,
      `tell by case (${Array(20).fill(`where ${test}: Insurers and Registrar`).join('; ')}; `,
    ]) {
      expect(readSentence(text, ENGLISH).marks.map(({ code }) => code)).toEqual(['unfinished']);
      expect(completeAt(text, text.length, ENGLISH)).not.toEqual([]);
    }
    expect(read(`tell ${'the manager of '.repeat(1500)}`).marks[0]).toEqual(['the manager of', 'tooDeep']);
    expect(read(`tell me when a loan changes so that ${'('.repeat(20_000)}`).marks[0]).toEqual(['(', 'tooDeep']);
    expect(read('“'.repeat(30_000)).marks).toHaveLength(1);
  });

  it('has days, sums and spans of time as people write them', () => {
    const test = (text: string, spoken = ENGLISH) => whole(text, spoken).when?.if;
    const from = 'tell Insurers when a loan changes so that ';
    expect(test(`${from}Insured value is above €1,000.50`)).toMatchObject({
      value: { amount: '1000.50', currency: 'EUR' },
    });
    expect(test(`${from}Insured value is above the Cover limit`)).toMatchObject({ value: { field: 'cover' } });
    expect(test(`${from}Insured value is above Cover limit`)).toMatchObject({ value: { field: 'cover' } });
    for (const day of ['3 December 2026', '3rd Dec 2026', '03/12/2026', '2026-12-03'])
      expect(test(`${from}Due back is before ${day}`)).toMatchObject({ value: '2026-12-03' });
    expect(test(`${from}Due back is within the next two weeks`)).toMatchObject({ value: 'P2W' });
    expect(test(`${from}Due back is within the next 1 day 12 hours`)).toMatchObject({ value: 'P1DT12H' });
    expect(
      test('avisa a Insurers cuando un loan cambia de modo que Due back es antes de 3 de diciembre de 2026', SPANISH),
    ).toMatchObject({ value: '2026-12-03' });
  });

  it('says what more a rule can say', () => {
    expect(whole('tell Insurers 14 days and 2 days before Due back of a loan, as critical').due?.offset).toEqual([
      '-P14D',
      '-P2D',
    ]);
    expect(
      whole('tell Insurers when a loan where Lender is one of which (Rating is On hold) changes').scope.where,
    ).toEqual({
      through: 'lender',
      holds: { field: 'rating', op: 'is', value: 'On hold' },
    });
    expect(
      whole('tell Insurers when the number of loan agreements for each Exhibition becomes more than 10').tally,
    ).toEqual({
      of: 'items',
      per: 'exhibition',
      becomes: { op: 'above', value: 10 },
      kinds: [],
    });
    expect(
      whole(
        'tell the Registrar by text and Insurers every Monday at 08:00 all of Loan agreements where Status is Agreed',
      ),
    ).toMatchObject({
      to: [{ tell: { field: 'registrar' }, channels: ['text'] }, { group: 'insurers' }],
      report: { every: 'week', on: ['MO'], at: '08:00', empty: false },
    });
    expect(
      whole('tell by case (where Exhibition is Woven Waters: Mei Okafor; otherwise: Insurers) when a loan is added').to,
    ).toEqual([
      {
        cases: [{ if: { field: 'exhibition', op: 'is', value: 'Woven Waters' }, to: [{ person: 'mei' }] }],
        else: [{ group: 'insurers' }],
      },
    ]);
    expect(whole('tell the Keeper of its Lender when a loan of Reed Gate changes').to).toEqual([
      { linked: 'lender', field: 'keeper' },
    ]);
  });
});

describe('what is not understood', () => {
  it('is marked, and the rest still counts', () => {
    const { rule, marks } = read(
      'tell the curator when a loan goes from Agreed to On view, oncee settled, not imports',
    );
    expect(marks).toEqual([
      ['curator', 'notHere'],
      ['oncee settled', 'notHere'],
    ]);
    expect(rule).toMatchObject({ to: [], by: { except: [{ system: 'import' }] }, pace: { kind: 'now' } });
    expect(rule.when?.if).toMatchObject({ all: [{ was: {} }, { became: { value: 'On view' } }] });
  });

  it.each([
    ['tell Insurers when a loan changes so that Insured value is above 5', '5', 'needsCurrency'],
    ['tell Insurers when a loan where Status is Empty', 'is Empty', 'severalMeanings'],
    ['tell Insurers when a loan changes, at once, once settled', 'once settled', 'saidTwice'],
    ['tell Insurers when a loan changes, reminded every 2 hours 3 times', 'reminded every', 'needsAck'],
    ['tell Insurers when a loan where Status becomes Agreed changes', 'Status becomes Agreed', 'noState'],
    ['tell Insurers when a loan changes, 1 times within 2 hours in all', '1', 'outOfRange'],
    ['tell Registrar when a lender changes', 'Registrar', 'unknownName'],
    ['tell Insurers when a loan changes, at most once in 2 hours 3 days in all', '2 hours 3 days', 'noSpan'],
  ])('says why: %s', (text, stretch, code) => {
    expect(read(text).marks).toEqual([[stretch, code]]);
  });

  it('says what could stand there', () => {
    const could = (text: string) => couldStandAt(text, read(text).at as never, ENGLISH);
    expect(could('tell Insurers when a loan goes from Agreed to Om view')).toEqual([
      'On view',
      'Requested',
      'Agreed',
      'Empty',
    ]);
    expect(could('tell Insurers when a loan changes, not imprts')[0]).toBe('not imports');
    expect(could('tell the regsitrar when a loan changes')[0]).toBe('Registrar');
  });

  it('is an unfinished sentence at its end, and nothing of it is lost', () => {
    const { rule, marks } = read('tell the registrar when a loan of Woven Waters goes from');
    expect(marks).toEqual([['', 'unfinished']]);
    expect(rule.scope.where).toEqual({ field: 'exhibition', op: 'is', value: 'Woven Waters' });
  });
});

describe('what is offered', () => {
  const offered = (text: string, spoken = ENGLISH) => completeAt(text, text.length, spoken).map((one) => one.text);

  it('is what may stand there, from what is there', () => {
    expect(offered('')).toEqual(['tell', 'tell me']);
    expect(offered('tell the reg')).toEqual(['Registrar']);
    expect(offered('tell Insurers when a loan goes from Agreed to On v')).toEqual(['On view']);
    expect(offered('tell Insurers when a loan of Ree')).toEqual(['Reed Gate']);
    expect(offered('tell Insurers when a loan changes so that Due back is within the next 14 ').slice(0, 3)).toEqual([
      'months',
      'weeks',
      'days',
    ]);
    expect(offered('avisa a Insurers cuando un loan pasa de Agreed a On v', SPANISH)).toEqual(['On view']);
    expect(offered('tell Insurers when a loan changes so that Status is Emp')).toEqual(['“Empty”']);
  });

  it('is whatever may stand in a field, where the value is to tell which', () => {
    expect(offered('tell Insurers when a loan changes so that Status goes from Agr')).toEqual(['Agreed']);
    const values = offered('tell Insurers when a loan becomes ');
    expect(values).toContain('On view');
    expect(values).toContain('Small Fires');
    expect(values).not.toContain('no');
  });

  it('is nothing where nothing can', () => {
    expect(offered('blah blah ')).toEqual([]);
  });
});

describe('words of a language', () => {
  it.each(['en', 'es'] as const)('mean one thing each, and are cut as that: %s', (language) => {
    const cutter = new Cutter(language, language, { ...KNOWN, sources: new Map() });
    const phrases = KEYWORDS.flatMap((key) => PHRASES[language][key].map((phrase) => [phrase.toLowerCase(), key]));
    expect(new Set(phrases.map(([phrase]) => phrase)).size).toBe(phrases.length);
    // Some are said shorter behind others of their kind.
    const before = language === 'en' ? 'is added or' : 'se añade o';
    for (const [phrase = ''] of phrases) expect(cutter.cut(`${before} ${phrase}`).at(-1)?.image).toBe(phrase);
  });

  it('are a name where one stands: an option is called as a kind of change is', () => {
    const options = ['Draft', 'Approved', 'Moved'];
    const papers = { ...LOANS, fields: [...LOANS.fields, { id: 'stage', name: 'Stage', type: 'choice', options }] };
    const known = { ...KNOWN, sources: new Map([['loans', papers as Source]]) };
    const said = [
      'a loan changes so that Stage was Approved and Stage becomes Moved or Approved',
      'a loan where Stage is Approved is approved or moved so that Stage is Moved',
      'a loan becomes Approved',
    ].map((then) => readSentence(`tell Insurers when ${then}`, { ...ENGLISH, known }));
    expect(said.map(({ marks }) => marks)).toEqual([[], [], []]);
    expect(said.map(({ rule }) => rule.when?.kinds)).toEqual([[], ['approved', 'moved'], []]);
  });
});

it('a sentence names what has a name of its own, and what has not by its id', () => {
  const rule: Rule = {
    ...openRule('r', 'R', 'ines', ['loans']),
    urgency: 'important',
    zone: 'Europe/Madrid',
    to: [{ person: 'gone' }],
  };
  const sentence = saySentence(rule, ENGLISH);
  expect(sentence).toBe('tell the person [gone] when a loan changes');
  expect(whole(sentence).to).toEqual([{ person: 'gone' }]);
});

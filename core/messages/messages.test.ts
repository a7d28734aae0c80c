import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Person, World } from '../people/index.ts';
import { OPEN_MESSAGE, openRule, type Rule } from '../rules/index.ts';
import { instantOf } from '../time/index.ts';
import { asChange, type Change, type Source } from '../values/index.ts';
import {
  checkMessage,
  type Content,
  contactAskContent,
  type Form,
  htmlMail,
  listenerNotice,
  makeContent,
  numberAskContent,
  ownerNotice,
  plainLinks,
  plainWords,
  segmentsOf,
  type Telling,
  wordsOf,
} from './index.ts';
import { toBasicSet } from './segments.ts';

const LETTER = plainLinks({ base: 'https://ojo.example', name: 'Ojo' });
const READER = { id: 'mei', name: 'Mei Tanaka', locale: 'en-GB', zone: 'Europe/Madrid' };
const LOANS: Source = {
  id: 'loans',
  kind: 'records',
  name: 'Loan agreements',
  titleField: 'title',
  fields: [
    { id: 'title', name: 'Loan', type: 'text' },
    { id: 'place', name: 'Place', type: 'text' },
    { id: 'status', name: 'Status', type: 'choice', options: ['Agreed', 'On view'] },
  ],
};
const person = (id: string, name: string) =>
  [
    id,
    { id, name, email: null, phone: null, zone: 'UTC', locale: 'en-GB', manager: null, active: true, plan: null },
  ] as const;
const WORLD: World = {
  people: new Map([person('wren', 'Wren Adeyemi'), person('mei', 'Mei Tanaka')]),
  groups: new Map([['insurers', { id: 'insurers', name: 'Insurers', members: [], groups: [] }]]),
  sources: new Map([['loans', LOANS]]),
  folders: new Map(),
  access: [],
  item: () => undefined,
};
const RULE: Rule = {
  ...openRule('on-view', 'Loan goes on view', 'ines', ['loans']),
  urgency: 'important',
  when: { kinds: [], if: { became: { field: 'status', op: 'is', value: 'On view' } }, burst: null },
  to: [{ group: 'insurers' }],
  message: { ...OPEN_MESSAGE, show: ['place'], doNow: 'Check the cover.' },
};

const change = (
  id: string,
  at: string,
  before: Record<string, string>,
  after: Record<string, string>,
  actor = 'wren',
): Change => ({
  ...asChange(
    { id: 'L-12', source: 'loans', folder: null, fields: {}, createdBy: null, lastBy: null, lastAt: null },
    instantOf(at),
  ),
  id,
  actor,
  before: { title: 'Tidal Loom', ...before },
  after: { title: 'Tidal Loom', ...after },
});
const telling = (rule: Rule, ...changes: Change[]): Telling => ({
  alert: `${rule.id}/${changes[0]?.id}`,
  rule,
  source: 'loans',
  item: 'L-12',
  occasion: 'change',
  at: changes[0]?.at ?? 0,
  changes,
  reasons: [{ kind: 'group', group: 'insurers' }],
});
const content = (form: Form, at: number, ...items: Telling[][]): Content => {
  const made = makeContent(form, items, at, READER, WORLD);
  if (!made) throw new Error('nothing is told');
  return made;
};
const single = (change: Change, rule = RULE) => content('single', change.at, [telling(rule, change)]);
const ONE = change(
  'c1',
  '2026-03-04T10:15:00Z',
  { status: 'Agreed', place: 'Store 2' },
  { status: 'On view', place: 'Gallery 3' },
);

describe('a message', () => {
  it('says which item, what from what to what, who, when, where to click, why, and by which rule', () => {
    const made = single(ONE);
    expect(made.headline).toBe('Tidal Loom: Status Agreed → On view, and 1 more');
    const text = wordsOf(made, 'email', LETTER);
    for (const part of [
      'Status: Agreed → On view',
      'Place: Store 2 → Gallery 3',
      'By Wren Adeyemi, Wed, 4 Mar 2026, 11:15',
      'Do now: Check the cover.',
      'Status was not On view and now is.',
      'You are in Insurers.',
      'Rule: Loan goes on view https://ojo.example/rules/on-view',
      'Open Tidal Loom: https://ojo.example/items/L-12',
    ])
      expect(text).toContain(part);
    const html = htmlMail(made, LETTER);
    for (const part of [
      '<s style="color:#666f69">Agreed</s>',
      'On view</mark>',
      'href="https://ojo.example/items/L-12"',
      'Wren Adeyemi',
      'Check the cover.',
      '<b>Insurers</b>',
    ])
      expect(html).toContain(part);
  });

  it('escapes whatever people type, in HTML', () => {
    fc.assert(
      fc.property(fc.string({ unit: fc.constantFrom('<', '>', '&', '"', "'", 'a', ' '), minLength: 1 }), (typed) => {
        const html = htmlMail(
          single(change('c', '2026-03-04T10:15:00Z', { place: 'Store' }, { place: `${typed}<script>` })),
          LETTER,
        );
        expect(html).not.toContain('<script>');
        expect(
          html.match(/<(?!\/?(a|b|body|br|div|h1|head|html|mark|meta|p|s|span|style|table|td|title|tr|!doctype)\b)/gi),
        ).toBeNull();
      }),
      { seed: 5 },
    );
  });
});

describe('words of a rule’s own', () => {
  const LENDERS: Source = {
    id: 'lenders',
    kind: 'records',
    name: 'Lenders',
    titleField: 'name',
    fields: [
      { id: 'name', name: 'Name', type: 'text' },
      { id: 'email', name: 'Email', type: 'email' },
    ],
  };
  const LINKED: Source = {
    ...LOANS,
    fields: [...LOANS.fields, { id: 'lender', name: 'Lender', type: 'link', to: 'lenders' }],
  };
  const lender = { id: 'LE-1', source: 'lenders', folder: null, createdBy: null, lastBy: null, lastAt: null };
  const sources = new Map([LINKED, LENDERS].map((source) => [source.id, source]));
  const world: World = {
    ...WORLD,
    sources,
    people: new Map([
      ...WORLD.people,
      ['wren', { ...(WORLD.people.get('wren') as Person), email: 'wren@marisma.example' }],
    ]),
    item: (id) =>
      id === 'LE-1' ? { ...lender, fields: { name: 'Halden', email: 'loans@halden.example' } } : undefined,
  };
  const made = (body: string, place = 'Gallery 3', doNow: string | null = null) => {
    const rule: Rule = { ...RULE, message: { ...OPEN_MESSAGE, subject: '{{ item.title }}: **look**', body, doNow } };
    const moved = change('c1', '2026-03-04T10:15:00Z', {}, { place, lender: 'LE-1' });
    const content = makeContent('single', [[telling(rule, moved)]], moved.at, READER, world) as Content;
    return {
      html: htmlMail(content, LETTER),
      plain: wordsOf(content, 'email', LETTER),
      text: wordsOf(content, 'text', LETTER),
      content,
    };
  };

  it('stand out, are listed and lead on, in HTML and as plain text', () => {
    const { html, plain, content } = made('**Look:**\n\n- {{ item.fields.place }}\n- [the loan]({{ links.item }})');
    expect(html).toContain('<b>Look:</b>');
    expect(html).toMatch(
      /<ul[^>]*><li>Gallery 3<\/li><li><a [^>]*href="https:\/\/ojo.example\/items\/L-12">the loan<\/a><\/li><\/ul>/,
    );
    expect(plain).toContain('Look:\n\n- Gallery 3\n- the loan (https://ojo.example/items/L-12)');
    expect(content.own?.subject).toBe('Tidal Loom: look');
  });

  it('have what is known of those linked, and refuse what is not', () => {
    const { plain } = made(
      'Write to {{ item.fields.lender.email }} and {{ change.actor.email }}, {{ item.fields.lender }}.',
    );
    expect(plain).toContain('Write to loans@halden.example and wren@marisma.example, Halden.');
    const faults = (body: string) =>
      checkMessage({ ...RULE, message: { ...OPEN_MESSAGE, body } }, sources).map(({ params }) => params.name);
    expect(faults('{{ item.fields.lender.email }}{{ change.actor.email }}{{ rule.owner.name }}')).toEqual([]);
    expect(faults('{{ item.fields.lender.iban }}{{ change.actor.salary }}')).toEqual([
      'item.fields.lender.iban',
      'change.actor.salary',
    ]);
  });

  it('take nothing that an item holds for a link or a sign of theirs', () => {
    const evil = '[here](https://evil.example) **x** \ue013a\ue014https://evil.example\ue015';
    const { html } = made('At {{ item.fields.place }}', evil);
    expect(html).toContain('[here](<a');
    expect(html).not.toContain('>here</a>');
    expect(html).not.toContain('>a</a>');
    expect(html).not.toContain('<b>x</b>');
  });

  it('say what to do now on every channel, with its link', () => {
    const { html, plain, text } = made('Moved.', 'Gallery 3', 'Ask [the courier](https://kestrel.example/call)');
    expect(html).toContain('href="https://kestrel.example/call">the courier</a>');
    for (const said of [plain, text]) expect(said).toContain('Ask the courier (https://kestrel.example/call)');
  });
});

describe('what is told later than it happened', () => {
  const standing = (fields: Record<string, string> | null): World => ({
    ...WORLD,
    item: () =>
      fields
        ? {
            ...asChange(
              { id: 'L-12', source: 'loans', folder: null, fields, createdBy: null, lastBy: null, lastAt: null },
              0,
            ),
            id: 'L-12',
            fields,
            createdBy: null,
            lastBy: null,
            lastAt: null,
          }
        : undefined,
    lastState: () => ({
      id: 'L-12',
      source: 'loans',
      folder: null,
      fields: {},
      createdBy: null,
      lastBy: null,
      lastAt: null,
    }),
  });
  const said = (form: Form, fields: Record<string, string> | null) => {
    const made = makeContent(form, [[telling(RULE, ONE)]], ONE.at, READER, standing(fields)) as Content;
    return [wordsOf(made, 'email', LETTER), htmlMail(made, LETTER)].map(
      (text) => /Now [^<\n]*/.exec(text)?.[0] ?? null,
    );
  };
  it('says how the item stands now, where it changed again since', () => {
    expect(said('digest', { status: 'Agreed', place: 'Gallery 3' })).toEqual([
      'Now Status Agreed',
      'Now Status Agreed',
    ]);
    expect(said('summary', { place: 'Gallery 3' })).toEqual(['Now Status empty', 'Now Status empty']);
    expect(said('digest', null)).toEqual(['Now was deleted', 'Now was deleted']);
  });
  it('says nothing more where it stands as it was told, or where it is told at once', () => {
    expect(said('digest', { status: 'On view', place: 'Gallery 3' })).toEqual([null, null]);
    expect(said('single', { status: 'Agreed', place: 'Gallery 3' })).toEqual([null, null]);
  });
});

describe('a digest', () => {
  it('gives the net change, each step, and says what came back to where it was', () => {
    const away = change('c1', '2026-03-03T09:12:00Z', { place: 'Dock 2' }, { place: 'Corridor C' });
    const back = change('c2', '2026-03-03T10:31:00Z', { place: 'Corridor C' }, { place: 'Dock 2' }, 'mei');
    const made = content('digest', instantOf('2026-03-04T07:30:00Z'), [telling(RULE, away, back)]);
    expect(made).toMatchObject({
      headline: 'Tidal Loom is back where it was',
      lead: '2 changes on 1 item.',
      entries: [{ isBack: true, fields: [], steps: [{ actor: 'Wren Adeyemi' }, { actor: 'Mei Tanaka' }] }],
    });
    expect(wordsOf(made, 'email', LETTER)).toContain('Tue 11:31  Mei Tanaka: Place: Corridor C → Dock 2');
  });

  it('stands the urgent first, and every change in it once', () => {
    fc.assert(
      fc.property(
        fc.array(fc.constantFrom('routine', 'important', 'critical'), { minLength: 1, maxLength: 8 }),
        (urgencies) => {
          const items = urgencies.map((urgency, at) => [
            { ...telling({ ...RULE, urgency: urgency as 'routine' }, { ...ONE, id: `c${at}` }), item: `L-${at}` },
          ]);
          const made = content('digest', 0, ...items);
          const ranks = made.entries.map((one) => ['critical', 'important', 'routine'].indexOf(one.urgency));
          expect(ranks).toEqual([...ranks].sort());
          expect(made.entries.flatMap((one) => one.steps.map((step) => step.change)).sort()).toEqual(
            urgencies.map((_, at) => `c${at}`).sort(),
          );
          expect(made.lead).toBe(
            `${urgencies.length} change${urgencies.length === 1 ? '' : 's'} on ${urgencies.length} item${urgencies.length === 1 ? '' : 's'}.`,
          );
        },
      ),
      { seed: 6, numRuns: 40 },
    );
  });
});

describe('a digest of a generated week', () => {
  const TITLES = ['title', 'place', 'status'] as const;
  const CRATES: Source = { ...LOANS, id: 'crates', kind: 'list', name: 'Crate list' };
  const world: World = {
    ...WORLD,
    sources: new Map([
      ['loans', LOANS],
      ['crates', CRATES],
    ]),
  };
  const step = fc.record({
    item: fc.integer({ min: 0, max: 34 }),
    minute: fc.integer({ min: 0, max: 7 * 24 * 60 }),
    field: fc.constantFrom(...TITLES),
    value: fc.constantFrom('Agreed', 'On view', 'Dock 2', 'Gallery <3>'),
    actor: fc.constantFrom('wren', 'mei'),
  });
  const monday = instantOf('2026-03-02T00:00:00Z');

  it('loses nothing: each change stands once, each item is shown or counted, in both languages and both formats', () => {
    fc.assert(
      fc.property(
        fc.array(step, { minLength: 1, maxLength: 90 }),
        fc.constantFrom('en-GB', 'es'),
        fc.constantFrom('digest', 'summary'),
        (steps, locale, form) => {
          const states = new Map<number, Record<string, string>>();
          const items = new Map<number, Telling[]>();
          for (const [at, { item, minute, field, value, actor }] of [...steps]
            .sort((a, b) => a.minute - b.minute)
            .entries()) {
            const before = states.get(item) ?? { title: `Piece ${item}.`, place: 'Store', status: 'Agreed' };
            const after = { ...before, [field]: value };
            states.set(item, after);
            const source = item % 3 === 0 ? 'crates' : 'loans';
            const made: Change = {
              ...change(`c${at}`, '2026-03-02T00:00:00Z', before, after, actor),
              at: monday + minute * 60_000,
              source,
              item: `I-${item}`,
            };
            items.set(item, [
              ...(items.get(item) ?? []),
              {
                ...telling({ ...RULE, urgency: item % 5 === 0 ? 'critical' : 'routine' }, made),
                source,
                item: `I-${item}`,
              },
            ]);
          }
          const made = makeContent(form as Form, [...items.values()], monday, { ...READER, locale }, world);
          if (!made) throw new Error('nothing is told');
          expect(made.entries.flatMap((one) => one.steps.map((own) => own.change)).sort()).toEqual(
            steps.map((_, at) => `c${at}`).sort(),
          );
          expect(made.entries.map((one) => one.item.id).sort()).toEqual(
            [...items.keys()].map((item) => `I-${item}`).sort(),
          );
          const ranks = made.entries.map((one) => (one.urgency === 'critical' ? 0 : 1));
          expect(ranks).toEqual([...ranks].sort());
          const hidden = made.entries.length - 20;
          for (const [text, said, isPlain] of [
            [wordsOf(made, 'email', LETTER), (words: string) => words, true],
            [htmlMail(made, LETTER), (words: string) => words.replaceAll('<', '&lt;').replaceAll('>', '&gt;'), false],
          ] as const) {
            for (const entry of made.entries.slice(0, 20)) {
              expect(text).toContain(`https://ojo.example/items/${entry.item.id}`);
              for (const field of entry.fields) expect(text).toContain(said(field.after));
              for (const own of entry.steps.slice(-6))
                expect(text).toContain(
                  entry.steps.length === 1 && (isPlain || made.entries.length === 1) ? own.when : own.hour,
                );
            }
            const [one, many] = locale === 'es' ? ['elemento más', 'elementos más'] : ['more item', 'more items'];
            expect(text.includes(`${hidden} ${hidden === 1 ? one : many}`)).toBe(hidden > 0);
          }
        },
      ),
      { seed: 9, numRuns: 60 },
    );
  });

  it('says what happened to an item, whoever opened it since', () => {
    const look: Change = { ...ONE, id: 'look', at: ONE.at + 1, kind: 'opened', before: ONE.after };
    expect(content('digest', 0, [telling(RULE, ONE, look)])).toMatchObject({
      headline: single(ONE).headline,
      lead: '1 change and 1 look at 1 item.',
    });
  });

  it('leads with what matters: how many became what, and what came back', () => {
    const onView = [1, 2, 3].map((at) => [
      { ...telling(RULE, { ...ONE, id: `c${at}`, item: `L-${at}` }), item: `L-${at}` },
    ]);
    const back = [
      {
        ...telling(
          RULE,
          change('b1', '2026-03-03T09:12:00Z', { status: 'On view' }, { status: 'Agreed' }),
          change('b2', '2026-03-03T10:00:00Z', { status: 'Agreed' }, { status: 'On view' }),
        ),
        item: 'L-9',
      },
    ];
    expect(content('digest', 0, ...onView, back).headline).toBe('Loan agreements: 3 now On view, 1 back where it was');
    const moved = [4, 5].map((at) => [
      {
        ...telling(RULE, change(`m${at}`, '2026-03-03T09:12:00Z', { place: 'Dock 2' }, { place: `Dock ${at}` })),
        item: `L-${at}`,
      },
    ]);
    expect(content('digest', 0, ...moved, ...onView).headline).toBe(
      'Loan agreements: 3 now On view, 2 changed in Place',
    );
    const opened = [6, 7].map((at) => [
      { ...telling(RULE, { ...change(`o${at}`, '2026-03-03T09:12:00Z', {}, {}), kind: 'opened' }), item: `L-${at}` },
    ]);
    expect(content('digest', 0, ...opened)).toMatchObject({
      headline: 'Loan agreements: 2 opened',
      lead: '2 looks at 2 items.',
    });
    expect(content('digest', 0, ...onView, ...opened)).toMatchObject({
      headline: 'Loan agreements: 3 now On view, 2 opened',
      lead: '3 changes and 2 looks at 5 items.',
    });
    expect(makeContent('digest', [...onView, back], 0, { ...READER, locale: 'es' }, WORLD)).toMatchObject({
      headline: 'Loan agreements: 3 ahora On view, 1 como antes',
      lead: '5 cambios en 4 elementos. Tidal Loom vuelve a estar como antes.',
    });
  });
});

describe('a letter', () => {
  const asked: Rule = {
    ...RULE,
    ack: { by: 'anyone', remind: null, escalate: [], closeWhenCeased: true, allClear: false },
  };
  const made = single(ONE, asked);

  it('asks to be taken on, by its own link and, as a text message, by its code', () => {
    const letter = { ...LETTER, acknowledge: 'https://ojo.example/acknowledge/abc', code: 'K7PM' };
    expect(htmlMail(made, letter)).toContain('href="https://ojo.example/acknowledge/abc">Acknowledge</a>');
    expect(wordsOf(made, 'email', letter)).toContain('Acknowledge: https://ojo.example/acknowledge/abc');
    expect(wordsOf(made, 'text', letter)).toContain('Answer K7PM to take it on.');
    expect(htmlMail(single(ONE), letter)).not.toContain('acknowledge/abc');
  });

  it('in a rule’s own words says below them why its reader hears, and how to hear less', () => {
    const own = single(ONE, { ...RULE, message: { ...OPEN_MESSAGE, body: 'Please hang {{ item.title }}.' } });
    for (const text of [htmlMail(own, LETTER), wordsOf(own, 'email', LETTER)]) {
      expect(text).toContain('Please hang Tidal Loom.');
      for (const part of ['Insurers', 'Loan goes on view', 'Less of this', 'https://ojo.example/items/L-12'])
        expect(text).toContain(part);
    }
    expect(wordsOf(own, 'email', { ...LETTER, isBare: true })).toBe('Please hang Tidal Loom.\n');
  });

  it('that asks for a yes has its link in both formats, and the number’s code in its text', () => {
    const asking = contactAskContent(
      'a1',
      { by: 'Hugo Brandt', rules: ['Loan comes back'], site: 'Ojo' },
      { ...READER, locale: 'es' },
      0,
    );
    const letter = { ...LETTER, whole: 'https://ojo.example/confirm/abc', leave: { rule: '', all: '' } };
    for (const text of [htmlMail(asking, letter), wordsOf(asking, 'email', letter)]) {
      expect(text).toContain('https://ojo.example/confirm/abc');
      expect(text).toContain('Hugo Brandt quiere avisarte');
      expect(text).not.toMatch(/\/inbox|\/plan/);
    }
    // Somebody may be asked before any rule names them.
    expect(contactAskContent('a1', { by: 'Hugo Brandt', rules: [], site: 'Ojo' }, READER, 0).lead).toContain(
      'of changes by email. Nothing is sent',
    );
    expect(asking.lead).toContain('por correo: Loan comes back. No se envía nada');
    expect(segmentsOf(wordsOf(numberAskContent('482913', 'Ojo', READER, 0), 'text', LETTER))).toMatchObject({
      count: 1,
    });
    expect(wordsOf(numberAskContent('482913', 'Ojo', READER, 0), 'text', LETTER)).toBe(
      '482913 confirms this number in Ojo. Answer STOP and no more comes.',
    );
  });

  it('to somebody outside leads nowhere but to its own pages', () => {
    const letter = {
      ...LETTER,
      whole: 'https://ojo.example/message/abc',
      leave: { rule: 'https://ojo.example/leave/r', all: 'https://ojo.example/leave/a' },
    };
    for (const text of [htmlMail(made, letter), wordsOf(made, 'email', letter)]) {
      expect([...new Set(text.match(/https:\/\/ojo\.example\/[^"\s<]*/g))].sort()).toEqual([
        'https://ojo.example/leave/a',
        'https://ojo.example/leave/r',
        'https://ojo.example/message/abc',
      ]);
    }
  });
});

describe('a text message', () => {
  it('is one line that fits a segment where it can, with its link', () => {
    const text = wordsOf(single(ONE), 'text', LETTER);
    expect(text).not.toMatch(/\n/);
    expect(text).toContain('Status from Agreed to On view');
    expect(text).toContain('https://ojo.example/items/L-12');
    expect(segmentsOf(text)).toMatchObject({ alphabet: 'GSM-7', count: 1 });
  });

  it('counts septets as the standard does', () => {
    expect(segmentsOf('a'.repeat(160))).toEqual({ alphabet: 'GSM-7', units: 160, count: 1 });
    expect(segmentsOf('a'.repeat(161))).toEqual({ alphabet: 'GSM-7', units: 161, count: 2 });
    expect(segmentsOf('€'.repeat(80))).toEqual({ alphabet: 'GSM-7', units: 160, count: 1 });
    expect(segmentsOf('→'.repeat(70))).toEqual({ alphabet: 'UCS-2', units: 70, count: 1 });
    expect(segmentsOf('→'.repeat(71)).count).toBe(2);
  });

  it('loses the accents that its alphabet lacks, and keeps those it has', () =>
    expect(toBasicSet('Núria → Inés, “Ö”')).toBe('Nuria > Inés, "Ö"'));
});

it('words keep their order when emphasis goes', () =>
  expect(plainWords(['You are its ', { strong: 'Registrar' }, '.'])).toBe('You are its Registrar.'));

describe('a notice', () => {
  it('tells somebody that a rule tells them now: by whom, of what, how soon and why', () => {
    const notice = listenerNotice(
      { rule: RULE, by: 'wren', at: instantOf('2026-03-04T10:00:00Z'), reader: READER, world: WORLD },
      [{ kind: 'group', group: 'insurers' }],
    );
    expect(notice).toMatchObject({
      form: 'notice',
      headline: 'You are now told: Loan goes on view',
      rule: { id: 'on-view' },
      entries: [],
    });
    expect(notice.lead).toContain(
      'Wren Adeyemi put it live. It looks at Loan agreements: Status becomes On view. You hear at once. You are in Insurers.',
    );
    expect(notice.lead).toContain('hear less');
  });

  it('says of which kinds of changes it tells, with what has to be so', () => {
    const told = (when: Partial<NonNullable<Rule['when']>>, locale = READER.locale) =>
      ownerNotice(
        {
          rule: { ...RULE, when: { kinds: [], if: { all: [] }, burst: null, ...when } },
          by: READER.id,
          at: 0,
          reader: { ...READER, locale },
          world: WORLD,
        },
        1,
        1,
      ).lead;
    const kinds: Change['kind'][] = ['contentAdded', 'opened'];
    expect(told({})).toContain('It looks at Loan agreements: anything that happens.');
    expect(told({ kinds })).toContain('It looks at Loan agreements: something has a new version or was opened.');
    expect(told({ kinds: ['created'] })).toContain('something was added.');
    expect(told({ kinds: ['changed', 'opened'], if: RULE.when?.if ?? { all: [] } })).toContain(
      'something was opened, and Status becomes On view.',
    );
    expect(told({ kinds }, 'es-ES')).toContain('algo tiene una versión nueva o se ha abierto.');
  });

  it('leads to its rule, as HTML and as plain text', () => {
    const notice = ownerNotice({ rule: RULE, by: READER.id, at: 0, reader: READER, world: WORLD }, 1, 2);
    const links = plainLinks({ base: 'https://ojo.example', name: 'Ojo' }, 'm1');
    expect(htmlMail(notice, links)).toContain('href="https://ojo.example/rules/on-view"');
    expect(wordsOf(notice, 'email', links)).toContain('Look at the rule: https://ojo.example/rules/on-view');
  });

  it('confirms to the owner what is live and how many it reaches', () => {
    const gathered: Rule = { ...RULE, pace: { kind: 'digest', every: 'day', at: '08:30' } };
    expect(ownerNotice({ rule: gathered, by: READER.id, at: 0, reader: READER, world: WORLD }, 3, 1).lead).toBe(
      'You put version 3 live. It looks at Loan agreements: Status becomes On view. One person hears in a daily digest, 08:30, as things stand.',
    );
  });
});

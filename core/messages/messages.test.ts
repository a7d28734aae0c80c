import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Person, World } from '../people/index.ts';
import { OPEN_MESSAGE, type Rule } from '../rules/index.ts';
import { instantOf } from '../time/index.ts';
import type { Change, Source } from '../values/index.ts';
import {
  checkMessage,
  type Content,
  contactAskContent,
  htmlMail,
  listenerNotice,
  makeContent,
  numberAskContent,
  ownerNotice,
  plainLinks,
  plainWords,
  segmentsOf,
  wordsOf,
} from './index.ts';
import { toBasicSet } from './segments.ts';
import { LETTER, READER, LOANS, WORLD, RULE, change, telling, single, ONE } from '../testing/letters.ts';

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

import fc from 'fast-check';
import { expect, it } from 'vitest';
import type { Pace, Selector } from '../people/index.ts';
import type { World } from '../people/index.ts';
import { compileRule, isCaught, type Rule, type StateTest } from '../rules/index.ts';
import { completeAt, type Known, readSentence, saySentence, type Spoken, tidyRule } from '../sentence/index.ts';
import { change, condition, FOLDERS, ITEMS, rule as changeRule, SOURCE, stateTest } from './generate.ts';

/** Names that are told apart by nothing but what stands around them, or are like words of the language. */
const KNOWN: Known = {
  sources: new Map([[SOURCE.id, SOURCE]]),
  people: [
    { id: 'ines', name: 'Inés Calder' },
    { id: 'mei', name: 'Mei Okafor' },
    { id: 'bo', name: 'Keeper' },
    { id: 'bo2', name: 'Bo and Co' },
    { id: 'mei2', name: 'Mei Okafor' },
  ],
  groups: [
    { id: 'g1', name: 'Registrars' },
    { id: 'g2', name: 'at once' },
  ],
  contacts: [{ id: 'c1', name: 'Reed Gate “Press”' }],
  webhooks: [{ id: 'desk', name: 'desk' }],
  folders: FOLDERS.map((id) => ({ id, name: id === 'f2' ? 'Loans or more' : `Folder ${id}`, source: SOURCE.id })),
  senders: [{ id: 's1', name: 'The museum' }],
  wordings: [{ id: 'w1', name: 'Short' }],
  items: [
    ...ITEMS.map((id) => ({ id, name: id === 'i1' ? 'Tidal Loom' : `Item \\ ${id}`, source: SOURCE.id })),
    { id: 'i9', name: 'Tidal Loom', source: SOURCE.id },
  ],
};

const spans = fc.constantFrom('PT10M', 'P14D', 'P1DT12H', 'PT36H', 'P1M', 'P03D', 'PT0S', 'P2W', 'PT1H30M15S');
const lengths = spans.filter((span) => span !== 'PT0S');
const clocks = fc.constantFrom('08:30', '09:00', '00:00', '23:59');
const maybe = <T>(one: fc.Arbitrary<T>) => fc.option(one, { nil: null });
const text = fc.constantFrom('What now?', 'a “quote” and \\ a slash', 'two\nlines', '{{ item.name }}, at once', '«»"');

const named = fc.oneof(
  ...[
    { person: 'ines' },
    { person: 'bo' },
    { person: 'mei2' },
    { person: 'nobody-any-more' },
    { group: 'g1' },
    { group: 'g2' },
    { field: 'keeper' },
    { field: 'team' },
    { linked: 'part', field: 'keeper' },
    { creator: true },
    { lastEditor: true },
    { followers: true },
    { mentioned: true },
    { contact: 'c1' },
    { webhook: 'desk' },
    { managerOf: { field: 'keeper' } },
    { managerOf: { managerOf: { person: 'mei' } } },
  ].map((selector) => fc.constant(selector as Selector)),
);
const cases: fc.Arbitrary<Selector> = fc.record(
  {
    cases: fc.array(fc.record({ if: stateTest, to: fc.array(named, { maxLength: 2 }) }), {
      minLength: 1,
      maxLength: 2,
    }),
    else: fc.array(named, { maxLength: 2 }),
  },
  { requiredKeys: ['cases'] },
) as fc.Arbitrary<Selector>;
const ways = fc.subarray(['inApp', 'email', 'text'] as const, { minLength: 1 });
const told: fc.Arbitrary<Selector> = fc.oneof(
  { weight: 5, arbitrary: named },
  { weight: 1, arbitrary: cases },
  { weight: 2, arbitrary: fc.record({ tell: fc.oneof(named, cases), channels: ways }) as fc.Arbitrary<Selector> },
);
const schedule = fc.oneof(
  fc.record({ every: fc.constantFrom('hour', 'day'), at: clocks }),
  fc.record({ every: fc.constant('week'), at: clocks, on: fc.subarray(['MO', 'TH', 'SU'], { minLength: 1 }) }),
  fc.record({ every: fc.constantFrom('week', 'month'), at: clocks }),
  fc.record({ every: fc.constant('month'), at: clocks, on: fc.subarray([1, 15, 31], { minLength: 1 }) }),
);
const pace: fc.Arbitrary<Pace> = fc.oneof(
  fc.constant<Pace>({ kind: 'now' }),
  fc.record({ kind: fc.constant('settled'), quiet: lengths, most: lengths }) as fc.Arbitrary<Pace>,
  fc
    .tuple(schedule, fc.constantFrom(undefined, null, 'Europe/Madrid'))
    .map(([one, zone]) => ({ kind: 'digest', ...one, ...(zone === undefined ? {} : { zone }) }) as Pace),
);
const repeat = maybe(fc.record({ every: lengths, times: fc.integer({ min: 1, max: 9 }) }));
const open = fc.oneof(fc.constant<StateTest>({ all: [] }), stateTest);
const none = { when: null, due: null, idle: null, tally: null, report: null };
const kinds = fc.subarray(['created', 'changed', 'opened', 'x-reading'] as Rule['scope']['sources'], { maxLength: 3 });
const NUMBERS = fc.constantFrom(10, '2000.50', -3, 57.5, '0.001', 1234567);
const tally = fc.record({
  of: fc.oneof(fc.constant('items'), fc.record({ sum: fc.constantFrom('humidity') })),
  per: maybe(fc.constantFrom('status', 'keeper', 'part')),
  becomes: fc.record({ op: fc.constantFrom('above', 'atLeast', 'below', 'atMost'), value: NUMBERS }),
  kinds,
});
const money = fc.record({
  of: fc.constant({ sum: 'insured' }),
  per: fc.constant(null),
  becomes: fc.record({ op: fc.constant('above'), value: fc.constant({ amount: '2000000.50', currency: 'EUR' }) }),
  kinds: fc.constant([]),
});
const occasion = fc.oneof(
  fc
    .tuple(
      condition,
      kinds,
      maybe(
        fc.record({
          count: fc.integer({ min: 2, max: 40 }),
          within: lengths,
          per: fc.constantFrom('item', 'actor', 'rule'),
        }),
      ),
    )
    .map(([node, some, burst]) => ({ ...none, when: { kinds: some, if: node, burst } })),
  fc
    .record({
      field: fc.constantFrom('due', 'opens'),
      offset: fc.oneof(
        fc.constantFrom('-P14D', 'PT0S', 'P1D', '-PT2H'),
        fc.constantFrom(['P1D', '-P14D', 'PT0S', '-P2D'], ['-P14D'], ['-P14D', '-P2D']),
      ),
      at: maybe(clocks),
      if: open,
      repeat,
      late: fc.constantFrom('now', 'skip'),
    })
    .map((due) => ({ ...none, due })),
  fc.record({ for: lengths, if: open, repeat }).map((idle) => ({ ...none, idle })),
  fc.oneof(tally, money).map((one) => ({ ...none, tally: one })),
  fc
    .tuple(
      schedule.filter(({ every }) => every !== 'hour'),
      open,
      fc.boolean(),
    )
    .map(([when, test, empty]) => ({ ...none, report: { ...when, if: test, empty } })),
) as fc.Arbitrary<Partial<Rule>>;
const ack = fc.record({
  by: fc.constantFrom('anyone', 'everyone'),
  remind: maybe(fc.record({ after: lengths, times: fc.integer({ min: 1, max: 9 }) })),
  escalate: fc.array(
    fc.record({
      after: lengths,
      to: fc.array(fc.oneof(named, fc.constant<Selector>({ told: true })), { minLength: 1, maxLength: 2 }),
    }),
    { maxLength: 2 },
  ),
  closeWhenCeased: fc.boolean(),
  allClear: fc.boolean(),
});
const message = fc.record({
  wording: maybe(fc.constant('w1')),
  subject: maybe(text),
  body: maybe(text),
  show: fc.subarray(['status', 'part', 'mail']),
  doNow: maybe(text),
  from: fc.constantFrom<Rule['message']['from']>('ojo', 'owner', { sender: 's1' }),
  replyTo: maybe(fc.constant('desk@marisma.example')),
  attach: fc.subarray<'csv' | 'xlsx'>(['csv', 'xlsx']),
});

/** Rules with every part that a rule has. */
const anyRule: fc.Arbitrary<Rule> = fc
  .record({
    base: changeRule,
    occasion,
    to: fc.array(told, { maxLength: 4 }),
    except: fc.array(named, { maxLength: 2 }),
    pace,
    ack: maybe(ack),
    message,
    during: fc.record({
      from: maybe(fc.constant('2026-12-03')),
      until: maybe(fc.constant('2027-01-31')),
      near: maybe(fc.record({ field: fc.constantFrom('due', 'opens'), ahead: lengths, behind: spans })),
    }),
    more: fc.record({
      urgency: fc.constantFrom('routine', 'important', 'critical'),
      zone: fc.constantFrom('UTC', 'Europe/Madrid', 'America/Argentina/Buenos_Aires'),
      about: fc.constantFrom('any', 'createdByRecipient', 'lastEditedByRecipient', 'namesRecipient'),
      ownChanges: fc.boolean(),
      channels: maybe(ways),
      limit: maybe(fc.record({ per: fc.constantFrom('item', 'rule'), within: lengths })),
      together: fc.boolean(),
    }),
  })
  .map(({ base, occasion: brings, more, ...parts }) => ({ ...base, ...brings, ...parts, ...more }) as Rule);

const BASE = { id: 'r', name: 'R', owner: 'ines' };
const spokenFor = (rule: Rule, locale: string): Spoken => ({
  locale,
  language: locale.startsWith('es') ? 'es' : 'en',
  known: KNOWN,
  base: { ...rule, ...BASE, zone: 'UTC', scope: { ...rule.scope, sources: ['elsewhere'] } },
});

it.each(['en-GB', 'es-ES'])('a rule said in a sentence is read back as the same rule, %s', (locale) => {
  fc.assert(
    fc.property(anyRule, (rule) => {
      const spoken = spokenFor(rule, locale);
      const sentence = saySentence(rule, spoken);
      const { rule: back, marks } = readSentence(sentence, spoken);
      const said = marks.map(({ from, to, code }) => `${code}: ${sentence.slice(from, to)}`);
      expect({ sentence, said, back }).toEqual({ sentence, said: [], back: tidyRule(rule, KNOWN.sources) });
    }),
    { numRuns: 300 },
  );
});

const WORLD: World = {
  people: new Map(),
  groups: new Map(),
  sources: new Map([[SOURCE.id, SOURCE]]),
  access: [],
  item: () => undefined,
  folders: new Map(FOLDERS.map((id) => [id, { id, source: SOURCE.id, name: id, parent: null }])),
};

it('what a sentence leaves out of a rule makes no difference to what it catches', () => {
  fc.assert(
    fc.property(changeRule, fc.array(change, { minLength: 1, maxLength: 6 }), (rule, changes) => {
      const [whole, tidy] = [rule, tidyRule(rule, KNOWN.sources)].map((one) => compileRule(one, KNOWN.sources));
      for (const one of changes) expect(isCaught(tidy as never, one, WORLD)).toBe(isCaught(whole as never, one, WORLD));
    }),
    { numRuns: 300 },
  );
});

it('whatever a sentence says next is among what is offered there, by its first letters', () => {
  fc.assert(
    fc.property(anyRule, fc.nat(), fc.constantFrom('en-GB', 'es-ES'), (rule, where, locale) => {
      const spoken = spokenFor(rule, locale);
      const sentence = saySentence(rule, spoken);
      // Up to a word of the sentence that nobody writes in quotes, brackets or figures, and three letters of it; zones are too many for three.
      const words = [...sentence.matchAll(/(?<=[\s(])[\p{L}][\p{L}’]{3,}/gu)].filter(({ index }) => {
        const before = sentence.slice(0, index);
        return (
          before.split('“').length === before.split('”').length && !/\\|\d (de )?$|(time of|hora de) $/.test(before)
        );
      });
      const word = words[where % Math.max(1, words.length)];
      if (!word) return;
      const cursor = word.index + 3;
      const offered = completeAt(sentence, cursor, spoken);
      const isGoingOn = ({ text: said, from }: { text: string; from: number }) =>
        sentence.slice(from).toLowerCase().startsWith(said.toLowerCase());
      expect({ before: sentence.slice(0, cursor), found: offered.some(isGoingOn), offered }).toEqual({
        before: sentence.slice(0, cursor),
        found: true,
        offered,
      });
    }),
    { numRuns: 100 },
  );
});

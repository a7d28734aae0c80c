import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { conditionWords, plainWords, termsFor } from '../messages/index.ts';
import type { Condition, FieldTest, StateTest } from '../rules/index.ts';
import { compileCondition } from '../rules/condition.ts';
import { instantOf } from '../time/index.ts';
import type { Change, Fields, Source } from '../values/index.ts';

const STATUS = ['Requested', 'Agreed', 'On view'];
const SOURCE: Source = {
  id: 'loans',
  kind: 'records',
  name: 'Loans',
  titleField: 'title',
  fields: [
    { id: 'title', name: 'Title', type: 'text' },
    { id: 'status', name: 'Status', type: 'choice', options: STATUS },
    { id: 'fragile', name: 'Fragile', type: 'boolean' },
    { id: 'hazards', name: 'Hazards', type: 'choices', options: ['Glass', 'Salt'] },
    { id: 'crates', name: 'Crates', type: 'number' },
    { id: 'keeper', name: 'Keeper', type: 'person' },
  ],
};
const people: Record<string, string> = { ines: 'Inés Calder', mei: 'Mei Tanaka' };
const sentence = (node: Condition, locale: string): string =>
  plainWords(
    conditionWords(node, {
      source: SOURCE,
      sources: new Map(),
      reader: { locale, zone: 'Europe/Madrid' },
      names: { person: (id) => people[id] ?? id, item: (id) => id },
      phrases: termsFor(locale),
    }),
  );

/** Every change between the few states that an item can be in here, none of them among these. */
const STATES: (Fields | null)[] = [
  null,
  ...['Tidal Loom', 'tidal loom', 'a, b'].flatMap((title) =>
    [...STATUS, null].map((status, at) => ({
      title,
      status,
      fragile: at % 2 === 0,
      hazards: [[], ['Glass'], ['Glass', 'Salt'], ['Salt']][at] ?? [],
      crates: [null, 1, 10, 100][at] ?? null,
      keeper: ['ines', 'mei', null, 'ines'][at] ?? null,
    })),
  ),
];
const CHANGES: Change[] = STATES.flatMap((before) =>
  STATES.filter((after) => before !== null || after !== null).map(
    (after): Change => ({
      id: 'c',
      at: instantOf('2026-03-04T12:00:00Z'),
      source: 'loans',
      item: 'i',
      kind: before === null ? 'created' : after === null ? 'deleted' : 'changed',
      actor: 'ines',
      before,
      after,
      folder: null,
      folderBefore: null,
      batch: null,
      detail: {},
    }),
  ),
);
/** What a condition does: of which of all changes it holds. */
function doing(node: Condition): string {
  const holds = compileCondition(node, { source: SOURCE, zone: 'Europe/Madrid', sources: new Map() });
  return CHANGES.map((change) => (holds(change, { item: () => undefined }) ? '1' : '0')).join('');
}

const TESTS: FieldTest[] = [
  { field: 'status', op: 'is', value: 'Agreed' },
  { field: 'status', op: 'is', value: 'On view' },
  { field: 'status', op: 'oneOf', value: ['Requested', 'Agreed'] },
  { field: 'status', op: 'noneOf', value: ['Requested', 'Agreed'] },
  { field: 'status', op: 'empty' },
  { field: 'fragile', op: 'is', value: true },
  { field: 'title', op: 'contains', value: 'loom' },
  { field: 'title', op: 'contains', value: 'Loom', matchCase: true },
  { field: 'title', op: 'contains', value: 'Loom' },
  { field: 'title', op: 'is', value: 'a, b' },
  { field: 'title', op: 'oneOf', value: ['a', 'b'] },
  { field: 'hazards', op: 'includesAny', value: ['Glass', 'Salt'] },
  { field: 'hazards', op: 'includesAll', value: ['Glass', 'Salt'] },
  { field: 'hazards', op: 'is', value: ['Glass'] },
  { field: 'crates', op: 'between', value: [1, 10] },
  { field: 'crates', op: 'above', value: 1 },
  { field: 'keeper', op: 'is', value: 'ines' },
];
const state: fc.Arbitrary<StateTest> = fc.letrec<{ node: StateTest }>((tie) => ({
  node: fc.oneof(
    { maxDepth: 2, withCrossShrink: true },
    { weight: 2, arbitrary: fc.constantFrom<StateTest>(...TESTS) },
    fc.array(tie('node'), { maxLength: 3 }).map((all) => ({ all })),
    fc.array(tie('node'), { maxLength: 3 }).map((any) => ({ any })),
    fc.array(tie('node'), { maxLength: 2 }).map((none) => ({ none })),
  ),
})).node;
const LEAVES: Condition[] = [
  { changed: '*' },
  { changed: 'status' },
  { changed: ['status', 'title'] },
  { rose: { field: 'crates' } },
  { rose: { field: 'crates', by: 9 } },
  { fell: { field: 'crates', percent: 50 } },
  { gained: { field: 'hazards' } },
  { gained: { field: 'hazards', any: ['Glass'] } },
  { lost: { field: 'hazards', any: ['Glass', 'Salt'] } },
  {
    all: [
      { was: { field: 'status', op: 'oneOf', value: ['Requested', 'Agreed'] } },
      { became: { field: 'status', op: 'is', value: 'On view' } },
    ],
  },
];
const node: fc.Arbitrary<Condition> = fc.letrec<{ node: Condition }>((tie) => ({
  node: fc.oneof(
    { maxDepth: 2 },
    fc.constantFrom(...LEAVES),
    state,
    state.map((was) => ({ was })),
    state.map((became) => ({ became })),
    state.map((ceased) => ({ ceased })),
    fc.array(tie('node'), { maxLength: 3 }).map((all) => ({ all })),
    fc.array(tie('node'), { maxLength: 3 }).map((any) => ({ any })),
    fc.array(tie('node'), { maxLength: 2 }).map((none) => ({ none })),
  ),
})).node;

/** Conditions of a few tests that are alike but for how they are grouped and judged: what a sentence most easily blurs. */
function* alike(): Generator<Condition> {
  const [a, b, c] = TESTS.slice(4, 7) as [FieldTest, FieldTest, FieldTest];
  const kinds = ['all', 'any', 'none'] as const;
  const group = (kind: (typeof kinds)[number], parts: StateTest[]) => ({ [kind]: parts }) as StateTest;
  const states = kinds.flatMap((outer) => [
    group(outer, [a, b, c]),
    group(outer, [a]),
    group(outer, []),
    ...kinds.flatMap((inner) => [
      group(outer, [a, group(inner, [b, c])]),
      group(outer, [group(inner, [a, b]), c]),
      group(outer, [group(inner, [a]), b]),
      group(outer, [group(inner, []), b]),
    ]),
  ]);
  const turned = (of: StateTest): Condition[] => [of, { was: of }, { became: of }, { ceased: of }];
  for (const of of states) {
    yield* turned(of);
    for (const other of turned(a))
      for (const one of turned(of))
        yield* [{ all: [one, other] }, { any: [other, one] }, { none: [one, other] }] satisfies Condition[];
  }
}

describe.each(['en-GB', 'es-ES'])('a sentence (%s)', (locale) => {
  /** What conditions of each sentence did, with the first of them. */
  const known = new Map<string, { doing: string; node: Condition }>();
  const expectOne = (one: Condition) => {
    const words = sentence(one, locale);
    const does = doing(one);
    const before = known.get(words);
    if (!before) known.set(words, { doing: does, node: one });
    else if (before.doing !== does)
      throw new Error(`“${words}” says two things: ${JSON.stringify(before.node)} and ${JSON.stringify(one)}`);
  };

  it('says one thing: conditions of one sentence hold of the same changes', () => {
    for (const one of alike()) expectOne(one);
    fc.assert(fc.property(node, expectOne), { numRuns: 4000, endOnFailure: true });
    expect(known.size).toBeGreaterThan(1000);
  });
});

it.each<[string, Condition]>([
  ['Status goes from Requested or Agreed to On view', LEAVES.at(-1) as Condition],
  [
    'Status becomes On view and Crates rises by 9 or more',
    { all: [{ became: TESTS[1] as FieldTest }, LEAVES[4] as Condition] },
  ],
  ['Title contains “Loom”, capitals counting', TESTS[7] as FieldTest],
  [
    'it comes to be that (Status is Agreed or Fragile is yes)',
    { became: { any: [TESTS[0] as FieldTest, TESTS[5] as FieldTest] } },
  ],
  [
    'Status changes and (Crates is above 1 or Keeper is Inés Calder)',
    { all: [{ changed: 'status' }, { any: TESTS.slice(15) }] },
  ],
])('%s', (words, one) => expect(sentence(one, 'en-GB')).toBe(words));

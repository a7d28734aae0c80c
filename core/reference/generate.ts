import fc from 'fast-check';
import {
  type Condition,
  type FieldTest,
  isKind,
  type LinkedTest,
  openRule,
  type Rule,
  stateParts,
  type StateTest,
} from '../rules/index.ts';
import { instantOf } from '../time/index.ts';
import type { Change, Fields, Source, Value } from '../values/index.ts';

/** Small pools, so that generated rules and changes meet often. */
const STATUS = ['Requested', 'Agreed', 'On view'];
const TAGS = ['glass', 'wool', 'gilt'];
const TEXTS = ['Tidal Loom', 'tidal loom', 'Salt Basket', 'Reed', '', 'loom of Reeds', 'Núria'];
const PEOPLE = ['ines', 'mei', 'bo'];
const NUMBERS = [-5, 0, 10, 57.5, 58, 100];
const AMOUNTS = ['0', '100.00', '100', '250.5', '1000'];
const DATES = ['2026-03-01', '2026-03-04', '2026-03-10', '2026-03-28', '2026-03-29', '2026-03-30', '2026-04-01'];
const INSTANTS = [
  '2026-03-04T00:00:00Z',
  '2026-03-03T23:00:00Z',
  '2026-03-05T12:00:00+01:00',
  '2026-03-28T12:00:00+01:00',
  '2026-03-29T01:30:00Z',
  '2026-03-30T09:15:00Z',
];
export const ITEMS = ['i1', 'i2', 'i3'];
export const FOLDERS = ['f1', 'f2', 'f3', 'f4'];

export const SOURCE: Source = {
  id: 'things',
  kind: 'folders',
  name: 'Things',
  titleField: 'title',
  fields: [
    { id: 'title', name: 'Title', type: 'text' },
    { id: 'status', name: 'Status', type: 'choice', options: STATUS },
    { id: 'insured', name: 'Insured', type: 'money' },
    { id: 'humidity', name: 'Humidity', type: 'number' },
    { id: 'due', name: 'Due', type: 'date' },
    { id: 'opens', name: 'Opens', type: 'dateTime' },
    { id: 'tags', name: 'Tags', type: 'choices', options: TAGS },
    { id: 'keeper', name: 'Keeper', type: 'person' },
    { id: 'team', name: 'Team', type: 'people' },
    { id: 'part', name: 'Part of', type: 'link', to: 'things' },
    { id: 'parts', name: 'Parts', type: 'links', to: 'things' },
    { id: 'fragile', name: 'Fragile', type: 'boolean' },
    { id: 'mail', name: 'Mail', type: 'email' },
    { id: 'agreed', name: 'Agreed', type: 'money' },
    { id: 'target', name: 'Target', type: 'number' },
    { id: 'back', name: 'Back', type: 'date' },
    { id: 'closes', name: 'Closes', type: 'dateTime' },
    { id: 'once', name: 'Once called', type: 'text' },
    { id: 'lender', name: 'Lender', type: 'person' },
    { id: 'wanted', name: 'Wanted', type: 'choices', options: TAGS },
  ],
};

const money = fc.record({ amount: fc.constantFrom(...AMOUNTS), currency: fc.constantFrom('EUR', 'GBP') });
const some = <T>(list: readonly T[]) => fc.subarray([...list], { minLength: 1 });

const valuesFor: Record<string, fc.Arbitrary<Value>> = {
  title: fc.constantFrom(...TEXTS),
  status: fc.constantFrom(...STATUS),
  insured: money,
  humidity: fc.constantFrom(...NUMBERS),
  due: fc.constantFrom(...DATES),
  opens: fc.constantFrom(...INSTANTS),
  tags: fc.subarray(TAGS),
  keeper: fc.constantFrom(...PEOPLE),
  team: fc.subarray(PEOPLE),
  part: fc.constantFrom(...ITEMS),
  parts: fc.subarray([...ITEMS, 'nowhere']),
  fragile: fc.boolean(),
  agreed: money,
  target: fc.constantFrom(...NUMBERS),
  back: fc.constantFrom(...DATES),
  closes: fc.constantFrom(...INSTANTS),
  once: fc.constantFrom(...TEXTS),
  lender: fc.constantFrom(...PEOPLE),
  wanted: fc.subarray(TAGS),
  mail: fc.constantFrom('ines@marisma.example', ' OUT@else.example', 'new@else.example'),
};

/** A whole state; about half of its fields filled. */
export const fields: fc.Arbitrary<Fields> = fc.record(
  Object.fromEntries(
    SOURCE.fields.map((field) => [field.id, fc.option(valuesFor[field.id] as fc.Arbitrary<Value>, { freq: 2 })]),
  ) as Record<string, fc.Arbitrary<Value>>,
);

const test = (field: string, op: FieldTest['op'], value?: unknown, matchCase?: boolean): FieldTest => ({
  field,
  op,
  ...(value === undefined ? {} : { value: value as Value }),
  ...(matchCase ? { matchCase } : {}),
});

const compared = (field: string, other: string, ops: FieldTest['op'][]) =>
  fc
    .tuple(fc.constantFrom(...ops), fc.boolean(), fc.boolean())
    .map(([op, isTurned, exact]) =>
      test(isTurned ? other : field, op, { field: isTurned ? field : other }, exact && field === 'title'),
    );
/** Two fields of one type, by each operator that compares them. */
export const comparison: fc.Arbitrary<FieldTest> = fc.oneof(
  compared('insured', 'agreed', ['is', 'isNot', 'above', 'atLeast', 'below', 'atMost']),
  compared('humidity', 'target', ['is', 'isNot', 'above', 'atLeast', 'below', 'atMost']),
  compared('due', 'back', ['is', 'isNot', 'before', 'after']),
  compared('opens', 'closes', ['is', 'isNot', 'before', 'after']),
  compared('title', 'once', ['is', 'isNot']),
  compared('keeper', 'lender', ['is', 'isNot']),
  compared('tags', 'wanted', ['is', 'isNot']),
);

const fieldTest: fc.Arbitrary<FieldTest> = fc.oneof(
  comparison,
  fc
    .tuple(
      fc.constantFrom('is', 'isNot', 'contains', 'lacks', 'startsWith', 'endsWith'),
      fc.constantFrom('Tidal Loom', 'loom', 'reed', 'salt', 'Re', 'nÚria'),
      fc.boolean(),
    )
    .map(([op, value, exact]) => test('title', op as 'is', value, exact)),
  fc
    .tuple(fc.constantFrom('oneOf', 'noneOf'), some(['Salt Basket', 'Reed', 'TIDAL LOOM']))
    .map(([op, value]) => test('title', op as 'oneOf', value)),
  fc
    .tuple(fc.constantFrom('is', 'isNot'), fc.constantFrom(...STATUS))
    .map(([op, value]) => test('status', op as 'is', value)),
  fc.tuple(fc.constantFrom('oneOf', 'noneOf'), some(STATUS)).map(([op, value]) => test('status', op as 'oneOf', value)),
  fc
    .tuple(fc.constantFrom('is', 'isNot', 'above', 'atLeast', 'below', 'atMost'), money)
    .map(([op, value]) => test('insured', op as 'is', value)),
  fc
    .tuple(fc.constantFrom('is', 'isNot', 'above', 'atLeast', 'below', 'atMost'), fc.constantFrom(...NUMBERS))
    .map(([op, value]) => test('humidity', op as 'is', value)),
  fc
    .tuple(fc.constantFrom(...NUMBERS), fc.constantFrom(...NUMBERS))
    .map(([a, b]) => test('humidity', 'between', [Math.min(a, b), Math.max(a, b)])),
  fc
    .tuple(fc.constantFrom('is', 'before', 'after', 'isNot'), fc.constantFrom(...DATES))
    .map(([op, value]) => test('due', op as 'is', value)),
  fc.constantFrom('P3D', 'P30D', 'PT12H').map((value) => test('due', 'withinNext', value)),
  fc
    .tuple(fc.constantFrom('is', 'before', 'after'), fc.constantFrom(...INSTANTS, ...DATES))
    .map(([op, value]) => test('opens', op as 'is', value)),
  fc
    .tuple(fc.constantFrom('includesAny', 'includesAll', 'is', 'isNot'), some(TAGS))
    .map(([op, value]) => test('tags', op as 'is', value)),
  fc
    .tuple(fc.constantFrom('contains', 'lacks'), fc.constantFrom(...PEOPLE))
    .map(([op, value]) => test('team', op as 'contains', value)),
  fc
    .tuple(fc.constantFrom('is', 'isNot'), fc.constantFrom(...PEOPLE))
    .map(([op, value]) => test('keeper', op as 'is', value)),
  fc.constantFrom(...ITEMS).map((value) => test('part', 'is', value)),
  fc.boolean().map((value) => test('fragile', 'is', value)),
  fc.constantFrom('P1D', 'P2D', 'PT30H').map((value) => test('opens', 'withinNext', value)),
  fc.constantFrom('P1D', 'PT30H').map((value) => test('due', 'withinLast', value)),
  fc
    .tuple(fc.constantFrom('empty', 'filled'), fc.constantFrom(...SOURCE.fields.map((field) => field.id)))
    .map(([op, field]) => test(field, op as 'empty')),
);

/** What linked items are like: of the one, of some, of every one. */
export const linkedTest: fc.Arbitrary<LinkedTest> = fc.record({
  through: fc.constantFrom('part', 'parts'),
  holds: fc.oneof(
    fieldTest,
    fc.array(fieldTest, { maxLength: 2 }).map((all) => ({ all })),
    fc.array(fieldTest, { maxLength: 2 }).map((none) => ({ none })),
  ),
  every: fc.boolean(),
});

/** Whether a test follows a link anywhere in it, which no scope does that goes by links itself. */
export const followsLink = (test: StateTest): boolean =>
  isKind(test, 'through') || stateParts(test).some((part) => followsLink(part));

/** Up to two levels of groups around tests. */
export const stateTest: fc.Arbitrary<StateTest> = fc.letrec<{ state: StateTest }>((tie) => ({
  state: fc.oneof(
    { maxDepth: 2 },
    fieldTest,
    linkedTest,
    fc.array(tie('state'), { maxLength: 3 }).map((all) => ({ all })),
    fc.array(tie('state'), { maxLength: 3 }).map((any) => ({ any })),
    fc.array(tie('state'), { maxLength: 2 }).map((none) => ({ none })),
  ),
})).state;

const fieldIds = SOURCE.fields.map((field) => field.id);
const leaf: fc.Arbitrary<Condition> = fc.oneof(
  stateTest,
  stateTest.map((was) => ({ was })),
  stateTest.map((became) => ({ became })),
  stateTest.map((ceased) => ({ ceased })),
  fieldTest.map((became) => ({ became })),
  fieldTest.map((ceased) => ({ ceased })),
  fc.constantFrom(...fieldIds, '*').map((changed) => ({ changed })),
  fc.subarray(fieldIds, { minLength: 1, maxLength: 3 }).map((changed) => ({ changed })),
  fc
    .tuple(
      fc.constantFrom('humidity', 'insured'),
      fc.option(fc.constantFrom(1, 50), { nil: undefined }),
      fc.option(fc.constantFrom(5, 100), { nil: undefined }),
    )
    .map(([field, by, percent]) => ({
      rose: { field, ...(by === undefined ? {} : { by }), ...(percent === undefined ? {} : { percent }) },
    })),
  fc.constantFrom('humidity', 'due').map((field) => ({ fell: { field } })),
  fc
    .tuple(fc.constantFrom('due', 'opens'), fc.constantFrom('P3D', 'PT36H', 'P1DT12H', 'PT24H'))
    .map(([field, by]) => ({ rose: { field, by } })),
  fc.constantFrom('P3D', 'PT36H', 'PT24H').map((by) => ({ fell: { field: 'due', by } })),
  fc.option(some(TAGS), { nil: undefined }).map((any) => ({ gained: { field: 'tags', ...(any ? { any } : {}) } })),
  fc.constant({ lost: { field: 'team' } }),
);

export const condition: fc.Arbitrary<Condition> = fc.letrec<{ node: Condition }>((tie) => ({
  node: fc.oneof(
    { maxDepth: 2 },
    leaf,
    fc.array(tie('node'), { maxLength: 3 }).map((all) => ({ all })),
    fc.array(tie('node'), { maxLength: 3 }).map((any) => ({ any })),
    fc.array(tie('node'), { maxLength: 2 }).map((none) => ({ none })),
  ),
})).node;

const often = <T>(value: T, other: fc.Arbitrary<T>) =>
  fc.oneof({ weight: 3, arbitrary: fc.constant(value) }, { weight: 1, arbitrary: other });

/** A rule that looks at changes. */
export const rule: fc.Arbitrary<Rule> = fc
  .record({
    id: fc.constant('r'),
    when: condition,
    kinds: often<Change['kind'][]>(
      [],
      fc.subarray<Change['kind']>(['created', 'changed', 'deleted', 'moved', 'opened'], { minLength: 1 }),
    ),
    where: often<StateTest>({ all: [] }, stateTest),
    under: often<string[]>([], fc.subarray(FOLDERS, { minLength: 1 })),
    items: often<string[]>([], fc.subarray(ITEMS, { minLength: 1 })),
    linked: fc.boolean(),
    only: often<Rule['by']['only']>(
      [],
      some<Rule['by']['only'][number]>([
        ...PEOPLE.map((person) => ({ person })),
        { system: 'import' },
        { system: '*' },
        { group: 'g1' },
        '*',
      ]),
    ),
    isSettled: fc.boolean(),
    except: often<Rule['by']['except']>(
      [],
      some<Rule['by']['except'][number]>([{ person: 'mei' }, { system: '*' }, { group: 'g2' }]),
    ),
    from: often<string | null>(null, fc.constantFrom('2026-03-04', '2026-03-05')),
  })
  .map(({ when, kinds, where, under, items, linked, only, except, from, isSettled }) => ({
    ...openRule('r', 'R', 'ines', [SOURCE.id]),
    zone: 'Europe/Madrid',
    when: { kinds, if: when, burst: null },
    scope: { sources: [SOURCE.id], under, items, linked: linked && !followsLink(where), where },
    by: { only, except },
    during: { from, until: null, near: null },
    pace: isSettled ? { kind: 'settled', quiet: 'PT10M', most: 'PT1H' } : { kind: 'now' },
    to: [{ person: 'ines' }],
  }));

/** Those tests that an index looks up by each of its ways, in equal shares. */
const keyTest: fc.Arbitrary<FieldTest> = fc.oneof(
  fc.constantFrom('loom', 'reed', 'salt').map((value) => test('title', 'contains', value)),
  fc.constantFrom(...STATUS).map((value) => test('status', 'is', value)),
  fc
    .tuple(fc.constantFrom('above', 'below'), fc.constantFrom(...NUMBERS))
    .map(([op, value]) => test('humidity', op as 'above', value)),
  comparison,
  fieldTest,
);
const keyLeaf: fc.Arbitrary<Condition> = fc.oneof(
  keyTest,
  keyTest.map((became) => ({ became })),
  keyTest.map((was) => ({ was })),
  keyTest.map((ceased) => ({ ceased })),
  linkedTest.map((became) => ({ became })),
  linkedTest.map((ceased) => ({ ceased })),
  fc.constantFrom('status', 'title', 'humidity', 'keeper').map((changed) => ({ changed })),
  leaf,
);

/** A rule of few and plain parts: one test of where, one or two of what, so that an index knows nearly all that it asks. */
export const narrowRule: fc.Arbitrary<Rule> = fc
  .record({
    base: rule,
    where: often<StateTest>({ all: [] }, keyTest),
    one: keyLeaf,
    two: fc.option(keyLeaf, { freq: 2 }),
    isPlainWhere: fc.boolean(),
    plain: keyTest,
    isWide: fc.constantFrom(true, true, false),
  })
  .map(({ base, where, one, two, isPlainWhere, plain, isWide }) => ({
    ...base,
    when: { kinds: isWide ? [] : (base.when?.kinds ?? []), if: two ? { all: [one, two] } : one, burst: null },
    scope: {
      ...base.scope,
      where: isPlainWhere ? plain : where,
      linked: base.scope.linked && (isPlainWhere || !followsLink(where)),
      ...(isWide ? { under: [], items: [], linked: false } : {}),
    },
    ...(isWide ? { by: { only: [], except: [] }, during: { from: null, until: null, near: null } } : {}),
  }));

/** A change of one item: made, edited, moved or deleted. */
export const change: fc.Arbitrary<Change> = fc
  .record({
    item: fc.constantFrom(...ITEMS),
    before: fields,
    after: fields,
    kind: fc.constantFrom<Change['kind']>('created', 'changed', 'changed', 'changed', 'deleted', 'moved'),
    actor: fc.constantFrom(...PEOPLE, 'system:import'),
    folder: fc.constantFrom(...FOLDERS),
    folderBefore: fc.constantFrom(...FOLDERS),
    kept: fc.subarray(fieldIds),
  })
  .map(({ item, before, after, kind, actor, folder, folderBefore, kept }) => ({
    id: 'c',
    at: instantOf('2026-03-04T12:00:00Z'),
    source: SOURCE.id,
    item,
    kind,
    actor,
    before: kind === 'created' ? null : before,
    // Most of a change's fields stay as they were.
    after:
      kind === 'deleted'
        ? null
        : kind === 'created'
          ? after
          : { ...before, ...Object.fromEntries(kept.slice(0, 3).map((id) => [id, after[id] ?? null])) },
    folder,
    folderBefore: kind === 'moved' ? folderBefore : folder,
    batch: null,
    detail: {},
  }));

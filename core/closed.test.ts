import { expect, expectTypeOf, it } from 'vitest';
import {
  type CHANNELS,
  type Channel,
  kindOfSelector,
  type Selector,
  type SelectorKind,
  type SelectorVisitor,
} from './people/index.ts';
import {
  type Condition,
  type ConditionVisitor,
  kindOf,
  type NodeKind,
  operatorsOf,
  ownFields,
  partsOf,
  stateOf,
} from './rules/index.ts';
import { FIELD_TYPES, type FieldType, faultOf, isSetType } from './values/index.ts';

/** One node of each kind: a new kind does not compile before it stands here. */
const NODES: Record<NodeKind, Condition> = {
  test: { field: 'a', op: 'is', value: 'x' },
  through: { through: 'l', holds: { field: 'elsewhere', op: 'empty' } },
  all: { all: [{ field: 'a', op: 'empty' }] },
  any: { any: [{ field: 'a', op: 'empty' }, { changed: 'b' }] },
  none: { none: [{ field: 'a', op: 'empty' }] },
  was: { was: { field: 'a', op: 'empty' } },
  became: { became: { all: [] } },
  ceased: { ceased: { field: 'a', op: 'empty' } },
  changed: { changed: ['a', 'b'] },
  rose: { rose: { field: 'a' } },
  fell: { fell: { field: 'a' } },
  gained: { gained: { field: 'a' } },
  lost: { lost: { field: 'a' } },
};
const SELECTORS: Record<SelectorKind, Selector> = {
  person: { person: 'p' },
  group: { group: 'g' },
  field: { field: 'f' },
  linked: { linked: 'l', field: 'f' },
  creator: { creator: true },
  lastEditor: { lastEditor: true },
  followers: { followers: true },
  mentioned: { mentioned: true },
  managerOf: { managerOf: { person: 'p' } },
  contact: { contact: 'c' },
  webhook: { webhook: 'w' },
  told: { told: true },
  cases: { cases: [{ if: { field: 'f', op: 'filled' }, to: [{ person: 'p' }] }] },
  tell: { tell: { person: 'p' }, channels: ['text'] },
  system: { system: 's' },
  anybody: '*',
};

it('tells every kind of condition and selector, and no two alike', () => {
  for (const [kind, node] of Object.entries(NODES)) expect(kindOf(node)).toBe(kind);
  for (const [kind, selector] of Object.entries(SELECTORS)) expect(kindOfSelector(selector)).toBe(kind);
  expect(() => kindOf({ unheard: [] } as unknown as Condition)).toThrow('unheard');
  expect(() => kindOfSelector({ unheard: 'x' } as unknown as Selector)).toThrow('unheard');
});

it('knows of each kind what is in it: parts, a state, or fields', () => {
  const anatomy = Object.fromEntries(
    Object.entries(NODES).map(([kind, node]) => [
      kind,
      [partsOf(node).length, stateOf(node) !== null, ownFields(node)] as const,
    ]),
  );
  expect(anatomy).toEqual({
    test: [0, false, ['a']],
    through: [0, false, ['l']],
    all: [1, false, []],
    any: [2, false, []],
    none: [1, false, []],
    was: [0, true, []],
    became: [0, true, []],
    ceased: [0, true, []],
    changed: [0, false, ['a', 'b']],
    rose: [0, false, ['a']],
    fell: [0, false, ['a']],
    gained: [0, false, ['a']],
    lost: [0, false, ['a']],
  });
});

it('asks for an answer of every kind where one is treated', () => {
  expectTypeOf<keyof ConditionVisitor<void>>().toEqualTypeOf<NodeKind>();
  expectTypeOf<keyof SelectorVisitor<void>>().toEqualTypeOf<SelectorKind>();
  expectTypeOf<(typeof FIELD_TYPES)[number]>().toEqualTypeOf<FieldType>();
  expectTypeOf<(typeof CHANNELS)[number]>().toEqualTypeOf<Channel>();
  // @ts-expect-error: a visitor without an answer for one kind does not compile
  const lacking: ConditionVisitor<void> = { ...visitorOfAll, lost: undefined };
  expect(lacking).toBeDefined();
});
const nothing = () => undefined;
const visitorOfAll = {
  test: nothing,
  through: nothing,
  all: nothing,
  any: nothing,
  none: nothing,
  was: nothing,
  became: nothing,
  ceased: nothing,
  changed: nothing,
  rose: nothing,
  fell: nothing,
  gained: nothing,
};

it('offers operators for every field type, of which a set has none that compares one value', () => {
  for (const type of FIELD_TYPES) {
    const operators = operatorsOf(type);
    expect(new Set(operators).size).toBe(operators.length);
    expect(operators.slice(-2)).toEqual(['empty', 'filled']);
    if (isSetType(type)) expect(operators).not.toContain('oneOf');
    expect(faultOf({ id: 'f', name: 'F', type }, null)).toBeNull();
  }
});

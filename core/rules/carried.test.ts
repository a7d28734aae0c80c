import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { change, LOANS, settingOf } from '../testing/museum.ts';
import { type Fields, fieldOf, type Source } from '../values/index.ts';
import {
  areAlike,
  carriedOver,
  checkRule,
  type Condition,
  compileRule,
  isCaught,
  openRule,
  type Rule,
} from './index.ts';

/** The same source again, its fields under other ids. */
const OTHER: Source = {
  ...LOANS,
  id: 'other',
  titleField: `o-${LOANS.titleField}`,
  fields: LOANS.fields.map((field) => ({ ...field, id: `o-${field.id}` })),
};
const WORLD = {
  people: new Map(settingOf().people.map((one) => [one.id, one])),
  groups: new Map(),
  sources: new Map([LOANS, OTHER].map((one) => [one.id, one])),
  folders: new Map(),
  access: [],
  item: () => undefined,
};
const [choice] = LOANS.fields.filter(({ type }) => type === 'choice');
const status = choice?.id ?? '';
const value = fc.constantFrom(...(choice?.options ?? []));

const leaf: fc.Arbitrary<Condition> = fc.oneof(
  value.map((one) => ({ field: status, op: 'is' as const, value: one })),
  value.map((one) => ({ became: { field: status, op: 'is' as const, value: one } })),
  fc.constant({ changed: [status, LOANS.titleField] as string[] }),
  fc.constant({ field: LOANS.titleField, op: 'filled' as const }),
);
const condition = fc.oneof(
  leaf,
  fc.array(leaf, { minLength: 1, maxLength: 3 }).map((all): Condition => ({ all })),
  fc.array(leaf, { minLength: 1, maxLength: 3 }).map((none): Condition => ({ none })),
);
const state = fc.record({ [status]: value, [LOANS.titleField]: fc.constantFrom('Reed Gate', 'Salt Basket') });
const renamed = (fields: Fields): Fields =>
  Object.fromEntries(Object.entries(fields).map(([id, one]) => [`o-${id}`, one]));

const ruleOf = (asked: Condition): Rule => ({
  ...openRule('r', 'R', 'ines', ['loans']),
  zone: 'Europe/Madrid',
  when: { kinds: [], if: asked, burst: null },
  to: [{ person: 'ines' }],
});

describe('a rule carried over to a source like its own', () => {
  it('catches there what it would catch here', () => {
    fc.assert(
      fc.property(condition, state, state, (asked, before, after) => {
        const [here, there] = [ruleOf(asked), carriedOver(ruleOf(asked), LOANS, OTHER)];
        const made = change('a', '10:00', before, after);
        const moved = { ...made, source: 'other', before: renamed(before), after: renamed(after) };
        const caught = (rule: Rule, one: typeof made) => isCaught(compileRule(rule, WORLD.sources, 1), one, WORLD);
        expect(caught(there, moved)).toBe(caught(here, made));
      }),
      { numRuns: 300 },
    );
  });

  it('leaves behind where the first alone looks, and still names what the other lacks', () => {
    const rule = {
      ...ruleOf({ field: status, op: 'filled' }),
      scope: { ...ruleOf({ all: [] }).scope, items: ['a'], under: ['b'] },
    };
    const poor = { ...OTHER, fields: OTHER.fields.filter(({ id }) => id !== `o-${status}`) };
    const carried = carriedOver(rule, LOANS, poor);
    expect(carried.scope).toMatchObject({ sources: ['other'], items: [], under: [] });
    const world = { ...WORLD, sources: new Map(WORLD.sources).set('other', poor) };
    expect(checkRule(carried, world).map(({ code }) => code)).toContain('unknownField');
  });
});

describe('sources', () => {
  it('are alike by their kind and what they have in common, and never like themselves', () => {
    expect(areAlike(LOANS, OTHER)).toBe(true);
    expect(areAlike(LOANS, LOANS)).toBe(false);
    expect(areAlike(LOANS, { ...OTHER, kind: 'stream' })).toBe(false);
    const bare = { ...OTHER, fields: OTHER.fields.filter(({ id }) => id === OTHER.titleField) };
    expect(areAlike(LOANS, bare)).toBe(false);
    expect(fieldOf(bare, bare.titleField)).toBeDefined();
  });
});

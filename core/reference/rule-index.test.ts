import fc from 'fast-check';
import { describe, expect, inject, it } from 'vitest';
import type { World } from '../people/index.ts';
import { type CompiledRule, checkRule, compileRule, RuleIndex } from '../rules/index.ts';
import type { Change, ItemState } from '../values/index.ts';
import { change, FOLDERS, narrowRule, rule, SOURCE } from './generate.ts';
import { caughtByLoop } from './plain-loop.ts';
import { byActor, conditionHolds, inDates, inScope, type Plain, sidesOf } from './whole/judging.ts';

const NAMED: ItemState = {
  id: 'i1',
  source: SOURCE.id,
  folder: null,
  fields: { part: 'i2' },
  createdBy: null,
  lastBy: null,
  lastAt: null,
};
const GROUPS = new Map([
  ['g1', { id: 'g1', name: 'One', members: ['ines'], groups: ['g2'] }],
  ['g2', { id: 'g2', name: 'Two', members: ['mei'], groups: [] }],
]);
const WORLD: World = {
  people: new Map(),
  groups: GROUPS,
  sources: new Map([[SOURCE.id, SOURCE]]),
  access: [],
  item: (id) => (id === 'i1' ? NAMED : undefined),
  // f1 holds f2, which holds f3; f4 stands apart.
  folders: new Map(
    FOLDERS.map((id, at) => [
      id,
      { id, source: SOURCE.id, name: id, parent: at === 1 || at === 2 ? (FOLDERS[at - 1] ?? null) : null },
    ]),
  ),
};
const PLAIN: Plain = {
  people: new Map(),
  groups: GROUPS,
  contacts: new Map(),
  folders: new Map(WORLD.folders),
  source: SOURCE,
  access: [],
  followers: [],
  items: new Map([['i1', { ...NAMED, isThere: true }]]),
};

/** The twin of all that a rule asks of a change, without compiling anything. */
function catches(
  { rule: { when }, rule: one }: CompiledRule,
  { kind, actor, item, folder, folderBefore, ...sides }: Change,
): boolean {
  const seen = sidesOf({ kind, actor, item, folder, folderBefore, ...sides });
  return (
    when !== null &&
    (when.kinds.length === 0 || when.kinds.includes(kind)) &&
    inScope(one, item, seen, [folder, folderBefore], PLAIN) &&
    byActor(one, actor, PLAIN) &&
    inDates(one, seen) &&
    conditionHolds(when.if, seen, SOURCE, { zone: one.zone, items: PLAIN.items })
  );
}
const compile = (rules: Parameters<typeof compileRule>[0][]) =>
  rules.map((one, at) => compileRule({ ...one, id: `r${at}` }, WORLD.sources));
const ids = (rules: readonly CompiledRule[]) => rules.map(({ rule: { id } }) => id).sort();

describe('the rule index', () => {
  it('generated rules are such as can be saved', () => {
    fc.assert(
      fc.property(rule, (one) => {
        expect(checkRule(one, WORLD)).toEqual([]);
      }),
      { seed: 11, numRuns: 300 },
    );
  });

  it('finds what a plain loop over all rules finds', () => {
    let caught = 0;
    let asked = 0;
    fc.assert(
      fc.property(
        fc.array(rule, { minLength: 1, maxLength: 25 }),
        fc.array(change, { minLength: 1, maxLength: 12 }),
        (rules, changes) => {
          const compiled = compile(rules);
          const index = new RuleIndex(WORLD.sources);
          for (const one of compiled) index.add(one);
          for (const one of changes) {
            const looking = index.looking(one, WORLD);
            const candidates = looking.map((found) => found.compiled);
            expect(new Set(candidates).size).toBe(candidates.length);
            expect(ids(index.caught(one, WORLD))).toEqual(ids(caughtByLoop(compiled, one, WORLD)));
            expect(ids(looking.filter((found) => found.isCaught).map((found) => found.compiled))).toEqual(
              ids(caughtByLoop(compiled, one, WORLD)),
            );
            // What gathers until it settles looks at every change that its scope and kinds admit.
            for (const settled of compiled)
              if (settled.rule.pace.kind === 'settled' && settled.ofKind(one) && settled.inScope(one, WORLD))
                expect(candidates).toContain(settled);
            caught += caughtByLoop(compiled, one, WORLD).length;
            asked += candidates.length;
          }
        },
      ),
      { seed: 12, numRuns: 150 * inject('twins') },
    );
    // The comparison is of something: much is caught, and the index does not simply give everything.
    expect(caught).toBeGreaterThan(500);
    expect(asked).toBeGreaterThan(caught);
  }, 600_000);

  it('finds what asking the document of every rule finds, and nothing else', () => {
    let caught = 0;
    fc.assert(
      fc.property(
        fc.array(fc.oneof(narrowRule, rule), { minLength: 1, maxLength: 12 }),
        fc.array(change, { minLength: 1, maxLength: 12 }),
        (rules, changes) => {
          const compiled = compile(rules);
          const index = new RuleIndex(WORLD.sources);
          for (const one of compiled) index.add(one);
          for (const one of changes) {
            const wanted = compiled.filter((candidate) => catches(candidate, one));
            expect(ids(index.caught(one, WORLD))).toEqual(ids(wanted));
            caught += wanted.length;
          }
        },
      ),
      { seed: 14, numRuns: 600 * inject('twins') },
    );
    expect(caught).toBeGreaterThan(2000);
  }, 600_000);

  it('is the same whether rules were put in and taken out, or never were there', () => {
    fc.assert(
      fc.property(
        fc.array(rule, { minLength: 2, maxLength: 15 }),
        fc.array(change, { minLength: 1, maxLength: 6 }),
        fc.nat(),
        (rules, changes, mask) => {
          const compiled = compile(rules);
          const gone = compiled.filter((_, at) => (mask >> (at % 20)) & 1);
          const index = new RuleIndex(WORLD.sources);
          for (const one of compiled) index.add(one);
          for (const one of gone) index.remove(one);
          const kept = compiled.filter((one) => !gone.includes(one));
          expect(index.size).toBe(kept.length);
          for (const one of changes) expect(ids(index.caught(one, WORLD))).toEqual(ids(caughtByLoop(kept, one, WORLD)));
        },
      ),
      { seed: 13, numRuns: 100 * inject('twins') },
    );
  }, 600_000);
});

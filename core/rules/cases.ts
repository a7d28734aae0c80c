import type { CaseTest, Subject, World } from '../people/index.ts';
import type { Instant } from '../time/index.ts';
import type { Source } from '../values/index.ts';
import { compileState } from './condition.ts';
import type { StateTest } from './nodes.ts';
import type { Rule } from './rule.ts';
import type { Linked, Predicate } from './tests.ts';

/** What judges the cases by which a rule names its recipients, each of an item as it stands at an instant (section 9). */
export const caseJudge =
  ({ zone }: Pick<Rule, 'zone'>, at: Instant, world: Pick<World, 'sources'> & Linked) =>
  (test: CaseTest, subject: Subject): boolean => {
    const source = world.sources.get(subject.source);
    return source !== undefined && compiled(test as StateTest, source, zone, world)(subject.fields, at, world);
  };

/** A rule's cases are asked at every alert, and stay the same while it and its sources do. */
const known = new WeakMap<CaseTest, WeakMap<Source, Map<string, Predicate>>>();

function compiled(test: StateTest, source: Source, zone: string, { sources }: Pick<World, 'sources'>): Predicate {
  const bySource = known.get(test) ?? new WeakMap<Source, Map<string, Predicate>>();
  known.set(test, bySource);
  const byZone = bySource.get(source) ?? new Map<string, Predicate>();
  bySource.set(source, byZone);
  const before = byZone.get(zone);
  if (before) return before;
  const holds = compileState(test, { source, zone, sources });
  byZone.set(zone, holds);
  return holds;
}

import { isNamed, type World } from '../people/index.ts';
import { addDuration, atLocal, dateIn, type Instant, MIDNIGHT } from '../time/index.ts';
import { type Change, fieldOf, isEmpty, judgedFields, type Source } from '../values/index.ts';
import { type ChangePredicate, compileCondition, compileState } from './condition.ts';
import type { Rule } from './rule.ts';
import { momentOf } from './tests.ts';

/** A rule made ready to judge changes: one predicate for each step of the funnel, in its order. */
export interface CompiledRule {
  rule: Rule;
  version: number;
  /** Live for changes with `from <= at < until`; `until` is `null` for the version that is live still. */
  from: Instant;
  until: Instant | null;
  inScope(change: Change, world: World): boolean;
  ofKind(change: Change): boolean;
  byActor(change: Change, world: World): boolean;
  holds(change: Change): boolean;
  inDates(change: Change): boolean;
}

/** Compiles a rule that has passed `checkRule` for these sources; throws a RangeError where it names what is not there. */
export function compileRule(rule: Rule, sources: ReadonlyMap<string, Source>, live: { version: number; from: Instant; until: Instant | null }): CompiledRule {
  const conditions = new Map<string, ChangePredicate>();
  const scopes = new Map<string, ReturnType<typeof compileState>>();
  for (const id of rule.scope.sources) {
    const source = sources.get(id);
    if (!source) throw new RangeError(`rule ${rule.id}: there is no source ${id}`);
    conditions.set(id, compileCondition(rule.when.if, source, rule.zone));
    scopes.set(id, compileState(rule.scope.where, source, rule.zone));
  }
  const kinds = new Set<string>(rule.when.kinds);
  const under = new Set(rule.scope.under);
  const items = new Set(rule.scope.items);
  return {
    rule,
    ...live,
    inScope(change, world) {
      const where = scopes.get(change.source);
      if (!where) return false;
      if (items.size > 0 && !items.has(change.item)) return false;
      if (under.size > 0 && !isBelow(change.folder, under, world) && !isBelow(change.folderBefore, under, world)) return false;
      return where(judgedFields(change), change.at);
    },
    ofKind: (change) => kinds.size === 0 || kinds.has(change.kind),
    byActor(change, world) {
      const { only, except } = rule.by;
      return (only.length === 0 || only.some((one) => isNamed(one, change.actor, world))) && !except.some((one) => isNamed(one, change.actor, world));
    },
    holds: (change) => conditions.get(change.source)?.(change) ?? false,
    inDates: compileDates(rule, sources),
  };
}

/** Whether the rule catches the change: every step holds. */
export function isCaught(compiled: CompiledRule, change: Change, world: World): boolean {
  return compiled.ofKind(change) && compiled.inScope(change, world) && compiled.byActor(change, world) && compiled.holds(change) && compiled.inDates(change);
}

export const isLiveAt = (compiled: CompiledRule, at: Instant): boolean => compiled.from <= at && (compiled.until === null || at < compiled.until);

/** Whether the folder is one of these or lies anywhere below one. */
function isBelow(folder: string | null, wanted: ReadonlySet<string>, world: World): boolean {
  for (let id = folder, depth = 0; id !== null && depth < 1000; id = world.folders.get(id)?.parent ?? null, depth++) {
    if (wanted.has(id)) return true;
  }
  return false;
}

function compileDates({ during, zone }: Rule, sources: ReadonlyMap<string, Source>): ChangePredicate {
  const { from, until, near } = during;
  if (!from && !until && !near) return () => true;
  return (change) => {
    const day = dateIn(change.at, zone);
    if ((from && day < from) || (until && day > until)) return false;
    if (!near) return true;
    const value = judgedFields(change)[near.field];
    const source = sources.get(change.source);
    if (isEmpty(value) || !source) return false;
    const isDate = fieldOf(source, near.field)?.type === 'date';
    const moment = isDate ? atLocal(String(value), MIDNIGHT, zone) : momentOf(String(value), zone);
    return change.at >= addDuration(moment, near.ahead, zone, -1) && change.at <= addDuration(moment, near.behind, zone);
  };
}

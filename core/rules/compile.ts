import { isNamed, type World } from '../people/index.ts';
import { addDuration, atLocal, dateIn, type Instant, MIDNIGHT } from '../time/index.ts';
import {
  asChange,
  type Change,
  type Fields,
  fieldOf,
  isEmpty,
  isLinkType,
  isLook,
  type ItemState,
  judgedFields,
  membersOf,
  type Source,
} from '../values/index.ts';
import { type ChangePredicate, compileCondition, compileState } from './condition.ts';
import { isOpen } from './nodes.ts';
import { becameOf, type Rule } from './rule.ts';
import { type Linked, momentOf, type Predicate } from './tests.ts';

/** A rule made ready to judge changes: one predicate for each step of the funnel, in its order. */
export interface CompiledRule {
  rule: Rule;
  version: number;
  inScope(change: Change, world: World): boolean;
  ofKind(change: Change): boolean;
  byActor(change: Change, world: World): boolean;
  holds(change: Change, world: Linked): boolean;
  inDates(change: Change): boolean;
  /** Whether every step of the funnel holds, the cheapest asked first. */
  catches(change: Change, world: World): boolean;
  /** Whether the day of an instant lies in the rule's season. */
  inSeason(at: Instant): boolean;
  /** Whether the `if` of a due or idle rule, or of a report, holds of an item at an instant. */
  ifHolds(item: ItemState, at: Instant, world: Linked): boolean;
  /** Whether the state that the rule tells has come about does not hold after this change, be it the change or time that ended it; never where it tells of none. */
  hasCeased(change: Change, world: Linked): boolean;
}

/** Compiles a rule that has passed `checkRule` for these sources; throws a RangeError where it names what is not there. */
export function compileRule(rule: Rule, sources: ReadonlyMap<string, Source>, version = 1): CompiledRule {
  const conditions = new Map<string, ChangePredicate>();
  const scopes = new Map<string, Predicate>();
  const ifs = new Map<string, Predicate>();
  const became = new Map<string, Predicate>();
  const told = becameOf(rule);
  for (const id of rule.scope.sources) {
    const source = sources.get(id);
    if (!source) throw new RangeError(`rule ${rule.id}: there is no source ${id}`);
    const to = { source, zone: rule.zone, sources };
    if (rule.when) conditions.set(id, compileCondition(rule.when.if, to));
    else ifs.set(id, compileState((rule.due ?? rule.idle ?? rule.report)?.if ?? { all: [] }, to));
    if (told) became.set(id, compileState(told, to));
    scopes.set(id, compileState(rule.scope.where, to));
  }
  const kinds = new Set<string>((rule.when ?? rule.tally)?.kinds);
  const { only, except } = rule.by;
  const steps = {
    inScope: compileScope(rule, sources, scopes),
    ofKind: (change: Change) => (kinds.size === 0 ? !isLook(change) : kinds.has(change.kind)),
    byActor: (change: Change, world: World) =>
      (only.length === 0 || only.some((one) => isNamed(one, change.actor, world))) &&
      !except.some((one) => isNamed(one, change.actor, world)),
    holds: (change: Change, world: Linked) => conditions.get(change.source)?.(change, world) ?? false,
    inDates: compileDates(rule, sources),
  };
  const inSeason = seasonOf(rule);
  return {
    rule,
    version,
    ...steps,
    inSeason,
    catches: compileCatches(rule, steps, conditions),
    ifHolds: (item, at, world) => ifs.get(item.source)?.(item.fields, at, world) ?? false,
    hasCeased: ({ source, after, at }, world) => {
      const holds = became.get(source);
      return holds !== undefined && (after === null || !holds(after, at, world));
    },
  };
}

type Steps = Pick<CompiledRule, 'inScope' | 'ofKind' | 'byActor' | 'holds' | 'inDates'>;

/** All steps in one; those that a rule leaves open are not asked. */
function compileCatches(
  { when, scope, by, during }: Rule,
  steps: Steps,
  conditions: ReadonlyMap<string, ChangePredicate>,
): CompiledRule['catches'] {
  if (!when) return () => false;
  const checks: CompiledRule['catches'][] = [];
  const isWhereOpen = isOpen(scope.where);
  const [only] = scope.sources;
  const condition = conditions.get(only ?? '');
  if (when.kinds.length > 0) checks.push(steps.ofKind);
  if (!isWhereOpen || scope.items.length > 0 || scope.under.length > 0 || scope.sources.length !== 1)
    checks.push(steps.inScope);
  if (by.only.length + by.except.length > 0) checks.push(steps.byActor);
  if (during.from || during.until || during.near) checks.push(steps.inDates);
  // That somebody looked is for rules that name it.
  if (scope.sources.length !== 1 || !condition) checks.push(steps.ofKind, steps.holds);
  else if (checks.length === 0)
    return (change, world) => change.source === only && !isLook(change) && condition(change, world);
  else checks.push((change, world) => change.source === only && condition(change, world) && steps.ofKind(change));
  return (change, world) => {
    for (const check of checks) if (!check(change, world)) return false;
    return true;
  };
}

/** Whether the rule catches the change: every step holds. */
export const isCaught = (compiled: CompiledRule, change: Change, world: World): boolean =>
  compiled.catches(change, world);

/** Whether an item, as it stands, lies in the rule's scope at an instant. */
export const isItemInScope = (compiled: CompiledRule, item: ItemState, at: Instant, world: World): boolean =>
  compiled.inScope(asChange(item, at), world);

function compileScope(
  rule: Rule,
  sources: ReadonlyMap<string, Source>,
  scopes: ReadonlyMap<string, Predicate>,
): CompiledRule['inScope'] {
  const under = new Set(rule.scope.under);
  const items = new Set(rule.scope.items);
  const linksOf = (source: string, fields: Fields | null) => (fields ? linksIn(sources.get(source), fields) : []);
  const isLinked = (change: Change, world: World) =>
    linksOf(change.source, change.after).some((id) => items.has(id)) ||
    rule.scope.items.some((id) => {
      const named = world.item(id);
      return named !== undefined && linksIn(world.sources.get(named.source), named.fields).includes(change.item);
    });
  return (change, world) => {
    const where = scopes.get(change.source);
    if (!where) return false;
    if (items.size > 0 && !items.has(change.item) && !(rule.scope.linked && isLinked(change, world))) return false;
    if (under.size > 0 && !isBelow(change.folder, under, world) && !isBelow(change.folderBefore, under, world))
      return false;
    return where(judgedFields(change), change.at, world);
  };
}

/** All ids that an item's link fields hold. */
export const linksIn = (source: Source | undefined, fields: Fields): string[] =>
  (source?.fields ?? []).flatMap((field) => (isLinkType(field.type) ? membersOf(fields[field.id]) : []));

/** Whether the folder is one of these or lies anywhere below one. */
export function isBelow(folder: string | null, wanted: ReadonlySet<string>, world: Pick<World, 'folders'>): boolean {
  for (let id = folder, depth = 0; id !== null && depth < 1000; id = world.folders.get(id)?.parent ?? null, depth++) {
    if (wanted.has(id)) return true;
  }
  return false;
}

function seasonOf({ during: { from, until }, zone }: Pick<Rule, 'during' | 'zone'>): (at: Instant) => boolean {
  if (!from && !until) return () => true;
  return (at) => {
    const day = dateIn(at, zone);
    return !(from && day < from) && !(until && day > until);
  };
}

function compileDates({ during, zone }: Rule, sources: ReadonlyMap<string, Source>): CompiledRule['inDates'] {
  const { from, until, near } = during;
  if (!from && !until && !near) return () => true;
  const inSeason = seasonOf({ during, zone });
  return (change) => {
    if (!inSeason(change.at)) return false;
    if (!near) return true;
    const value = judgedFields(change)[near.field];
    const source = sources.get(change.source);
    if (isEmpty(value) || !source) return false;
    const isDate = fieldOf(source, near.field)?.type === 'date';
    const moment = isDate ? atLocal(String(value), MIDNIGHT, zone) : momentOf(String(value), zone);
    return (
      change.at >= addDuration(moment, near.ahead, zone, -1) && change.at <= addDuration(moment, near.behind, zone)
    );
  };
}

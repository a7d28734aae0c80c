import { repeatOf } from '../../pace/index.ts';
import { isItemInScope, type Occasion } from '../../rules/index.ts';
import { addDuration, timesDuration } from '../../time/index.ts';
import { asChange, type ItemState } from '../../values/index.ts';
import { groupAt, putDue, putIdle } from './arm.ts';
import { compareIds, type StepContext } from './context.ts';
import { idOfSchedule, type Raising } from './raise.ts';
import { type DueRow, type IdleRow, keyOf } from './rows.ts';
import type { Phase } from './state.ts';

/** What a schedule tells of. */
type ScheduledOccasion = Extract<Occasion, 'due' | 'idle'>;

/** What one item of a schedule does at its instant: fires, or not. */
interface Firing {
  source: string;
  item: string;
  value?: string;
  atGoLive: boolean;
}

/** All dates of a rule that fall due at one instant. */
export function datesDue(context: StepContext, ruleId: string, group: string): Raising[] {
  const phase = phaseOf(context, ruleId, group);
  const rows = context
    .group('dues', group, (row) => rowKeyIn(group, row))
    .sort((a, b) => compareIds(a.row.item, b.row.item));
  const fired: Firing[] = [];
  for (const { key, row } of rows) {
    const item = context.state.item(row.item);
    if (!phase || !item) {
      context.remove('dues', key);
      continue;
    }
    const isFired = fireDue(context, phase, row, item);
    // What several lead times bring of one item at one instant is one match.
    if (isFired && !fired.some((one) => one.item === row.item))
      fired.push({
        source: row.source,
        item: row.item,
        ...(row.value === null ? {} : { value: row.value }),
        atGoLive: false,
      });
  }
  return phase ? raisingsOf(context, phase, 'due', fired) : [];
}

function fireDue(context: StepContext, { compiled, scheduleSince }: Phase, row: DueRow, item: ItemState): boolean {
  const { due, zone } = compiled.rule;
  if (!due) return false;
  const done = row.repeats === null && row.value !== null ? [...row.done, row.value] : row.done;
  const over = { ...row, done, next: null, firedAt: null, repeats: null };
  const inScope = isItemInScope(compiled, item, context.at, context.state);
  if (!inScope) {
    putDue(context, scheduleSince, { ...row, inScope: false, next: null, firedAt: null, repeats: null });
    return false;
  }
  const inDates = compiled.inDates(asChange(item, context.at));
  if (!compiled.ifHolds(item, context.at, context.state) || (row.repeats === null && !inDates)) {
    putDue(context, scheduleSince, over);
    return false;
  }
  const made = row.repeats === null ? 0 : row.repeats + 1;
  const firedAt = row.firedAt ?? context.at;
  if (due.repeat && made < due.repeat.times) {
    const next = repeatOf(due, due.repeat, { at: firedAt, day: row.day }, made + 1, zone);
    putDue(context, scheduleSince, { ...row, done, next, firedAt, repeats: made });
  } else putDue(context, scheduleSince, over);
  return inDates;
}

/** All items of a rule that have stood still for long enough at one instant. */
export function standstills(context: StepContext, ruleId: string, group: string): Raising[] {
  const phase = phaseOf(context, ruleId, group);
  const rows = context
    .group('idles', group, (row) => rowKeyIn(group, row))
    .sort((a, b) => compareIds(a.row.item, b.row.item));
  const fired: Firing[] = [];
  for (const { key, row } of rows) {
    const item = context.state.item(row.item);
    if (!phase || !item) {
      context.remove('idles', key);
      continue;
    }
    if (fireIdle(context, phase, row, item))
      fired.push({
        source: row.source,
        item: row.item,
        value: String(item.lastAt ?? context.state.start),
        atGoLive: row.atGoLive,
      });
  }
  return phase ? raisingsOf(context, phase, 'idle', fired) : [];
}

function fireIdle(context: StepContext, { compiled, scheduleSince }: Phase, row: IdleRow, item: ItemState): boolean {
  const { idle, zone } = compiled.rule;
  if (!idle) return false;
  const lastAt = item.lastAt ?? context.state.start;
  const isRepeat = row.repeats !== null && row.firedFor === lastAt;
  const instant = addDuration(lastAt, idle.for, zone);
  if (!isRepeat && instant > context.at) {
    putIdle(context, scheduleSince, { ...row, next: instant, firedAt: null, repeats: null, atGoLive: false });
    return false;
  }
  const over = { ...row, next: null, firedAt: null, repeats: null, atGoLive: false };
  const inDates = compiled.inDates(asChange(item, context.at));
  const inScope = isItemInScope(compiled, item, context.at, context.state);
  if (!inScope || !compiled.ifHolds(item, context.at, context.state)) {
    putIdle(context, scheduleSince, { ...over, inScope });
    return false;
  }
  if (!isRepeat && !inDates) {
    putIdle(context, scheduleSince, { ...over, firedFor: lastAt, inScope });
    return false;
  }
  const made = isRepeat ? (row.repeats ?? 0) + 1 : 0;
  const goesOn = idle.repeat !== null && made < idle.repeat.times;
  const firedAt = isRepeat ? (row.firedAt ?? context.at) : context.at;
  const next =
    goesOn && idle.repeat
      ? { next: addDuration(firedAt, timesDuration(idle.repeat.every, made + 1), zone), firedAt, repeats: made }
      : {};
  putIdle(context, scheduleSince, { ...over, firedFor: lastAt, inScope, ...next });
  return inDates;
}

const rowKeyIn = (group: string, { item, lead }: { item: string; lead?: string }): string =>
  `${group.slice(0, group.lastIndexOf('|'))}|${lead === undefined ? keyOf(item) : keyOf(item, lead)}`;

/** The phase to whose schedule a group belongs; `undefined` where the rule has begun another since. */
function phaseOf(context: StepContext, rule: string, group: string): Phase | undefined {
  const phase = context.state.phase(rule, context.at);
  return phase && groupAt(rule, phase.scheduleSince, context.at) === group ? phase : undefined;
}

/** What fired at one instant is told together, unless the rule says not to; of a paused rule it is kept. */
function raisingsOf(
  context: StepContext,
  { compiled, isPaused }: Phase,
  occasion: ScheduledOccasion,
  fired: readonly Firing[],
): Raising[] {
  const { rule } = compiled;
  if (isPaused) {
    for (const one of fired) keep(context, compiled, occasion, one);
    return [];
  }
  const groups = rule.together
    ? [[...fired]]
    : [fired.filter((one) => one.atGoLive), ...fired.filter((one) => !one.atGoLive).map((one) => [one])];
  return groups.flatMap((group): Raising[] => {
    const [first] = group;
    if (!first) return [];
    const parts = group.map(({ source, item }) => ({ source, item, changes: [] }));
    return [{ compiled, id: idOfSchedule(compiled, occasion, context.at, first.item), occasion, parts }];
  });
}

function keep(
  context: StepContext,
  { rule, version }: Phase['compiled'],
  occasion: ScheduledOccasion,
  { source, item, value, atGoLive }: Firing,
): void {
  const part = { source, item, changes: [], ...(value === undefined ? {} : { value }) };
  const key = keyOf(rule.id, version, occasion, context.at, item);
  context.put('kept', key, keyOf(rule.id), {
    rule: rule.id,
    version,
    at: context.at,
    occasion,
    batch: `${occasion}@${context.at}`,
    key,
    ...(atGoLive ? { isOne: true } : {}),
    parts: [part],
  });
}

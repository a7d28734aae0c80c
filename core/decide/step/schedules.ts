import { dateKey, dueInstant, isDatePast, repeatOf } from '../../pace/index.ts';
import { isItemInScope, linksIn, type Rule, type Occasion } from '../../rules/index.ts';
import { addDuration, type Instant, timesDuration } from '../../time/index.ts';
import { asChange, type Change, fieldOf, isEmpty, type ItemState } from '../../values/index.ts';
import { idOfSchedule, raiseAlert } from './raise-alert.ts';
import { type DueRow, type IdleRow, keyOf, type Rows } from './rows.ts';
import type { Phase, State } from './state.ts';
import { compareIds, type StepContext } from './context.ts';

const rowKey = (since: number, { rule, item }: { rule: string; item: string }): string => keyOf(rule, since, item);
const groupAt = (rule: string, since: number, next: Instant | null): string => keyOf(rule, since, next ?? '');

function putDue(context: StepContext, since: number, row: DueRow): void {
  context.put('dues', rowKey(since, row), groupAt(row.rule, since, row.next), row);
  if (row.next !== null) setTimer(context, 'due', row.rule, since, row.next);
}

function putIdle(context: StepContext, since: number, row: IdleRow): void {
  context.put('idles', rowKey(since, row), groupAt(row.rule, since, row.next), row);
  if (row.next !== null) setTimer(context, 'idle', row.rule, since, row.next);
}

function setTimer(context: StepContext, task: 'due' | 'idle', rule: string, since: number, due: Instant): void {
  context.set({
    key: keyOf(task, rule, since, due),
    due,
    rank: 1,
    rule,
    item: '',
    person: '',
    task: { task, rule, group: groupAt(rule, since, due) },
  });
}

/** A new schedule begins: each item of the rule's sources gets its instant. What has fired under the one before stays fired. */
export function goLive(context: StepContext, ruleId: string): void {
  const phase = context.state.phase(ruleId, context.at);
  if (!phase || phase.scheduleSince !== phase.compiled.version) return;
  const { rule } = phase.compiled;
  if (!rule.due && !rule.idle) return;
  for (const source of rule.scope.sources)
    for (const item of context.state.itemsOf(source)) arm(context, phase, item, true);
}

/** A change sets the item's dates and standstills anew, and those of items that it links into or out of a scope. */
export function rearm(context: StepContext, change: Change): void {
  for (const phase of context.state.schedulesOf(change.source, context.at))
    context.within(phase.compiled, '', () => armOne(context, phase, change.item));
  const naming = context.state.schedulesNaming(change.item, context.at);
  if (naming.length === 0) return;
  const source = context.state.sources.get(change.source);
  const linked = new Set([change.before, change.after].flatMap((fields) => (fields ? linksIn(source, fields) : [])));
  for (const phase of naming)
    for (const item of linked) context.within(phase.compiled, '', () => armOne(context, phase, item));
}

function armOne(context: StepContext, phase: Phase, id: string): void {
  const item = context.state.item(id);
  if (item) {
    if (phase.compiled.rule.scope.sources.includes(item.source)) arm(context, phase, item, false);
    return;
  }
  const { rule } = phase.compiled;
  const key = rowKey(phase.scheduleSince, { rule: rule.id, item: id });
  const due = context.row('dues', key);
  if (due)
    putDue(context, phase.scheduleSince, {
      ...due,
      inScope: false,
      value: null,
      next: null,
      firedAt: null,
      repeats: null,
    });
  const idle = context.row('idles', key);
  if (idle)
    putIdle(context, phase.scheduleSince, { ...idle, next: null, firedAt: null, repeats: null, atGoLive: false });
}

function arm(context: StepContext, phase: Phase, item: ItemState, atGoLive: boolean): void {
  if (phase.compiled.rule.due) armDue(context, phase, item, atGoLive);
  else if (phase.compiled.rule.idle) armIdle(context, phase, item, atGoLive);
}

/** The key of the date that an item's field holds; `null` where it is empty. */
export function currentDate(state: State, { due }: Rule, item: ItemState): string | null {
  const source = state.sources.get(item.source);
  const field = source && due && fieldOf(source, due.field);
  const value = field && item.fields[field.id];
  return !field || value === undefined || isEmpty(value) ? null : dateKey(field, value);
}

/**
 * The row that an item has from an earlier schedule of the rule. Going live carries all rows of the schedule before
 * over, of items that there are; one that comes back later is looked for further back.
 */
function rowBefore<S extends 'dues' | 'idles'>(
  context: StepContext,
  shelf: S,
  { compiled: { rule }, scheduleSince, scheduleBefore }: Phase,
  item: string,
  atGoLive: boolean,
): { row: Rows[S]; since: number } | null {
  const first = scheduleBefore ?? 0;
  for (let since = first; since >= (atGoLive ? Math.max(first, 1) : 1) && since < scheduleSince; since--) {
    const row = context.row(shelf, rowKey(since, { rule: rule.id, item }));
    if (row) return { row, since };
  }
  return null;
}

/** Lead times are told apart by the field that they count from, too. */
const leadOf = (rule: Rule | undefined): string => (rule?.due ? keyOf(rule.due.field, rule.due.offset) : '');

/** What has fired, or was passed over, under schedules before this one: of the same lead time, and of others. */
function doneBefore(
  context: StepContext,
  phase: Phase,
  item: string,
  atGoLive: boolean,
): Pick<DueRow, 'done' | 'doneBefore'> {
  const before = rowBefore(context, 'dues', phase, item, atGoLive);
  if (!before) return { done: [] };
  const { rule } = phase.compiled;
  const all = {
    ...before.row.doneBefore,
    [leadOf(context.state.version(rule.id, before.since)?.rule)]: before.row.done,
  };
  const { [leadOf(rule)]: done = [], ...others } = all;
  return { done, ...(Object.keys(others).length > 0 ? { doneBefore: others } : {}) };
}

function armDue(context: StepContext, phase: Phase, item: ItemState, atGoLive: boolean): void {
  const { compiled, scheduleSince } = phase;
  const { rule } = compiled;
  const known = context.row('dues', rowKey(scheduleSince, { rule: rule.id, item: item.id }));
  const value = currentDate(context.state, rule, item);
  const inScope = isItemInScope(compiled, item, context.at, context.state);
  if (known && known.inScope === inScope && known.value === value) return;
  const memory = known
    ? { done: known.done, ...(known.doneBefore ? { doneBefore: known.doneBefore } : {}) }
    : doneBefore(context, phase, item.id, atGoLive);
  const row: DueRow = {
    rule: rule.id,
    source: item.source,
    item: item.id,
    field: rule.due?.field ?? '',
    inScope,
    value,
    ...memory,
    next: null,
    day: null,
    firedAt: null,
    repeats: null,
  };
  if (!inScope || value === null || memory.done.includes(value)) {
    if (known || memory.done.length > 0 || memory.doneBefore || inScope) putDue(context, scheduleSince, row);
    return;
  }
  // An instant that has passed already is passed over only until the next change sets it anew.
  const first = firstInstant(context, rule, item, atGoLive);
  putDue(context, scheduleSince, first ? { ...row, next: first.at, day: first.day } : row);
}

/** When an item's date fires; one already past fires now where the rule says so and the date itself is not past. `null`: passed over. */
function firstInstant(
  context: StepContext,
  { due, zone }: Rule,
  item: ItemState,
  atGoLive: boolean,
): { at: Instant; day: string | null } | null {
  const source = context.state.sources.get(item.source);
  const field = source && due && fieldOf(source, due.field);
  const value = field && item.fields[field.id];
  if (!due || !field || value === undefined) return null;
  const set = dueInstant(due, field, value, zone);
  if (!set || set.at >= context.at) return set;
  return !atGoLive && due.late === 'now' && !isDatePast(field, value, context.at, zone)
    ? { at: context.at, day: null }
    : null;
}

function armIdle(context: StepContext, phase: Phase, item: ItemState, atGoLive: boolean): void {
  const { compiled, scheduleSince } = phase;
  const { rule } = compiled;
  if (!rule.idle) return;
  const known = context.row('idles', rowKey(scheduleSince, { rule: rule.id, item: item.id }));
  const lastAt = item.lastAt ?? context.state.start;
  // What waits already looks at the item's last change when its time comes.
  if (known && known.next !== null && (known.repeats === null || known.firedFor === lastAt)) return;
  const firedFor = known
    ? known.firedFor
    : (rowBefore(context, 'idles', phase, item.id, atGoLive)?.row.firedFor ?? null);
  const inScope = isItemInScope(compiled, item, context.at, context.state);
  const instant = addDuration(lastAt, rule.idle.for, rule.zone);
  const isPast = instant <= context.at;
  const row: IdleRow = {
    rule: rule.id,
    source: item.source,
    item: item.id,
    firedFor,
    firedAt: null,
    next: null,
    repeats: null,
    inScope,
    atGoLive: false,
  };
  // One that stands still already comes by going live, or by entering the scope; where it is in it anyway, its instant has been.
  const isDue = firedFor !== lastAt && (!isPast || (inScope && (atGoLive || !known?.inScope)));
  if (isDue)
    putIdle(context, scheduleSince, { ...row, next: Math.max(instant, context.at), atGoLive: atGoLive && isPast });
  else if (known || firedFor !== null) putIdle(context, scheduleSince, row);
}

/** What one item of a schedule does at its instant: fires, or not. */
interface Firing {
  source: string;
  item: string;
  value?: string;
  atGoLive: boolean;
}

/** All dates of a rule that fall due at one instant. */
export function runDue(context: StepContext, ruleId: string, group: string): void {
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
    if (fireDue(context, phase, row, item))
      fired.push({
        source: row.source,
        item: row.item,
        ...(row.value === null ? {} : { value: row.value }),
        atGoLive: false,
      });
  }
  if (phase) tell(context, phase, 'due', fired);
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
  if (!compiled.ifHolds(item, context.at) || (row.repeats === null && !inDates)) {
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
export function runIdle(context: StepContext, ruleId: string, group: string): void {
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
  if (phase) tell(context, phase, 'idle', fired);
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
  if (!inScope || !compiled.ifHolds(item, context.at)) {
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

const rowKeyIn = (group: string, { item }: { item: string }): string =>
  `${group.slice(0, group.lastIndexOf('|'))}|${keyOf(item)}`;

/** The phase to whose schedule a group belongs; `undefined` where the rule has begun another since. */
function phaseOf(context: StepContext, rule: string, group: string): Phase | undefined {
  const phase = context.state.phase(rule, context.at);
  return phase && groupAt(rule, phase.scheduleSince, context.at) === group ? phase : undefined;
}

/** What fired at one instant is told together, unless the rule says not to; of a paused rule it is kept. */
function tell(
  context: StepContext,
  { compiled, isPaused }: Phase,
  occasion: Exclude<Occasion, 'change'>,
  fired: readonly Firing[],
): void {
  const { rule, version } = compiled;
  if (isPaused) {
    for (const { source, item, value, atGoLive } of fired) {
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
    return;
  }
  const groups = rule.together
    ? [[...fired]]
    : [fired.filter((one) => one.atGoLive), ...fired.filter((one) => !one.atGoLive).map((one) => [one])];
  for (const group of groups) {
    const [first] = group;
    if (first)
      raiseAlert(context, compiled, {
        id: idOfSchedule(compiled, occasion, context.at, first.item),
        occasion,
        parts: group.map(({ source, item }) => ({ source, item, changes: [] })),
      });
  }
}

import { dateKey, dueInstant, isDatePast } from '../../pace/index.ts';
import { isItemInScope, leadsOf, linksIn, type Rule } from '../../rules/index.ts';
import { addDuration, type Duration, type Instant } from '../../time/index.ts';
import { type Change, fieldOf, isEmpty, type ItemState } from '../../values/index.ts';
import { type DueRow, type IdleRow, keyOf, type Rows } from './rows.ts';
import type { Phase, State } from './state.ts';
import type { StepContext } from './context.ts';

/** Where a row stands: by its item, and by its lead time where its rule has several. */
const rowKey = (since: number, { rule, item, lead }: { rule: string; item: string; lead?: Duration }): string =>
  lead === undefined ? keyOf(rule, since, item) : keyOf(rule, since, item, lead);
/** The lead times of a rule, as its rows have them: none named where there is but one. */
const leadsIn = (rule: Rule | undefined): (Duration | undefined)[] =>
  rule?.due && Array.isArray(rule.due.offset) ? rule.due.offset : [undefined];
/** The group of a schedule's rows that wait for one instant; of those that wait for none where `next` is `null`. */
export const groupAt = (rule: string, since: number, next: Instant | null): string => keyOf(rule, since, next ?? '');

/** Keeps where an item stands in a schedule of dates, with the timer of its next instant. */
export function putDue(context: StepContext, since: number, row: DueRow): void {
  context.put('dues', rowKey(since, row), groupAt(row.rule, since, row.next), row);
  if (row.next !== null) setTimer(context, 'due', row.rule, since, row.next);
}

/** Keeps where an item stands in a schedule of standstills, with the timer of its next instant. */
export function putIdle(context: StepContext, since: number, row: IdleRow): void {
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
  for (const lead of leadsIn(rule)) {
    const due = context.row('dues', rowKey(phase.scheduleSince, leadAt(rule.id, id, lead)));
    if (due)
      putDue(context, phase.scheduleSince, {
        ...due,
        inScope: false,
        value: null,
        next: null,
        firedAt: null,
        repeats: null,
      });
  }
  const idle = context.row('idles', rowKey(phase.scheduleSince, { rule: rule.id, item: id }));
  if (idle)
    putIdle(context, phase.scheduleSince, { ...idle, next: null, firedAt: null, repeats: null, atGoLive: false });
}

function arm(context: StepContext, phase: Phase, item: ItemState, atGoLive: boolean): void {
  if (phase.compiled.rule.due)
    for (const lead of leadsIn(phase.compiled.rule)) armDue(context, phase, item, lead, atGoLive);
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
function rowsBefore<S extends 'dues' | 'idles'>(
  context: StepContext,
  shelf: S,
  { compiled: { rule }, scheduleSince, scheduleBefore }: Phase,
  item: string,
  atGoLive: boolean,
): { rows: Rows[S][]; since: number } | null {
  const first = scheduleBefore ?? 0;
  for (let since = first; since >= (atGoLive ? Math.max(first, 1) : 1) && since < scheduleSince; since--) {
    const leads = shelf === 'dues' ? leadsIn(context.state.version(rule.id, since)?.rule) : [undefined];
    const rows = leads.flatMap((lead) => context.row(shelf, rowKey(since, leadAt(rule.id, item, lead))) ?? []);
    if (rows.length > 0) return { rows, since };
  }
  return null;
}

const leadAt = (rule: string, item: string, lead: Duration | undefined) => ({
  rule,
  item,
  ...(lead === undefined ? {} : { lead }),
});

/** Lead times are told apart by the field that they count from, too. */
const leadKey = (rule: Rule | undefined, lead: Duration | undefined): string =>
  rule?.due ? keyOf(rule.due.field, lead ?? leadsOf(rule.due)[0] ?? '') : '';

/** What has fired, or was passed over, under schedules before this one: of the same lead time, and of others. */
function doneBefore(
  context: StepContext,
  phase: Phase,
  item: string,
  lead: Duration | undefined,
  atGoLive: boolean,
): Pick<DueRow, 'done' | 'doneBefore'> {
  const before = rowsBefore(context, 'dues', phase, item, atGoLive);
  if (!before) return { done: [] };
  const { rule } = phase.compiled;
  const then = context.state.version(rule.id, before.since)?.rule;
  const all: Record<string, string[]> = {};
  const add = (key: string, done: readonly string[]) => {
    all[key] = [...new Set([...(all[key] ?? []), ...done])];
  };
  for (const row of before.rows) {
    for (const [key, done] of Object.entries(row.doneBefore ?? {})) add(key, done);
    add(leadKey(then, row.lead), row.done);
  }
  const { [leadKey(rule, lead)]: done = [], ...others } = all;
  return { done, ...(Object.keys(others).length > 0 ? { doneBefore: others } : {}) };
}

function armDue(
  context: StepContext,
  phase: Phase,
  item: ItemState,
  lead: Duration | undefined,
  atGoLive: boolean,
): void {
  const { compiled, scheduleSince } = phase;
  const { rule } = compiled;
  const known = context.row('dues', rowKey(scheduleSince, leadAt(rule.id, item.id, lead)));
  const value = currentDate(context.state, rule, item);
  const inScope = isItemInScope(compiled, item, context.at, context.state);
  if (known && known.inScope === inScope && known.value === value) return;
  const before = known
    ? { done: known.done, ...(known.doneBefore ? { doneBefore: known.doneBefore } : {}) }
    : doneBefore(context, phase, item.id, lead, atGoLive);
  const row: DueRow = {
    rule: rule.id,
    source: item.source,
    item: item.id,
    field: rule.due?.field ?? '',
    ...(lead === undefined ? {} : { lead }),
    inScope,
    value,
    ...before,
    next: null,
    day: null,
    firedAt: null,
    repeats: null,
  };
  if (!inScope || value === null || before.done.includes(value)) {
    if (known || before.done.length > 0 || before.doneBefore || inScope) putDue(context, scheduleSince, row);
    return;
  }
  // An instant that has passed already is passed over only until the next change sets it anew.
  const first = firstInstant(context, rule, item, lead, atGoLive);
  putDue(context, scheduleSince, first ? { ...row, next: first.at, day: first.day } : row);
}

/** When an item's date fires; one already past fires now where the rule says so and the date itself is not past. `null`: passed over. */
function firstInstant(
  context: StepContext,
  { due, zone }: Rule,
  item: ItemState,
  lead: Duration | undefined,
  atGoLive: boolean,
): { at: Instant; day: string | null } | null {
  const source = context.state.sources.get(item.source);
  const field = source && due && fieldOf(source, due.field);
  const value = field && item.fields[field.id];
  if (!due || !field || value === undefined) return null;
  const set = dueInstant(due, field, value, zone, lead);
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
    : (rowsBefore(context, 'idles', phase, item.id, atGoLive)?.rows[0]?.firedFor ?? null);
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

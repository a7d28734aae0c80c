import {
  asKind,
  isAbsent,
  isMuted,
  kindOfSelector,
  reach,
  recipientKey,
  type Selector,
  type Step,
  stepsFor,
  type Subject,
} from '../../people/index.ts';
import { columnsOf } from '../../messages/index.ts';
import { type CompiledRule, isItemInScope } from '../../rules/index.ts';
import { nextOf } from '../../time/index.ts';
import type { ItemState } from '../../values/index.ts';
import { compareIds, type StepContext } from './context.ts';
import { judge, type Told } from './judge.ts';
import { idOfSchedule, raise, type Raised } from './raise.ts';
import { keyOf, type Reported } from './rows.ts';
import type { Phase } from './state.ts';
import { NO_ITEM, type Portion } from './types.ts';

/** Sets the next instant of a report's version. */
export function setReport(context: StepContext, { compiled: { rule, version } }: Phase): void {
  if (!rule.report) return;
  const due = nextOf(rule.report, context.at, rule.zone);
  context.set({
    key: keyOf('report', rule.id, version, due),
    due,
    rank: 1,
    rule: rule.id,
    item: '',
    person: '',
    task: { task: 'report', rule: rule.id, version },
  });
}

/** A report as it is told: who hears of what, each step without its pace. */
export interface Reporting {
  compiled: CompiledRule;
  told: Told[];
}

/** The instant of a report: its alert, and whom it is told. An instant while its rule is paused, or out of season, passes by. */
export function reported(context: StepContext, ruleId: string, version: number): Reporting | null {
  const phase = context.state.phase(ruleId, context.at);
  if (phase?.compiled.version !== version) return null;
  setReport(context, phase);
  const { compiled, isPaused } = phase;
  if (isPaused || !compiled.inSeason(context.at)) return null;
  const items = itemsIn(context, compiled);
  const marks = marksOf(context, compiled, items);
  if (items.length === 0) return compiled.rule.report?.empty ? emptyReport(context, compiled) : null;
  const [first] = items as [ItemState];
  const raised = raise(context, {
    compiled,
    id: idOfSchedule(compiled, 'report', context.at, first.id),
    occasion: 'report',
    parts: items.map(({ id, source }) => ({ source, item: id, changes: [] })),
  });
  const { told, withheld } = judge(raised, context.at, context.state);
  for (const one of withheld) context.emit({ effect: 'withheld', withheld: one });
  for (const { portions } of told)
    for (const portion of portions) {
      const mark = marks.of.get(portion.item);
      if (mark) portion.mark = mark;
    }
  addGone(context, raised, told, marks.gone);
  return { compiled, told: told.map(atOnce) };
}

/** The items in scope for which the report's `if` holds, by id. */
const itemsIn = (context: StepContext, compiled: CompiledRule): ItemState[] =>
  compiled.rule.scope.sources
    .flatMap((source) => [...context.state.itemsOf(source)])
    .filter(
      (item) =>
        isItemInScope(compiled, item, context.at, context.state) && compiled.ifHolds(item, context.at, context.state),
    )
    .sort((a, b) => compareIds(a.id, b.id));

/** The paces of steps do not delay a report. */
function atOnce(told: Told): Told {
  const without = new Map<readonly Step[], readonly Step[]>();
  const taken = (steps: readonly Step[]) => {
    const known = without.get(steps) ?? steps.map(({ pace: _, ...step }): Step => step);
    without.set(steps, known);
    return known;
  };
  return { ...told, steps: told.steps.map(taken) };
}

/** What is new in a report, and changed in what it shows, since the last; nothing is, where there was none before. */
interface Marks {
  of: ReadonlyMap<string, 'new' | 'changed'>;
  /** What was in the last report and is not in this one. */
  gone: readonly { item: string; source: string }[];
}

/** Compares with the last report, and keeps this one for the next. */
function marksOf(context: StepContext, { rule }: CompiledRule, items: readonly ItemState[]): Marks {
  const key = keyOf(rule.id);
  const before = context.row('reported', key);
  const shown = columnsOf(rule, context.state.sources);
  const seen = items.map(({ id, source, fields }): Reported['items'][number] => [
    id,
    source,
    JSON.stringify(shown.map((field) => fields[field] ?? null)),
  ]);
  context.put('reported', key, key, { rule: rule.id, shown, items: seen });
  if (!before) return { of: new Map(), gone: [] };
  const isComparable = JSON.stringify(before.shown) === JSON.stringify(shown);
  const earlier = new Map(before.items.map(([id, , values]) => [id, values]));
  const of = new Map<string, 'new' | 'changed'>();
  for (const [id, , values] of seen) {
    const then = earlier.get(id);
    if (then === undefined) of.set(id, 'new');
    else if (isComparable && then !== values) of.set(id, 'changed');
  }
  const now = new Set(items.map(({ id }) => id));
  return { of, gone: before.items.flatMap(([item, source]) => (now.has(item) ? [] : [{ item, source }])) };
}

/** Whoever hears of a report, and would hear of what is gone from it, is told that too. */
function addGone(
  context: StepContext,
  { compiled, id, arising }: Raised,
  told: readonly Told[],
  gone: Marks['gone'],
): void {
  if (gone.length === 0) return;
  const items = gone.map(({ item, source }) => ({ part: { source, item, changes: [] }, changes: [], isCooled: false }));
  const parts = items.map(({ part }) => part);
  const missed = judge({ compiled, id, occasion: 'report', arising, items, parts }, context.at, context.state).told;
  for (const one of told)
    for (const other of missed)
      if (other.key === one.key)
        for (const [at, portion] of other.portions.entries()) {
          one.portions.push({ ...portion, mark: 'gone' });
          one.steps.push(other.steps[at] ?? []);
        }
}

/** An item that is none: on it the steps of an empty report are asked. */
const NOTHING: Subject = { source: '', folder: null, fields: {} };

/** Selectors that name people whatever the item is. */
const outright = (selectors: readonly Selector[]): Selector[] =>
  selectors.filter((selector) => {
    const kind = kindOfSelector(asKind(selector, 'tell')?.tell ?? selector);
    return kind === 'person' || kind === 'group';
  });

/** A report with nothing in it goes to whom the rule names outright, and to nobody else. */
function emptyReport(context: StepContext, compiled: CompiledRule): Reporting {
  const { state, at } = context;
  const { rule, version } = compiled;
  const id = idOfSchedule(compiled, 'report', at, '');
  const of = { alert: id, rule: rule.id, version, at, occasion: 'report' as const };
  const arising = context.arisingOf(undefined);
  context.emit({
    effect: 'alert',
    alert: { id, rule: rule.id, version, at, occasion: 'report', parts: [], changes: [], suppressed: 0 },
  });
  context.raised.set(id, []);
  const excluded = reach(outright(rule.except), NOTHING, state);
  const told = [...reach(outright(rule.to), NOTHING, state).values()].flatMap((to): Told[] => {
    const person = state.people.get(to.id);
    if (!person?.active || isAbsent(person, at) || excluded.has(to.id) || isMuted(person, rule.id, NO_ITEM, at))
      return [];
    const portion: Portion = { ...of, arising, source: '', item: NO_ITEM, changes: [], reasons: to.reasons };
    const steps = stepsFor(person, rule, to.ways ? { ways: to.ways } : {});
    return [{ key: recipientKey(to), to: { kind: 'person', id: to.id }, portions: [portion], steps: [steps] }];
  });
  return { compiled, told: told.map(atOnce) };
}

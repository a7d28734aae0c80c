import { burstKey, countIn, settlesAt } from '../../pace/index.ts';
import type { CompiledRule } from '../../rules/index.ts';
import type { Change } from '../../values/index.ts';
import { byItem, idOfChange, type Raising } from './raise.ts';
import { type Gathering, keyOf } from './rows.ts';
import type { Phase } from './state.ts';
import type { Part } from './types.ts';
import type { StepContext } from './context.ts';

/** The rules that catch a change, each as what becomes of it now: an alert to raise, or a row that waits. */
export const caughtBy = (context: StepContext, change: Change): Raising[] =>
  context.state.phasesFor(change).flatMap(({ phase, isCaught }) => {
    const { compiled } = phase;
    const raising = context.within(compiled, '', () => {
      if (joins(context, phase, change)) return null;
      // A rule that could not be asked is asked here, where its failure is its own.
      return (isCaught ?? compiled.catches(change, context.state)) ? gather(context, phase, change) : null;
    });
    return raising ?? [];
  });

/** Where a change joins what gathers already, matching or not; whether it did. */
function joins(context: StepContext, { compiled, epoch, isPaused }: Phase, change: Change): boolean {
  if (compiled.rule.pace.kind !== 'settled' || isPaused) return false;
  const gathering = context.row('gatherings', gatheringKey(compiled.rule.id, epoch, change.item));
  if (!gathering) return false;
  const isAdmitted = compiled.ofKind(change) && compiled.inScope(change, context.state);
  if (isAdmitted)
    putGathering(context, epoch, { ...gathering, lastAt: change.at, changes: [...gathering.changes, change.id] });
  return true;
}

/** The key of what gathers of an item by a rule, in one of the rule's phases. */
export const gatheringKey = (rule: string, epoch: number, item: string): string => keyOf(rule, epoch, item);

function putGathering(context: StepContext, epoch: number, gathering: Omit<Gathering, 'settles' | 'epoch'>): void {
  const { rule, version, item, firstAt, lastAt } = gathering;
  const of = context.state.version(rule, version)?.rule;
  if (of?.pace.kind !== 'settled') return;
  const settles = settlesAt(of.pace, firstAt, lastAt, of.zone);
  const group = keyOf(rule, settles);
  context.put('gatherings', gatheringKey(rule, epoch, item), group, { ...gathering, epoch, settles });
  context.set({
    key: keyOf('settle', rule, settles),
    due: settles,
    rank: 1,
    rule,
    item: '',
    person: '',
    task: { task: 'settle', rule, group },
  });
}

/** A match begins to gather, counts towards a burst, is kept while its rule is paused, waits for its batch, or raises an alert. */
function gather(context: StepContext, phase: Phase, change: Change): Raising | null {
  const { compiled } = phase;
  const { rule, version } = compiled;
  const part: Part = { source: change.source, item: change.item, changes: [change.id] };
  if (rule.pace.kind === 'settled' && !phase.isPaused) {
    const { at, batch } = change;
    putGathering(context, phase.epoch, { ...part, rule: rule.id, version, firstAt: at, lastAt: at, batch });
    return null;
  }
  const parts = rule.when?.burst ? complete(context, phase, change) : [part];
  if (!parts) return null;
  if (phase.isPaused) keep(context, compiled, change, parts);
  else if (change.batch !== null) putBatched(context, compiled, change, change.batch, parts);
  else return { compiled, id: idOfChange(compiled, parts[0] as Part), occasion: 'change', parts };
  return null;
}

/** What a paused rule caught, until it goes on. */
function keep(context: StepContext, { rule, version }: CompiledRule, change: Change, parts: Part[]): void {
  const { at, batch } = change;
  const key = keyOf(rule.id, version, change.source, change.id);
  context.put('kept', key, keyOf(rule.id), { rule: rule.id, version, at, occasion: 'change', batch, key, parts });
}

/** What waits until all of its batch has come in. */
function putBatched(
  context: StepContext,
  { rule, version }: CompiledRule,
  { at, source, id }: Change,
  of: string,
  parts: readonly Part[],
): void {
  const batch = rule.together ? keyOf(rule.id, version, of) : keyOf(rule.id, version, of, source, id);
  for (const part of parts) {
    const key = keyOf(batch, source, id, part.item);
    context.put('batched', key, batch, { ...part, at, key });
  }
  context.set({
    key: keyOf('batch', batch),
    due: at,
    rank: 0,
    rule: rule.id,
    item: '',
    person: '',
    task: { task: 'batch', rule: rule.id, version, group: batch },
  });
}

/** Counts a match towards the rule's burst; the parts of the burst it completes, `null` where it completes none. */
function complete(context: StepContext, { compiled, burstSince }: Phase, change: Change): Part[] | null {
  const { id, when, zone } = compiled.rule;
  if (!when?.burst) return null;
  const key = keyOf(id, burstSince, burstKey(when.burst, change));
  const earlier = context.row('bursts', key)?.counted ?? [];
  const { counted, isComplete } = countIn(
    when.burst,
    earlier,
    { at: change.at, source: change.source, item: change.item, change: change.id },
    zone,
  );
  if (!isComplete) {
    context.put('bursts', key, keyOf(id), { counted });
    return null;
  }
  context.remove('bursts', key);
  return byItem(counted.map((one) => ({ source: one.source, item: one.item, changes: [one.change] })));
}

/** All of a batch has come in: its matches raise one alert. */
export function batched(context: StepContext, ruleId: string, version: number, group: string): Raising[] {
  const compiled = context.state.version(ruleId, version);
  const rows = context.group('batched', group, (row) => row.key);
  for (const { key } of rows) context.remove('batched', key);
  const parts = rows.map(({ row: { source, item, changes } }): Part => ({ source, item, changes }));
  const [first] = parts;
  return compiled && first ? [{ compiled, id: idOfChange(compiled, first), occasion: 'change', parts }] : [];
}

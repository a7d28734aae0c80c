import { burstKey, countIn, settlesAt } from '../../pace/index.ts';
import type { Change } from '../../values/index.ts';
import { closeCeased } from './acknowledging.ts';
import { byItem, idOfChange, raiseAlert } from './raise-alert.ts';
import { type Gathering, keyOf } from './rows.ts';
import { rearm } from './schedules.ts';
import type { Phase } from './state.ts';
import type { Part } from './types.ts';
import type { StepContext } from './context.ts';

/** What follows from a change: alerts it calls off, rules that catch it or gather it, dates and standstills set anew. */
export function decideChange(context: StepContext, change: Change): void {
  closeCeased(context, change);
  for (const { phase, isCaught } of context.state.phasesFor(change)) {
    context.within(phase.compiled, '', () => {
      // A rule that could not be asked is asked here, where its failure is its own.
      if (!gather(context, phase, change) && (isCaught ?? phase.compiled.catches(change, context.state)))
        match(context, phase, change);
    });
  }
  rearm(context, change);
}

/** Where a change joins what gathers already, matching or not; whether it did. */
function gather(context: StepContext, { compiled, epoch, isPaused }: Phase, change: Change): boolean {
  if (compiled.rule.pace.kind !== 'settled' || isPaused) return false;
  const gathering = context.row('gatherings', gatheringKey(compiled.rule.id, epoch, change.item));
  if (!gathering) return false;
  const isAdmitted = compiled.ofKind(change) && compiled.inScope(change, context.state);
  if (isAdmitted)
    putGathering(context, epoch, { ...gathering, lastAt: change.at, changes: [...gathering.changes, change.id] });
  return true;
}

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

/** A rule caught a change: it begins to gather, counts towards a burst, is kept while paused, waits for its batch, or is told. */
function match(context: StepContext, phase: Phase, change: Change): void {
  const { rule, version } = phase.compiled;
  const part: Part = { source: change.source, item: change.item, changes: [change.id] };
  if (rule.pace.kind === 'settled' && !phase.isPaused) {
    return putGathering(context, phase.epoch, {
      ...part,
      rule: rule.id,
      version,
      firstAt: change.at,
      lastAt: change.at,
      batch: change.batch,
    });
  }
  const parts = rule.when?.burst ? complete(context, phase, change) : [part];
  if (!parts) return;
  if (phase.isPaused) {
    const key = keyOf(rule.id, version, change.source, change.id);
    context.put('kept', key, keyOf(rule.id), {
      rule: rule.id,
      version,
      at: change.at,
      occasion: 'change',
      batch: change.batch,
      key,
      parts,
    });
  } else if (change.batch !== null) {
    const batch = rule.together
      ? keyOf(rule.id, version, change.batch)
      : keyOf(rule.id, version, change.batch, change.source, change.id);
    for (const one of parts)
      context.put('batched', keyOf(batch, change.source, change.id, one.item), batch, {
        ...one,
        at: change.at,
        key: keyOf(batch, change.source, change.id, one.item),
      });
    context.set({
      key: keyOf('batch', batch),
      due: change.at,
      rank: 0,
      rule: rule.id,
      item: '',
      person: '',
      task: { task: 'batch', rule: rule.id, version, group: batch },
    });
  } else
    raiseAlert(context, phase.compiled, {
      id: idOfChange(phase.compiled, parts[0] as Part),
      occasion: 'change',
      parts,
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

/** All of a batch has come in: its matches make one alert. */
export function runBatch(context: StepContext, ruleId: string, version: number, group: string): void {
  const compiled = context.state.version(ruleId, version);
  const rows = context.group('batched', group, (row) => row.key);
  for (const { key } of rows) context.remove('batched', key);
  const parts = rows.map(({ row: { source, item, changes } }): Part => ({ source, item, changes }));
  const [first] = parts;
  if (compiled && first) raiseAlert(context, compiled, { id: idOfChange(compiled, first), occasion: 'change', parts });
}

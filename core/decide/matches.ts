import { burstKey, countIn, settlesAt } from '../pace/index.ts';
import type { Change } from '../values/index.ts';
import { closeCeased } from './acknowledging.ts';
import { byItem, idOfChange, raise } from './raise.ts';
import { type Gathering, keyOf } from './rows.ts';
import { rearm } from './schedules.ts';
import type { Phase } from './state.ts';
import type { Part } from './types.ts';
import type { Work } from './work.ts';

/** What follows from a change: alerts it calls off, rules that catch it or gather it, dates and standstills set anew. */
export function decideChange(work: Work, change: Change): void {
  closeCeased(work, change);
  for (const { phase, isCaught } of work.state.phasesFor(change)) {
    work.within(phase.compiled, '', () => {
      // A rule that could not be asked is asked here, where its failure is its own.
      if (!gather(work, phase, change) && (isCaught ?? phase.compiled.catches(change, work.state)))
        match(work, phase, change);
    });
  }
  rearm(work, change);
}

/** Where a change joins what gathers already, matching or not; whether it did. */
function gather(work: Work, { compiled, epoch, isPaused }: Phase, change: Change): boolean {
  if (compiled.rule.pace.kind !== 'settled' || isPaused) return false;
  const gathering = work.row('gatherings', gatheringKey(compiled.rule.id, epoch, change.item));
  if (!gathering) return false;
  const isAdmitted = compiled.ofKind(change) && compiled.inScope(change, work.state);
  if (isAdmitted)
    putGathering(work, epoch, { ...gathering, lastAt: change.at, changes: [...gathering.changes, change.id] });
  return true;
}

export const gatheringKey = (rule: string, epoch: number, item: string): string => keyOf(rule, epoch, item);

function putGathering(work: Work, epoch: number, gathering: Omit<Gathering, 'settles' | 'epoch'>): void {
  const { rule, version, item, firstAt, lastAt } = gathering;
  const of = work.state.version(rule, version)?.rule;
  if (of?.pace.kind !== 'settled') return;
  const settles = settlesAt(of.pace, firstAt, lastAt, of.zone);
  const group = keyOf(rule, settles);
  work.put('gatherings', gatheringKey(rule, epoch, item), group, { ...gathering, epoch, settles });
  work.set({
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
function match(work: Work, phase: Phase, change: Change): void {
  const { rule, version } = phase.compiled;
  const part: Part = { source: change.source, item: change.item, changes: [change.id] };
  if (rule.pace.kind === 'settled' && !phase.isPaused) {
    return putGathering(work, phase.epoch, {
      ...part,
      rule: rule.id,
      version,
      firstAt: change.at,
      lastAt: change.at,
      batch: change.batch,
    });
  }
  const parts = rule.when?.burst ? complete(work, phase, change) : [part];
  if (!parts) return;
  if (phase.isPaused) {
    const key = keyOf(rule.id, version, change.source, change.id);
    work.put('kept', key, keyOf(rule.id), {
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
      work.put('batched', keyOf(batch, change.source, change.id, one.item), batch, {
        ...one,
        at: change.at,
        key: keyOf(batch, change.source, change.id, one.item),
      });
    work.set({
      key: keyOf('batch', batch),
      due: change.at,
      rank: 0,
      rule: rule.id,
      item: '',
      person: '',
      task: { task: 'batch', rule: rule.id, version, group: batch },
    });
  } else raise(work, phase.compiled, { id: idOfChange(phase.compiled, parts[0] as Part), occasion: 'change', parts });
}

/** Counts a match towards the rule's burst; the parts of the burst it completes, `null` where it completes none. */
function complete(work: Work, { compiled, burstSince }: Phase, change: Change): Part[] | null {
  const { id, when, zone } = compiled.rule;
  if (!when?.burst) return null;
  const key = keyOf(id, burstSince, burstKey(when.burst, change));
  const earlier = work.row('bursts', key)?.counted ?? [];
  const { counted, isComplete } = countIn(
    when.burst,
    earlier,
    { at: change.at, source: change.source, item: change.item, change: change.id },
    zone,
  );
  if (!isComplete) {
    work.put('bursts', key, keyOf(id), { counted });
    return null;
  }
  work.remove('bursts', key);
  return byItem(counted.map((one) => ({ source: one.source, item: one.item, changes: [one.change] })));
}

/** All of a batch has come in: its matches make one alert. */
export function runBatch(work: Work, ruleId: string, version: number, group: string): void {
  const compiled = work.state.version(ruleId, version);
  const rows = work.group('batched', group, (row) => row.key);
  for (const { key } of rows) work.remove('batched', key);
  const parts = rows.map(({ row: { source, item, changes } }): Part => ({ source, item, changes }));
  const [first] = parts;
  if (compiled && first) raise(work, compiled, { id: idOfChange(compiled, first), occasion: 'change', parts });
}

import { netChange } from '../pace/index.ts';
import type { CompiledRule } from '../rules/index.ts';
import type { Change, Source } from '../values/index.ts';
import { changesOf } from './deliver.ts';
import { gatheringKey } from './matches.ts';
import { idOfChange, raise } from './raise.ts';
import type { Dropped, Part } from './types.ts';
import { compareIds, type Work } from './work.ts';

/** What has gathered settles: the net change of each item is judged, those of one batch are told together. */
export function runSettle(work: Work, rule: string, group: string): void {
  const rows = work
    .group('gatherings', group, (row) => gatheringKey(rule, row.epoch, row.item))
    .sort((a, b) => compareIds(a.row.item, b.row.item));
  const batches = new Map<string, { compiled: CompiledRule; parts: Part[] }>();
  for (const { key, row } of rows) {
    work.remove('gatherings', key);
    const compiled = work.state.version(rule, row.version);
    if (!compiled) continue;
    const part: Part = { source: row.source, item: row.item, changes: row.changes };
    if (!netOf(work, compiled, part)) {
      drop(work, compiled, part, 'undone');
      continue;
    }
    const batch = row.batch !== null && compiled.rule.together ? `${row.version}|${row.batch}` : `|${key}`;
    const known = batches.get(batch);
    if (known) known.parts.push(part);
    else batches.set(batch, { compiled, parts: [part] });
  }
  for (const { compiled, parts } of batches.values())
    raise(work, compiled, { id: idOfChange(compiled, parts[0] as Part), occasion: 'change', parts });
}

/** The net change of matches of one item, where it still matches; kinds and actors are not asked again. */
export function netOf(work: Work, compiled: CompiledRule, part: Part): Change | null {
  const changes = changesOf(work, part);
  if (changes.length === 0) return null;
  const { state } = work;
  const net = netChange(
    changes,
    state.item(part.item),
    state.lastState?.(part.item),
    state.sources.get(part.source) as Source,
  );
  return net && compiled.inScope(net, state) && compiled.holds(net) && compiled.inDates(net) ? net : null;
}

export function drop(
  work: Work,
  { rule }: CompiledRule,
  { source, item, changes }: Part,
  reason: Dropped['reason'],
): void {
  work.emit({ effect: 'dropped', dropped: { at: work.at, rule: rule.id, source, item, changes, reason } });
}

import { netChange } from '../../pace/index.ts';
import type { CompiledRule } from '../../rules/index.ts';
import type { Change, Source } from '../../values/index.ts';
import { gatheringKey } from './gather.ts';
import { idOfChange, type Raising } from './raise.ts';
import { changesOf } from './state.ts';
import type { Dropped, Part } from './types.ts';
import { compareIds, type StepContext } from './context.ts';

/** What has gathered settles: the net change of each item is judged, those of one batch raise one alert. */
export function settled(context: StepContext, rule: string, group: string): Raising[] {
  const rows = context
    .group('gatherings', group, (row) => gatheringKey(rule, row.epoch, row.item))
    .sort((a, b) => compareIds(a.row.item, b.row.item));
  const batches = new Map<string, { compiled: CompiledRule; parts: Part[] }>();
  for (const { key, row } of rows) {
    context.remove('gatherings', key);
    const compiled = context.state.version(rule, row.version);
    if (!compiled) continue;
    const part: Part = { source: row.source, item: row.item, changes: row.changes };
    if (!netOf(context, compiled, part)) {
      drop(context, compiled, part, 'undone');
      continue;
    }
    const batch = row.batch !== null && compiled.rule.together ? `${row.version}|${row.batch}` : `|${key}`;
    const known = batches.get(batch);
    if (known) known.parts.push(part);
    else batches.set(batch, { compiled, parts: [part] });
  }
  return [...batches.values()].map(({ compiled, parts }) => ({
    compiled,
    id: idOfChange(compiled, parts[0] as Part),
    occasion: 'change',
    parts,
  }));
}

/** The net change of matches of one item, where it still matches; kinds and actors are not asked again. */
export function netOf(context: StepContext, compiled: CompiledRule, part: Part): Change | null {
  const changes = changesOf(context.state, part);
  if (changes.length === 0) return null;
  const { state } = context;
  const net = netChange(
    changes,
    state.item(part.item),
    state.lastState?.(part.item),
    state.sources.get(part.source) as Source,
  );
  return net && compiled.inScope(net, state) && compiled.holds(net, state) && compiled.inDates(net) ? net : null;
}

/** Says that a match came to nothing, and why. */
export function drop(
  context: StepContext,
  { rule }: CompiledRule,
  { source, item, changes }: Part,
  reason: Dropped['reason'],
): void {
  context.emit({ effect: 'dropped', dropped: { at: context.at, rule: rule.id, source, item, changes, reason } });
}

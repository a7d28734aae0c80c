import { differingFields } from '../rules/index.ts';
import { addDuration, type Instant } from '../time/index.ts';
import type { Change, ChangeKind, ItemState, Source } from '../values/index.ts';
import type { SettledPace } from '../people/index.ts';

/** When a gathering settles: `quiet` after the last change that its rule admits, at most `most` after the first match. */
export const settlesAt = (pace: SettledPace, firstMatch: Instant, lastAdmitted: Instant, zone: string): Instant =>
  Math.min(addDuration(lastAdmitted, pace.quiet, zone), addDuration(firstMatch, pace.most, zone));

/** Kinds that tell nothing by themselves once all is as it was. */
const MUTE_KINDS = new Set<ChangeKind>(['created', 'changed', 'deleted', 'restored', 'renamed', 'moved']);

/**
 * The net change of one item's changes, at least one, in order: from before the first of them to the item as it
 * stands, at the instant of the last. `null` where nothing is left to tell: created and deleted again, or all as
 * it was and none of the changes tells something by itself.
 * @param now the item as it stands; `undefined` where it is deleted
 * @param last its last state, where it is deleted
 */
export function netChange(
  changes: readonly Change[],
  now: ItemState | undefined,
  last: ItemState | undefined,
  source: Source,
): Change | null {
  const first = changes[0] as Change;
  const latest = changes.at(-1) as Change;
  if (first.before === null && !now) return null;
  const { folderBefore } = first;
  const folder = now ? now.folder : (last?.folder ?? latest.folder);
  const after = now?.fields ?? null;
  const isSame =
    first.before !== null &&
    after !== null &&
    folder === folderBefore &&
    differingFields(source, first.before, after).length === 0;
  if (isSame && changes.every((change) => MUTE_KINDS.has(change.kind))) return null;
  return {
    ...latest,
    kind: netKind(first, latest, after !== null),
    before: first.before,
    after,
    folder,
    folderBefore,
    batch: first.batch,
    ...(first.previous ? { previous: first.previous } : {}),
    ...(after === null && last ? { lastState: last.fields } : {}),
  };
}

function netKind(first: Change, latest: Change, exists: boolean): ChangeKind {
  if (!exists) return 'deleted';
  if (first.before === null) return first.kind === 'restored' ? 'restored' : 'created';
  return latest.kind === 'deleted' || latest.kind === 'restored' || latest.kind === 'created' ? 'changed' : latest.kind;
}

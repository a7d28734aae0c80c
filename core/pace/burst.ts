import type { Burst } from '../rules/index.ts';
import { addDuration, type Instant } from '../time/index.ts';
import type { Change } from '../values/index.ts';

/** A match that counts towards a burst. */
export interface Counted {
  at: Instant;
  source: string;
  item: string;
  change: string;
}

/** What a burst counts by: the changes of one item, of one actor, or all of the rule's. */
export function burstKey({ per }: Burst, change: Change): string {
  switch (per) {
    case 'item':
      return change.item;
    case 'actor':
      return change.actor;
    case 'rule':
      return '';
    default:
      return per satisfies never;
  }
}

/** What counts once another match has come: those still within the window, and whether that completes the burst. A match exactly `within` ago is inside. */
export function countIn(
  burst: Burst,
  earlier: readonly Counted[],
  match: Counted,
  zone: string,
): { counted: Counted[]; isComplete: boolean } {
  const from = addDuration(match.at, burst.within, zone, -1);
  const counted = [...earlier.filter((one) => one.at >= from), match];
  return { counted, isComplete: counted.length >= burst.count };
}

import { HOUR_MS, type Instant, MINUTE_MS } from '../time/index.ts';

/** Edits that lie farther apart belong to no one sitting. */
const SITTING_MS = HOUR_MS;
/** Of so few pauses nothing can be said. */
const FEW = 8;
/** Spans that people say, in minutes. */
const SAID = [1, 2, 3, 4, 5, 6, 8, 10, 12, 15, 20, 30, 45, 60, 90];

/** How edits of one item follow each other: nearly all within so long, and for how long it is quiet once they are over. */
export interface Rhythm {
  /** Minutes within which four of five edits of one sitting follow the one before. */
  within: number;
  /** Minutes of quiet after which nearly all sittings are over. */
  quiet: number;
}

/** The rhythm of edits, which come in order of time; `null` where there is too little to go by. */
export function rhythmOf(edits: Iterable<{ item: string; at: Instant }>): Rhythm | null {
  const pauses: number[] = [];
  const latest = new Map<string, Instant>();
  for (const { item, at } of edits) {
    const before = latest.get(item);
    latest.set(item, at);
    if (before !== undefined && at - before < SITTING_MS) pauses.push(at - before);
  }
  if (pauses.length < FEW) return null;
  pauses.sort((a, b) => a - b);
  const minutes = Math.max(1, Math.ceil((pauses[Math.floor(pauses.length * 0.8)] ?? 0) / MINUTE_MS));
  return { within: minutes, quiet: SAID.find((said) => said >= minutes * 1.5) ?? 90 };
}

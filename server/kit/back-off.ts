import { randomInt } from 'node:crypto';
import type { Instant } from '../../core/time/index.ts';

/** When to try again after so many tries: doubling from two seconds up to an hour, with jitter so that not all come at once. */
export function backOff(tries: number, now: Instant): Instant {
  const wait = Math.min(3_600_000, 2000 * 2 ** Math.min(tries, 20));
  return now + Math.round(wait / 2) + randomInt(Math.round(wait / 2));
}

/** How long to wait after so many failures in a row, in ms: doubling from the first up to the most, with jitter. */
export const growingPause = (failures: number, first: number, most: number): number => {
  const wait = Math.min(most, first * 2 ** Math.min(Math.max(0, failures - 1), 30));
  return Math.round(wait / 2) + randomInt(Math.max(1, Math.round(wait / 2)));
};

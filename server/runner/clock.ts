import { randomInt } from 'node:crypto';
import type { Instant } from '../../core/time/index.ts';

/** Where the server reads the time; the one port to it. */
export interface Clock {
  now(): Instant;
}

export const systemClock: Clock = { now: () => Date.now() };

/** A clock for tests: it runs like the machine's, from an instant that can be set. */
export class SettableClock implements Clock {
  private offset: number;

  constructor(start: Instant) {
    this.offset = start - Date.now();
  }

  now = (): Instant => Date.now() + this.offset;

  set(to: Instant): void {
    this.offset = to - Date.now();
  }
}

/** When to try again after so many tries: doubling from two seconds up to an hour, with jitter so that not all come at once. */
export function backOff(tries: number, now: Instant): Instant {
  const wait = Math.min(3_600_000, 2000 * 2 ** Math.min(tries, 20));
  return now + Math.round(wait / 2) + randomInt(Math.round(wait / 2));
}

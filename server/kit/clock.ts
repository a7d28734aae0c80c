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

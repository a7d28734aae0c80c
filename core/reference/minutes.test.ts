import fc from 'fast-check';
import { describe, expect, inject, it } from 'vitest';
import { dueInstant, quietEnd, repeatOf } from '../pace/index.ts';
import type { QuietHours } from '../people/index.ts';
import type { Due } from '../rules/index.ts';
import { DAY_MS, instantOf, nextOf, printInstant, type Schedule, WEEKDAYS } from '../time/index.ts';
import { Minutes } from './minutes.ts';

const RUNS = 40 * inject('twins');

/** Spans of 85 days around clock changes of each zone, one of them a whole day that never was. */
const SPANS = [
  ['Australia/Lord_Howe', '2026-03-01T00:00:00Z'],
  ['Australia/Lord_Howe', '2026-08-20T00:00:00Z'],
  ['America/Santiago', '2026-03-01T00:00:00Z'],
  ['America/Santiago', '2026-08-01T00:00:00Z'],
  ['Africa/Casablanca', '2026-01-20T00:00:00Z'],
  ['Pacific/Apia', '2011-12-01T00:00:00Z'],
  ['America/New_York', '2026-02-10T00:00:00Z'],
  ['America/New_York', '2026-10-01T00:00:00Z'],
].map(([zone = '', from = '']) => ({ zone, from: instantOf(from) }));
const known = new Map<string, Minutes>();
const minutesOf = ({ zone, from }: (typeof SPANS)[number]) => {
  const key = `${zone} ${from}`;
  const found = known.get(key) ?? new Minutes(zone, from, 85);
  known.set(key, found);
  return found;
};

const span = fc.constantFrom(...SPANS);
/** Well inside the span, so that what lies around is in it too. */
const offset = fc.integer({ min: 5 * 1440, max: 40 * 1440 }).map((minutes) => minutes * 60_000);
// Most clock changes come in the first hours of a day.
const clock = fc
  .tuple(
    fc.oneof(fc.integer({ min: 0, max: 3 }), fc.integer({ min: 0, max: 23 })),
    fc.constantFrom(0, 5, 15, 30, 45, 59),
  )
  .map(([hour, minute]) => `${String(hour).padStart(2, '0')}:${String(minute).padStart(2, '0')}`);

describe('against counting minute by minute, through clock changes', () => {
  it('schedules', () => {
    const schedule: fc.Arbitrary<Schedule> = fc.oneof(
      clock.map((at): Schedule => ({ every: 'hour', at })),
      clock.map((at): Schedule => ({ every: 'day', at })),
      fc
        .tuple(clock, fc.subarray([...WEEKDAYS], { minLength: 1 }))
        .map(([at, on]): Schedule => ({ every: 'week', at, on })),
      fc
        .tuple(clock, fc.subarray([1, 5, 15, 29, 30, 31], { minLength: 1 }))
        .map(([at, on]): Schedule => ({ every: 'month', at, on })),
    );
    fc.assert(
      fc.property(span, offset, schedule, (where, ahead, one) => {
        const after = where.from + ahead;
        expect(printInstant(nextOf(one, after, where.zone))).toBe(printInstant(minutesOf(where).next(one, after)));
      }),
      { seed: 21, numRuns: RUNS },
    );
  }, 600_000);

  it('dates that fall due, and their repeats', () => {
    const field = { id: 'due', name: 'Due', type: 'date' as const };
    fc.assert(
      fc.property(
        span,
        offset,
        clock,
        fc.integer({ min: -4, max: 30 }),
        fc.integer({ min: 1, max: 9 }),
        fc.integer({ min: 1, max: 3 }),
        (where, ahead, at, days, every, n) => {
          const minutes = minutesOf(where);
          const day = minutes.at(where.from + ahead).slice(0, 10);
          const due: Due = {
            field: 'due',
            offset: days < 0 ? `-P${-days}D` : `P${days}D`,
            at,
            if: { all: [] },
            repeat: { every: `P${every}D`, times: 3 },
            late: 'now',
          };
          const fired = dueInstant(due, field, day, where.zone);
          expect(fired && printInstant(fired.at)).toBe(printInstant(minutes.moved(day, days, at)));
          const again = fired && due.repeat && repeatOf(due, due.repeat, fired, n, where.zone);
          expect(again && printInstant(again)).toBe(printInstant(minutes.moved(day, days + n * every, at)));
        },
      ),
      { seed: 22, numRuns: RUNS },
    );
  }, 600_000);

  it('quiet hours', () => {
    const window: fc.Arbitrary<QuietHours> = fc.record({
      days: fc.subarray([...WEEKDAYS], { minLength: 1 }),
      from: clock,
      to: clock,
    });
    fc.assert(
      fc.property(span, offset, fc.array(window, { minLength: 1, maxLength: 3 }), (where, ahead, windows) => {
        const at = where.from + ahead;
        const counted = minutesOf(where).quietEnd(windows, at);
        // What never ends within the days that are looked at is no quiet at all.
        if (counted !== null && counted > at + 8 * DAY_MS) return;
        const found = quietEnd(windows, at, where.zone);
        expect(found && printInstant(found)).toBe(counted && printInstant(counted));
      }),
      { seed: 23, numRuns: RUNS },
    );
  }, 600_000);
});

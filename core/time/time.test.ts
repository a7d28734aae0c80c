import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  addDuration,
  atLocal,
  dateIn,
  instantOf,
  MINUTE_MS,
  nextOf,
  parseInstant,
  printInstant,
  timeIn,
} from './index.ts';

const ZONES = [
  'Australia/Lord_Howe',
  'America/Santiago',
  'Africa/Casablanca',
  'Pacific/Apia',
  'America/New_York',
  'Europe/Madrid',
  'UTC',
];
const instant = fc
  .integer({ min: instantOf('2009-01-01T00:00:00Z') / MINUTE_MS, max: instantOf('2031-01-01T00:00:00Z') / MINUTE_MS })
  .map((minutes) => minutes * MINUTE_MS);
const clock = fc
  .tuple(fc.integer({ min: 0, max: 23 }), fc.integer({ min: 0, max: 59 }))
  .map(([hour, minute]) => `${String(hour).padStart(2, '0')}:${String(minute).padStart(2, '0')}`);

describe('instants', () => {
  it('are printed in UTC with Z, without an empty fraction, and read back', () => {
    expect(printInstant(instantOf('2026-03-04T11:15:00+01:00'))).toBe('2026-03-04T10:15:00Z');
    expect(printInstant(instantOf('2026-03-04T10:15:00.250Z'))).toBe('2026-03-04T10:15:00.25Z');
    fc.assert(fc.property(fc.integer({ min: -1e13, max: 1e13 }), (at) => parseInstant(printInstant(at)) === at));
  });

  it('need an offset', () => {
    for (const text of ['2026-03-04', '2026-03-04T10:15:00', 'yesterday', '2026-13-04T10:15:00Z', ''])
      expect(parseInstant(text)).toBeNull();
  });
});

describe('local times', () => {
  it('that a clock change skips mean the first instant after the gap', () => {
    expect(printInstant(atLocal('2026-03-29', '02:30', 'Europe/Madrid'))).toBe('2026-03-29T01:00:00Z');
    expect(printInstant(atLocal('2011-12-30', '09:00', 'Pacific/Apia'))).toBe('2011-12-30T10:00:00Z');
  });

  it('that come twice mean the first', () => {
    expect(printInstant(atLocal('2026-10-25', '02:30', 'Europe/Madrid'))).toBe('2026-10-25T00:30:00Z');
  });

  it('show the wall clock that was asked for, or come right after a gap', () => {
    fc.assert(
      fc.property(instant, clock, fc.constantFrom(...ZONES), (at, time, zone) => {
        const day = dateIn(at, zone);
        const found = atLocal(day, time, zone);
        const shown = timeIn(found, zone);
        if (shown === time && dateIn(found, zone) === day) return;
        // In a gap: a millisecond earlier the clock still stood before the time.
        expect(timeIn(found - 1, zone) < time || dateIn(found - 1, zone) < day).toBe(true);
        expect(shown > time || dateIn(found, zone) > day).toBe(true);
      }),
      { numRuns: 1000, seed: 11 },
    );
  });

  it('move by days on the calendar and by hours exactly', () => {
    const before = instantOf('2026-03-28T09:00:00+01:00');
    expect(printInstant(addDuration(before, 'P1D', 'Europe/Madrid'))).toBe('2026-03-29T07:00:00Z');
    expect(printInstant(addDuration(before, 'PT24H', 'Europe/Madrid'))).toBe('2026-03-29T08:00:00Z');
    expect(printInstant(addDuration(before, '-P1M', 'Europe/Madrid'))).toBe('2026-02-28T08:00:00Z');
  });
});

describe('schedules', () => {
  it('take the month’s last day for one it has not', () => {
    const next = (after: string, on: number[]) =>
      printInstant(nextOf({ every: 'month', at: '09:00', on }, instantOf(after), 'UTC'));
    expect(next('2026-02-10T00:00:00Z', [31])).toBe('2026-02-28T09:00:00Z');
    expect(next('2026-02-28T09:00:00Z', [31])).toBe('2026-03-31T09:00:00Z');
    expect(next('2026-04-16T00:00:00Z', [1, 15])).toBe('2026-05-01T09:00:00Z');
  });

  it('are later than the instant asked, also at it', () => {
    expect(
      printInstant(nextOf({ every: 'day', at: '09:00' }, instantOf('2026-03-28T08:00:00Z'), 'Europe/Madrid')),
    ).toBe('2026-03-29T07:00:00Z');
    expect(nextOf({ every: 'day', at: '09:00' }, instantOf('2011-12-30T00:00:00Z'), 'Pacific/Apia')).toBeGreaterThan(
      instantOf('2011-12-30T00:00:00Z'),
    );
  });
});

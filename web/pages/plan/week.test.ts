import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { quietEnd } from '../../../core/pace/index.ts';
import { addDays, instantOf, WEEKDAYS } from '../../../core/time/index.ts';
import { quietOn } from './week.tsx';

describe('the quiet hours of a day', () => {
  const night = [{ days: ['MO' as const], from: '19:00', to: '07:30' }];
  it('run on into the day after the one they began', () => {
    expect(quietOn('2026-03-02', night)).toEqual([[1140, 1440]]);
    expect(quietOn('2026-03-03', night)).toEqual([[0, 450]]);
    expect(quietOn('2026-03-04', night)).toEqual([]);
  });
  it('of one day stay within it, and equal ends are none', () => {
    expect(
      quietOn('2026-03-02', [
        { days: ['MO'], from: '12:00', to: '13:00' },
        { days: ['MO'], from: '09:00', to: '09:00' },
      ]),
    ).toEqual([[720, 780]]);
  });

  it('are drawn just where the engine holds what comes', () => {
    const hour = fc
      .integer({ min: 0, max: 47 })
      .map((half) => `${String(Math.floor(half / 2)).padStart(2, '0')}:${half % 2 === 0 ? '00' : '30'}`);
    const hours = fc.record({
      days: fc.uniqueArray(fc.constantFrom(...WEEKDAYS), { minLength: 1, maxLength: 7 }),
      from: hour,
      to: hour,
    });
    fc.assert(
      fc.property(fc.array(hours, { maxLength: 4 }), fc.integer({ min: 0, max: 6 }), (quiet, at) => {
        const day = addDays('2026-03-02', at);
        const drawn = quietOn(day, quiet);
        for (let minute = 0; minute < 1440; minute += 30) {
          const isHeld = quietEnd(quiet, instantOf(`${day}T00:00:00Z`) + minute * 60_000, 'UTC') !== null;
          expect([minute, drawn.some(([from, to]) => from <= minute && minute < to)]).toEqual([minute, isHeld]);
        }
      }),
      { seed: 12, numRuns: 40 },
    );
  }, 30_000);
});

import { describe, expect, it } from 'vitest';
import { quietOn } from './week.tsx';

describe('the quiet hours of a day', () => {
  const night = [{ days: ['MO' as const], from: '19:00', to: '07:30' }];
  it('run on into the day after the one they began', () => {
    expect(quietOn('2026-03-02', night)).toEqual([[1140, 1440]]);
    expect(quietOn('2026-03-03', night)).toEqual([[0, 450]]);
    expect(quietOn('2026-03-04', night)).toEqual([]);
  });
  it('of one day stay within it, and equal ends are none', () => {
    expect(quietOn('2026-03-02', [{ days: ['MO'], from: '12:00', to: '13:00' }, { days: ['MO'], from: '09:00', to: '09:00' }])).toEqual([[720, 780]]);
  });
});

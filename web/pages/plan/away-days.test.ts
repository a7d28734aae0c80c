import fc from 'fast-check';
import { expect, it } from 'vitest';
import { addDays, weekday } from '../../../core/time/index.ts';
import { awayOn } from './away-days.ts';

const TODAY = '2026-03-11';
const WEEK = Array.from({ length: 7 }, (_, at) => addDays(TODAY, at - 7));

it('draws days away that are over where they were, and days ahead on the weekdays that they fall on', () => {
  expect(awayOn({ from: '2026-03-01', until: '2026-03-05' }, WEEK, TODAY)).toEqual(['2026-03-04', '2026-03-05']);
  expect(awayOn({ from: '2026-02-01', until: '2026-02-20' }, WEEK, TODAY)).toEqual([]);
  // A Thursday and a Friday far ahead.
  expect(awayOn({ from: '2026-05-14', until: '2026-05-15' }, WEEK, TODAY)).toEqual(['2026-03-05', '2026-03-06']);
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 40 }), fc.integer({ min: 0, max: 20 }), (ahead, more) => {
      const absent = { from: addDays(TODAY, ahead), until: addDays(TODAY, ahead + more) };
      const all = new Set<number>();
      for (let day = absent.from; day <= absent.until; day = addDays(day, 1)) all.add(weekday(day));
      expect(new Set(awayOn(absent, WEEK, TODAY).map(weekday))).toEqual(all);
    }),
  );
});

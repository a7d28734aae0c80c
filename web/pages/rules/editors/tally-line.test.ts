import fc from 'fast-check';
import { expect, it } from 'vitest';
import { TALLY_OPS } from '../../../../core/rules/index.ts';
import { isOver, rangeOf, timesTold } from './tally-line.ts';

const moves = fc
  .array(fc.integer({ min: -5, max: 5 }), { minLength: 1, maxLength: 20 })
  .map((values) => values.map((value, at) => ({ at: new Date(at * 1000).toISOString(), value })));
const line = fc.array(moves, { maxLength: 3 }).map((all) => ({
  parts: all.map((own, at) => ({ part: String(at), name: '', moves: own })),
}));

it('counts how often each part comes over the mark, and never what it began with', () => {
  fc.assert(
    fc.property(line, fc.constantFrom(...TALLY_OPS), fc.integer({ min: -6, max: 6 }), (drawn, op, mark) => {
      let told = 0;
      for (const { moves: own } of drawn.parts) {
        let was = isOver(op, own[0]?.value ?? 0, mark);
        for (const { value } of own.slice(1)) {
          const is = isOver(op, value, mark);
          if (is && !was) told++;
          was = is;
        }
      }
      expect(timesTold(drawn, op, mark)).toBe(told);
    }),
  );
});

it('draws all figures and the mark, with steps of which many fit', () => {
  fc.assert(
    fc.property(line, fc.integer({ min: -50, max: 100_000 }), (drawn, mark) => {
      const { low, high, step } = rangeOf(drawn, mark);
      expect(mark >= low && mark <= high && step > 0 && step <= high - low).toBe(true);
    }),
  );
});

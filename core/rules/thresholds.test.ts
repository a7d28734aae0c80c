import { describe, expect, it } from 'vitest';
import type { Condition } from './nodes.ts';
import { thresholdsOf } from './thresholds.ts';

const linesOf = (condition: Condition) => Object.fromEntries(thresholdsOf(condition));

describe('the figures of a condition', () => {
  it('are found wherever they stand, each once and in order', () => {
    expect(
      linesOf({
        all: [
          {
            became: {
              any: [
                { field: 'humidity', op: 'above', value: 57.5 },
                { field: 'humidity', op: 'below', value: 40 },
              ],
            },
          },
          { none: [{ field: 'light', op: 'between', value: [50, 80] }] },
          { was: { field: 'humidity', op: 'atMost', value: 57.5 } },
        ],
      }),
    ).toEqual({ humidity: [40, 57.5], light: [50, 80] });
  });

  it('are amounts where the field is money, and none where a test compares no figures', () => {
    expect(
      linesOf({ became: { field: 'insured', op: 'atLeast', value: { amount: '120000.50', currency: 'EUR' } } }),
    ).toEqual({ insured: [120000.5] });
    for (const condition of [
      { changed: 'humidity' },
      { rose: { field: 'humidity', by: 3 } },
      { gained: { field: 'keepers' } },
      { became: { field: 'status', op: 'is', value: 'On view' } },
      { all: [] },
    ] as Condition[])
      expect(linesOf(condition)).toEqual({});
  });
});

import { raw, rawItems } from '../../testing/raw.ts';
import fc from 'fast-check';
import { describe, expect, inject, it } from 'vitest';
import { fields, SOURCE, stateTest } from '../../../core/reference/generate.ts';
import { compileState } from '../../../core/rules/index.ts';
import type { Fields } from '../../../core/values/index.ts';
import { NOON, setUpMuseum } from '../../testing/museum.ts';
import { orderSql, rows, run, stateSql, store } from '../index.ts';

const museum = setUpMuseum();
const ODD: Fields[] = [
  {},
  { title: ' Reed', status: null, tags: [] },
  { title: '\u00a0', humidity: '57.50' },
  { title: 'ΟΔΟΣ', insured: { amount: '100.000', currency: 'EUR' } },
  { title: 'İstanbul loom', humidity: '1e2' },
  { title: 'tidal loom ', insured: { amount: '', currency: 'EUR' } },
  { humidity: '57.500000000000000000000000000001' },
  { title: '50 % of_it \\ "so"' },
  { keeper: 'ines ', fragile: false },
  { tags: ['wool', 'wool'] },
  { insured: { amount: '100', currency: 'GBP' } },
];

describe('a state test in SQL', () => {
  it('holds of the same items as in core where it is exact, and of no fewer where it is not', async () => {
    const states = [...ODD, ...fc.sample(fields, { numRuns: 120, seed: 11 })];
    const byId = new Map(states.map((state, at) => [`s${at}`, { source: SOURCE.id, fields: state }]));
    await run(
      museum.pool,
      store.items.insert(
        states.map((state, at) => ({
          id: `s${at}`,
          source: SOURCE.id,
          folder: null,
          fields: state,
          title: 'x',
          version: 1,
          isDeleted: false,
          createdBy: 'ines',
          createdAt: NOON,
          lastBy: 'ines',
          lastAt: NOON,
        })),
      ),
    );
    const linked = { item: (id: string) => byId.get(id) };
    let exact = 0;
    await fc.assert(
      fc.asyncProperty(stateTest, fc.constantFrom('Europe/Madrid', 'Pacific/Apia'), async (test, zone) => {
        const { sql, params, isExact } = stateSql(test, { source: SOURCE, zone, now: NOON });
        const found = new Set(
          (
            await rows(
              museum.pool,
              raw<{ id: string }>(`SELECT i.id FROM items i WHERE i.source_id = ? AND ${sql}`, SOURCE.id, ...params),
            )
          ).map((row) => row.id),
        );
        const holds = compileState(test, { source: SOURCE, zone, sources: new Map([[SOURCE.id, SOURCE]]) });
        const wanted = states.flatMap((state, at) => (holds(state, NOON, linked) ? [`s${at}`] : []));
        expect(wanted.filter((id) => !found.has(id))).toEqual([]);
        if (isExact) expect([...found].sort()).toEqual(wanted.sort());
        exact += isExact ? 1 : 0;
      }),
      { numRuns: 400 * inject('twins'), seed: 7 },
    );
    expect(exact).toBeGreaterThan(100);
  });

  it('knows the signs that patterns are made of as themselves', async () => {
    for (const [value, count] of [
      ['50 % of_', 1],
      ['5_ %', 0],
      ['\\', 1],
      ['"so"', 1],
    ] as const) {
      const { sql, params } = stateSql(
        { field: 'title', op: 'contains', value },
        { source: SOURCE, zone: 'UTC', now: NOON },
      );
      const found = await rows(
        museum.pool,
        rawItems(`SELECT i.* FROM items i WHERE i.source_id = ? AND ${sql}`, SOURCE.id, ...params),
      );
      expect(found.filter((item) => String(item.fields.title).includes(value))).toHaveLength(count);
    }
  });

  it('orders by every type of field, empty ones last', async () => {
    for (const field of SOURCE.fields) {
      for (const isDown of [false, true]) {
        const { sql, params } = orderSql(field, isDown);
        const found = (
          await rows(
            museum.pool,
            rawItems(`SELECT i.* FROM items i WHERE i.source_id = ? ORDER BY ${sql}, i.id`, SOURCE.id, ...params),
          )
        ).map((row) => row.fields[field.id]);
        const isBlank = (value: unknown) =>
          value === null ||
          value === undefined ||
          (typeof value === 'string' && value.trim() === '') ||
          (Array.isArray(value) && value.length === 0) ||
          (typeof value === 'object' && !Array.isArray(value) && (value as { amount: string }).amount === '');
        expect(found.findLastIndex((value) => !isBlank(value))).toBeLessThan(found.findIndex(isBlank));
      }
    }
    const { sql, params } = orderSql(SOURCE.fields[1] as (typeof SOURCE.fields)[number], false);
    const statuses = (
      await rows(
        museum.pool,
        rawItems(`SELECT i.* FROM items i WHERE i.source_id = ? ORDER BY ${sql}`, SOURCE.id, ...params),
      )
    )
      .map((row) => row.fields.status)
      .filter(Boolean);
    expect([...new Set(statuses)]).toEqual(['Requested', 'Agreed', 'On view']);
  });
});

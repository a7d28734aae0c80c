import { raw } from '../../testing/raw.ts';
import { readFileSync } from 'node:fs';
import { expect, it } from 'vitest';
import { keyOf } from '../../../core/decide/index.ts';
import { setUpMuseum } from '../../testing/museum.ts';
import { one, query, run } from '../index.ts';

const museum = setUpMuseum();

it('gives what a paused rule had kept the key by which it stands', async () => {
  const kept = {
    a: {
      rule: 'r|1',
      version: 2,
      at: 5,
      occasion: 'change',
      batch: null,
      parts: [
        { source: 'loans', item: 'L-1', changes: ['c1'] },
        { source: 'loans', item: 'L-2', changes: ['c2', 'c~3'] },
      ],
    },
    b: {
      rule: 'r2',
      version: 1,
      at: 1772445600000,
      occasion: 'due',
      batch: 'due@1772445600000',
      parts: [{ source: 'loans', item: 'L|9', changes: [], value: '2026-03-02' }],
    },
  };
  for (const [id, value] of Object.entries(kept))
    await run(
      museum.pool,
      query(
        "INSERT INTO engine_rows (id, shelf, of_group, rule_id, value) VALUES (?, 'kept', 'g', ?, ?)",
        id,
        value.rule,
        JSON.stringify(value),
      ),
    );
  await museum.pool.query(readFileSync(new URL('../../migrations/006-kept-keys.sql', import.meta.url), 'utf8'));
  const keyOfRow = async (id: string) =>
    (
      await one(
        museum.pool,
        raw<{ k: string }>("SELECT JSON_VALUE(value, '$.key') AS k FROM engine_rows WHERE id = ?", id),
      )
    )?.k;
  expect(await keyOfRow('a')).toBe(keyOf('r|1', 2, 'loans', 'c~3'));
  expect(await keyOfRow('b')).toBe(keyOf('r2', 1, 'due', 1772445600000, 'L|9'));
});

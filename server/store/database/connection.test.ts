import { expect, it } from 'vitest';
import { raw } from '../../testing/raw.ts';
import { setUpMuseum } from '../../testing/museum.ts';
import { one, rows, run, runAll } from './connection.ts';
import { query } from './query.ts';
import { inTransaction } from './transactions.ts';

const museum = setUpMuseum();
const TWO = 'SELECT 1 AS found; SELECT 2 AS found';

it('asks one statement where one is meant, and takes none behind it; several only where they are sent as such', async () => {
  await expect(rows(museum.pool, raw(TWO))).rejects.toMatchObject({ code: 'ER_PARSE_ERROR' });
  await expect(run(museum.pool, query("DO 1; DELETE FROM people WHERE id = 'mei'"))).rejects.toMatchObject({
    code: 'ER_PARSE_ERROR',
  });
  expect(await one(museum.pool, raw("SELECT COUNT(*) AS found FROM people WHERE id = 'mei'"))).toEqual({ found: 1 });
  expect(await runAll(museum.pool, [query('DO 1'), query('DO 2')])).toHaveLength(2);
  expect(await inTransaction(museum.pool, (on) => runAll(on, [query('DO 1'), query('DO 2')]))).toHaveLength(2);
});

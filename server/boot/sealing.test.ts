import type { Pool } from 'mysql2/promise';
import { describe, expect, inject, it } from 'vitest';
import { one, openPool, query, rows, run, sealOf, secretOf, store } from '../store/index.ts';
import { setUpMuseum } from '../testing/museum.ts';
import { checkSeals } from './sealing.ts';

const museum = setUpMuseum();
const BARE = 'whsec_c2VjcmV0';

const secretKept = async (pool: Pool) =>
  (await rows(pool, store.machines.all())).find(({ id }) => id === 'desk')?.secret ?? '';

/** The same data, opened with another key. */
function withKey(key: string): Pool {
  return openPool({ ...inject('connecting'), database: museum.database, key }, 2);
}

describe('secrets at rest', () => {
  it('that were kept before are sealed at a start, and only once', async () => {
    await run(
      museum.pool,
      query("INSERT INTO webhooks (id, name, url, secret) VALUES ('desk', 'Desk', 'http://127.0.0.1:9/', ?)", BARE),
    );
    await run(museum.pool, store.secrets.keep('links', 'a bare one'));
    expect(await checkSeals(museum.pool, false)).toEqual({ sealed: 2, isGivenUp: false });
    const kept = await secretKept(museum.pool);
    expect(kept).toMatch(/^sealed:1:/);
    expect(sealOf(museum.pool).open(kept, secretOf('desk'))).toBe(BARE);
    expect(await one(museum.pool, store.secrets.byName('links'))).toMatch(/^sealed:1:/);
    expect(await checkSeals(museum.pool, false)).toEqual({ sealed: 0, isGivenUp: false });
  });

  it('that another key sealed stop a start, which says how to go on; given up, machines stand paused', async () => {
    const other = withKey('another key, of sixteen signs');
    try {
      await expect(checkSeals(other, false)).rejects.toThrow(/OJO_KEY/);
      expect(await secretKept(other)).toBe(await secretKept(museum.pool));
      expect(await checkSeals(other, true)).toEqual({ sealed: 0, isGivenUp: true });
      const [desk] = (await rows(other, store.machines.all())).filter(({ id }) => id === 'desk');
      expect(desk?.isPaused).toBe(true);
      expect(sealOf(other).open(desk?.secret ?? '', secretOf('desk'))).not.toBe(BARE);
      expect(await checkSeals(other, false)).toEqual({ sealed: 0, isGivenUp: false });
    } finally {
      await other.end();
    }
  });
});

import { raw } from '../testing/raw.ts';
import { expect, inject, it } from 'vitest';
import { one, openPool, query, run } from '../store/index.ts';
import { prepare } from './prepare.ts';
import { readSettings } from './settings.ts';

const DATABASE = 'ojo_test_prepared';
const connecting = inject('connecting');
const start = (words: string[], wantsDemo: boolean) =>
  prepare({
    settings: { ...readSettings({ OJO_DATA: '/somewhere/museum-data' }, '/'), wantsDemo },
    connecting,
    database: DATABASE,
    now: 0,
    root: '/',
    words,
  });

it('what a person put in by hand is never dropped, half a demo or not, but for whoever names its folder', async () => {
  const pool = openPool(connecting, 1);
  await run(pool, query(`DROP DATABASE IF EXISTS ${DATABASE}`));
  const people = async () =>
    Number((await one(pool, raw<{ found: number }>(`SELECT COUNT(*) AS found FROM ${DATABASE}.people`)))?.found);
  try {
    expect((await start([], false)).isDemo).toBe(false);
    await run(
      pool,
      query(
        `INSERT INTO ${DATABASE}.people (id, name, zone, locale, role, password_hash) VALUES ('ana', 'Ana', 'UTC', 'en-GB', 'steward', '')`,
      ),
    );
    // People and no mark: that is somebody's data, whatever the settings say.
    const again = await start([], true);
    expect(again.isDemo).toBe(false);
    expect(again.said.map(([, what]) => what).join()).toContain('is no demo, and is used as it is');
    expect(await people()).toBe(1);
    await expect(start(['--fresh'], true)).rejects.toThrow(/Nothing was deleted.*--fresh=museum-data/);
    await expect(start(['--fresh=other'], true)).rejects.toThrow(/Nothing was deleted/);
    expect(await people()).toBe(1);
    await start(['--fresh=museum-data'], false);
    expect(await people()).toBe(0);
    await run(pool, query(`INSERT INTO ${DATABASE}.marks (name, at) VALUES ('demo', NOW(3))`));
    expect((await start([], true)).isDemo).toBe(true);
    await start(['--fresh'], false);
    expect((await start([], false)).isDemo).toBe(false);
  } finally {
    await run(pool, query(`DROP DATABASE IF EXISTS ${DATABASE}`));
    await pool.end();
  }
});

import { describe, expect, inject, it } from 'vitest';
import { systemClock } from '../kit/index.ts';
import { SignedLinks } from '../signed-links/index.ts';
import { migrate, openPool, query, rows, run, store } from '../store/index.ts';
import { welcomeFirstSteward } from '../acts/index.ts';
import { prepare } from './prepare.ts';
import { readSettings } from './settings.ts';

const DATABASE = 'ojo_test_begun';
const OUTSIDE = 'https://ojo.museum.example';

describe('a house that begins', () => {
  it('has a first steward once, however many servers begin at the same time', async () => {
    const connecting = inject('connecting');
    const first = openPool(connecting, 1);
    await run(first, query(`DROP DATABASE IF EXISTS ${DATABASE}`));
    await run(first, store.schema.create(DATABASE));
    const pool = openPool({ ...connecting, database: DATABASE }, 4);
    try {
      await migrate(pool);
      const signedLinks = new SignedLinks(pool);
      const begin = () =>
        welcomeFirstSteward(
          { pool, clock: systemClock, signedLinks, base: OUTSIDE },
          { name: 'Inés Quiroga', email: 'ines@museum.example', zone: 'Europe/Lisbon' },
        );
      const links = (await Promise.all([begin(), begin(), begin()])).filter((link) => link !== null);
      expect(links).toHaveLength(1);
      expect(await rows(pool, store.accounts.stewards())).toEqual([
        { id: 'ines-quiroga', name: 'Inés Quiroga', email: 'ines@museum.example' },
      ]);
      const token = links[0]?.slice(`${OUTSIDE}/welcome/`.length) ?? '';
      expect(await signedLinks.open(token, 'welcome', systemClock.now())).toMatchObject({
        person: 'ines-quiroga',
        number: 1,
      });
      expect(await begin()).toBeNull();
    } finally {
      await pool.end();
      await run(first, query(`DROP DATABASE IF EXISTS ${DATABASE}`));
      await first.end();
    }
  });

  it('is no demo where others reach it, neither a new one nor one that is there', async () => {
    expect(() => readSettings({ OJO_BASE: OUTSIDE }, '/')).toThrow(/OJO_BASE.*OJO_DEMO=no/);
    expect(() => readSettings({ OJO_BASE: 'ojo.museum.example', OJO_DEMO: 'no' }, '/')).toThrow(/OJO_BASE.*https/);
    expect(() => readSettings({ OJO_STEWARD: 'ines', OJO_DEMO: 'no' }, '/')).toThrow(/OJO_STEWARD.*<ines@/);
    const connecting = inject('connecting');
    const pool = openPool(connecting, 1);
    const start = (environment: Record<string, string>) =>
      prepare({
        settings: readSettings({ OJO_DATA: '/somewhere/begun', OJO_DEMO: 'no', ...environment }, '/'),
        connecting,
        database: DATABASE,
        now: 0,
        root: '/',
        words: [],
      });
    try {
      await run(pool, query(`DROP DATABASE IF EXISTS ${DATABASE}`));
      await start({ OJO_BASE: OUTSIDE });
      await run(pool, query(`INSERT INTO ${DATABASE}.marks (name, at) VALUES ('demo', NOW(3))`));
      await expect(start({ OJO_BASE: OUTSIDE })).rejects.toThrow(/is the demo, whose password everybody knows/);
      expect((await start({ OJO_BASE: 'http://localhost:1' })).isDemo).toBe(true);
    } finally {
      await run(pool, query(`DROP DATABASE IF EXISTS ${DATABASE}`));
      await pool.end();
    }
  });
});

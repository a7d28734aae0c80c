import { createHash, randomBytes } from 'node:crypto';
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, inject, it } from 'vitest';
import { freePort } from '../testing/database.ts';
import { type Database, startMariaDb } from './mariadb.ts';
import { migrate, one, openPool, query, rows, run, store, type Connecting } from '../store/index.ts';
import { raw } from '../testing/raw.ts';
import { backUp, restore } from './backup.ts';

// A house of its own each time: what the audit trail knows of one stays, whoever asks.
const DATABASE = `ojo_test_backed_up_${randomBytes(4).toString('hex')}`;
const connecting = inject('connecting');
const folder = mkdtempSync(join(tmpdir(), 'ojo-backup-'));
let other: Database;
beforeAll(async () => {
  // Another machine, as good as: a MariaDB of its own, in another folder, that knows nothing of the first.
  other = await startMariaDb(join(folder, 'elsewhere'), await freePort(), 'another-password');
}, 60_000);
afterAll(async () => {
  await other.stop();
  rmSync(folder, { recursive: true, force: true });
});

/** Every row of every table, as one text. */
async function wholeOf(at: Connecting, database: string): Promise<string> {
  const pool = openPool({ ...at, database }, 1);
  const hash = createHash('sha256');
  for (const table of await rows(pool, store.schema.tables(database)))
    hash
      .update(table)
      .update(
        JSON.stringify((await rows(pool, raw(`SELECT * FROM \`${table}\``))).map((row) => JSON.stringify(row)).sort()),
      );
  await pool.end();
  return hash.digest('hex');
}

it('all that Ojo keeps is in one file, and stands the same in another folder', async () => {
  const pool = openPool(connecting, 1);
  await run(pool, query(`DROP DATABASE IF EXISTS ${DATABASE}`));
  await run(pool, store.schema.create(DATABASE));
  const own = openPool({ ...connecting, database: DATABASE }, 2);
  const file = join(folder, 'museum.sql.gz');
  try {
    await migrate(own);
    const bytes = Buffer.from(Array.from({ length: 256 }, (_, at) => at));
    await run(
      own,
      query("INSERT INTO contents (id, size, media_type, made_by, made_at) VALUES ('c', 256, 'x/y', 'ana', NOW(3))"),
    );
    await run(own, query("INSERT INTO content_chunks VALUES ('c', 0, ?)", bytes));
    await run(
      own,
      query(
        "INSERT INTO people (id, name, zone, locale, role, password_hash) VALUES ('ana', 'Ana 🌊 ''\\\\\"', 'UTC', 'es-ES', 'steward', '')",
      ),
    );
    await run(
      own,
      query(
        "INSERT INTO messages (id, person_id, recipient, channel, address, at, form, urgency, subject, content, fate, retry_at) VALUES ('m', 'ana', 'person', 'email', 'a@b', NOW(3), 'single', 'critical', 's', '{}', 'waiting', NOW(3))",
      ),
    );
    await run(own, store.audit.add({ at: 0, kind: 'ruleLive', actor: 'ana', origin: null, about: { rule: 'Waves' } }));
    expect(await backUp(connecting, DATABASE, file)).toBeGreaterThan(1000);
    expect(readdirSync(folder).filter((name) => name.endsWith('.part'))).toEqual([]);
    await expect(backUp(connecting, DATABASE, file)).rejects.toThrow(/is there already/);

    expect(await restore(other.connecting, DATABASE, file)).toEqual({ items: 0, changes: 0, messages: 1 });
    expect(await wholeOf(other.connecting, DATABASE)).toBe(await wholeOf(connecting, DATABASE));
    const there = openPool({ ...other.connecting, database: DATABASE }, 1);
    // What is computed by the database is computed there as well.
    expect(await one(there, raw<{ is_critical: number }>('SELECT is_critical FROM messages'))).toMatchObject({
      is_critical: 1,
    });
    expect(await rows(there, store.audit.list(null, null, 10))).toMatchObject([
      { actor: 'ana', about: { rule: 'Waves' } },
    ]);
    await there.end();
    await expect(restore(other.connecting, DATABASE, file)).rejects.toThrow(/none of it was touched/);
  } finally {
    await own.end();
    await run(pool, query(`DROP DATABASE IF EXISTS ${DATABASE}`));
    await pool.end();
  }
}, 60_000);

it('what is no whole backup changes nothing', async () => {
  const whole = readFileSync(join(folder, 'museum.sql.gz'));
  const broken = {
    'cut.gz': whole.subarray(0, whole.length - 300),
    'words.gz': Buffer.from('no backup'),
    'empty.gz': Buffer.alloc(0),
  };
  for (const [name, bytes] of Object.entries(broken)) {
    writeFileSync(join(folder, name), bytes);
    await expect(restore(other.connecting, 'ojo_test_broken', join(folder, name))).rejects.toThrow(/no whole backup/);
  }
  await expect(restore(other.connecting, 'ojo_test_broken', join(folder, 'nosuch.gz'))).rejects.toThrow(
    /There is no file/,
  );
  const pool = openPool(other.connecting, 1);
  expect(await rows(pool, store.schema.tables('ojo_test_broken'))).toEqual([]);
  await pool.end();
});

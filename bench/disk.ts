import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Pool } from 'mysql2/promise';
import { startMariaDb } from '../server/boot/index.ts';
import { openPool, query, rows, run } from '../server/store/index.ts';
import { raw } from '../server/testing/raw.ts';
import { edits, runnerOn } from './deciding.ts';
import { prepare } from './museum.ts';

/**
 * How much room 10,000 changes take, and in which tables: half of them make an alert of eight messages, half make nothing.
 * The baseline is the same rows written bare: as many rows of as many bytes of text as these hold, in one table without an
 * index, in the same run.
 */
const CHANGES = 10_000;
const LOANS_AT_ONCE = 40;

const folder = mkdtempSync(join(tmpdir(), 'ojo-bench-'));
const database = await startMariaDb(folder, Number(process.env.OJO_BENCH_DATABASE_PORT ?? 4511), 'only-for-the-bench');
const say = (text: string) => process.stdout.write(`${text}\n`);
const megabytes = (bytes: number) => `${(bytes / 1_000_000).toFixed(1)} MB`;

async function sizes(pool: Pool): Promise<Map<string, number>> {
  const tables = await rows(
    pool,
    raw<{ name: string }>(
      "SELECT table_name AS name FROM information_schema.tables WHERE table_schema = DATABASE() AND table_type = 'BASE TABLE'",
    ),
  );
  await run(pool, query(`ANALYZE TABLE ${tables.map(({ name }) => `\`${name}\``).join(', ')}`));
  const found = await rows(
    pool,
    raw<{ name: string; bytes: number }>(
      'SELECT table_name AS name, data_length + index_length AS bytes FROM information_schema.tables WHERE table_schema = DATABASE()',
    ),
  );
  return new Map(found.map(({ name, bytes }) => [name, Number(bytes)]));
}

try {
  const first = openPool(database.connecting, 1, true);
  await run(first, query('CREATE DATABASE ojo_bench'));
  await first.end();
  const pool = openPool({ ...database.connecting, database: 'ojo_bench' }, 8, true);
  await prepare(pool);
  const before = await sizes(pool);
  let done = 0;
  while (done < CHANGES) {
    const counts = await Promise.all(Array.from({ length: 8 }, () => edits(pool, CHANGES / LOANS_AT_ONCE - 1)));
    done += counts.reduce((sum, count) => sum + count, 0);
    await runnerOn(pool).drain();
  }
  const after = await sizes(pool);
  const grown = [...after].map(([name, bytes]): [string, number] => [name, bytes - (before.get(name) ?? 0)]);
  const total = grown.reduce((sum, [, bytes]) => sum + bytes, 0) * (CHANGES / done);
  // What is said in all, as bare text.
  const [said] = await rows(
    pool,
    raw<{ bytes: number; count: number }>(
      `SELECT SUM(bytes) AS bytes, SUM(n) AS count FROM (
         SELECT SUM(LENGTH(COALESCE(fields_before, '')) + LENGTH(COALESCE(fields_after, ''))) AS bytes, COUNT(*) AS n FROM changes
         UNION ALL SELECT SUM(LENGTH(COALESCE(content, '')) + LENGTH(subject)), COUNT(*) FROM messages) t`,
    ),
  );
  const rowBytes = Math.round(Number(said?.bytes) / Number(said?.count));
  await run(pool, query('CREATE TABLE bare (id BIGINT NOT NULL PRIMARY KEY, body TEXT NOT NULL)'));
  await run(pool, query(`INSERT INTO bare SELECT seq, REPEAT('x', ?) FROM seq_1_to_${Number(said?.count)}`, rowBytes));
  const bare = ((await sizes(pool)).get('bare') ?? 1) * (CHANGES / done);
  say(
    `disk: ${megabytes(total)} for 10,000 changes (${done} made), ${(total / bare).toFixed(2)} of the same text bare (${megabytes(bare)})`,
  );
  for (const [name, bytes] of grown.sort((a, b) => b[1] - a[1]).slice(0, 7))
    say(`  ${name.padEnd(20)}${megabytes(bytes * (CHANGES / done)).padStart(10)}`);
  await pool.end();
} finally {
  await database.stop();
  rmSync(folder, { recursive: true, force: true });
}

import { raw } from '../server/testing/raw.ts';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Pool } from 'mysql2/promise';
import { startMariaDb } from '../server/boot/index.ts';
import { inTransaction, one, openPool, query, rows, run, runAll } from '../server/store/index.ts';
import { prepare } from './museum.ts';
import { edits, runnerOn } from './deciding.ts';

/**
 * How many changes a second are decided, alone and while eight writers edit, against a bare loop that claims as many
 * and writes as many rows: same machine, same database, same run, turn by turn. Half of the changes make an alert of
 * eight messages, half make nothing.
 */
const WAITING = 3000;
const WRITERS = 8;
const SECONDS = 6;
const ROUNDS = 3;
const CLAIMED = 50;

const folder = mkdtempSync(join(tmpdir(), 'ojo-bench-'));
const database = await startMariaDb(folder, Number(process.env.OJO_BENCH_DATABASE_PORT ?? 4511), 'only-for-the-bench');
const now = () => performance.now();
const median = (values: number[]) => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)] ?? Number.NaN;

async function fill(pool: Pool): Promise<void> {
  await Promise.all(Array.from({ length: WRITERS }, () => edits(pool, Math.ceil(WAITING / WRITERS))));
}

const waiting = async (pool: Pool, table: string) =>
  Number((await one(pool, raw<{ left_over: number }>(`SELECT COUNT(*) AS left_over FROM ${table}`)))?.left_over);

/** Claims, writes as many rows as deciding does, takes what was claimed out of the queue, commits; until nothing is left. */
async function bareLoop(pool: Pool, perChange: number, isOver: () => Promise<boolean> | boolean): Promise<number> {
  let done = 0;
  const body = 'x'.repeat(400);
  for (;;) {
    const claimed = await inTransaction(pool, async (on) => {
      const found = await rows(
        on,
        raw<{ id: number }>('SELECT id FROM bare_queue ORDER BY id LIMIT ? FOR UPDATE SKIP LOCKED', CLAIMED),
      );
      if (found.length === 0) return 0;
      const written = found.flatMap(({ id }) => Array.from({ length: Math.round(perChange) }, () => [id, body]));
      await runAll(on, [
        query('INSERT INTO bare_rows (of_change, body) VALUES ?', written),
        query(
          'DELETE FROM bare_queue WHERE id IN (?)',
          found.map(({ id }) => id),
        ),
      ]);
      return found.length;
    });
    done += claimed;
    if (await isOver()) return done;
    if (claimed === 0) await new Promise((resolve) => setTimeout(resolve, 1));
  }
}

const bareEdit = (pool: Pool) =>
  inTransaction(pool, (on) =>
    runAll(on, [
      query("INSERT INTO bare_rows (of_change, body) VALUES (0, 'edit')"),
      query("INSERT INTO bare_rows (of_change, body) VALUES (0, 'edit')"),
      query('INSERT INTO bare_queue (body) VALUES (NULL)'),
    ]),
  );

/** Ojo and the bare loop, over what waits. */
async function alone(pool: Pool, perChange: number): Promise<{ ours: number; bare: number }> {
  await fill(pool);
  const count = await waiting(pool, 'change_queue');
  const began = now();
  await runnerOn(pool).drain();
  const ours = count / ((now() - began) / 1000);
  await run(pool, query(`INSERT INTO bare_queue (body) VALUES ${Array(count).fill('(NULL)').join(', ')}`));
  const bareBegan = now();
  await bareLoop(pool, perChange, async () => (await waiting(pool, 'bare_queue')) === 0);
  return { ours, bare: count / ((now() - bareBegan) / 1000) };
}

/** The same while eight writers go on editing. */
async function whileEditing(pool: Pool, perChange: number): Promise<{ ours: number; bare: number; edits: number }> {
  const end = now() + SECONDS * 1000;
  const isOver = () => now() > end;
  const runner = runnerOn(pool);
  await fill(pool);
  const before = await waiting(pool, 'change_queue');
  runner.start();
  const began = now();
  const edited = (
    await Promise.all(Array.from({ length: WRITERS }, () => edits(pool, Number.POSITIVE_INFINITY, isOver)))
  ).reduce((sum, one) => sum + one, 0);
  const left = await waiting(pool, 'change_queue');
  const ours = (before + edited - left) / ((now() - began) / 1000);
  await runner.stop();
  await runnerOn(pool).drain();
  const bareEnd = now() + SECONDS * 1000;
  await run(
    pool,
    query(
      `INSERT INTO bare_queue (body) VALUES ${Array(WAITING * 10)
        .fill('(NULL)')
        .join(', ')}`,
    ),
  );
  const bareBegan = now();
  const writing = Promise.all(
    Array.from({ length: WRITERS }, async () => {
      while (now() < bareEnd) await bareEdit(pool);
    }),
  );
  const done = await bareLoop(pool, perChange, () => now() > bareEnd);
  const bare = done / ((now() - bareBegan) / 1000);
  await writing;
  await run(pool, query('DELETE FROM bare_queue'));
  return { ours, bare, edits: edited / SECONDS };
}

try {
  const first = openPool(database.connecting, 1);
  await run(first, query('CREATE DATABASE ojo_bench'));
  await first.end();
  const pool = openPool({ ...database.connecting, database: 'ojo_bench' }, WRITERS + 3);
  await prepare(pool);
  await runAll(pool, [
    query('CREATE TABLE bare_queue (id BIGINT NOT NULL AUTO_INCREMENT PRIMARY KEY, body VARCHAR(20) NULL)'),
    query(
      'CREATE TABLE bare_rows (id BIGINT NOT NULL AUTO_INCREMENT PRIMARY KEY, of_change BIGINT NOT NULL, body VARCHAR(500) NOT NULL)',
    ),
  ]);
  await fill(pool);
  await runnerOn(pool).drain();
  const counted = await one(
    pool,
    raw<{ written: number; changes: number }>(
      'SELECT (SELECT COUNT(*) FROM alerts) + (SELECT COUNT(*) FROM alert_changes) + (SELECT COUNT(*) FROM messages) + (SELECT COUNT(*) FROM message_alerts) + (SELECT COUNT(*) FROM withheld) + (SELECT COUNT(*) FROM engine_rows) + (SELECT COUNT(*) FROM timers) AS written, (SELECT COUNT(*) FROM changes) AS changes',
    ),
  );
  const perChange = Number(counted?.written) / Number(counted?.changes);
  const found = {
    alone: [] as { ours: number; bare: number }[],
    editing: [] as { ours: number; bare: number; edits: number }[],
  };
  for (let round = 0; round < ROUNDS; round++) {
    found.alone.push(await alone(pool, perChange));
    found.editing.push(await whileEditing(pool, perChange));
  }
  const show = (name: string, list: { ours: number; bare: number }[]) =>
    process.stdout.write(
      `  ${name.padEnd(28)} Ojo ${median(list.map(({ ours }) => ours))
        .toFixed(0)
        .padStart(5)}   bare loop ${median(list.map(({ bare }) => bare))
        .toFixed(0)
        .padStart(
          5,
        )}   ratio of the medians ${(median(list.map(({ ours }) => ours)) / median(list.map(({ bare }) => bare))).toFixed(3)}   (to reach: at least 0.33)\n`,
    );
  process.stdout.write(
    `Changes decided a second, ${perChange.toFixed(1)} rows written of each, ${ROUNDS} rounds, in turn with the baseline\n`,
  );
  show('alone', found.alone);
  show(
    `while ${WRITERS} writers edit (${median(found.editing.map(({ edits: rate }) => rate)).toFixed(0)} a second)`,
    found.editing,
  );
  await pool.end();
} finally {
  await database.stop();
  rmSync(folder, { recursive: true, force: true });
}

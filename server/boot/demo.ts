import { execFile } from 'node:child_process';
import { join } from 'node:path';
import { promisify } from 'node:util';
import type { Pool } from 'mysql2/promise';
import { type Connecting, migrate, one, openPool, rows, run, store } from '../store/index.ts';
import { feedKeyOf, ownSecret, type Settings } from './settings.ts';
import { StartError } from './start-error.ts';

/** Where a demo is laid out before it takes its place. Nobody's data is ever in it: what a start that was cut off left there is made anew. */
const scratchOf = (database: string): string => `${database}_being_laid_out`;

const tablesOf = (pool: Pool, database: string): Promise<string[]> => rows(pool, store.schema.tables(database));

/** Whether there is any data: a database with a table in it. */
export const isLaidOut = async (pool: Pool, database: string): Promise<boolean> =>
  (await tablesOf(pool, database)).length > 0;

/** Whether the data is a demo, which its own mark alone tells. */
export async function isDemo(pool: Pool, database: string): Promise<boolean> {
  if (!(await tablesOf(pool, database)).includes('marks')) return false;
  return (await one(pool, store.schema.demoMark(database))) !== undefined;
}

/**
 * Lays out the demo beside the database's place, in a program of its own, and puts it there once it is whole: a start
 * that is cut off leaves nothing half made. Says what it laid out.
 * @param pool a patient one, of no database
 */
export async function layOutDemo({
  pool,
  settings,
  connecting,
  database,
  now,
  root,
}: {
  pool: Pool;
  settings: Settings;
  connecting: Connecting;
  database: string;
  now: number;
  root: string;
}): Promise<string> {
  const began = performance.now();
  const scratch = scratchOf(database);
  await run(pool, store.schema.drop(scratch));
  await run(pool, store.schema.create(scratch));
  const into = { ...connecting, database: scratch };
  const own = openPool(into, 2, true);
  await migrate(own).finally(() => own.end());
  const order = {
    connecting: into,
    now,
    site: { base: settings.base, name: settings.from.name },
    from: settings.from,
    password: settings.demoPassword,
    ports: { mail: settings.mailPort, text: settings.textPort, hook: settings.hookPort },
    hookSecret: ownSecret(settings.data, 'hook-secret'),
    feedKey: feedKeyOf(settings.data),
  };
  const counts = await seeded(order, root);
  const tables = await tablesOf(pool, scratch);
  await run(pool, store.schema.moveTables(scratch, database, tables));
  await run(pool, store.schema.drop(scratch));
  return `${counts.items} items, ${counts.changes} changes, ${counts.messages} messages, laid out in ${((performance.now() - began) / 1000).toFixed(1)} s`;
}

async function seeded(order: object, root: string): Promise<Record<string, number>> {
  try {
    const { stdout } = await promisify(execFile)(process.execPath, ['--import', 'tsx', join(root, 'demo/seed.ts')], {
      cwd: root,
      env: { ...process.env, OJO_SEED_ORDER: JSON.stringify(order) },
      maxBuffer: 10 * 1024 * 1024,
    });
    return JSON.parse(stdout) as Record<string, number>;
  } catch (error) {
    throw new StartError(
      `The demo could not be laid out, and nothing of it is kept: ${String((error as { stderr?: string }).stderr ?? error).trim()}`,
    );
  }
}

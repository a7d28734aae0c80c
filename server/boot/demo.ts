import { execFile } from 'node:child_process';
import { join } from 'node:path';
import { promisify } from 'node:util';
import type { Pool } from 'mysql2/promise';
import { type Connecting, one, query } from '../store/index.ts';
import { ownSecret, type Settings } from './settings.ts';
import { StartError } from './start-error.ts';

const isMarked = async (pool: Pool, database: string): Promise<boolean> => (await one(pool, query(`SELECT name FROM \`${database}\`.marks WHERE name = 'demo'`))) !== undefined;

/** Whether a start was cut off while it laid out the demo: there are people, and no mark that says it was finished. */
export async function isHalfMade(pool: Pool, database: string): Promise<boolean> {
  const tables = await one<{ found: number }>(pool, query("SELECT COUNT(*) AS found FROM information_schema.tables WHERE table_schema = ? AND table_name IN ('people', 'marks')", database));
  if (Number(tables?.found ?? 0) < 2) return false;
  const people = await one<{ found: number }>(pool, query(`SELECT COUNT(*) AS found FROM \`${database}\`.people`));
  return Number(people?.found ?? 0) > 0 && !(await isMarked(pool, database));
}

/** Lays out the demo in a program of its own, where it is not there yet; says what it laid out. */
export async function layOutDemo({ pool, settings, connecting, now, root }: { pool: Pool; settings: Settings; connecting: Connecting & { database: string }; now: number; root: string }): Promise<string | null> {
  if (await isMarked(pool, connecting.database)) return null;
  const began = performance.now();
  const order = { connecting, now, site: { base: settings.base, name: settings.from.name }, from: settings.from, password: settings.demoPassword, ports: { mail: settings.mailPort, text: settings.textPort, hook: settings.hookPort }, hookSecret: ownSecret(settings.data, 'hook-secret') };
  try {
    const { stdout } = await promisify(execFile)(process.execPath, ['--import', 'tsx', join(root, 'demo/seed.ts')], { cwd: root, env: { ...process.env, OJO_SEED_ORDER: JSON.stringify(order) }, maxBuffer: 10 * 1024 * 1024 });
    const { items, changes, messages } = JSON.parse(stdout) as Record<string, number>;
    return `${items} items, ${changes} changes, ${messages} messages, laid out in ${((performance.now() - began) / 1000).toFixed(1)} s`;
  } catch (error) {
    throw new StartError(`The demo could not be laid out, and nothing of it is kept: ${String((error as { stderr?: string }).stderr ?? error).trim()}`);
  }
}

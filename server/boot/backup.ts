import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { createReadStream, createWriteStream, existsSync } from 'node:fs';
import { rename, rm, stat } from 'node:fs/promises';
import { Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { createGunzip, createGzip } from 'node:zlib';
import type { Pool } from 'mysql2/promise';
import { type Connecting, migrate, openPool, rows, run, store } from '../store/index.ts';
import { StartError } from './start-error.ts';

/** How MariaDB's own program ends a dump that is whole. */
const WHOLE = '-- Dump completed';
/** So much of a dump's end is kept to look for that, in bytes. */
const END_BYTES = 400;

const clientArgs = ({ host, port, user }: Connecting): string[] => [
  '--no-defaults',
  `--host=${host}`,
  `--port=${port}`,
  `--user=${user}`,
  '--default-character-set=utf8mb4',
];
const withPassword = ({ password }: Connecting): NodeJS.ProcessEnv => ({ ...process.env, MYSQL_PWD: password });

/** Lets bytes through and remembers the last of them. */
function rememberingEnd(): { stream: Transform; end: () => string } {
  let last = Buffer.alloc(0);
  const stream = new Transform({
    transform(bytes: Buffer, _encoding, done) {
      last = Buffer.concat([last, bytes]).subarray(-END_BYTES);
      done(null, bytes);
    },
  });
  return { stream, end: () => last.toString('utf8') };
}

/** Runs one of MariaDB's programs; throws what it said where it failed. */
function program(name: string, args: string[], connecting: Connecting) {
  const child = spawn(name, args, { env: withPassword(connecting), stdio: ['pipe', 'pipe', 'pipe'] });
  let said = '';
  child.stderr.on('data', (bytes: Buffer) => {
    said = (said + bytes.toString('utf8')).slice(-2000);
  });
  const ended = once(child, 'close').then(([code]) => {
    if (code !== 0) throw new StartError(`${name} failed: ${said.trim() || `it ended with ${String(code)}`}`);
  });
  return { child, ended };
}

/**
 * Writes everything Ojo keeps, as it stood at one instant, into one compressed file, while Ojo goes on. The file has its
 * name only once it is whole. Answers its size in bytes.
 */
export async function backUp(connecting: Connecting, database: string, file: string): Promise<number> {
  if (existsSync(file)) throw new StartError(`${file} is there already. Nothing was written; name another file.`);
  const part = `${file}.part`;
  const options = ['--single-transaction', '--quick', '--hex-blob', '--skip-lock-tables', '--no-tablespaces'];
  const dump = (from: string[]) =>
    program('mariadb-dump', [...clientArgs(connecting), ...options, ...from], connecting);
  try {
    const zip = createGzip();
    const written = pipeline(zip, createWriteStream(part, { mode: 0o600 }));
    // The audit trail stands in a database of its own, of which this house's entries are taken.
    for (const from of [[database], ['audit_ojo', 'entries', `--where=house='${database}'`]]) {
      const { child, ended } = dump(from);
      child.stdin.end();
      const { stream: ours, end: ownEnd } = rememberingEnd();
      const whole = pipeline(child.stdout, ours, async (bytes) => {
        for await (const piece of bytes) if (!zip.write(piece)) await once(zip, 'drain');
      });
      await Promise.all([whole, ended]);
      if (!ownEnd().includes(WHOLE)) throw new StartError('The dump is not whole. Nothing was kept.');
    }
    zip.end();
    await written;
    await rename(part, file);
  } catch (error) {
    await rm(part, { force: true });
    throw error;
  }
  return (await stat(file)).size;
}

/** Throws unless a backup can be read to its end, and is whole. */
async function expectWhole(file: string): Promise<void> {
  if (!existsSync(file)) throw new StartError(`There is no file ${file}.`);
  const { stream, end } = rememberingEnd();
  const away = new Transform({ transform: (_bytes, _encoding, done) => done() });
  await pipeline(createReadStream(file), createGunzip(), stream, away).catch((error: Error) => {
    throw new StartError(`${file} is no whole backup: ${error.message}. Nothing was changed.`);
  });
  if (!end().includes(WHOLE)) throw new StartError(`${file} is no whole backup: it breaks off. Nothing was changed.`);
}

/**
 * Puts a backup in the place of a database that there is not yet: it is read in beside it, brought to the newest version
 * there, and moved into its place at one instant. Throws where anything is there already. Answers how much it holds.
 */
export async function restore(
  connecting: Connecting,
  database: string,
  file: string,
): Promise<{ items: number; changes: number; messages: number }> {
  await expectWhole(file);
  const pool = openPool(connecting, 2, true);
  try {
    await run(pool, store.schema.create(database));
    if ((await rows(pool, store.schema.tables(database))).length > 0)
      throw new StartError(
        'There is data already, and none of it was touched. Set OJO_DATA to a folder that is new, and restore there.',
      );
    return await restoreBeside(pool, connecting, database, file);
  } finally {
    await pool.end();
  }
}

async function restoreBeside(pool: Pool, connecting: Connecting, database: string, file: string) {
  const beside = `${database}_being_restored`;
  await run(pool, store.schema.drop(beside));
  await run(pool, store.schema.create(beside));
  const { child, ended } = program('mariadb', [...clientArgs(connecting), beside], connecting);
  child.stdout.resume();
  await Promise.all([pipeline(createReadStream(file), createGunzip(), child.stdin), ended]);
  const own = openPool({ ...connecting, database: beside }, 2, true);
  try {
    await migrate(own);
    const [size] = await rows(own, store.schema.size());
    await run(own, store.schema.takeAudit(database));
    await run(own, store.schema.dropTable('entries'));
    await run(pool, store.schema.moveTables(beside, database, await rows(pool, store.schema.tables(beside))));
    await run(pool, store.schema.drop(beside));
    return size ?? { items: 0, changes: 0, messages: 0 };
  } finally {
    await own.end();
  }
}

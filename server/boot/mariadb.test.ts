import { execFileSync } from 'node:child_process';
import { chownSync, mkdtempSync, realpathSync, rmSync } from 'node:fs';
import { tmpdir, userInfo } from 'node:os';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { afterAll, describe, expect, it } from 'vitest';
import { freePort } from '../testing/database.ts';

const folders: string[] = [];
afterAll(() => {
  for (const folder of folders) rmSync(folder, { recursive: true, force: true });
});

const moduleAt = (path: string) => JSON.stringify(pathToFileURL(join(process.cwd(), path)).href);

/** Starts MariaDB as that user of the operating system (the present one where it may not be another), writes and reads as Ojo does, ends it. */
async function startedAs(user: string): Promise<string> {
  const folder = realpathSync(mkdtempSync(join(tmpdir(), 'ojo-as-')));
  folders.push(folder);
  const mayBeOther = process.getuid?.() === 0;
  const [uid, gid] = mayBeOther
    ? ['-u', '-g'].map((which) => Number(execFileSync('id', [which, user]).toString()))
    : [userInfo().uid, userInfo().gid];
  chownSync(folder, Number(uid), Number(gid));
  // The modules are read before: where the project lies, another user may not look.
  const script = `
    const { startMariaDb } = await import(${moduleAt('server/boot/mariadb.ts')});
    const { openPool, query, run, one } = await import(${moduleAt('server/store/index.ts')});
    const { raw } = await import(${moduleAt('server/testing/raw.ts')});
    ${mayBeOther ? `process.setgroups([]); process.setgid(${gid}); process.setuid(${uid});` : ''}
    process.chdir(${JSON.stringify(folder)});
    const database = await startMariaDb(${JSON.stringify(folder)}, ${await freePort()}, 'a-password');
    const pool = openPool(database.connecting, 1);
    await run(pool, query('CREATE DATABASE ojo_as'));
    const found = await (await one(pool, raw('SELECT CURRENT_USER() AS who'))).who;
    await pool.end();
    await database.stop();
    process.stdout.write(String(found));`;
  return execFileSync(process.execPath, ['--import', 'tsx', '--input-type=module', '-e', script], {
    encoding: 'utf8',
    env: { ...process.env, HOME: folder },
  });
}

describe('MariaDB of its own', () => {
  it.each(['nobody', 'mysql'])(
    'starts and answers for whoever runs Ojo, such as %s',
    { timeout: 60_000 },
    async (user) => {
      expect(await startedAs(user)).toBe('ojo_app@127.0.0.1');
    },
  );
});

import { fileURLToPath } from 'node:url';
import { welcomeLink } from '../acts/index.ts';
import { systemClock } from '../kit/index.ts';
import { SignedLinks } from '../signed-links/index.ts';
import { openPool, rows, store } from '../store/index.ts';
import { openDatabase } from './database.ts';
import { refuseUnwritable } from './mariadb.ts';
import { readSettings } from './settings.ts';
import { StartError } from './start-error.ts';

const ROOT = fileURLToPath(new URL('../../', import.meta.url));

/** `npm run steward [-- name, address or id]`: a page on which a steward chooses a password, for whoever may read Ojo's data. */
async function main([wanted]: string[]): Promise<void> {
  const settings = readSettings(process.env, ROOT);
  refuseUnwritable(settings.data);
  const database = await openDatabase(settings);
  const pool = openPool({ ...database.connecting, database: database.name }, 2, true);
  try {
    const stewards = await rows(pool, store.accounts.stewards());
    const found = stewards.filter(
      ({ id, name, email }) => wanted === undefined || [id, name, email].some((one) => one === wanted),
    );
    const [steward] = found;
    if (!steward || found.length > 1)
      throw new StartError(
        stewards.length === 0
          ? `No steward is in ${settings.data}: start Ojo once, which makes the first.`
          : `Say for which steward:\n${stewards.map(({ id, name }) => `  npm run steward -- ${id}   (${name})`).join('\n')}`,
      );
    const link = await welcomeLink(
      { pool, clock: systemClock, signedLinks: new SignedLinks(pool), base: settings.base },
      steward.id,
    );
    process.stdout.write(`${steward.name} chooses a password, once and within a week, at\n${link}\n`);
  } finally {
    await pool.end();
    await database.stop();
  }
}

main(process.argv.slice(2)).catch((error: unknown) => {
  process.stderr.write(`${error instanceof StartError ? error.message : String((error as Error).stack)}\n`);
  process.exitCode = 1;
});

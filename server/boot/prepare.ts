import { basename } from 'node:path';
import { createInterface } from 'node:readline/promises';
import type { Pool } from 'mysql2/promise';
import { type Connecting, migrate, one, openPool, store, run } from '../store/index.ts';
import { isDemo, isLaidOut, layOutDemo } from './demo.ts';
import { checkSeals } from './sealing.ts';
import { isOwnMachine, type Settings } from './settings.ts';
import { StartError } from './start-error.ts';

/** How the data stands once a start has prepared it. */
export interface Prepared {
  isDemo: boolean;
  /** Lines that say what was done. */
  said: [name: string, what: string][];
}

interface Preparing {
  settings: Settings;
  connecting: Connecting;
  database: string;
  now: number;
  root: string;
  /** The words after the program's name. */
  words: readonly string[];
}

/** Two programs that prepare the same data wait for one another under this name. */
const LOCK = 'ojo/prepare';

/**
 * Makes the data ready: lays out a demo where there is nothing yet and one is wanted, and brings the tables to the
 * newest version. Nothing is ever dropped but by `--fresh`; where the data is no demo, that wants its folder's name.
 */
export async function prepare({ settings, connecting, database, now, root, words }: Preparing): Promise<Prepared> {
  const pool = openPool(connecting, 2, true);
  const said: Prepared['said'] = [];
  const lock = await pool.getConnection();
  try {
    // Two starts at once: the second finds what the first has made.
    const got = await one(lock, store.schema.lock(LOCK, 600));
    if (got !== 1)
      throw new StartError(
        'Another Ojo has been preparing the data for ten minutes. Wait until it is done, or end it.',
      );
    if (isFreshAsked(words)) await dropAll(pool, settings, database, words);
    await run(pool, store.schema.create(database));
    if (settings.wantsDemo && !(await isLaidOut(pool, database)))
      said.push(['Demo', await layOutDemo({ pool, settings, connecting, database, now, root })]);
    const own = openPool({ ...connecting, database }, 2, true);
    try {
      const ran = await migrate(own);
      said.push(['Tables', ran > 0 ? `${ran} migration${ran === 1 ? '' : 's'} ran` : 'as they should be']);
      const { sealed, isGivenUp } = await checkSeals(own, settings.isKeyLost);
      if (isGivenUp) said.push(['Secrets', 'what the lost key had sealed is given up']);
      else if (sealed > 0) said.push(['Secrets', `${sealed} sealed`]);
    } finally {
      await own.end();
    }
    const found = await isDemo(pool, database);
    if (!found && settings.wantsDemo)
      said.push(['Data', `what is in ${settings.data} is no demo, and is used as it is`]);
    if (found && !isOwnMachine(settings.base))
      throw new StartError(
        `What is in ${settings.data} is the demo, whose password everybody knows, and OJO_BASE leads to it from outside (${settings.base}). Set OJO_DATA to another folder, or start once with  --fresh  to begin anew without it.`,
      );
    if (found && !settings.wantsDemo)
      said.push(['Data', `what is in ${settings.data} is the demo; --fresh begins anew without it`]);
    return { isDemo: found, said };
  } finally {
    await run(lock, store.schema.unlock(LOCK)).catch(() => undefined);
    lock.release();
    await pool.end();
  }
}

const isFreshAsked = (words: readonly string[]): boolean =>
  words.some((word) => word === '--fresh' || word.startsWith('--fresh='));

/** Drops the data; what is no demo only for whoever names its folder. */
async function dropAll(pool: Pool, { data }: Settings, database: string, words: readonly string[]): Promise<void> {
  if (!(await isLaidOut(pool, database))) return;
  if (!(await isDemo(pool, database))) {
    const name = basename(data);
    const given =
      words.find((word) => word.startsWith('--fresh='))?.slice('--fresh='.length) ?? (await askedFor(name, data));
    if (given !== name)
      throw new StartError(
        `Nothing was deleted: the data in ${data} is no demo. To delete it all the same, start with  --fresh=${name}`,
      );
  }
  await run(pool, store.schema.drop(database));
}

async function askedFor(name: string, data: string): Promise<string> {
  if (!process.stdin.isTTY) return '';
  const asking = createInterface({ input: process.stdin, output: process.stdout });
  try {
    return (
      await asking.question(
        `The data in ${data} is no demo, and --fresh deletes all of it.\nType the folder's name, ${name}, to go on: `,
      )
    ).trim();
  } finally {
    asking.close();
  }
}

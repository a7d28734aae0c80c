import { mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as delay } from 'node:timers/promises';
import { ownSecret, startMariaDb } from '../../server/boot/index.ts';
import { openPool, query, run } from '../../server/store/index.ts';
import { drill, furnish } from './house.ts';
import { PORTS, say, Server, SERVERS } from './servers.ts';

/**
 * Three servers on one database, a machine that never answers, people who edit, import, pause, put live, read and
 * acknowledge; every twenty seconds a server is killed without warning, now and then MariaDB. At the end: every edit
 * that was said to be kept stands in the trail once, everything is decided once, the log replays to the same alerts and
 * messages, every email has arrived under one Message-ID. `OJO_DRILL_SECONDS` and `OJO_DRILL_KILLS` make it shorter.
 */
const LASTS_S = Number(process.env.OJO_DRILL_SECONDS ?? 600);
const KILLS = Number(process.env.OJO_DRILL_KILLS ?? 30);
/** One kill in so many is MariaDB's. */
const DATABASE_EVERY = 6;

const folder = mkdtempSync(join(tmpdir(), 'ojo-drill-'));

/** Kills one after another, evenly over the time. */
async function kill(servers: readonly Server[]): Promise<void> {
  for (let number = 1; number <= KILLS; number++) {
    await delay((LASTS_S * 1000) / (KILLS + 1));
    const isDatabase = number % DATABASE_EVERY === 0;
    const server = number % SERVERS;
    if (isDatabase) process.kill(Number(readFileSync(join(folder, 'mariadb/mariadb.pid'), 'utf8')), 'SIGKILL');
    // One that is just being brought back is waited for.
    else while (!servers[server]?.kill()) await delay(100);
    say(`kill ${number}: ${isDatabase ? 'MariaDB' : `server ${server}`}`);
  }
}

const database = await startMariaDb(folder, PORTS.database, ownSecret(folder, 'database-password'));
const first = openPool(database.connecting, 1, true);
await run(first, query('CREATE DATABASE ojo'));
await first.end();
const pool = openPool({ ...database.connecting, database: 'ojo' }, 6, true);
const unfurnish = await furnish(pool);
const servers: Server[] = [];
let wrong = ['it did not come to an end'];
try {
  for (let number = 0; number < SERVERS; number++)
    servers.push(new Server(number, { OJO_DATA: folder, OJO_DATABASE_PORT: String(PORTS.database) }));
  wrong = await drill({ pool, servers, folder, lasts: LASTS_S, harm: () => kill(servers) });
  say(
    `${KILLS} kills: ${wrong.length === 0 ? 'nothing is lost, nothing is told twice, the log replays alike' : wrong.join('; ')}`,
  );
} finally {
  for (const server of servers) await server.stop();
  await unfurnish();
  await pool.end();
  await database.stop();
}
process.exitCode = wrong.length === 0 ? 0 : 1;

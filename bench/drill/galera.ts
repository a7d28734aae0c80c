import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as delay } from 'node:timers/promises';
import { openPool, query, run } from '../../server/store/index.ts';
import { beginCluster, type ClusterNode, urlOf } from './cluster.ts';
import { drill, furnish } from './house.ts';
import { PORTS, say, Server, SERVERS } from './servers.ts';

/**
 * Three servers on a cluster of three MariaDB nodes, each with another node as its first; people work as in the other
 * drill. One node is killed and comes back, then one is cut off from the others while its server is still connected to
 * it. The account is the same: nothing is lost, nothing is decided twice.
 */
const LASTS_S = Number(process.env.OJO_DRILL_SECONDS ?? 60);
/** How long people work between one harm and the next, in ms. */
const QUIET_MS = 8000;

const folder = mkdtempSync(join(tmpdir(), 'ojo-drill-'));

async function harm([, second, third]: ClusterNode[]): Promise<void> {
  await delay(QUIET_MS);
  second?.kill();
  say('node 2 is killed');
  await delay(QUIET_MS);
  await second?.begin();
  say('node 2 is back');
  await delay(QUIET_MS);
  third?.cutOff(true);
  say('node 3 is cut off');
  await delay(2 * QUIET_MS);
  third?.cutOff(false);
  say('node 3 is let back');
  while (!third?.isReady()) await delay(500);
  say('node 3 has caught up');
  await delay(QUIET_MS);
}

const { nodes, connectingFrom } = await beginCluster(folder, PORTS.database + 100);
say('three nodes are one cluster');
const first = openPool(connectingFrom(0), 1, true);
await run(first, query('CREATE DATABASE ojo CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci'));
await first.end();
const pool = openPool({ ...connectingFrom(0), database: 'ojo' }, 6, true);
const unfurnish = await furnish(pool);
const servers: Server[] = [];
let wrong = ['it did not come to an end'];
try {
  for (let number = 0; number < SERVERS; number++)
    servers.push(
      new Server(number, {
        OJO_DATA: join(folder, `server${number}`),
        OJO_DATABASE_URL: urlOf(connectingFrom(number), 'ojo'),
      }),
    );
  wrong = await drill({ pool, servers, folder, lasts: LASTS_S, harm: () => harm(nodes) });
  say(
    `One node killed, one cut off: ${wrong.length === 0 ? 'nothing is lost, nothing is decided twice, the log replays alike' : wrong.join('; ')}`,
  );
} finally {
  for (const server of servers) await server.stop();
  await unfurnish();
  await pool.end();
  for (const node of [...nodes].reverse()) node.stop();
}
process.exitCode = wrong.length === 0 ? 0 : 1;

import { createServer } from 'node:http';
import type { Pool } from 'mysql2/promise';
import { publishRule } from '../../server/acts/index.ts';
import { systemClock } from '../../server/kit/index.ts';
import { startMailStandIn } from '../../server/standins/index.ts';
import { inTransaction, query, run, store } from '../../server/store/index.ts';
import { prepare } from '../museum.ts';
import { check, settle } from './account.ts';
import { PEOPLE, work } from './people.ts';
import { RULES } from './rules.ts';
import { PORTS, say, type Server, signIn } from './servers.ts';

/** Puts people, a source, rules, a machine that never answers, and a mail server into an empty database; how to end the last two. */
export async function furnish(pool: Pool): Promise<() => Promise<void>> {
  const hook = createServer(() => undefined).listen(PORTS.hook, '127.0.0.1');
  await prepare(pool);
  await run(
    pool,
    query("INSERT INTO webhooks (id, url, secret) VALUES ('dead', ?, 's')", `http://127.0.0.1:${PORTS.hook}/`),
  );
  for (const rule of RULES) {
    await inTransaction(pool, async (on) => {
      await run(on, store.rules.create(rule, rule.owner, systemClock.now()));
      await publishRule(on, rule, 1, rule.owner, systemClock.now());
    });
  }
  const mail = await startMailStandIn({ pool, clock: systemClock, port: PORTS.mail, reportsPort: null });
  return async () => {
    await mail.close();
    hook.closeAllConnections();
    hook.close();
  };
}

export interface Drilling {
  pool: Pool;
  servers: Server[];
  folder: string;
  /** For how long people work, in seconds. */
  lasts: number;
  /** What is done to the servers and the database meanwhile. */
  harm: () => Promise<void>;
}

/** Has people work while harm is done, waits until all has been told, and holds it against its log; what is wrong. */
export async function drill({ pool, servers, folder, lasts, harm }: Drilling): Promise<string[]> {
  const start = systemClock.now() - 2000;
  await Promise.all(servers.map((server) => server.ready()));
  for (const name of PEOPLE) await signIn(name);
  say(`${servers.length} servers are up; ${lasts} s begin`);
  const until = performance.now() + lasts * 1000;
  let isHarmDone = false;
  const [kept] = await Promise.all([
    work(() => isHarmDone && performance.now() > until),
    harm().finally(() => {
      isHarmDone = true;
    }),
  ]);
  await settle(pool);
  return check(pool, start, folder, kept);
}

import { randomBytes } from 'node:crypto';
import type { Pool } from 'mysql2/promise';
import { DAY_MS } from '../../core/time/index.ts';
import { type Clock, digestOfToken } from '../kit/index.ts';
import { inTransaction, rows, run, runAll, store } from '../store/index.ts';
import { LONGEST } from './tries.ts';

/** Somebody stays signed in for so many days where the house says nothing. */
const DAYS = 14;

/** From where somebody signs in. */
export interface From {
  agent: string;
  origin: string | null;
  /** By the house's own sign-in, which has a second factor of its own or wants none. */
  isByHouse: boolean;
}

/** Signs somebody in: answers the token of their session, and for how many ms it is good. */
export async function openSession(
  { pool, clock }: { pool: Pool; clock: Clock },
  person: string,
  from: From,
): Promise<{ token: string; lasts: number }> {
  const now = clock.now();
  const token = randomBytes(32).toString('hex');
  await run(pool, store.sessions.sweep(now));
  await run(pool, store.wrongTries.sweep(now - LONGEST));
  const lasts =
    ((await rows(pool, store.keeping.days())).find(({ what }) => what === 'sessions')?.days ?? DAYS) * DAY_MS;
  await inTransaction(pool, (on) =>
    runAll(on, [
      store.sessions.open(digestOfToken(token), { person, at: now, expires: now + lasts, ...from }),
      store.audit.add({ at: now, kind: 'signedIn', actor: person, origin: from.origin, about: {} }),
    ]),
  );
  return { token, lasts };
}

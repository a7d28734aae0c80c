import { randomBytes } from 'node:crypto';
import { verify } from '@node-rs/argon2';
import type { Pool } from 'mysql2/promise';
import { HOUR_MS, MINUTE_MS } from '../../core/time/index.ts';
import { type Clock, hashOfPassword } from '../kit/index.ts';
import { one, store } from '../store/index.ts';
import { type Bound, guarded } from './tries.ts';

/** The hash of a password that nobody has, verified where the name is unknown, so that the answer takes as long as for a known one. */
const nobodysHash = hashOfPassword(randomBytes(32));

/** Whether a password is the one of that hash. */
const fits = async (hash: string | undefined, password: string): Promise<boolean> =>
  verify(hash ?? (await nobodysHash), password).catch(() => false);

/** How often in how long a password may be wrong. */
const WRONG = { most: 10, within: 15 * MINUTE_MS };
const WRONG_OF_MANY = { most: 100, within: 15 * MINUTE_MS };
const WRONG_FOR_ONE = { most: 100, within: HOUR_MS };

/** Who wants to sign in, and from where. */
export interface Trying {
  name: string;
  password: string;
  /** The network that it comes from. */
  network: string;
  /** The browser, where it is one in which they have signed in before, and whom that knows. */
  known: { person: string; browser: string } | null;
}

/**
 * By whom tries are counted. A browser in which somebody has signed in before is counted by itself, so that nobody else's
 * wrong tries stand in their way; any other by the account and the network together, and either of them apart.
 */
function boundsOf({ name, network, known }: Trying, person: string | undefined): (Bound & { isShared?: boolean })[] {
  if (known && known.person === person) return [{ subject: ['browser', known.browser], ...WRONG }];
  const who = person ?? name.toLowerCase();
  return [
    { subject: ['both', who, network], ...WRONG },
    { subject: ['account', who], ...WRONG_FOR_ONE, isShared: true },
    { subject: ['network', network], ...WRONG_OF_MANY, isShared: true },
  ];
}

/**
 * Whoever signs in by a name and a password.
 *
 * @param further judges further, once name and password fit; what it throws counts as no wrong try
 * @returns their id; `null` where it does not fit, with whose name it was
 * @throws Refusal `tooMany`
 */
export async function whoSignsIn(
  house: { pool: Pool; clock: Clock },
  trying: Trying,
  further: (person: string) => Promise<boolean>,
): Promise<{ person: string | null; named: string | null }> {
  const found = await one(house.pool, store.sessions.person(trying.name));
  const person = await guarded(house, boundsOf(trying, found?.id), async () => {
    const isRight = await fits(found?.passwordHash, trying.password);
    return found?.isActive && isRight && (await further(found.id)) ? found.id : null;
  });
  return { person, named: found?.id ?? null };
}

/** A code of somebody's, unless too many were wrong lately; `null` for a wrong one. */
export const guessedCode = <T>(house: { pool: Pool; clock: Clock }, id: string, judge: () => Promise<T | null>) =>
  guarded(house, [{ subject: ['code', id], ...WRONG }], judge);

/** Whether a password is somebody's own, whose session it is: they may be wrong as often as by signing in. */
export async function isOwnPassword(
  house: { pool: Pool; clock: Clock },
  id: string,
  password: string,
): Promise<boolean> {
  const found = await one(house.pool, store.sessions.person(id));
  const right = await guarded(house, [{ subject: ['own', id], ...WRONG }], async () =>
    (await fits(found?.passwordHash, password)) ? true : null,
  );
  return right === true;
}

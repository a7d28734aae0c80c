import { randomBytes } from 'node:crypto';
import type { Pool } from 'mysql2/promise';
import { freshId } from '../../core/tables/index.ts';
import { type Clock, hashOfPassword } from '../kit/index.ts';
import type { SignedLinks } from '../signed-links/index.ts';
import { inTransaction, one, type Profile, rows, run, runAll, store } from '../store/index.ts';

export interface Welcoming {
  pool: Pool;
  clock: Clock;
  signedLinks: SignedLinks;
  /** What addresses of pages begin with. */
  base: string;
}

/** The address of a new page on which somebody chooses their password, once; those before it open no more. */
export async function welcomeLink({ pool, clock, signedLinks, base }: Welcoming, person: string): Promise<string> {
  await run(pool, store.accounts.nextWelcome(person));
  const number = (await one(pool, store.accounts.welcomeNumber(person))) ?? 0;
  return `${base}/welcome/${await signedLinks.sign({ do: 'welcome', person, number }, clock.now())}`;
}

/** Whom a house begins with, where no setting says so. */
const FIRST = { name: 'Steward', email: null, zone: 'UTC', locale: 'en-GB' };

/** Makes the first steward of a house in which nobody is, and answers where they choose their password; `null` where somebody is. */
export async function welcomeFirstSteward(
  welcoming: Welcoming,
  given: Partial<Pick<Profile, 'name' | 'email' | 'zone'>>,
): Promise<string | null> {
  const first = { ...FIRST, ...given };
  const id = freshId(first.name, new Set(), 'steward');
  const unknown = await hashOfPassword(randomBytes(32));
  const isMade = await inTransaction(welcoming.pool, async (on) => {
    // Two that begin at once: the second finds the first one's.
    await one(on, store.world.versionLocked());
    if ((await rows(on, store.accounts.ids())).length > 0) return false;
    await runAll(on, [
      store.accounts.create({ ...first, id, title: '', manager: null, role: 'steward', active: true }, unknown),
      store.world.raise(),
      store.audit.add({
        at: welcoming.clock.now(),
        kind: 'personChanged',
        actor: id,
        origin: null,
        about: { name: first.name, role: 'steward', active: 1 },
      }),
    ]);
    return true;
  });
  return isMade ? welcomeLink(welcoming, id) : null;
}

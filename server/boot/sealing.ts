import type { Pool } from 'mysql2/promise';
import { newSecret } from '../delivery/index.ts';
import {
  houseSecretOf,
  inTransaction,
  isSealed,
  NotOpened,
  rows,
  runAll,
  sealOf,
  secondSecretOf,
  secretOf,
  type Statement,
  store,
} from '../store/index.ts';
import { StartError } from './start-error.ts';

/**
 * Seals what was kept before anything was, and sees that what is sealed opens. Answers how many secrets were sealed.
 *
 * Where the key is another than before, the start is refused; unless it is said that the key is lost: then what it sealed
 * is given up. Links that were signed open no more, machines stand paused with a secret of their own, and whoever signed
 * in by a second factor puts it on anew.
 */
export async function checkSeals(pool: Pool, isKeyLost: boolean): Promise<{ sealed: number; isGivenUp: boolean }> {
  try {
    return { sealed: await sealTheBare(pool), isGivenUp: false };
  } catch (error) {
    if (!(error instanceof NotOpened)) throw error;
    if (!isKeyLost)
      throw new StartError(
        'The secrets in the data were sealed by another key. Set OJO_KEY as it was, or bring back the file “key” that lay in the folder of the data. If the key is lost for good, start once with OJO_KEY_LOST=yes: links that were sent open no more, machines want new secrets, and second factors are put on anew.',
      );
    await giveUp(pool);
    return { sealed: await sealTheBare(pool), isGivenUp: true };
  }
}

/** Seals what is not; throws NotOpened where something does not open, and has changed nothing then. */
async function sealTheBare(pool: Pool): Promise<number> {
  const seal = sealOf(pool);
  const [own, machines, seconds] = await Promise.all([
    rows(pool, store.secrets.all()),
    rows(pool, store.machines.all()),
    rows(pool, store.secondFactors.secrets()),
  ]);
  const closed = (kept: string, as: string): string => {
    const bare = seal.open(kept, as);
    return isSealed(kept) ? kept : seal.close(bare, as);
  };
  const statements: Statement[] = [];
  for (const { name, secret } of own) {
    const kept = closed(secret, houseSecretOf(name));
    if (kept !== secret) statements.push(store.secrets.replace(name, kept));
  }
  for (const { id, secret, oldSecret } of machines) {
    const [now, before] = [closed(secret, secretOf(id)), oldSecret && closed(oldSecret, secretOf(id))];
    if (now !== secret || before !== oldSecret) statements.push(store.machines.reseal(id, now, before));
  }
  for (const { person, secret } of seconds) seal.open(secret, secondSecretOf(person));
  if (statements.length > 0) await inTransaction(pool, (on) => runAll(on, [...statements, store.world.raise()]));
  return statements.length;
}

async function giveUp(pool: Pool): Promise<void> {
  const machines = await rows(pool, store.machines.all());
  await inTransaction(pool, (on) =>
    runAll(on, [
      store.secrets.dropAll(),
      store.secondFactors.dropAll(),
      ...machines.flatMap(({ id }) => [
        store.machines.reseal(id, sealOf(pool).close(newSecret(), secretOf(id)), null),
        store.machines.pause(id),
      ]),
      store.world.raise(),
    ]),
  );
}

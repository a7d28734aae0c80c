import { setTimeout as delay } from 'node:timers/promises';
import type { Pool } from 'mysql2/promise';
import type { Moods, StandInName } from '../../contract/wire/index.ts';
import { rows, store } from '../store/index.ts';

/** How a stand-in is to treat what goes to an address; it takes it where nothing else was asked of it. */
export async function moodFor<N extends StandInName>(
  pool: Pool,
  name: N,
  address: string,
): Promise<{ does: Moods[N]['does']; ms: number }> {
  const found = (await rows(pool, store.standins.moods())).find((one) => one.name === name)?.mood;
  const isMeant = found !== undefined && address.toLowerCase().includes(found.only.toLowerCase());
  return isMeant ? { does: found.does as Moods[N]['does'], ms: found.seconds * 1000 } : { does: 'takes', ms: 0 };
}

/** Waits without holding up the end of the process. */
export const patiently = (ms: number): Promise<void> => delay(ms, undefined, { ref: false });

import type { Pool } from 'mysql2/promise';
import { one, store } from '../store/index.ts';

/** Whether requests can be served, and what stands against it. */
export interface Readiness {
  isReady: boolean;
  against: ('closing' | 'database')[];
}

/** The database has so long to answer, in ms. */
const PATIENCE_MS = 2000;

/** Whether a server can serve: it is not about to stop, and its database answers. */
export async function readiness(pool: Pool, isClosing: boolean): Promise<Readiness> {
  let timer: NodeJS.Timeout | undefined;
  const late = new Promise<false>((resolve) => {
    timer = setTimeout(() => resolve(false), PATIENCE_MS);
  });
  const asked = one(pool, store.running.answers()).then(
    (answer) => answer === 1,
    () => false,
  );
  const isAnswering = await Promise.race([asked, late]);
  clearTimeout(timer);
  const against = [...(isClosing ? (['closing'] as const) : []), ...(isAnswering ? [] : (['database'] as const))];
  return { isReady: against.length === 0, against };
}

import type { Pool } from 'mysql2/promise';
import { pino } from 'pino';
import { editItem } from '../server/intake/index.ts';
import { systemClock } from '../server/kit/index.ts';
import { Runner } from '../server/runner/index.ts';
import { DirectoryCache } from '../server/store/index.ts';
import { LOANS } from './museum.ts';

let made = 0;
/** One loan set on view and back, again and again: of two changes one tells four people in Ojo and by email. How many changes there were. */
export async function edits(pool: Pool, count: number, isOver: () => boolean = () => false): Promise<number> {
  let done = 0;
  const item = `L-${++made}`;
  await editItem(pool, {
    actor: 'sol',
    source: LOANS,
    item,
    kind: 'created',
    set: { title: `Tidal Loom (${item})`, status: 'Agreed', registrar: 'ines' },
    at: Date.now(),
  });
  for (; done < count && !isOver(); done++)
    await editItem(pool, {
      actor: 'sol',
      source: LOANS,
      item,
      kind: 'changed',
      set: { status: done % 2 === 0 ? 'On view' : 'Agreed' },
      at: Date.now(),
    });
  return done + 1;
}

/** What decides what is queued, and tells nobody of it. */
export function runnerOn(pool: Pool): Runner {
  return new Runner({
    pool,
    directory: new DirectoryCache(),
    site: { base: 'http://localhost', name: 'Ojo' },
    clock: systemClock,
    log: pino({ level: 'silent' }),
    onArrivals: () => undefined,
    onOutgoing: () => undefined,
    onDecided: () => undefined,
  });
}

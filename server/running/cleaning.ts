import type { Pool } from 'mysql2/promise';
import { DAY_MS, dateIn, type Instant } from '../../core/time/index.ts';
import { inTransaction, type KeptSort, rows, run, runAll, store } from '../store/index.ts';

/** So much is taken away in one step: it holds nobody up. */
const STEP = 200;

/** Whatever holds changes: lists within lists, to any depth. */
function idsIn(value: unknown): string[] {
  if (Array.isArray(value)) return value.flatMap(idsIn);
  return typeof value === 'string' ? [value] : [];
}

/**
 * Takes away a little of what has been kept for longer than the house wants, and counts it. Whether there may be more: it is
 * called again until there is not.
 */
export async function clean(pool: Pool, now: Instant): Promise<boolean> {
  const kept = new Map((await rows(pool, store.keeping.days())).map(({ what, days }) => [what, days]));
  const steps: Record<KeptSort, (before: Instant) => Promise<number>> = {
    messages: (before) => cleanMessages(pool, before),
    trail: (before) => cleanTrail(pool, before),
    engine: async (before) =>
      (await run(pool, store.keeping.dropEngineRows(before, STEP))).affectedRows +
      (await run(pool, store.keeping.dropOldTallies(before, STEP))).affectedRows,
    // A session has its own end; what is over is swept.
    sessions: async () => (await run(pool, store.sessions.sweep(now))).affectedRows,
  };
  let hasMore = false;
  for (const what of Object.keys(steps) as KeptSort[]) {
    const days = kept.get(what);
    if (typeof days !== 'number') continue;
    const taken = await steps[what](now - days * DAY_MS);
    if (taken > 0) await run(pool, store.keeping.count(dateIn(now, 'UTC'), what, taken));
    hasMore ||= taken >= STEP;
  }
  return hasMore;
}

async function cleanMessages(pool: Pool, before: Instant): Promise<number> {
  const ids = await rows(pool, store.keeping.oldMessages(before, STEP));
  const statements = [
    ...(ids.length > 0 ? store.keeping.dropMessages(ids) : []),
    ...store.keeping.dropWithheld(before, STEP),
  ];
  // Of several servers that take away the same, one has done it.
  const done = await inTransaction(pool, (on) => runAll(on, statements));
  return done.slice(-3).reduce((sum, { affectedRows }) => sum + affectedRows, 0);
}

async function cleanTrail(pool: Pool, before: Instant): Promise<number> {
  // Most houses have nothing so old: they are not asked further.
  if ((await rows(pool, store.keeping.oldChanges(before, [], 1))).length === 0) return 0;
  const atWork = [...new Set((await rows(pool, store.keeping.changesAtWork())).flatMap(idsIn))];
  const over = await rows(pool, store.keeping.oldChanges(before, atWork, STEP));
  if (over.length === 0) return 0;
  const done = await inTransaction(pool, (on) => runAll(on, store.keeping.dropChanges(over)));
  return done.at(-1)?.affectedRows ?? 0;
}

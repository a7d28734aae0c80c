import { createHash } from 'node:crypto';
import type { Pool } from 'mysql2/promise';
import { Refusal } from '../../contract/problems.ts';
import { HOUR_MS, type Instant, MINUTE_MS } from '../../core/time/index.ts';
import type { Clock } from '../kit/index.ts';
import { rows, run, runAll, store } from '../store/index.ts';

/** Who is tried by whom: after `most` wrong ones within so many ms, none more for as long from the last of them. */
export interface Bound {
  /** Such as `account`, `mei`; in whatever letters, they are kept as a digest. */
  subject: readonly string[];
  most: number;
  within: number;
}

/** For so long a try is kept, in ms: twice the longest within which any bound counts. */
export const LONGEST = 2 * HOUR_MS;

const digestOf = ({ subject }: Bound): string => createHash('sha256').update(JSON.stringify(subject)).digest('hex');

/**
 * Judges a try at something that only one person knows, unless there were too many wrong ones lately. It is written down as
 * wrong before it is judged, so that many at once count each; a right one takes back what it wrote, and those of its kind
 * (the same subject, but for the ones that say `isShared`) before it. What breaks off in between counts as wrong.
 *
 * @param judge what the try was right for, or `null` where it was wrong
 * @throws Refusal `tooMany`, with the minutes to wait
 */
export async function guarded<T>(
  { pool, clock }: { pool: Pool; clock: Clock },
  bounds: readonly (Bound & { isShared?: boolean })[],
  judge: () => Promise<T | null>,
): Promise<T | null> {
  const now = clock.now();
  const subjects = bounds.map(digestOf);
  await run(pool, store.wrongTries.begin(subjects, now));
  const takeBack = () => runAll(pool, store.wrongTries.takeBack(subjects, now));
  const wait = await longestWait(pool, bounds, now);
  if (wait > 0) {
    await takeBack();
    throw tooMany(wait);
  }
  let found: T | null = null;
  try {
    found = await judge();
  } catch (error) {
    // What could not be judged was no wrong try.
    await takeBack();
    throw error;
  }
  if (found === null) return null;
  await takeBack();
  const own = subjects.filter((_, at) => !bounds[at]?.isShared);
  if (own.length > 0) await run(pool, store.wrongTries.forget(own));
  return found;
}

/** For how long nothing more may be tried, in ms. */
async function longestWait(pool: Pool, bounds: readonly Bound[], now: Instant): Promise<number> {
  const waits = await Promise.all(
    bounds.map(async (bound) => {
      const { most, within } = bound;
      // The first is this try itself.
      const [, ...before] = await rows(pool, store.wrongTries.since(digestOf(bound), now - 2 * within));
      const [last] = before;
      if (last === undefined || last + within <= now) return 0;
      return before.filter((at) => at > last - within).length >= most ? last + within - now : 0;
    }),
  );
  return Math.max(0, ...waits);
}

/** That there were too many, and for how long to wait. */
const tooMany = (wait: number): Refusal =>
  new Refusal('tooMany', {
    because: { code: 'waitMinutes', params: { minutes: Math.ceil(wait / MINUTE_MS) } },
    retryAfterS: Math.ceil(wait / 1000),
  });

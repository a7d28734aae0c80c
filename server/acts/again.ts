import { Refusal } from '../../contract/problems.ts';
import { DAY_MS, type Instant } from '../../core/time/index.ts';
import { inTransaction, rows, runAll, store } from '../store/index.ts';
import type { ActContext } from './context.ts';

/** So far ahead something can be asked for once more, in days. */
const MOST_DAYS = 366;

/**
 * Somebody asks to be told again, later, of what messages of theirs told: alert by alert, in Ojo. Refuses an instant that is
 * not later, or farther ahead than a year, and messages behind which no alert stands.
 */
export async function askAgain(
  context: ActContext,
  messages: readonly string[],
  person: string,
  when: Instant,
): Promise<void> {
  const { pool } = context;
  const at = context.clock.now();
  if (when <= at) throw new Refusal('badRequest', { faults: [{ code: 'notLater', path: 'when', params: {} }] });
  if (when > at + MOST_DAYS * DAY_MS)
    throw new Refusal('badRequest', { faults: [{ code: 'tooFarAhead', path: 'when', params: {} }] });
  const behind = new Map((await rows(pool, store.messages.alertsBehind([...messages]))).map((one) => [one.alert, one]));
  if (behind.size === 0) throw new Refusal('notFound');
  await inTransaction(pool, (on) =>
    runAll(
      on,
      [...behind.values()].map(({ key: alert, rule }) =>
        store.acts.queue({ input: 'again', at, person, rule, alert, when }),
      ),
    ),
  );
  context.wake();
}

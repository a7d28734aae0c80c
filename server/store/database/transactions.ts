import type { Pool, PoolConnection } from 'mysql2/promise';
import {
  acquire,
  type Answers,
  askOn,
  codeOf,
  isRetried,
  isUnavailable,
  isUnsent,
  MOST_UNSENT,
  OutcomeUnknown,
  patient,
  runAll,
  several,
  Unavailable,
} from './connection.ts';
import { type Query, query, type Statement } from './query.ts';

/**
 * Runs `work` in one transaction. A deadlock, a certification failure or a connection cut before the commit was sent
 * starts it again from the beginning, some times; `work` must therefore have no effect but its statements. Where the
 * connection is cut during the commit, an {@link OutcomeUnknown} is thrown: whoever can, finds out. `meanwhile` runs
 * while the commit is on its way and may prepare what follows, but nothing that shows before the commit has come back.
 */
export function inTransaction<T>(
  pool: Pool,
  work: (connection: PoolConnection) => Promise<T>,
  meanwhile?: (result: T) => void,
): Promise<T> {
  return withRetries(pool, async (connection, isAsked) => {
    await isAsked('START TRANSACTION');
    const result = await work(connection);
    const committed = isAsked('COMMIT').catch((error: unknown) => {
      throw isUnavailable(error)
        ? new OutcomeUnknown('the connection was cut while a transaction was being committed', { cause: error })
        : error;
    });
    meanwhile?.(result);
    await committed;
    return result;
  });
}

/** What a short transaction writes last, and what it comes to. */
export interface Ending<T> {
  last: Statement[];
  result: T;
  /** Runs while it is written and committed, and may prepare what follows. */
  meanwhile?: () => void;
}

/**
 * A transaction in as few round trips as can be: it begins together with its first statements, whose rows `work`
 * gets, and commits together with its last ones. Where `work` gives `null`, nothing is kept. Retried like {@link inTransaction}.
 * @param opening what it writes before it reads
 */
export function inShortTransaction<T, const Q extends readonly Query<unknown>[]>(
  pool: Pool,
  opening: Statement[],
  first: Q,
  work: (connection: PoolConnection, found: Answers<Q>) => Promise<Ending<T> | null>,
): Promise<T | null> {
  return withRetries(pool, async (connection) => {
    const found = await several(connection, first, [query('START TRANSACTION'), ...opening]);
    const ending = await work(connection, found);
    const written = runAll(connection, [...(ending?.last ?? []), query(ending ? 'COMMIT' : 'ROLLBACK')]);
    ending?.meanwhile?.();
    await written;
    return ending ? ending.result : null;
  });
}

/** What a guarded transaction met that it did not expect; nothing of it was kept. */
const ELSEWHERE = '45000';

/**
 * A whole transaction in one round trip, for whoever has decided already: `guards` are sub-selects that must each
 * give their value still, and that lock what they look at. Whether it was kept; `false` where a guard gave
 * another value or a row was there already.
 */
export async function inOneTrip(
  pool: Pool,
  guards: { into: string; select: Statement; expected: number }[],
  last: Statement[],
): Promise<boolean> {
  const declared = guards.map(({ into }) => `DECLARE ${into} BIGINT DEFAULT NULL`).join('; ');
  const asked = guards.map(({ select }) => select.sql).join('; ');
  const held = guards.map(({ into }) => `${into} <=> ?`).join(' AND ');
  const guard = `BEGIN NOT ATOMIC ${declared}; ${asked}; IF NOT (${held}) THEN SIGNAL SQLSTATE '${ELSEWHERE}'; END IF; END`;
  const sql = ['START TRANSACTION', guard, ...last.map((one) => one.sql), 'COMMIT'].join(';\n');
  const connection = await acquire(pool);
  try {
    await askOn(
      connection,
      sql,
      [
        ...guards.flatMap(({ select }) => select.params),
        ...guards.map(({ expected }) => expected),
        ...last.flatMap(({ params }) => params),
      ],
      false,
    );
    return true;
  } catch (error) {
    await connection.query('ROLLBACK').catch(() => connection.destroy());
    const { sqlState } = error as { sqlState?: string };
    if (sqlState === ELSEWHERE || codeOf(error) === 'ER_DUP_ENTRY' || isRetried(error)) return false;
    throw error;
  } finally {
    connection.release();
  }
}

type Asking = (sql: string) => Promise<unknown>;

async function withRetries<T>(
  pool: Pool,
  attempt: (connection: PoolConnection, isAsked: Asking) => Promise<T>,
): Promise<T> {
  for (let tries = 1, unsent = 0; ; ) {
    const connection = await acquire(pool);
    try {
      return await attempt(connection, (sql) => askOn(connection, sql, [], patient.has(pool)));
    } catch (error) {
      await connection.query('ROLLBACK').catch(() => connection.destroy());
      if (isUnsent(error) && unsent++ < MOST_UNSENT) continue;
      const isCut =
        isUnavailable(error) &&
        codeOf(error) !== 'PROTOCOL_SEQUENCE_TIMEOUT' &&
        codeOf(error) !== 'ER_STATEMENT_TIMEOUT';
      if (isUnavailable(error) && (!isCut || tries >= 3))
        throw new Unavailable('the database was lost', { cause: error });
      if (!isCut && (tries >= 8 || !isRetried(error))) throw error;
      tries += 1;
    } finally {
      connection.release();
    }
  }
}

import { createPool, type Pool, type PoolConnection, type PoolOptions, type ResultSetHeader } from 'mysql2/promise';
import { type Instant, parseInstant } from '../../core/time/index.ts';

/** A statement before it meets a connection. */
export interface Query {
  sql: string;
  params: Param[];
}
export type Param = string | number | null | Buffer | Param[];

export type Row = Record<string, unknown>;

/** Builds a {@link Query}; the one place where text becomes SQL. */
export const query = (sql: string, ...params: Param[]): Query => ({ sql, params });

/** An instant as the UTC text that DATETIME(3) columns take. */
export const sqlTime = (instant: Instant): string => new Date(instant).toISOString().slice(0, 23).replace('T', ' ');

export interface Connecting {
  host: string;
  port: number;
  user: string;
  password: string;
  database?: string;
}

/** How long one statement may take on the database's side, in seconds, and how long its answer is waited for, in ms. */
const STATEMENT_S = 4;
const ANSWER_MS = 4500;
/** How long a free connection is waited for, in ms. */
const CONNECTION_MS = 3000;

/** The database cannot be reached, or does not answer in time. Nothing is known to have been written. */
export class Unavailable extends Error {
  readonly code = 'unavailable';
}

/** The connection was cut, or the answer failed to come, while a transaction was being committed: it may have been kept. */
export class OutcomeUnknown extends Error {
  readonly code = 'outcomeUnknown';
}

/** What a driver or the system says where a connection is gone, or never was. */
const LOST = new Set([
  'PROTOCOL_CONNECTION_LOST',
  'PROTOCOL_ENQUEUE_AFTER_FATAL_ERROR',
  'PROTOCOL_SEQUENCE_TIMEOUT',
  'ECONNRESET',
  'ECONNREFUSED',
  'ECONNABORTED',
  'EPIPE',
  'ETIMEDOUT',
  'ENOENT',
  'EHOSTUNREACH',
  'ER_CONNECTION_KILLED',
  'ER_SERVER_SHUTDOWN',
  'ER_NORMAL_SHUTDOWN',
  'ER_NEW_ABORTING_CONNECTION',
  'ER_ABORTING_CONNECTION',
  'ER_CON_COUNT_ERROR',
  'ER_QUERY_INTERRUPTED',
  'ER_STATEMENT_TIMEOUT',
]);
const codeOf = (error: unknown): string => String((error as { code?: unknown })?.code ?? '');
/** Whether a failure is the connection's, not the statement's. */
export const isUnavailable = (error: unknown): boolean =>
  error instanceof Unavailable ||
  LOST.has(codeOf(error)) ||
  /closed state|Pool is closed/.test(String((error as Error)?.message));

/**
 * Opens a pool whose connections speak UTC, strict SQL and READ COMMITTED, and hand instants out as milliseconds. A
 * statement has some seconds; whoever migrates or lays out a demo is patient and has as long as it takes.
 */
export function openPool(to: Connecting, size = 10, isPatient = false): Pool {
  const options: PoolOptions = {
    ...to,
    connectionLimit: size,
    connectTimeout: CONNECTION_MS,
    charset: 'utf8mb4_unicode_ci',
    timezone: 'Z',
    supportBigNumbers: true,
    multipleStatements: true,
    typeCast(field, next) {
      if (field.type === 'DATETIME') {
        const text = field.string();
        return text === null ? null : parseInstant(`${text.replace(' ', 'T')}Z`);
      }
      return next();
    },
  };
  const pool = createPool(options);
  if (isPatient) patient.add(pool);
  pool.pool.on('connection', (connection) => {
    connection.query(
      `SET time_zone = '+00:00', sql_mode = 'STRICT_ALL_TABLES,ERROR_FOR_DIVISION_BY_ZERO,NO_ZERO_DATE,NO_ZERO_IN_DATE', SESSION tx_isolation = 'READ-COMMITTED'${isPatient ? '' : `, SESSION max_statement_time = ${STATEMENT_S}`}`,
      // A connection that is cut this early fails whoever asks it first.
      () => undefined,
    );
  });
  return pool;
}

const patient = new WeakSet<Pool>();

export type Connection = Pool | PoolConnection;

const isPool = (on: Connection): on is Pool => 'getConnection' in on;

/** A connection of the pool; where none comes in time, the database is not to be had. */
async function acquire(pool: Pool): Promise<PoolConnection> {
  let isLate = false;
  let timer: NodeJS.Timeout | undefined;
  const wanted = pool.getConnection().then((connection) => {
    if (isLate) connection.release();
    return connection;
  });
  const late = new Promise<never>((_, reject) => {
    timer = setTimeout(
      () => {
        isLate = true;
        reject(new Unavailable('no connection to the database is free'));
      },
      patient.has(pool) ? 60_000 : CONNECTION_MS,
    );
  });
  try {
    return await Promise.race([wanted, late]);
  } catch (error) {
    // Should it fail after nobody waits for it any more, nobody need hear of it.
    wanted.catch(() => undefined);
    throw isUnavailable(error) ? new Unavailable('the database cannot be reached', { cause: error }) : error;
  } finally {
    clearTimeout(timer);
  }
}

/** Asks on a connection; one that does not answer in time is of no more use. */
async function askOn(connection: PoolConnection, sql: string, params: Param[], isPatient: boolean): Promise<unknown> {
  try {
    const [result] = await connection.query(
      isPatient ? { sql, values: params } : { sql, values: params, timeout: ANSWER_MS },
    );
    return result;
  } catch (error) {
    if (codeOf(error) === 'PROTOCOL_SEQUENCE_TIMEOUT') connection.destroy();
    throw error;
  }
}

/** Asks by a connection of its own where it is handed a pool. What only reads is asked once more where the connection was cut. */
async function ask(on: Connection, sql: string, params: Param[], isReading: boolean): Promise<unknown> {
  if (!isPool(on)) return askOn(on, sql, params, false);
  for (let tries = 1; ; tries++) {
    const connection = await acquire(on);
    try {
      return await askOn(connection, sql, params, patient.has(on));
    } catch (error) {
      const isSlow = codeOf(error) === 'PROTOCOL_SEQUENCE_TIMEOUT' || codeOf(error) === 'ER_STATEMENT_TIMEOUT';
      if (!isUnavailable(error) || !isReading || isSlow || tries >= 3)
        throw isUnavailable(error) ? new Unavailable('the database was lost', { cause: error }) : error;
    } finally {
      connection.release();
    }
  }
}

export async function rows<T extends Row>(on: Connection, { sql, params }: Query): Promise<T[]> {
  return (await ask(on, sql, params, true)) as T[];
}

export async function one<T extends Row>(on: Connection, statement: Query): Promise<T | undefined> {
  return (await rows<T>(on, statement))[0];
}

export async function run(on: Connection, { sql, params }: Query): Promise<ResultSetHeader> {
  return (await ask(on, sql, params, false)) as ResultSetHeader;
}

/** Runs several statements in one round trip, in order. */
export async function runAll(on: Connection, statements: Query[]): Promise<ResultSetHeader[]> {
  if (statements.length === 0) return [];
  const results = await ask(
    on,
    statements.map(({ sql }) => sql).join(';\n'),
    statements.flatMap(({ params }) => params),
    false,
  );
  return [results as ResultSetHeader | ResultSetHeader[]].flat();
}

const DEADLOCK = new Set(['ER_LOCK_DEADLOCK', 'ER_LOCK_WAIT_TIMEOUT', 'ER_ERROR_DURING_COMMIT', 'ER_CHECKREAD']);
const isRetried = (error: unknown): boolean => DEADLOCK.has(codeOf(error));

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
  last: Query[];
  result: T;
}

/**
 * A transaction in as few round trips as can be: it begins together with its first statements, whose rows `work`
 * gets, and commits together with its last ones. Where `work` gives `null`, nothing is kept. Retried like {@link inTransaction}.
 */
export function inShortTransaction<T>(
  pool: Pool,
  first: Query[],
  work: (connection: PoolConnection, found: Row[][]) => Promise<Ending<T> | null>,
): Promise<T | null> {
  return withRetries(pool, async (connection) => {
    const [, ...found] = await several(connection, [query('START TRANSACTION'), ...first]);
    const ending = await work(connection, found);
    await runAll(connection, [...(ending?.last ?? []), query(ending ? 'COMMIT' : 'ROLLBACK')]);
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
  guards: { into: string; select: Query; expected: number }[],
  last: Query[],
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

/** The rows of several statements in one round trip, one list a statement. */
export async function several(on: Connection, statements: Query[]): Promise<Row[][]> {
  const results = await ask(
    on,
    statements.map(({ sql }) => sql).join(';\n'),
    statements.flatMap(({ params }) => params),
    true,
  );
  return statements.length === 1 ? [results as Row[]] : (results as Row[][]);
}

type Asking = (sql: string) => Promise<unknown>;

async function withRetries<T>(
  pool: Pool,
  attempt: (connection: PoolConnection, isAsked: Asking) => Promise<T>,
): Promise<T> {
  for (let tries = 1; ; tries++) {
    const connection = await acquire(pool);
    try {
      return await attempt(connection, (sql) => askOn(connection, sql, [], patient.has(pool)));
    } catch (error) {
      await connection.query('ROLLBACK').catch(() => connection.destroy());
      const isCut =
        isUnavailable(error) &&
        codeOf(error) !== 'PROTOCOL_SEQUENCE_TIMEOUT' &&
        codeOf(error) !== 'ER_STATEMENT_TIMEOUT';
      if (isUnavailable(error) && (!isCut || tries >= 3))
        throw new Unavailable('the database was lost', { cause: error });
      if (!isCut && (tries >= 8 || !isRetried(error))) throw error;
    } finally {
      connection.release();
    }
  }
}

/** Reads a JSON column, which MariaDB hands out as text. */
export const fromJson = <T>(text: unknown): T => (typeof text === 'string' ? JSON.parse(text) : text) as T;

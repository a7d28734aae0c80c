import { createPool, type Pool, type PoolConnection, type PoolOptions, type ResultSetHeader, type RowDataPacket } from 'mysql2/promise';
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

/** Opens a pool whose connections speak UTC, strict SQL and READ COMMITTED, and hand instants out as milliseconds. */
export function openPool(to: Connecting, size = 10): Pool {
  const options: PoolOptions = {
    ...to, connectionLimit: size, charset: 'utf8mb4_unicode_ci', timezone: 'Z', supportBigNumbers: true, multipleStatements: true,
    typeCast(field, next) {
      if (field.type === 'DATETIME') {
        const text = field.string();
        return text === null ? null : parseInstant(`${text.replace(' ', 'T')}Z`);
      }
      return next();
    },
  };
  const pool = createPool(options);
  pool.pool.on('connection', (connection) => {
    connection.query("SET time_zone = '+00:00', sql_mode = 'STRICT_ALL_TABLES,ERROR_FOR_DIVISION_BY_ZERO,NO_ZERO_DATE,NO_ZERO_IN_DATE', SESSION tx_isolation = 'READ-COMMITTED'");
  });
  return pool;
}

export type Connection = Pool | PoolConnection;

export async function rows<T extends Row>(on: Connection, { sql, params }: Query): Promise<T[]> {
  const [found] = await on.query<RowDataPacket[]>(sql, params);
  return found as unknown as T[];
}

export async function one<T extends Row>(on: Connection, statement: Query): Promise<T | undefined> {
  return (await rows<T>(on, statement))[0];
}

export async function run(on: Connection, { sql, params }: Query): Promise<ResultSetHeader> {
  const [result] = await on.query<ResultSetHeader>(sql, params);
  return result;
}

/** Runs several statements in one round trip, in order. */
export async function runAll(on: Connection, statements: Query[]): Promise<ResultSetHeader[]> {
  if (statements.length === 0) return [];
  const [results] = await on.query<ResultSetHeader | ResultSetHeader[]>(statements.map(({ sql }) => sql).join(';\n'), statements.flatMap(({ params }) => params));
  return [results].flat();
}

const DEADLOCK = new Set(['ER_LOCK_DEADLOCK', 'ER_LOCK_WAIT_TIMEOUT', 'ER_ERROR_DURING_COMMIT', 'ER_CHECKREAD']);
const isRetried = (error: unknown): boolean => DEADLOCK.has((error as { code?: string }).code ?? '');

/**
 * Runs `work` in one transaction. A deadlock or a certification failure starts it again from the beginning, up
 * to eight times; `work` must therefore have no effect but its statements. `meanwhile` runs while the commit is on
 * its way and may prepare what follows, but nothing that shows before the commit has come back.
 */
export function inTransaction<T>(pool: Pool, work: (connection: PoolConnection) => Promise<T>, meanwhile?: (result: T) => void): Promise<T> {
  return withRetries(pool, async (connection) => {
    await connection.query('START TRANSACTION');
    const result = await work(connection);
    const committed = connection.query('COMMIT');
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
export function inShortTransaction<T>(pool: Pool, first: Query[], work: (connection: PoolConnection, found: Row[][]) => Promise<Ending<T> | null>): Promise<T | null> {
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
export async function inOneTrip(pool: Pool, guards: { into: string; select: Query; expected: number }[], last: Query[]): Promise<boolean> {
  const declared = guards.map(({ into }) => `DECLARE ${into} BIGINT DEFAULT NULL`).join('; ');
  const asked = guards.map(({ select }) => select.sql).join('; ');
  const held = guards.map(({ into }) => `${into} <=> ?`).join(' AND ');
  const guard = `BEGIN NOT ATOMIC ${declared}; ${asked}; IF NOT (${held}) THEN SIGNAL SQLSTATE '${ELSEWHERE}'; END IF; END`;
  const sql = ['START TRANSACTION', guard, ...last.map((one) => one.sql), 'COMMIT'].join(';\n');
  const connection = await pool.getConnection();
  try {
    await connection.query(sql, [...guards.flatMap(({ select }) => select.params), ...guards.map(({ expected }) => expected), ...last.flatMap(({ params }) => params)]);
    return true;
  } catch (error) {
    await connection.query('ROLLBACK').catch(() => connection.destroy());
    const { sqlState, code } = error as { sqlState?: string; code?: string };
    if (sqlState === ELSEWHERE || code === 'ER_DUP_ENTRY' || isRetried(error)) return false;
    throw error;
  } finally {
    connection.release();
  }
}

/** The rows of several statements in one round trip, one list a statement. */
export async function several(on: Connection, statements: Query[]): Promise<Row[][]> {
  const [results] = await on.query(statements.map(({ sql }) => sql).join(';\n'), statements.flatMap(({ params }) => params));
  return statements.length === 1 ? [results as Row[]] : (results as Row[][]);
}

async function withRetries<T>(pool: Pool, attempt: (connection: PoolConnection) => Promise<T>): Promise<T> {
  for (let tries = 1; ; tries++) {
    const connection = await pool.getConnection();
    try {
      return await attempt(connection);
    } catch (error) {
      await connection.query('ROLLBACK').catch(() => connection.destroy());
      if (tries >= 8 || !isRetried(error)) throw error;
    } finally {
      connection.release();
    }
  }
}

/** Reads a JSON column, which MariaDB hands out as text. */
export const fromJson = <T>(text: unknown): T => (typeof text === 'string' ? JSON.parse(text) : text) as T;

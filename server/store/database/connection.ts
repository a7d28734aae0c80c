import { type Connection as CoreConnection, format, type QueryOptions } from 'mysql2';
import { createPool, type Pool, type PoolConnection, type PoolOptions, type ResultSetHeader } from 'mysql2/promise';
import { type Node, nodeFailed, Nodes, nodesOf } from './nodes.ts';
import { sealWith } from './sealing.ts';
import { fromSqlTime, type Param, type Query, type Row, type Statement } from './query.ts';

/** Where a database is and who connects to it. */
export interface Connecting {
  host: string;
  port: number;
  user: string;
  password: string;
  database?: string;
  /** Further nodes of the same cluster, gone to in this order when one fails. */
  others?: readonly Node[];
  /** What secrets are sealed by before they are kept; without it the password is. */
  key?: string;
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

/** What a node says that is no part of its cluster: it has lost the others, or has not caught up with them yet (1047). */
const NOT_IN_CLUSTER = 'ER_UNKNOWN_COM_ERROR';
/** What the database says where a transaction met another's, on this node or, at its end, on another: nothing of it was kept. */
const DEADLOCK = new Set(['ER_LOCK_DEADLOCK', 'ER_LOCK_WAIT_TIMEOUT', 'ER_ERROR_DURING_COMMIT', 'ER_CHECKREAD']);
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
  NOT_IN_CLUSTER,
]);
/** The code of a database's error (`ER_…`, `ECONNREFUSED` …); the empty string where it has none. */
export const codeOf = (error: unknown): string => String((error as { code?: unknown })?.code ?? '');
/** Whether a transaction may be begun anew that failed so. */
export const isRetried = (error: unknown): boolean => DEADLOCK.has(codeOf(error));
/** Whether a failure is the connection's, not the statement's. */
export const isUnavailable = (error: unknown): boolean =>
  error instanceof Unavailable ||
  LOST.has(codeOf(error)) ||
  /closed state|Pool is closed/.test(String((error as Error)?.message));
/** Whether nothing was even sent: the connection had been cut while nobody used it. */
export const isUnsent = (error: unknown): boolean =>
  codeOf(error) === 'PROTOCOL_ENQUEUE_AFTER_FATAL_ERROR' || /closed state/.test(String((error as Error)?.message));
/** More connections than a pool has may have been cut at once. */
export const MOST_UNSENT = 20;

/**
 * Opens a pool whose connections speak UTC, strict SQL and READ COMMITTED, and hand instants out as milliseconds. A
 * statement has some seconds; whoever migrates or lays out a demo is patient and has as long as it takes.
 */
export function openPool(connecting: Connecting, size = 10, isPatient = false): Pool {
  const nodes = nodesTo(connecting);
  const [pool, single] = [true, false].map((isForSeveral) =>
    onePool(connecting, { size, isPatient, nodes, isForSeveral }),
  ) as [Pool, Pool];
  sealWith(pool, connecting.key ?? connecting.password);
  singleOf.set(pool, single);
  const end = pool.end.bind(pool);
  pool.end = async () => void (await Promise.all([end(), single.end()]));
  return pool;
}

/** For each pool the one by whose connections a single statement is asked: they take no second one behind it. */
const singleOf = new WeakMap<Pool, Pool>();

const nodesTo = ({ others = [], key: _, ...to }: Connecting): Nodes | null =>
  others.length > 0 ? new Nodes([to, ...others]) : null;

interface PoolParts {
  size: number;
  isPatient: boolean;
  nodes: Nodes | null;
  /** Whether its connections take several statements at once, as transactions send them. */
  isForSeveral: boolean;
}

function onePool(
  { others: _, key: _key, ...to }: Connecting,
  { size, isPatient, nodes, isForSeveral }: PoolParts,
): Pool {
  const options: PoolOptions = {
    ...to,
    ...(nodes ? { stream: nodes.open } : {}),
    connectionLimit: size,
    connectTimeout: CONNECTION_MS,
    charset: 'utf8mb4_unicode_ci',
    timezone: 'Z',
    supportBigNumbers: true,
    multipleStatements: isForSeveral,
    typeCast(field, next) {
      if (field.type === 'DATETIME') {
        const text = field.string();
        return text === null ? null : fromSqlTime(text);
      }
      return next();
    },
  };
  const pool = createPool(options);
  if (isPatient) patient.add(pool);
  if (nodes) nodesOf.set(pool, nodes);
  pool.pool.on('connection', (connection) => {
    nodes?.isIn(connection);
    connection.query(
      `SET time_zone = '+00:00', sql_mode = 'STRICT_ALL_TABLES,ERROR_FOR_DIVISION_BY_ZERO,NO_ZERO_DATE,NO_ZERO_IN_DATE', SESSION tx_isolation = 'READ-COMMITTED'${isPatient ? '' : `, SESSION max_statement_time = ${STATEMENT_S}`}${nodes ? CAUGHT_UP : ''}`,
      // A connection that is cut this early fails whoever asks it first.
      () => undefined,
    );
  });
  return pool;
}

/** Whatever is asked of a node of a cluster waits until it has what the others had committed by then. */
const CAUGHT_UP = ', SESSION wsrep_sync_wait = 7';

/** Pools and connections whose statements may take as long as they need: those of migrations. */
export const patient = new WeakSet<Connection>();

/** What statements run on: a pool, or one connection within a transaction. */
export type Connection = Pool | PoolConnection;

const isPool = (on: Connection): on is Pool => 'getConnection' in on;

/** A connection to the node in use, or to the next where that cannot be reached; those to one that was left are of no more use. */
async function atNodeInUse(pool: Pool): Promise<PoolConnection> {
  const nodes = nodesOf.get(pool);
  for (let tries = 1; ; ) {
    try {
      const connection = await pool.getConnection();
      if (!nodes?.isElsewhere(connection)) return connection;
      connection.destroy();
    } catch (error) {
      if (!nodes || tries >= nodes.count || !isUnavailable(error)) throw error;
      tries++;
    }
  }
}

/** A connection of the pool; where none comes in time, the database is not to be had. */
export async function acquire(pool: Pool): Promise<PoolConnection> {
  let isLate = false;
  let timer: NodeJS.Timeout | undefined;
  const wanted = atNodeInUse(pool).then((connection) => {
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

/** The driver's own promises note at each question where it was asked, which takes longer than asking it. */
const asked = ({ connection }: PoolConnection, options: QueryOptions): Promise<unknown> =>
  new Promise((resolve, reject) => {
    (connection as unknown as CoreConnection).query(options, (error, result) =>
      error ? reject(error) : resolve(result),
    );
  });

/** Asks on a connection; one that does not answer in time is of no more use. */
export async function askOn(
  connection: PoolConnection,
  sql: string,
  params: Param[],
  isPatient: boolean,
): Promise<unknown> {
  try {
    // A text with nothing to put in is not looked through: of a whole turn's statements it is long.
    const values = params.length > 0 ? params : null;
    return await asked(connection, isPatient ? { sql, values } : { sql, values, timeout: ANSWER_MS });
  } catch (error) {
    if (codeOf(error) === NOT_IN_CLUSTER) nodeFailed(connection);
    if (codeOf(error) === NOT_IN_CLUSTER || codeOf(error) === 'PROTOCOL_SEQUENCE_TIMEOUT' || isUnsent(error))
      connection.destroy();
    throw error;
  }
}

/** Whether a question that failed so may be asked again: nothing of it was kept, or it only reads. */
function mayAskAgain(error: unknown, tries: number, isReading: boolean, isSingle: boolean): boolean {
  if (isUnsent(error)) return tries < MOST_UNSENT;
  // One statement by itself is a transaction.
  if (isSingle && isRetried(error)) return tries < 8;
  const isSlow = codeOf(error) === 'PROTOCOL_SEQUENCE_TIMEOUT' || codeOf(error) === 'ER_STATEMENT_TIMEOUT';
  return isUnavailable(error) && isReading && !isSlow && tries < 3;
}

/** Asks by a connection of its own where it is handed a pool. What only reads is asked once more where the connection was cut. */
async function ask(
  on: Connection,
  sql: string,
  params: Param[],
  { isReading, isSingle }: { isReading: boolean; isSingle: boolean },
): Promise<unknown> {
  if (!isPool(on)) return askOn(on, sql, params, patient.has(on));
  const pool = isSingle ? (singleOf.get(on) ?? on) : on;
  for (let tries = 1; ; tries++) {
    const connection = await acquire(pool);
    try {
      return await askOn(connection, sql, params, patient.has(on));
    } catch (error) {
      if (!mayAskAgain(error, tries, isReading, isSingle))
        throw isUnavailable(error) ? new Unavailable('the database was lost', { cause: error }) : error;
    } finally {
      connection.release();
    }
  }
}

/** The rows of a query, as its decoder makes them. */
export async function rows<T>(on: Connection, asked: Query<T>): Promise<T[]> {
  return ((await ask(on, asked.sql, asked.params, { isReading: true, isSingle: true })) as Row[]).map(asked.decode);
}

/** Its first row. */
export async function one<T>(on: Connection, asked: Query<T>): Promise<T | undefined> {
  return (await rows(on, asked))[0];
}

/** Runs a statement; throws the database's error. */
export async function run(on: Connection, { sql, params }: Statement): Promise<ResultSetHeader> {
  return (await ask(on, sql, params, { isReading: false, isSingle: true })) as ResultSetHeader;
}

/** A statement with its parameters in its text, as the driver would put them there; for whoever has time for it before it is run. */
export const writtenOut = ({ sql, params }: Statement): Statement =>
  params.length === 0 ? { sql, params } : { sql: format(sql, params, false, 'Z'), params: [] };

/** Runs several statements in one round trip, in order. */
export async function runAll(on: Connection, statements: readonly Statement[]): Promise<ResultSetHeader[]> {
  if (statements.length === 0) return [];
  const sql = statements.map((statement) => writtenOut(statement).sql).join(';\n');
  const results = await ask(on, sql, [], { isReading: false, isSingle: false });
  return [results as ResultSetHeader | ResultSetHeader[]].flat();
}

/** The rows of several queries, each as its query decodes them. */
export type Answers<Q extends readonly Query<unknown>[]> = {
  -readonly [K in keyof Q]: Q[K] extends Query<infer T> ? T[] : never;
};

/** The rows of several queries in one round trip, one list a query; `before` is what is written ahead of them. */
export async function several<const Q extends readonly Query<unknown>[]>(
  on: Connection,
  queries: Q,
  before: readonly Statement[] = [],
): Promise<Answers<Q>> {
  if (queries.length === 0) return [] as unknown as Answers<Q>;
  const statements = [...before, ...queries];
  const results = await ask(
    on,
    statements.map(({ sql }) => sql).join(';\n'),
    statements.flatMap(({ params }) => params),
    { isReading: true, isSingle: false },
  );
  const lists = (statements.length === 1 ? [results] : results) as Row[][];
  return queries.map(({ decode }, at) => (lists[before.length + at] ?? []).map(decode)) as unknown as Answers<Q>;
}

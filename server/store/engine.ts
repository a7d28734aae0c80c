import { keyOf, type Input, type Put, type Shelf, type Timer } from '../../core/decide/index.ts';
import type { Instant } from '../../core/time/index.ts';
import { fromJson, type Param, type Query, query, type Row, sqlTime } from './connection.ts';
import { shortKey } from './keys.ts';

/** The id of one of the engine's rows. */
export const rowId = (shelf: Shelf, key: string): string => shortKey(`${shelf}/${key}`);
/** The id of a group of the engine's rows. */
export const groupId = (shelf: Shelf, group: string): string => shortKey(`${shelf}//${group}`);

/** A row of the engine as it is stored. */
export interface StoredRow {
  id: string;
  group: string;
  value: unknown;
}

export const toEngineRow = (row: Row): StoredRow => ({
  id: String(row.id),
  group: String(row.of_group),
  value: fromJson(row.value),
});

export const rowsByIdQuery = (ids: string[]): Query =>
  query('SELECT id, of_group, value FROM engine_rows WHERE id IN (?)', ids);
export const rowsOfGroupsQuery = (groups: string[]): Query =>
  query('SELECT id, of_group, value FROM engine_rows WHERE of_group IN (?) ORDER BY seq', groups);

/** Writes the engine's rows as they are now; those that are over are taken away. */
export function putRowsQueries(puts: readonly Put[]): Query[] {
  const over = puts.filter((put) => put.row === null).map((put) => rowId(put.shelf, put.key));
  const kept = puts
    .filter((put) => put.row !== null)
    .map((put): Param[] => {
      const row = put.row as { rule?: string; item?: string; to?: string; person?: string };
      return [
        rowId(put.shelf, put.key),
        put.shelf,
        groupId(put.shelf, put.group),
        row.rule ?? null,
        row.item ?? null,
        row.to ?? row.person ?? null,
        JSON.stringify(put.row),
      ];
    });
  return [
    ...(over.length > 0 ? [query('DELETE FROM engine_rows WHERE id IN (?)', over)] : []),
    ...(kept.length > 0
      ? [
          query(
            'INSERT INTO engine_rows (id, shelf, of_group, rule_id, item_id, recipient, value) VALUES ? ON DUPLICATE KEY UPDATE of_group = VALUES(of_group), value = VALUES(value)',
            kept,
          ),
        ]
      : []),
  ];
}

export const timerId = ({ key }: Timer): string => shortKey(`timer/${key}`);

/** Sets timers; one that waits already goes on waiting. */
export const setTimersQueries = (timers: readonly Timer[]): Query[] =>
  timers.length === 0
    ? []
    : [
        query(
          'INSERT INTO timers (id, due_at, of_rank, rule_id, item_id, person_id, of_task, timer) VALUES ? ON DUPLICATE KEY UPDATE id = timers.id',
          timers.map((timer): Param[] => [
            timerId(timer),
            sqlTime(timer.due),
            timer.rank,
            timer.rule,
            timer.item,
            timer.person,
            timer.task.task === 'escalate' ? 0 : 1,
            JSON.stringify(timer),
          ]),
        ),
      ];

/** The next timers, in the order in which they run; up to an instant, where one is given. */
export const nextTimersQuery = (until: Instant | null, now: Instant, limit: number): Query =>
  query(
    `SELECT id, due_at, timer FROM timers WHERE ${until === null ? '' : 'due_at <= ? AND '}(not_before IS NULL OR not_before <= ?) ORDER BY due_at, of_rank, rule_id, item_id, person_id, of_task, seq LIMIT ?`,
    ...(until === null ? [] : [sqlTime(until)]),
    sqlTime(now),
    limit,
  );
export const toTimer = (row: Row): Timer => fromJson<Timer>(row.timer);
export const timersDoneQueries = (timers: readonly Timer[]): Query[] =>
  timers.length === 0 ? [] : [query('DELETE FROM timers WHERE id IN (?)', timers.map(timerId))];
export const putOffTimerQuery = (timer: Timer, until: Instant, error: string): Query =>
  query(
    'UPDATE timers SET tries = tries + 1, not_before = ?, error = ? WHERE id = ?',
    sqlTime(until),
    error.slice(0, 1000),
    timerId(timer),
  );

/** Acts that wait their turn among the changes. */
export type QueuedAct = Exclude<Input, { input: 'change' | 'timer' }>;

export const queueActQuery = (act: QueuedAct): Query =>
  query('INSERT INTO act_queue (at, act) VALUES (?)', [sqlTime(act.at), JSON.stringify(act)]);
/** Queues what a person did, where anything of the engine's waits for what they have seen. */
export const queueSeenQuery = (act: Extract<QueuedAct, { person: string }>): Query =>
  query(
    'INSERT INTO act_queue (at, act) SELECT ?, ? FROM DUAL WHERE EXISTS (SELECT 1 FROM engine_rows WHERE of_group = ?)',
    sqlTime(act.at),
    JSON.stringify(act),
    groupId('hearings', keyOf(act.person)),
  );
export const nextActsQuery = (now: Instant, limit: number): Query =>
  query(
    'SELECT id, act FROM act_queue WHERE not_before IS NULL OR not_before <= ? ORDER BY at, id LIMIT ?',
    sqlTime(now),
    limit,
  );
/** Keeps what people did as it was decided. */
export const keepActsQueries = (acts: readonly QueuedAct[]): Query[] =>
  acts.length === 0
    ? []
    : [
        query(
          'INSERT INTO decided_acts (at, act) VALUES ?',
          acts.map((act): Param[] => [sqlTime(act.at), JSON.stringify(act)]),
        ),
      ];
export const toAct = (row: Row): { id: number; act: QueuedAct } => ({
  id: Number(row.id),
  act: fromJson<QueuedAct>(row.act),
});
export const actsDoneQueries = (ids: readonly number[]): Query[] =>
  ids.length === 0 ? [] : [query('DELETE FROM act_queue WHERE id IN (?)', [...ids])];
export const putOffActQuery = (id: number, until: Instant, error: string): Query =>
  query(
    'UPDATE act_queue SET tries = tries + 1, not_before = ?, error = ? WHERE id = ?',
    sqlTime(until),
    error.slice(0, 1000),
    id,
  );

/** Takes the turn to decide, which every other server waits for. */
export const takeTurnQuery = (): Query => query('UPDATE world_version SET turn = turn + 1 WHERE id = 1');

/** What of one instant is decided first: rules' acts, then changes as they came, then what people did, then timers. */
export type Rank = 0 | 1 | 2 | 3;

/** A place in the one order in which everything is decided; `seq` tells changes of one instant apart. */
export interface OrderPlace {
  at: Instant;
  rank: Rank;
  seq: number;
}

/** Whether one place comes after another. What people did may share one, and so may timers: those come as they were written. */
export const isAfter = (one: OrderPlace, other: OrderPlace): boolean =>
  one.at > other.at ||
  (one.at === other.at &&
    (one.rank > other.rank || (one.rank === other.rank && (one.rank !== 1 || one.seq > other.seq))));

/** The world's version, and where deciding stands. */
export const turnQuery = (): Query =>
  query('SELECT version, decided_at, decided_rank, decided_seq FROM world_version WHERE id = 1');
export const toPlace = (row: Row): OrderPlace => ({
  at: row.decided_at as Instant,
  rank: Number(row.decided_rank) as Rank,
  seq: Number(row.decided_seq),
});
/** Writes down how far deciding has come. */
export const decidedToQuery = ({ at, rank, seq }: OrderPlace): Query =>
  query(
    'UPDATE world_version SET decided_at = ?, decided_rank = ?, decided_seq = ? WHERE id = 1',
    sqlTime(at),
    rank,
    seq,
  );
/** Whether a place comes after all that is decided, as 1 or 0 into a variable; for transactions in one trip. */
export const isNextIntoQuery = (variable: string, { at, rank, seq }: OrderPlace): Query =>
  query(
    `SELECT decided_at < ? OR (decided_at = ? AND (decided_rank < ? OR (decided_rank = ? AND decided_seq < ?))) INTO ${variable} FROM world_version WHERE id = 1`,
    sqlTime(at),
    sqlTime(at),
    rank,
    rank,
    seq,
  );

export const followersQuery = (items: string[]): Query =>
  query('SELECT item_id, person_id FROM followers WHERE item_id IN (?) ORDER BY person_id', items);
/** The items that somebody keeps an eye on. */
export const followedQuery = (person: string): Query =>
  query(
    'SELECT f.item_id, i.source_id FROM followers f JOIN items i ON i.id = f.item_id WHERE f.person_id = ?',
    person,
  );
export const followQuery = (items: string[], person: string): Query =>
  query(
    'INSERT IGNORE INTO followers (item_id, person_id) VALUES ?',
    items.map((item) => [item, person]),
  );
export const endFollowQuery = (items: string[], person: string): Query =>
  query('DELETE FROM followers WHERE item_id IN (?) AND person_id = ?', items, person);
export const presentQuery = (people: string[], now: Instant): Query =>
  query('SELECT DISTINCT person_id FROM presence WHERE person_id IN (?) AND until > ?', people, sqlTime(now));
/** People are in Ojo, by way of one server, until an instant. */
export const presentAsQuery = (people: string[], server: string, until: Instant): Query =>
  query(
    'INSERT INTO presence (person_id, server, until) VALUES ? ON DUPLICATE KEY UPDATE until = VALUES(until)',
    people.map((person) => [person, server, sqlTime(until)]),
  );
export const absentQuery = (person: string, server: string): Query =>
  query('DELETE FROM presence WHERE person_id = ? AND server = ?', person, server);

/** The timers of these rules that remind of an alert or tell others, in order of time. */
export const followingQuery = (rules: string[]): Query =>
  query(
    "SELECT due_at, timer FROM timers WHERE rule_id IN (?) AND JSON_VALUE(timer, '$.task.task') IN ('remind', 'escalate') ORDER BY due_at",
    rules,
  );

/** What gathers for somebody: how many items wait for which instant, by channel. */
export const gatheringQuery = (person: string): Query =>
  query(
    "SELECT JSON_VALUE(value, '$.channel') AS channel, JSON_VALUE(value, '$.due') AS due, COUNT(DISTINCT item_id) AS items FROM engine_rows WHERE shelf = 'waiting' AND recipient = ? GROUP BY 1, 2 ORDER BY due",
    person,
  );

import { type Input, keyOf } from '../../../core/decide/index.ts';
import type { Instant } from '../../../core/time/index.ts';
import {
  json,
  number,
  type Param,
  type Query,
  query,
  record,
  select,
  sqlTime,
  type Statement,
} from '../database/query.ts';
import { groupId } from './rows.ts';

/** Acts that wait their turn among the changes. */
export type QueuedAct = Exclude<Input, { input: 'change' | 'timer' }>;

/** Puts an act in line to be decided, as of its instant. */
export const queue = (act: QueuedAct): Statement =>
  query('INSERT INTO act_queue (at, act) VALUES (?)', [sqlTime(act.at), JSON.stringify(act)]);
/** Queues what a person did, where anything of the engine's waits for what they have seen, or they asked to be told again of what they take on. */
export const queueSeen = (act: Extract<QueuedAct, { person: string }>): Statement =>
  query(
    'INSERT INTO act_queue (at, act) SELECT ?, ? FROM DUAL WHERE EXISTS (SELECT 1 FROM engine_rows WHERE of_group IN (?))',
    sqlTime(act.at),
    JSON.stringify(act),
    [
      groupId('receipts', keyOf(act.person)),
      ...(act.input === 'acknowledge' ? [groupId('agains', keyOf(act.rule))] : []),
    ],
  );
/** The acts to decide next, by their instants; what was put off comes once its time has. */
export const next = (now: Instant, limit: number): Query<{ id: number; act: QueuedAct }> =>
  select(
    record({ id: number('id'), act: json<QueuedAct>('act') }),
    'SELECT id, act FROM act_queue WHERE not_before IS NULL OR not_before <= ? ORDER BY at, id LIMIT ?',
    sqlTime(now),
    limit,
  );
/** Keeps what people did as it was decided. */
export const keep = (acts: readonly QueuedAct[]): Statement[] =>
  acts.length === 0
    ? []
    : [
        query(
          'INSERT INTO decided_acts (at, act) VALUES ?',
          acts.map((act): Param[] => [sqlTime(act.at), JSON.stringify(act)]),
        ),
      ];
/** Takes acts out of the line. */
export const done = (ids: readonly number[]): Statement[] =>
  ids.length === 0 ? [] : [query('DELETE FROM act_queue WHERE id IN (?)', [...ids])];
/** An act could not be decided: it is tried again later. */
export const putOff = (id: number, until: Instant, error: string): Statement =>
  query(
    'UPDATE act_queue SET tries = tries + 1, not_before = ?, error = ? WHERE id = ?',
    sqlTime(until),
    error.slice(0, 1000),
    id,
  );
/** How often one could not be decided so far. */
export const tries = (id: number): Query<number> =>
  select(number('tries'), 'SELECT tries FROM act_queue WHERE id = ?', id);

import { rankOfTask, type Timer } from '../../../core/decide/index.ts';
import type { Instant } from '../../../core/time/index.ts';
import { shortKey } from '../database/keys.ts';
import { json, number, type Param, type Query, query, select, sqlTime, type Statement } from '../database/query.ts';

/** The id under which a timer is kept. */
export const timerId = ({ key }: Timer): string => shortKey(`timer/${key}`);

/** Sets timers; one that waits already goes on waiting. */
export const set = (timers: readonly Timer[]): Statement[] =>
  timers.length === 0
    ? []
    : [
        query(
          `INSERT INTO timers (id, due_at, of_rank, rule_id, item_id, person_id, of_task, timer)
            VALUES ?
            ON DUPLICATE KEY UPDATE id = timers.id`,
          timers.map((timer): Param[] => [
            timerId(timer),
            sqlTime(timer.due),
            timer.rank,
            timer.rule,
            timer.item,
            timer.person,
            rankOfTask(timer),
            JSON.stringify(timer),
          ]),
        ),
      ];

/** The next timers, in the order in which they run; up to an instant, where one is given. */
export const next = (until: Instant | null, now: Instant, limit: number): Query<Timer> =>
  select(
    json('timer'),
    `SELECT id, due_at, timer
      FROM timers
      WHERE ${until === null ? '' : 'due_at <= ? AND '}(not_before IS NULL OR not_before <= ?)
      ORDER BY due_at, of_rank, rule_id, item_id, person_id, of_task, seq
      LIMIT ?`,
    ...(until === null ? [] : [sqlTime(until)]),
    sqlTime(now),
    limit,
  );
/** Takes timers away that have run. */
export const done = (timers: readonly Timer[]): Statement[] =>
  timers.length === 0 ? [] : [query('DELETE FROM timers WHERE id IN (?)', timers.map(timerId))];
/** A timer could not be run: it is tried again later. */
export const putOff = (timer: Timer, until: Instant, error: string): Statement =>
  query(
    'UPDATE timers SET tries = tries + 1, not_before = ?, error = ? WHERE id = ?',
    sqlTime(until),
    error.slice(0, 1000),
    timerId(timer),
  );

/** The timers of these rules that remind of an alert or tell others, in order of time. */
export const following = (rules: string[]): Query<Timer> =>
  select(
    json('timer'),
    `SELECT due_at, timer
      FROM timers
      WHERE rule_id IN (?) AND JSON_VALUE(timer, '$.task.task') IN ('remind', 'escalate')
      ORDER BY due_at`,
    rules,
  );
/** How often one could not be decided so far. */
export const tries = (timer: Timer): Query<number> =>
  select(number('tries'), 'SELECT tries FROM timers WHERE id = ?', timerId(timer));

import type { CivilDate, Instant } from '../../core/time/index.ts';
import {
  json,
  nullable,
  number,
  type Query,
  query,
  record,
  select,
  sqlTime,
  type Statement,
  text,
  word,
} from './database/query.ts';

/** What is kept for a time that the house chooses. */
export type Kept = 'messages' | 'trail' | 'engine' | 'sessions';
/** For how many days each sort is kept; `null`: for ever. */
export const days = (): Query<{ what: Kept; days: number | null }> =>
  select(record({ what: word<Kept>('what'), days: nullable(number)('days') }), 'SELECT what, days FROM keeping');
/** Keeps a sort for so many days from now on. */
export const save = (what: Kept, for_: number | null): Statement =>
  query('UPDATE keeping SET days = ? WHERE what = ?', for_, what);
/** What was taken away on the last days, the newest first. */
export const cleaned = (since: CivilDate): Query<{ day: string; what: Kept; count: number }> =>
  select(
    record({ day: text('on_day'), what: word<Kept>('what'), count: number('count') }),
    `SELECT DATE_FORMAT(day, '%Y-%m-%d') AS on_day, what, count
      FROM cleanings
      WHERE day >= ? AND count > 0
      ORDER BY day DESC, what`,
    since,
  );
/** Counts what was taken away. */
export const count = (day: CivilDate, what: Kept, taken: number): Statement =>
  query('INSERT INTO cleanings (day, what, count) VALUES (?) ON DUPLICATE KEY UPDATE count = count + VALUES(count)', [
    day,
    what,
    taken,
  ]);

/** Messages that met their fate before an instant, a few of the oldest; none whose words a younger one shows, none that still waits. */
export const oldMessages = (before: Instant, most: number): Query<string> =>
  select(
    text('id'),
    `SELECT m.id FROM messages m WHERE m.at < ? AND m.fate NOT IN ('waiting', 'sending')
       AND NOT EXISTS (SELECT 1 FROM messages s WHERE s.content_of = m.id AND (s.at >= ? OR s.fate IN ('waiting', 'sending')))
     ORDER BY m.at LIMIT ?`,
    sqlTime(before),
    sqlTime(before),
    most,
  );
/** Takes messages away, with what is known of their sending; those first whose words stand with others. */
export const dropMessages = (ids: string[]): Statement[] => [
  query('DELETE FROM attempts WHERE message_id IN (?)', ids),
  query('DELETE FROM message_alerts WHERE message_id IN (?)', ids),
  query('DELETE FROM messages WHERE id IN (?)', ids),
];
/** Takes away who was withheld what, and what came to nothing, before an instant: a few at once. */
export const dropWithheld = (before: Instant, most: number): Statement[] => [
  query('DELETE FROM withheld WHERE at < ? LIMIT ?', sqlTime(before), most),
  query('DELETE FROM dropped WHERE at < ? LIMIT ?', sqlTime(before), most),
];

/** The changes that the engine still works with: they gather, wait, or stand in an alert that is open. */
export const changesAtWork = (): Query<unknown> =>
  select(
    json('changes'),
    `SELECT JSON_EXTRACT(value, '$**.changes') AS changes
      FROM engine_rows
      WHERE shelf NOT IN ('dues', 'idles', 'coolDowns', 'openItems', 'tallied', 'tallies', 'reported') AND JSON_EXTRACT(value, '$**.changes') IS NOT NULL`,
  );
/** Changes of before an instant, a few of the oldest; of each item its last one stays, and so do those that are at work. Looks go, all of them. */
export const oldChanges = (
  before: Instant,
  atWork: readonly string[],
  most: number,
): Query<{ seq: number; source: string; id: string }> =>
  select(
    record({ seq: number('seq'), source: text('source_id'), id: text('id') }),
    `SELECT c.seq, c.source_id, c.id FROM changes c JOIN items i ON i.id = c.item_id
     WHERE c.at < ? AND (c.item_version < i.version OR c.item_version IS NULL) AND NOT EXISTS (SELECT 1 FROM change_queue q WHERE q.change_seq = c.seq)${atWork.length > 0 ? ' AND c.id NOT IN (?)' : ''}
     ORDER BY c.at LIMIT ?`,
    sqlTime(before),
    ...(atWork.length > 0 ? [[...atWork]] : []),
    most,
  );
/** Takes changes away, with which alerts they stood in; an alert without any goes too. */
export const dropChanges = (changes: readonly { seq: number; source: string; id: string }[]): Statement[] => [
  query(
    'DELETE FROM alert_changes WHERE (source_id, change_id) IN (?)',
    changes.map(({ source, id }) => [source, id]),
  ),
  query(
    'DELETE FROM changes WHERE seq IN (?)',
    changes.map(({ seq }) => seq),
  ),
];
/** Takes away what was counted for versions of rules that others followed before an instant, a few rows at once. */
export const dropOldTallies = (before: Instant, most: number): Statement =>
  query(
    `DELETE FROM engine_rows WHERE shelf IN ('tallied', 'tallies') AND CAST(JSON_VALUE(value, '$.version') AS SIGNED) < (
       SELECT MAX(p.version) FROM rule_phases p WHERE p.rule_id = engine_rows.rule_id AND p.since < ?) LIMIT ?`,
    sqlTime(before),
    most,
  );
/** Takes away what the engine remembers of rules that ended before an instant, a few rows at once. */
export const dropEngineRows = (before: Instant, most: number): Statement =>
  query(
    `DELETE FROM engine_rows WHERE rule_id IN (
       SELECT rule_id FROM rule_phases GROUP BY rule_id HAVING SUM(until IS NULL) = 0 AND MAX(until) < ?) LIMIT ?`,
    sqlTime(before),
    most,
  );

import type { Instant } from '../../core/time/index.ts';
import { instant, nullable, number, type Query, record, select, sqlTime, text, word } from './database/query.ts';

/** What waits: how many of a sort, and since when the oldest could have gone on. */
export interface Waiting {
  what: 'changes' | 'acts' | 'timers' | 'email' | 'text' | 'webhook' | 'aside';
  count: number;
  oldest: Instant | null;
}

/** Everything that waits to be decided or sent at an instant, and what stands aside; sorts of which nothing waits are left out. */
export const waiting = (now: Instant): Query<Waiting> =>
  select(
    record<Waiting>({ what: word('what'), count: number('waiting'), oldest: nullable(instant)('oldest') }),
    `SELECT 'changes' AS what, COUNT(*) AS waiting, MIN(at) AS oldest FROM change_queue
     UNION ALL SELECT 'acts', COUNT(*), MIN(at) FROM act_queue
     UNION ALL SELECT 'timers', COUNT(*), MIN(due_at) FROM timers WHERE due_at <= ?
     UNION ALL SELECT 'aside', COUNT(*), MIN(since) FROM set_aside
     UNION ALL SELECT channel, COUNT(*), MIN(at) FROM messages WHERE fate IN ('waiting', 'sending') AND channel <> 'inApp' GROUP BY channel`,
    sqlTime(now),
  );

/** How many changes are not decided yet, counted up to a bound. */
export const undecided = (most: number): Query<number> =>
  select(number('waiting'), 'SELECT COUNT(*) AS waiting FROM (SELECT 1 FROM change_queue LIMIT ?) q', most);

/** What became of messages by one channel. */
export interface FateCount {
  channel: 'email' | 'text' | 'webhook';
  fate: 'waiting' | 'sending' | 'delivered' | 'failed' | 'withheld';
  count: number;
}
/** What became of outgoing messages since an instant. */
export const fatesSince = (since: Instant): Query<FateCount> =>
  select(
    record<FateCount>({ channel: word('channel'), fate: word('fate'), count: number('messages') }),
    `SELECT channel, fate, COUNT(*) AS messages
      FROM messages
      WHERE at >= ? AND channel <> 'inApp'
      GROUP BY channel, fate
      ORDER BY channel, fate`,
    sqlTime(since),
  );

/** How much room a table takes, in bytes with its indexes, and about how many rows it has. */
export interface TableSize {
  name: string;
  rows: number;
  bytes: number;
}
/** The tables of the database that a connection uses, the largest first. */
export const sizes = (): Query<TableSize> =>
  select(
    record<TableSize>({ name: text('name'), rows: number('rows_about'), bytes: number('bytes') }),
    `SELECT table_name AS name, COALESCE(table_rows, 0) AS rows_about, COALESCE(data_length + index_length, 0) AS bytes
     FROM information_schema.tables WHERE table_schema = DATABASE() AND table_type = 'BASE TABLE' ORDER BY bytes DESC, name LIMIT 12`,
  );
/** Whether the database serves: a node of a cluster that has lost the others still answers what needs no table. */
export const answers = (): Query<number> => select(number('one'), 'SELECT 1 AS one FROM world_version WHERE id = 1');

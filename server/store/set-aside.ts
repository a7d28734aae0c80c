import type { Timer, Trouble } from '../../core/decide/index.ts';
import type { Instant } from '../../core/time/index.ts';
import { fromJson, type Query, query, type Row, sqlTime } from './connection.ts';
import { type QueuedAct, queueActQuery, setTimersQueries, timerId } from './engine.ts';

/** A rule's trouble, with how often and since when. */
export interface StoredTrouble extends Trouble {
  lastAt: Instant;
  times: number;
}

export const toTrouble = (row: Row): StoredTrouble => ({
  rule: String(row.rule_id),
  version: Number(row.version),
  code: row.code as Trouble['code'],
  to: String(row.recipient),
  reason: String(row.reason),
  at: row.first_at as Instant,
  lastAt: row.last_at as Instant,
  times: Number(row.times),
});

const TROUBLE = 'SELECT rule_id, version, code, recipient, reason, first_at, last_at, times FROM rule_troubles';
/** What the live versions of rules have been in trouble with. */
export const troublesQuery = (): Query =>
  query(`${TROUBLE} t WHERE t.version = (SELECT r.version FROM rules r WHERE r.id = t.rule_id)`);
export const untoldTroublesQuery = (): Query => query(`${TROUBLE} WHERE told_at IS NULL ORDER BY first_at LIMIT 50`);
export const troubleToldQuery = ({ rule, version, code, to }: Trouble, at: Instant): Query =>
  query(
    'UPDATE rule_troubles SET told_at = ? WHERE rule_id = ? AND version = ? AND code = ? AND recipient = ?',
    sqlTime(at),
    rule,
    version,
    code,
    to,
  );

/** Something that could not be decided, as it is kept for somebody to try again. */
export type Undecided =
  | { kind: 'change'; at: Instant; seq: number }
  | { kind: 'act'; at: Instant; id: number; act: QueuedAct }
  | { kind: 'timer'; at: Instant; timer: Timer };

/** Takes something out of its queue for good: all others go on. */
export function setAsideQueries(one: Undecided, since: Instant, code: string): Query[] {
  const insert = (seq: number | null, content: object | null) =>
    query('INSERT INTO set_aside (kind, at, since, change_seq, content, code) VALUES (?)', [
      one.kind,
      sqlTime(one.at),
      sqlTime(since),
      seq,
      content === null ? null : JSON.stringify(content),
      code.slice(0, 80),
    ]);
  switch (one.kind) {
    case 'change':
      return [insert(one.seq, null), query('DELETE FROM change_queue WHERE change_seq = ?', one.seq)];
    case 'act':
      return [insert(null, one.act), query('DELETE FROM act_queue WHERE id = ?', one.id)];
    case 'timer':
      return [insert(null, one.timer), query('DELETE FROM timers WHERE id = ?', timerId(one.timer))];
    default:
      return one satisfies never;
  }
}

/** What stands aside, with the item where it is a change. */
export interface StoredAside {
  id: number;
  kind: Undecided['kind'];
  at: Instant;
  since: Instant;
  changeSeq: number | null;
  item: string | null;
  title: string | null;
  content: unknown;
  code: string;
}
export const toAside = (row: Row): StoredAside => ({
  id: Number(row.id),
  kind: row.kind as Undecided['kind'],
  at: row.at as Instant,
  since: row.since as Instant,
  changeSeq: row.change_seq === null ? null : Number(row.change_seq),
  item: row.item_id as string | null,
  title: row.title as string | null,
  content: fromJson(row.content),
  code: String(row.code),
});
const ASIDE =
  'SELECT s.id, s.kind, s.at, s.since, s.change_seq, s.content, s.code, c.item_id, i.title FROM set_aside s LEFT JOIN changes c ON c.seq = s.change_seq LEFT JOIN items i ON i.id = c.item_id';
export const asideQuery = (): Query => query(`${ASIDE} ORDER BY s.id LIMIT 200`);
export const asideByIdQuery = (id: number): Query => query(`${ASIDE} WHERE s.id = ? FOR UPDATE`, id);
export const untoldAsideQuery = (): Query => query(`${ASIDE} WHERE s.told_at IS NULL ORDER BY s.id LIMIT 50`);
export const asideToldQuery = (ids: number[], at: Instant): Query =>
  query('UPDATE set_aside SET told_at = ? WHERE id IN (?)', sqlTime(at), ids);

/** Puts something back into its queue: it is decided as of the instant at which its turn comes. */
export function tryAgainQueries({ id, kind, changeSeq, content }: StoredAside): Query[] {
  const back =
    kind === 'change'
      ? [
          query(
            'INSERT IGNORE INTO change_queue (change_seq, item_id, at) SELECT seq, item_id, at FROM changes WHERE seq = ?',
            changeSeq,
          ),
        ]
      : kind === 'act'
        ? [queueActQuery(content as QueuedAct)]
        : setTimersQueries([content as Timer]);
  return [...back, query('DELETE FROM set_aside WHERE id = ?', id)];
}

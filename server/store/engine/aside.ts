import type { Timer } from '../../../core/decide/index.ts';
import type { Instant } from '../../../core/time/index.ts';
import {
  instant,
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
} from '../database/query.ts';
import { type QueuedAct, queue } from './acts.ts';
import { set, timerId } from './timers.ts';

/** Something that could not be decided, as it is kept for somebody to try again. */
export type Undecided =
  | { kind: 'change'; at: Instant; seq: number }
  | { kind: 'act'; at: Instant; id: number; act: QueuedAct }
  | { kind: 'timer'; at: Instant; timer: Timer };

/** Takes something out of its queue for good: all others go on. */
export function put(one: Undecided, since: Instant, code: string): Statement[] {
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
const decode = record<StoredAside>({
  id: number('id'),
  kind: word('kind'),
  at: instant('at'),
  since: instant('since'),
  changeSeq: nullable(number)('change_seq'),
  item: nullable(text)('item_id'),
  title: nullable(text)('title'),
  content: json('content'),
  code: text('code'),
});
const ASIDE = `SELECT s.id, s.kind, s.at, s.since, s.change_seq, s.content, s.code, c.item_id, i.title
    FROM set_aside s
    LEFT
    JOIN changes c ON c.seq = s.change_seq
    LEFT
    JOIN items i ON i.id = c.item_id`;
/** What was set aside, by its number; at most 200. */
export const all = (): Query<StoredAside> => select(decode, `${ASIDE} ORDER BY s.id LIMIT 200`);
/** One thing set aside, locked. */
export const byId = (id: number): Query<StoredAside> => select(decode, `${ASIDE} WHERE s.id = ? FOR UPDATE`, id);
/** What was set aside and nobody has been told of; at most 50. */
export const untold = (): Query<StoredAside> =>
  select(decode, `${ASIDE} WHERE s.told_at IS NULL ORDER BY s.id LIMIT 50`);
/** Notes that somebody has been told of what was set aside. */
export const noteTold = (ids: number[], at: Instant): Statement =>
  query('UPDATE set_aside SET told_at = ? WHERE id IN (?)', sqlTime(at), ids);

/** Puts something back into its queue: it is decided as of the instant at which its turn comes. */
export function tryAgain({ id, kind, changeSeq, content }: StoredAside): Statement[] {
  const back = BACK[kind]({ changeSeq, content });
  return [...back, query('DELETE FROM set_aside WHERE id = ?', id)];
}

/** How each kind comes back into its queue. */
const BACK = {
  change: ({ changeSeq }) => [
    query(
      'INSERT IGNORE INTO change_queue (change_seq, item_id, at) SELECT seq, item_id, at FROM changes WHERE seq = ?',
      changeSeq,
    ),
  ],
  act: ({ content }) => [queue(content as QueuedAct)],
  timer: ({ content }) => set([content as Timer]),
} satisfies Record<Undecided['kind'], (one: Pick<StoredAside, 'changeSeq' | 'content'>) => Statement[]>;

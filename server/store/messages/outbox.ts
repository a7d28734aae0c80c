import type { WithheldReason } from '../../../core/decide/index.ts';
import type { Channel } from '../../../core/people/index.ts';
import type { Instant } from '../../../core/time/index.ts';
import {
  instant,
  json,
  likeText,
  nullable,
  number,
  type Param,
  type Query,
  record,
  select,
  text,
  word,
} from '../database/query.ts';
import type { Fate } from './messages.ts';

/** A line of the Outbox: a message by one of the alerts behind it, something withheld, or something that gathers. */
export interface OutboxLine {
  id: string;
  at: Instant;
  person: string;
  channel: Channel | null;
  address: string | null;
  form: string | null;
  subject: string;
  fate: Fate | 'gathering';
  fateAt: Instant | null;
  reply: string | null;
  tries: number;
  retryAt: Instant | null;
  readAt: Instant | null;
  rule: string | null;
  items: string[];
  reason: WithheldReason | null;
  alert: string | null;
}

const decode = record<OutboxLine>({
  id: text('id'),
  at: instant('at'),
  person: text('person_id'),
  channel: nullable(word<Channel>)('channel'),
  address: nullable(text)('address'),
  form: nullable(text)('form'),
  subject: text('subject'),
  fate: word('fate'),
  fateAt: nullable(instant)('fate_at'),
  reply: nullable(text)('reply'),
  tries: number('tries'),
  retryAt: nullable(instant)('retry_at'),
  readAt: nullable(instant)('read_at'),
  rule: nullable(text)('rule_id'),
  items: json('items'),
  reason: nullable(word<WithheldReason>)('reason'),
  alert: nullable(text)('alert_id'),
});

/** What is asked of the Outbox; what is `null` narrows nothing. */
export interface OutboxFilter {
  id: string | null;
  fate: string | null;
  channel: string | null;
  text: string;
  limit: number;
}

/** Which items messages speak of: those they are about, and those that are named in them. */
export const spokenOf = (ids: readonly string[]): Query<{ id: string; items: string[] }> =>
  select(
    record({ id: text('id'), items: json<string[]>('items') }),
    `SELECT m.id, JSON_MERGE_PRESERVE(
        COALESCE(JSON_EXTRACT(COALESCE(m.content, same.content), '$.entries[*].item.id'), JSON_ARRAY()),
        COALESCE(JSON_EXTRACT(COALESCE(m.content, same.content), '$.entries[*].linked[*]'), JSON_ARRAY())) AS items
      FROM messages m LEFT JOIN messages same ON same.id = m.content_of WHERE m.id IN (?)`,
    [...ids],
  );

/** A page of the Outbox: what was sent and what was withheld, in one order of time. `rules` and `person` say whose rows may be seen. */
export function outbox(
  see: { all: boolean; rules: string[]; person: string },
  filter: OutboxFilter,
): Query<OutboxLine> {
  const own = see.all ? 'TRUE' : `(person_id = ?${see.rules.length > 0 ? ' OR rule_id IN (?)' : ''})`;
  const ownParams: Param[] = see.all ? [] : [see.person, ...(see.rules.length > 0 ? [see.rules] : [])];
  const parts: string[] = [own];
  const params: Param[] = [...ownParams];
  if (filter.id) {
    parts.push('id = ?');
    params.push(filter.id);
  }
  if (filter.fate) {
    parts.push(filter.fate === 'open' ? "fate IN ('waiting', 'sending', 'gathering')" : 'fate = ?');
    if (filter.fate !== 'open') params.push(filter.fate);
  }
  if (filter.channel) {
    parts.push('channel = ?');
    params.push(filter.channel);
  }
  if (filter.text) {
    parts.push('(person_id IN (SELECT id FROM people WHERE name LIKE ?) OR subject LIKE ?)');
    params.push(`%${likeText(filter.text)}%`, `%${likeText(filter.text)}%`);
  }
  return select(
    decode,
    `SELECT * FROM (
      SELECT m.id, m.at, m.person_id, m.channel, m.address, m.form, m.subject, m.fate, m.fate_at, m.reply, m.tries, m.retry_at, m.read_at, ma.rule_id, ma.items, NULL AS reason, ma.alert_id, NULL AS item_id
        FROM messages m JOIN message_alerts ma ON ma.message_id = m.id
      UNION ALL
      SELECT n.id, n.at, n.person_id, n.channel, n.address, n.form, n.subject, n.fate, n.fate_at, n.reply, n.tries, n.retry_at, n.read_at, JSON_VALUE(n.content, '$.rule.id'), COALESCE(JSON_EXTRACT(n.content, '$.entries[*].item.id'), JSON_ARRAY()), NULL, NULL, NULL
        FROM messages n WHERE n.form IN ('notice', 'trial', 'confirm', 'passed')
      UNION ALL
      SELECT CONCAT(w.alert_id, w.person_id, w.item_id), w.at, w.person_id, NULL, NULL, NULL, i.title, 'withheld', w.at, NULL, 0, NULL, NULL, w.rule_id, JSON_ARRAY(w.item_id), w.reason, w.alert_id, w.item_id
        FROM withheld w JOIN items i ON i.id = w.item_id
      UNION ALL
      SELECT CONCAT('waits', g.seq), CAST(FROM_UNIXTIME(JSON_VALUE(g.value, '$.at') / 1000) AS DATETIME(3)), g.recipient, JSON_VALUE(g.value, '$.channel'), NULL, 'digest', i.title, 'gathering',
          CAST(FROM_UNIXTIME(JSON_VALUE(g.value, '$.due') / 1000) AS DATETIME(3)), NULL, 0, CAST(FROM_UNIXTIME(JSON_VALUE(g.value, '$.due') / 1000) AS DATETIME(3)), NULL, g.rule_id, JSON_ARRAY(g.item_id), NULL, NULL, g.item_id
        FROM engine_rows g JOIN items i ON i.id = g.item_id WHERE g.shelf = 'waiting'
    ) o WHERE ${parts.join(' AND ')} ORDER BY at DESC, id LIMIT ?`,
    ...params,
    filter.limit,
  );
}

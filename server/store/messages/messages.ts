import type { Rows, WithheldReason } from '../../../core/decide/index.ts';
import type { Content } from '../../../core/messages/index.ts';
import type { Channel, Recipient, Urgency } from '../../../core/people/index.ts';
import type { Instant } from '../../../core/time/index.ts';
import {
  instant,
  json,
  likeText,
  nullable,
  number,
  type Param,
  type Query,
  query,
  record,
  select,
  sqlTime,
  type Statement,
  text,
  word,
} from '../database/query.ts';

/** What may become of a message. */
export const FATES = ['waiting', 'sending', 'delivered', 'failed', 'withheld'] as const;
/** What became of a message. */
export type Fate = (typeof FATES)[number];

/** A message as it is kept: its words, and what became of it. */
export interface StoredMessage {
  id: string;
  seq: number;
  person: string;
  recipient: Recipient['kind'];
  channel: Channel;
  address: string;
  at: Instant;
  form: Content['form'];
  urgency: Urgency;
  subject: string;
  body: string | null;
  content: Content;
  fate: Fate;
  fateAt: Instant | null;
  reply: string | null;
  tries: number;
  firstTryAt: Instant | null;
  retryAt: Instant | null;
  readAt: Instant | null;
}

/** The columns that `decode` reads, of `messages m`. */
export const COLUMNS =
  'm.id, m.seq, m.person_id, m.recipient, m.channel, m.address, m.at, m.form, m.urgency, m.subject, m.body, COALESCE(m.content, (SELECT same.content FROM messages same WHERE same.id = m.content_of)) AS content, m.fate, m.fate_at, m.reply, m.tries, m.first_try_at, m.retry_at, m.read_at';

/** Makes of a row what it is: for statements of the store that read whole messages by {@link COLUMNS} from `messages m`. */
export const decode = record<StoredMessage>({
  id: text('id'),
  seq: number('seq'),
  person: text('person_id'),
  recipient: word('recipient'),
  channel: word('channel'),
  address: text('address'),
  at: instant('at'),
  form: word('form'),
  urgency: word('urgency'),
  subject: text('subject'),
  body: nullable(text)('body'),
  content: json('content'),
  fate: word('fate'),
  fateAt: nullable(instant)('fate_at'),
  reply: nullable(text)('reply'),
  tries: number('tries'),
  firstTryAt: nullable(instant)('first_try_at'),
  retryAt: nullable(instant)('retry_at'),
  readAt: nullable(instant)('read_at'),
});

/** What is asked of somebody's inbox. */
export interface InboxAsked {
  isUnread?: boolean;
  /** Only what waits for them to acknowledge it. */
  isWaiting?: boolean;
  text?: string;
  rule?: string;
  source?: string;
  urgency?: Urgency;
  /** Only what somebody did. */
  by?: string;
}

/** A person's in-app messages, newest first; `before` continues a list. */
export const inbox = (
  person: string,
  asked: InboxAsked,
  page: { before: { at: Instant; id: string } | null; limit: number },
): Query<StoredMessage> => {
  const parts = ['m.person_id = ?', "m.channel = 'inApp'"];
  const params: Param[] = [person];
  const narrow = (sql: string, ...values: Param[]) => {
    parts.push(sql);
    params.push(...values);
  };
  if (asked.isUnread) narrow('m.read_at IS NULL');
  if (asked.urgency) narrow('m.urgency = ?', asked.urgency);
  if (asked.text) narrow('m.subject LIKE ?', `%${likeText(asked.text)}%`);
  if (asked.rule)
    narrow('EXISTS (SELECT 1 FROM message_alerts ma WHERE ma.message_id = m.id AND ma.rule_id = ?)', asked.rule);
  if (asked.source)
    narrow("JSON_CONTAINS(JSON_EXTRACT(m.content, '$.entries[*].item.source'), JSON_QUOTE(?))", asked.source);
  if (asked.by)
    narrow(
      'EXISTS (SELECT 1 FROM message_alerts ma JOIN alert_changes ac ON ac.alert_id = ma.alert_id JOIN changes c ON c.source_id = ac.source_id AND c.id = ac.change_id WHERE ma.message_id = m.id AND c.actor = ?)',
      asked.by,
    );
  if (asked.isWaiting) {
    narrow(
      `EXISTS (SELECT 1 FROM message_alerts ma JOIN alerts a ON a.id = ma.alert_id JOIN engine_rows e ON e.shelf = 'open' AND e.rule_id = ma.rule_id AND JSON_VALUE(e.value, '$.alert') = a.alert_key
      WHERE ma.message_id = m.id AND JSON_VALUE(e.value, '$.isClosed') = 0 AND NOT JSON_CONTAINS(JSON_EXTRACT(e.value, '$.acknowledged'), JSON_QUOTE(?))
        AND NOT EXISTS (SELECT 1 FROM acknowledgements k WHERE k.alert_id = ma.alert_id AND k.person_id = ?)
        AND (JSON_CONTAINS(JSON_EXTRACT(e.value, '$.told'), JSON_QUOTE(?)) OR JSON_CONTAINS(JSON_EXTRACT(e.value, '$.escalated'), JSON_QUOTE(?))))`,
      person,
      person,
      person,
      person,
    );
  }
  if (page.before) narrow('(m.at, m.id) < (?, ?)', sqlTime(page.before.at), page.before.id);
  return select(
    decode,
    `SELECT ${COLUMNS} FROM messages m WHERE ${parts.join(' AND ')} ORDER BY m.at DESC, m.id DESC LIMIT ?`,
    ...params,
    page.limit,
  );
};

/** One message. */
export const byId = (id: string): Query<StoredMessage> =>
  select(decode, `SELECT ${COLUMNS} FROM messages m WHERE m.id = ?`, id);
/** The messages whose ids begin so, two at most. */
export const beginning = (signs: string): Query<string> =>
  select(text('id'), 'SELECT id FROM messages WHERE id LIKE ? LIMIT 2', `${likeText(signs)}%`);
/** How many messages somebody has not read. */
export const unread = (person: string): Query<number> =>
  select(
    number('unread'),
    "SELECT COUNT(*) AS unread FROM messages WHERE person_id = ? AND channel = 'inApp' AND read_at IS NULL",
    person,
  );
/** In-app messages that arrived after another, for whoever tells open pages of them. */
export const arrived = (afterSeq: number): Query<{ seq: number; id: string; person: string }> =>
  select(
    record({ seq: number('seq'), id: text('id'), person: text('person_id') }),
    "SELECT seq, id, person_id FROM messages WHERE seq > ? AND channel = 'inApp' ORDER BY seq LIMIT 1000",
    afterSeq,
  );
/** Messages by id; those that there are not are left out. */
export const byIds = (ids: string[]): Query<StoredMessage> =>
  select(decode, `SELECT ${COLUMNS} FROM messages m WHERE m.id IN (?)`, ids);
/** The number of the latest message; 0 where there is none. */
export const newestSeq = (): Query<number> =>
  select(number('seq'), 'SELECT COALESCE(MAX(seq), 0) AS seq FROM messages');

/** Marks messages of somebody's as read, or with `null` all of them. */
export const markRead = (person: string, ids: string[] | null, at: Instant): Statement =>
  ids === null
    ? query(
        "UPDATE messages SET read_at = ? WHERE person_id = ? AND channel = 'inApp' AND read_at IS NULL",
        sqlTime(at),
        person,
      )
    : query(
        "UPDATE messages SET read_at = ? WHERE person_id = ? AND channel = 'inApp' AND read_at IS NULL AND id IN (?)",
        sqlTime(at),
        person,
        ids,
      );
/** Marks messages of somebody's as unread again. */
export const markUnread = (person: string, ids: string[]): Statement =>
  query('UPDATE messages SET read_at = NULL WHERE person_id = ? AND id IN (?)', person, ids);

/** When somebody read something, since an instant; in order. */
export const readInstants = (person: string, from: Instant): Query<Instant> =>
  select(
    instant('read_at'),
    'SELECT DISTINCT read_at FROM messages WHERE person_id = ? AND read_at >= ? ORDER BY read_at',
    person,
    sqlTime(from),
  );

/** How many messages in Ojo reached everybody since an instant, and how many of them were read. */
export const toldCounts = (from: Instant): Query<{ person: string; told: number; seen: number }> =>
  select(
    record({ person: text('person_id'), told: number('told'), seen: number('seen') }),
    `SELECT person_id, COUNT(*) AS told, COUNT(read_at) AS seen
      FROM messages
      WHERE channel = 'inApp' AND at >= ?
      GROUP BY person_id`,
    sqlTime(from),
  );
/** The same of one person, by rule. */
export const toldByRule = (person: string, from: Instant): Query<{ rule: string; told: number; seen: number }> =>
  select(
    record({ rule: text('rule_id'), told: number('told'), seen: number('seen') }),
    `SELECT ma.rule_id, COUNT(DISTINCT m.id) AS told, COUNT(DISTINCT IF(m.read_at IS NULL, NULL, m.id)) AS seen
      FROM messages m
      JOIN message_alerts ma ON ma.message_id = m.id
      WHERE m.person_id = ? AND m.channel = 'inApp' AND m.at >= ?
      GROUP BY ma.rule_id`,
    person,
    sqlTime(from),
  );

/** A message that no alert brought about: to whom, by what, where. */
export interface Direct {
  to: string;
  toKind: Recipient['kind'];
  channel: Channel;
  address: string;
  /** In place of the headline, where that is not for everybody who looks at the Outbox. */
  subject?: string;
  /** It waits until then: its reader's quiet hours. */
  heldUntil?: Instant | null;
}

/** Writes such a message; what stands in the inbox has arrived once it is written. */
export const sendDirect = (
  id: string,
  { to, toKind, channel, address, subject, heldUntil = null }: Direct,
  content: Content,
  at: Instant,
  body: string | null = null,
): Statement => {
  const arrived = channel === 'inApp';
  return query(
    `INSERT IGNORE INTO messages (id, person_id, recipient, channel, address, at, form, urgency, subject, body, content, fate, fate_at, retry_at)
      VALUES (?)`,
    [
      id,
      to,
      toKind,
      channel,
      address,
      sqlTime(at),
      content.form,
      'routine',
      (subject ?? content.headline).slice(0, 500),
      body,
      JSON.stringify(content),
      arrived ? 'delivered' : 'waiting',
      arrived ? sqlTime(at) : null,
      heldUntil === null ? null : sqlTime(heldUntil),
    ],
  );
};

/** A notice in somebody's inbox. */
export const notice = (id: string, person: string, content: Content, at: Instant): Statement =>
  sendDirect(id, { to: person, toKind: 'person', channel: 'inApp', address: person }, content, at);

/** An alert behind a message, with the items that the message tells of it. */
export interface AlertBehind {
  message: string;
  alert: string;
  rule: string;
  items: string[];
  /** The id by which the engine knows the alert. */
  key: string;
}
const decodeBehind = record<AlertBehind>({
  message: text('message_id'),
  alert: text('alert_id'),
  rule: text('rule_id'),
  items: json('items'),
  key: text('alert_key'),
});
/** The rules and alerts behind messages. */
export const alertsBehind = (ids: string[]): Query<AlertBehind> =>
  select(
    decodeBehind,
    `SELECT ma.message_id, ma.alert_id, ma.rule_id, ma.items, a.alert_key
      FROM message_alerts ma
      JOIN alerts a ON a.id = ma.alert_id
      WHERE ma.message_id IN (?)`,
    ids,
  );
/** The messages in somebody's inbox that tell of these alerts alone. */
export const ofAlerts = (alerts: string[], person: string): Query<string> =>
  select(
    text('message_id'),
    `SELECT m.id AS message_id
      FROM messages m
      WHERE m.id IN (SELECT ma.message_id FROM message_alerts ma WHERE ma.alert_id IN (?)) AND m.person_id = ? AND m.channel = 'inApp'
    AND NOT EXISTS (SELECT 1 FROM message_alerts o WHERE o.message_id = m.id AND o.alert_id NOT IN (?))`,
    alerts,
    person,
    alerts,
  );
/** Somebody took on what these alerts told. */
export const acknowledge = (alerts: string[], person: string, at: Instant): Statement =>
  query(
    'INSERT IGNORE INTO acknowledgements (alert_id, person_id, at) VALUES ?',
    alerts.map((alert) => [alert, person, sqlTime(at)]),
  );
/** Who took on which of these alerts, in the order in which they did. */
export const acknowledgements = (alerts: string[]): Query<{ alert: string; person: string }> =>
  select(
    record({ alert: text('alert_id'), person: text('person_id') }),
    'SELECT alert_id, person_id FROM acknowledgements WHERE alert_id IN (?) ORDER BY at',
    alerts,
  );
/** A message of an alert, as far as it tells who was told of which items. */
export interface ToldOfAlert {
  alert: string;
  items: string[];
  person: string;
  channel: Channel;
  at: Instant;
  fate: Fate;
  readAt: Instant | null;
}
const decodeTold = record<ToldOfAlert>({
  alert: text('alert_id'),
  items: json('items'),
  person: text('person_id'),
  channel: word('channel'),
  at: instant('at'),
  fate: word('fate'),
  readAt: nullable(instant)('read_at'),
});
/** What else became of the same alerts: who was told of the item, by what, and who was not. */
export const toldOfAlerts = (alerts: string[]): Query<ToldOfAlert> =>
  select(
    decodeTold,
    `SELECT ma.alert_id, ma.items, m.person_id, m.channel, m.at, m.fate, m.read_at
      FROM message_alerts ma
      JOIN messages m ON m.id = ma.message_id
      WHERE ma.alert_id IN (?)
      ORDER BY m.at`,
    alerts,
  );
/** Who was withheld what of these alerts, and why. */
export const withheldOfAlerts = (
  alerts: string[],
): Query<{ alert: string; item: string; person: string; reason: WithheldReason }> =>
  select(
    record({
      alert: text('alert_id'),
      item: text('item_id'),
      person: text('person_id'),
      reason: word<WithheldReason>('reason'),
    }),
    'SELECT alert_id, item_id, person_id, reason, at FROM withheld WHERE alert_id IN (?)',
    alerts,
  );

/** All that gathers for somebody's digests, in the order in which it arose. */
export const gathering = (person: string): Query<Rows['waiting']> =>
  select(json('value'), "SELECT value FROM engine_rows WHERE shelf = 'waiting' AND recipient = ? ORDER BY seq", person);

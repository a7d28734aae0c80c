import type { Content } from '../../core/messages/index.ts';
import type { Channel, Recipient, Urgency } from '../../core/people/index.ts';
import type { Instant } from '../../core/time/index.ts';
import { fromJson, type Param, type Query, query, type Row, sqlTime } from './connection.ts';

export const FATES = ['waiting', 'sending', 'delivered', 'failed', 'withheld'] as const;
export type Fate = (typeof FATES)[number];

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

const COLUMNS =
  'm.id, m.seq, m.person_id, m.recipient, m.channel, m.address, m.at, m.form, m.urgency, m.subject, m.body, COALESCE(m.content, (SELECT same.content FROM messages same WHERE same.id = m.content_of)) AS content, m.fate, m.fate_at, m.reply, m.tries, m.first_try_at, m.retry_at, m.read_at';

export const toMessage = (row: Row): StoredMessage => ({
  id: String(row.id),
  seq: Number(row.seq),
  person: String(row.person_id),
  recipient: row.recipient as Recipient['kind'],
  channel: row.channel as Channel,
  address: String(row.address),
  at: row.at as Instant,
  form: row.form as Content['form'],
  urgency: row.urgency as Urgency,
  subject: String(row.subject),
  body: row.body as string | null,
  content: fromJson<Content>(row.content),
  fate: row.fate as Fate,
  fateAt: row.fate_at as Instant | null,
  reply: row.reply as string | null,
  tries: Number(row.tries),
  firstTryAt: row.first_try_at as Instant | null,
  retryAt: row.retry_at as Instant | null,
  readAt: row.read_at as Instant | null,
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
export const inboxQuery = (
  person: string,
  asked: InboxAsked,
  page: { before: { at: Instant; id: string } | null; limit: number },
): Query => {
  const parts = ['m.person_id = ?', "m.channel = 'inApp'"];
  const params: Param[] = [person];
  const narrow = (sql: string, ...values: Param[]) => {
    parts.push(sql);
    params.push(...values);
  };
  if (asked.isUnread) narrow('m.read_at IS NULL');
  if (asked.urgency) narrow('m.urgency = ?', asked.urgency);
  if (asked.text) narrow('m.subject LIKE ?', `%${asked.text.replace(/[\\%_]/g, '\\$&')}%`);
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
  return query(
    `SELECT ${COLUMNS} FROM messages m WHERE ${parts.join(' AND ')} ORDER BY m.at DESC, m.id DESC LIMIT ?`,
    ...params,
    page.limit,
  );
};

export const messageQuery = (id: string): Query => query(`SELECT ${COLUMNS} FROM messages m WHERE m.id = ?`, id);
export const unreadQuery = (person: string): Query =>
  query(
    "SELECT COUNT(*) AS unread FROM messages WHERE person_id = ? AND channel = 'inApp' AND read_at IS NULL",
    person,
  );
/** In-app messages that arrived after another, for whoever tells open pages of them. */
export const arrivedQuery = (afterSeq: number): Query =>
  query(
    "SELECT seq, id, person_id FROM messages WHERE seq > ? AND channel = 'inApp' ORDER BY seq LIMIT 1000",
    afterSeq,
  );
export const messagesQuery = (ids: string[]): Query =>
  query(`SELECT ${COLUMNS} FROM messages m WHERE m.id IN (?)`, ids);
export const newestSeqQuery = (): Query => query('SELECT COALESCE(MAX(seq), 0) AS seq FROM messages');

export const markReadQuery = (person: string, ids: string[] | null, at: Instant): Query =>
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
export const markUnreadQuery = (person: string, ids: string[]): Query =>
  query('UPDATE messages SET read_at = NULL WHERE person_id = ? AND id IN (?)', person, ids);

/** When somebody read something, since an instant; in order. */
export const readInstantsQuery = (person: string, from: Instant): Query =>
  query(
    'SELECT DISTINCT read_at FROM messages WHERE person_id = ? AND read_at >= ? ORDER BY read_at',
    person,
    sqlTime(from),
  );

/** How many messages in Ojo reached everybody since an instant, and how many of them were read. */
export const heardQuery = (from: Instant): Query =>
  query(
    "SELECT person_id, COUNT(*) AS told, COUNT(read_at) AS seen FROM messages WHERE channel = 'inApp' AND at >= ? GROUP BY person_id",
    sqlTime(from),
  );
/** The same of one person, by rule. */
export const heardByRuleQuery = (person: string, from: Instant): Query =>
  query(
    "SELECT ma.rule_id, COUNT(DISTINCT m.id) AS told, COUNT(DISTINCT IF(m.read_at IS NULL, NULL, m.id)) AS seen FROM messages m JOIN message_alerts ma ON ma.message_id = m.id WHERE m.person_id = ? AND m.channel = 'inApp' AND m.at >= ? GROUP BY ma.rule_id",
    person,
    sqlTime(from),
  );

/**
 * Takes messages of a channel to send, as many as the limit of each sort: critical ones, then others; due ones, and those
 * whose sender has not come back within its lease. Each statement reads and locks no more rows than it takes, so that
 * several senders claim side by side however much waits.
 * @param address only what goes to this address
 */
export const claimSendQueries = (channel: Channel, now: Instant, limit: number, address?: string): Query[] =>
  [1, 0].map((isCritical) =>
    query(
      `SELECT ${COLUMNS} FROM messages m FORCE INDEX (${address === undefined ? 'to_claim' : 'to_claim_at'}) WHERE m.channel = ?${address === undefined ? '' : ' AND m.address = ?'} AND m.is_critical = ? AND m.claim_at <= ?
      ORDER BY m.claim_at, m.seq LIMIT ? FOR UPDATE SKIP LOCKED`,
      channel,
      ...(address === undefined ? [] : [address]),
      isCritical,
      sqlTime(now),
      limit,
    ),
  );
/** The addresses to which something was ever to be sent by a channel. */
export const addressesOfQuery = (channel: Channel): Query =>
  query('SELECT DISTINCT address FROM messages FORCE INDEX (to_claim_at) WHERE channel = ?', channel);
export const leaseQuery = (ids: string[], now: Instant, until: Instant): Query =>
  query(
    "UPDATE messages SET fate = 'sending', tries = tries + 1, first_try_at = COALESCE(first_try_at, ?), lease_until = ? WHERE id IN (?)",
    sqlTime(now),
    sqlTime(until),
    ids,
  );
/** Gives messages back that were claimed and not sent: whoever sends next takes them at once. */
export const giveBackQuery = (ids: string[]): Query =>
  query(
    "UPDATE messages SET fate = 'waiting', lease_until = NULL, tries = GREATEST(tries - 1, 0) WHERE id IN (?) AND fate = 'sending'",
    ids,
  );
/** Sends a message again by hand that failed for good, or waits to be tried again: at once, and for as long as a new one. */
export const sendAgainQuery = (id: string): Query =>
  query(
    "UPDATE messages SET fate = 'waiting', retry_at = NULL, tries = 0, first_try_at = NULL WHERE id = ? AND channel <> 'inApp' AND fate IN ('failed', 'waiting')",
    id,
  );
export const fateQuery = (id: string, fate: Fate, at: Instant, reply: string | null): Query =>
  query(
    'UPDATE messages SET fate = ?, fate_at = ?, reply = ?, lease_until = NULL, retry_at = NULL WHERE id = ?',
    fate,
    sqlTime(at),
    reply?.slice(0, 500) ?? null,
    id,
  );
export const retryQuery = (id: string, at: Instant, reply: string): Query =>
  query(
    "UPDATE messages SET fate = 'waiting', retry_at = ?, reply = ?, lease_until = NULL WHERE id = ?",
    sqlTime(at),
    reply.slice(0, 500),
    id,
  );

/** A message that no alert brought about: to whom, by what, where. */
export interface Direct {
  to: string;
  toKind: Recipient['kind'];
  channel: Channel;
  address: string;
  /** In place of the headline, where that is not for everybody who looks at the Outbox. */
  subject?: string;
}

/** Writes such a message; what stands in the inbox has arrived once it is written. */
export const directQuery = (
  id: string,
  { to, toKind, channel, address, subject }: Direct,
  content: Content,
  at: Instant,
  body: string | null = null,
): Query => {
  const arrived = channel === 'inApp';
  return query(
    'INSERT IGNORE INTO messages (id, person_id, recipient, channel, address, at, form, urgency, subject, body, content, fate, fate_at) VALUES (?)',
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
    ],
  );
};

/** A notice in somebody's inbox. */
export const noticeQuery = (id: string, person: string, content: Content, at: Instant): Query =>
  directQuery(id, { to: person, toKind: 'person', channel: 'inApp', address: person }, content, at);

/** The rules and alerts behind messages. */
export const messageAlertsQuery = (ids: string[]): Query =>
  query(
    'SELECT ma.message_id, ma.alert_id, ma.rule_id, ma.items, a.alert_key FROM message_alerts ma JOIN alerts a ON a.id = ma.alert_id WHERE ma.message_id IN (?)',
    ids,
  );
/** The messages in somebody's inbox that tell of these alerts alone. */
export const messagesOfAlertsQuery = (alerts: string[], person: string): Query =>
  query(
    `SELECT m.id AS message_id FROM messages m WHERE m.id IN (SELECT ma.message_id FROM message_alerts ma WHERE ma.alert_id IN (?)) AND m.person_id = ? AND m.channel = 'inApp'
    AND NOT EXISTS (SELECT 1 FROM message_alerts o WHERE o.message_id = m.id AND o.alert_id NOT IN (?))`,
    alerts,
    person,
    alerts,
  );
/** Somebody took on what these alerts told. */
export const acknowledgeQuery = (alerts: string[], person: string, at: Instant): Query =>
  query(
    'INSERT IGNORE INTO acknowledgements (alert_id, person_id, at) VALUES ?',
    alerts.map((alert) => [alert, person, sqlTime(at)]),
  );
/** Who took on which of these alerts, in the order in which they did. */
export const acknowledgedQuery = (alerts: string[]): Query =>
  query('SELECT alert_id, person_id FROM acknowledgements WHERE alert_id IN (?) ORDER BY at', alerts);
/** What else became of the same alerts: who was told of the item, by what, and who was not. */
export const toldOfAlertsQuery = (alerts: string[]): Query =>
  query(
    'SELECT ma.alert_id, ma.items, m.person_id, m.channel, m.at, m.fate, m.read_at FROM message_alerts ma JOIN messages m ON m.id = ma.message_id WHERE ma.alert_id IN (?) ORDER BY m.at',
    alerts,
  );
export const withheldOfAlertsQuery = (alerts: string[]): Query =>
  query('SELECT alert_id, item_id, person_id, reason, at FROM withheld WHERE alert_id IN (?)', alerts);

/** Writes down that the items of a message were withheld from its person after all; the first reason stands. */
export const withholdQuery = (message: string, reason: string, at: Instant): Query =>
  query(
    `INSERT INTO withheld (alert_id, item_id, person_id, rule_id, reason, at)
    SELECT ma.alert_id, told.item_id, m.person_id, ma.rule_id, ?, ? FROM message_alerts ma JOIN messages m ON m.id = ma.message_id
      JOIN JSON_TABLE(ma.items, '$[*]' COLUMNS (item_id VARCHAR(120) PATH '$')) told WHERE ma.message_id = ?
    ON DUPLICATE KEY UPDATE reason = withheld.reason`,
    reason,
    sqlTime(at),
    message,
  );

/** A page of the Outbox: what was sent and what was withheld, in one order of time. `rules` and `person` say whose rows may be seen. */
export function outboxQuery(
  see: { all: boolean; rules: string[]; person: string },
  filter: { fate: string | null; channel: string | null; text: string; limit: number },
): Query {
  const own = see.all ? 'TRUE' : `(person_id = ?${see.rules.length > 0 ? ' OR rule_id IN (?)' : ''})`;
  const ownParams: Param[] = see.all ? [] : [see.person, ...(see.rules.length > 0 ? [see.rules] : [])];
  const parts: string[] = [own];
  const params: Param[] = [...ownParams];
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
    params.push(`%${filter.text}%`, `%${filter.text}%`);
  }
  return query(
    `SELECT * FROM (
      SELECT m.id, m.at, m.person_id, m.channel, m.address, m.form, m.subject, m.fate, m.fate_at, m.reply, m.tries, m.retry_at, m.read_at, ma.rule_id, ma.items, NULL AS reason, NULL AS alert_id, NULL AS item_id
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

import type { Channel } from '../../../core/people/index.ts';
import type { Instant } from '../../../core/time/index.ts';
import {
  instant,
  nullable,
  type Query,
  query,
  record,
  select,
  sqlTime,
  type Statement,
  text,
  word,
} from '../database/query.ts';
import { COLUMNS, decode, type StoredMessage } from './messages.ts';

/**
 * Takes messages of a channel to send, as many as the limit of each sort: critical ones, then others; due ones, and those
 * whose sender has not come back within its lease. Each statement reads and locks no more rows than it takes, so that
 * several senders claim side by side however much waits.
 * @param address only what goes to this address
 */
export const claim = (channel: Channel, now: Instant, limit: number, address?: string): Query<StoredMessage>[] =>
  [1, 0].map((isCritical) =>
    select(
      decode,
      `SELECT ${COLUMNS}
        FROM messages m FORCE INDEX (${address === undefined ? 'to_claim' : 'to_claim_at'})
        WHERE m.channel = ?${address === undefined ? '' : ' AND m.address = ?'} AND m.is_critical = ? AND m.claim_at <= ?
      ORDER BY m.claim_at, m.seq LIMIT ? FOR UPDATE SKIP LOCKED`,
      channel,
      ...(address === undefined ? [] : [address]),
      isCritical,
      sqlTime(now),
      limit,
    ),
  );
/** The addresses to which something was ever to be sent by a channel. */
export const addressesOf = (channel: Channel): Query<string> =>
  select(text('address'), 'SELECT DISTINCT address FROM messages FORCE INDEX (to_claim_at) WHERE channel = ?', channel);
/** Takes messages to send: they are the sender's until `until`, and anybody's after that. */
export const lease = (ids: string[], now: Instant, until: Instant): Statement =>
  query(
    `UPDATE messages
      SET fate = 'sending', tries = tries + 1, first_try_at = COALESCE(first_try_at, ?), lease_until = ?, arrival = NULL
      WHERE id IN (?)`,
    sqlTime(now),
    sqlTime(until),
    ids,
  );
/** Gives messages back that were claimed and not sent: whoever sends next takes them at once. */
export const giveBack = (ids: string[]): Statement =>
  query(
    `UPDATE messages
      SET fate = 'waiting', lease_until = NULL, tries = GREATEST(tries - 1, 0)
      WHERE id IN (?) AND fate = 'sending'`,
    ids,
  );
/** Sends a message again by hand that failed for good, or waits to be tried again: at once, and for as long as a new one. */
export const sendAgain = (id: string): Statement =>
  query(
    `UPDATE messages
      SET fate = 'waiting', retry_at = NULL, tries = 0, first_try_at = NULL, arrival = NULL
      WHERE id = ? AND channel <> 'inApp' AND fate IN ('failed', 'waiting')`,
    id,
  );
/** What came of one try to send a message, or what the other side said of it later. */
export type AttemptOutcome = 'taken' | 'putOff' | 'refused' | 'arrived' | 'delayed' | 'cameBack';
/** One try, or one report, with the other side's own words. */
export interface Attempt {
  at: Instant;
  outcome: AttemptOutcome;
  reply: string | null;
}

const keepAttempt = (message: string, { at, outcome, reply }: Attempt): Statement =>
  query('INSERT INTO attempts (message_id, at, outcome, reply) VALUES (?)', [
    message,
    sqlTime(at),
    outcome,
    reply?.slice(0, 500) ?? null,
  ]);
/** All tries of a message and all that was reported of it, in their order. */
export const attempts = (message: string): Query<Attempt> =>
  select(
    record({ at: instant('at'), outcome: word<AttemptOutcome>('outcome'), reply: nullable(text)('reply') }),
    'SELECT at, outcome, reply FROM attempts WHERE message_id = ? ORDER BY id',
    message,
  );

/** The other side took a message. What came back before its answer did has come back all the same. */
export const taken = (id: string, at: Instant, reply: string): Statement[] => [
  keepAttempt(id, { at, outcome: 'taken', reply }),
  query(
    `UPDATE messages
      SET fate = IF(arrival = 'cameBack', 'failed', 'delivered'), fate_at = ?, reply = IF(arrival = 'cameBack', reply, ?), lease_until = NULL, retry_at = NULL
      WHERE id = ?`,
    sqlTime(at),
    reply.slice(0, 500),
    id,
  ),
];
/** The other side will never take a message; what is known to have arrived has arrived. */
export const refused = (id: string, at: Instant, reply: string): Statement[] => [
  keepAttempt(id, { at, outcome: 'refused', reply }),
  query(
    `UPDATE messages
      SET fate = 'failed', fate_at = ?, reply = ?, lease_until = NULL, retry_at = NULL
      WHERE id = ? AND COALESCE(arrival, '') <> 'arrived'`,
    sqlTime(at),
    reply.slice(0, 500),
    id,
  ),
];
/** A message did not get through: it is tried again at an instant. What is known to have arrived is not. */
export const putOff = (id: string, at: Instant, until: Instant, reply: string): Statement[] => [
  keepAttempt(id, { at, outcome: 'putOff', reply }),
  query(
    `UPDATE messages
      SET fate = 'waiting', retry_at = ?, reply = ?, lease_until = NULL
      WHERE id = ? AND COALESCE(arrival, '') <> 'arrived'`,
    sqlTime(until),
    reply.slice(0, 500),
    id,
  ),
];
/** A message is not sent after all, for a reason. */
export const withheldAtLast = (id: string, at: Instant, reason: string): Statement =>
  query(
    "UPDATE messages SET fate = 'withheld', fate_at = ?, reply = ?, lease_until = NULL, retry_at = NULL WHERE id = ?",
    sqlTime(at),
    reason,
    id,
  );
/** What the receiving side says of a message, in whatever order it comes: what has arrived once stays so. */
export const reported = (id: string, { at, outcome, reply }: Attempt): Statement[] => {
  const kept = keepAttempt(id, { at, outcome, reply });
  if (outcome === 'arrived')
    return [
      kept,
      query(
        `UPDATE messages
          SET arrival = 'arrived', fate = 'delivered', fate_at = IF(fate = 'delivered', fate_at, ?), reply = IF(fate = 'failed', ?, reply), lease_until = NULL, retry_at = NULL
          WHERE id = ? AND fate <> 'withheld'`,
        sqlTime(at),
        reply?.slice(0, 500) ?? null,
        id,
      ),
    ];
  if (outcome !== 'cameBack') return [kept];
  return [
    kept,
    query(
      `UPDATE messages
        SET arrival = 'cameBack', fate = IF(fate = 'delivered', 'failed', fate), fate_at = ?, reply = ?
        WHERE id = ? AND COALESCE(arrival, '') <> 'arrived' AND fate <> 'withheld'`,
      sqlTime(at),
      reply?.slice(0, 500) ?? null,
      id,
    ),
  ];
};

/** Writes down that the items of a message were withheld from its person after all; the first reason stands. */
export const withhold = (message: string, reason: string, at: Instant): Statement =>
  query(
    `INSERT INTO withheld (alert_id, item_id, person_id, rule_id, reason, at)
    SELECT ma.alert_id, told.item_id, m.person_id, ma.rule_id, ?, ? FROM message_alerts ma JOIN messages m ON m.id = ma.message_id
      JOIN JSON_TABLE(ma.items, '$[*]' COLUMNS (item_id VARCHAR(120) PATH '$')) told WHERE ma.message_id = ?
    ON DUPLICATE KEY UPDATE reason = withheld.reason`,
    reason,
    sqlTime(at),
    message,
  );

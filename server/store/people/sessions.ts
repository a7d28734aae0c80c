import type { Instant } from '../../../core/time/index.ts';
import {
  flag,
  instant,
  nullable,
  type Query,
  query,
  record,
  select,
  sqlTime,
  type Statement,
  text,
} from '../database/query.ts';

/** Somebody who wants to sign in, with the hash of their password. */
export const person = (id: string): Query<{ id: string; passwordHash: string; isActive: boolean }> =>
  select(
    record({ id: text('id'), passwordHash: text('password_hash'), isActive: flag('is_active') }),
    'SELECT id, password_hash, is_active FROM people WHERE id = ? OR email = ?',
    id,
    id,
  );

/** A session as it is opened: by what browser, from which address, and whether by the house's own sign-in. */
export interface Opened {
  person: string;
  at: Instant;
  expires: Instant;
  agent: string;
  origin: string | null;
  isByHouse: boolean;
}
/** Opens a session; only the hash of its token is kept. */
export const open = (hash: string, { person: who, at, expires, agent, origin, isByHouse }: Opened): Statement =>
  query('INSERT INTO sessions (id, person_id, opened_at, seen_at, expires_at, agent, origin, by_house) VALUES (?)', [
    hash,
    who,
    sqlTime(at),
    sqlTime(at),
    sqlTime(expires),
    agent.slice(0, 300),
    origin?.slice(0, 60) ?? null,
    isByHouse ? 1 : 0,
  ]);

/** Whose session it is, while it lasts and they are active; and whether they have yet to put on a second factor that is asked of them. */
export const byToken = (hash: string, now: Instant): Query<{ person: string; owesSecond: boolean; seenAt: Instant }> =>
  select(
    record<{ person: string; owesSecond: boolean; seenAt: Instant }>({
      person: text('person_id'),
      owesSecond: flag('owes_second'),
      seenAt: instant('seen'),
    }),
    `SELECT s.person_id, COALESCE(s.seen_at, '1970-01-02') AS seen,
        s.by_house = 0 AND (h.second_factor = 'everybody' OR (h.second_factor = 'stewards' AND p.role = 'steward'))
          AND NOT EXISTS (SELECT 1 FROM second_factors f WHERE f.person_id = p.id AND f.is_on = 1) AS owes_second
      FROM sessions s
      JOIN people p ON p.id = s.person_id
      JOIN house_signing_in h
      WHERE s.id = ? AND s.expires_at > ? AND p.is_active = 1`,
    hash,
    sqlTime(now),
  );
/** Says that a session was used. */
export const note = (hash: string, at: Instant): Statement =>
  query('UPDATE sessions SET seen_at = ? WHERE id = ?', sqlTime(at), hash);
/** Which of these sessions last still, and are of somebody active. */
export const standing = (hashes: readonly string[], now: Instant): Query<string> =>
  select(
    text('id'),
    `SELECT s.id FROM sessions s JOIN people p ON p.id = s.person_id
      WHERE s.id IN (?) AND s.expires_at > ? AND p.is_active = 1`,
    [...hashes],
    sqlTime(now),
  );

/** A session as its person sees it. */
export interface Session {
  hash: string;
  openedAt: Instant | null;
  seenAt: Instant | null;
  agent: string;
  origin: string | null;
}
/** Somebody's sessions that last, the one used last first. */
export const ofPerson = (who: string, now: Instant): Query<Session> =>
  select(
    record<Session>({
      hash: text('id'),
      openedAt: nullable(instant)('opened_at'),
      seenAt: nullable(instant)('seen_at'),
      agent: text('agent'),
      origin: nullable(text)('origin'),
    }),
    `SELECT id, opened_at, seen_at, agent, origin FROM sessions
      WHERE person_id = ? AND expires_at > ? ORDER BY seen_at DESC, id LIMIT 500`,
    who,
    sqlTime(now),
  );
/** Ends sessions. */
export const close = (...hashes: string[]): Statement => query('DELETE FROM sessions WHERE id IN (?)', hashes);
/** Ends all of somebody's sessions but one. */
export const closeOthers = (who: string, hash: string): Statement =>
  query('DELETE FROM sessions WHERE person_id = ? AND id <> ?', who, hash);
/** Takes away sessions that have run out. */
export const sweep = (now: Instant): Statement => query('DELETE FROM sessions WHERE expires_at <= ?', sqlTime(now));

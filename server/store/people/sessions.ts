import type { Instant } from '../../../core/time/index.ts';
import { flag, type Query, query, record, select, sqlTime, type Statement, text } from '../database/query.ts';

/** Somebody who wants to sign in, with the hash of their password. */
export const person = (id: string): Query<{ id: string; passwordHash: string; isActive: boolean }> =>
  select(
    record({ id: text('id'), passwordHash: text('password_hash'), isActive: flag('is_active') }),
    'SELECT id, password_hash, is_active FROM people WHERE id = ? OR email = ?',
    id,
    id,
  );
/** Opens a session; only the hash of its token is kept. */
export const open = (hash: string, person: string, expires: Instant): Statement =>
  query('INSERT INTO sessions (id, person_id, expires_at) VALUES (?)', [hash, person, sqlTime(expires)]);
/** Whose session it is, while it lasts and they are active. */
export const byToken = (hash: string, now: Instant): Query<string> =>
  select(
    text('person_id'),
    `SELECT s.person_id
      FROM sessions s
      JOIN people p ON p.id = s.person_id
      WHERE s.id = ? AND s.expires_at > ? AND p.is_active = 1`,
    hash,
    sqlTime(now),
  );
/** Which of these sessions last still, and are of somebody active. */
export const standing = (hashes: readonly string[], now: Instant): Query<string> =>
  select(
    text('id'),
    `SELECT s.id FROM sessions s JOIN people p ON p.id = s.person_id
      WHERE s.id IN (?) AND s.expires_at > ? AND p.is_active = 1`,
    [...hashes],
    sqlTime(now),
  );
/** Ends a session. */
export const close = (hash: string): Statement => query('DELETE FROM sessions WHERE id = ?', hash);
/** Takes away sessions that have run out. */
export const sweep = (now: Instant): Statement => query('DELETE FROM sessions WHERE expires_at <= ?', sqlTime(now));

import type { Instant } from '../../core/time/index.ts';
import { type Query, query, sqlTime } from './connection.ts';

export const personForSignInQuery = (id: string): Query =>
  query('SELECT id, password_hash, is_active FROM people WHERE id = ? OR email = ?', id, id);
export const openSessionQuery = (hash: string, person: string, expires: Instant): Query =>
  query('INSERT INTO sessions (id, person_id, expires_at) VALUES (?)', [hash, person, sqlTime(expires)]);
export const sessionQuery = (hash: string, now: Instant): Query =>
  query(
    'SELECT s.person_id FROM sessions s JOIN people p ON p.id = s.person_id WHERE s.id = ? AND s.expires_at > ? AND p.is_active = 1',
    hash,
    sqlTime(now),
  );
export const closeSessionQuery = (hash: string): Query => query('DELETE FROM sessions WHERE id = ?', hash);
export const sweepSessionsQuery = (now: Instant): Query =>
  query('DELETE FROM sessions WHERE expires_at <= ?', sqlTime(now));

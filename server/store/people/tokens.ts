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

/** What lets a program of somebody's own ask in their name: to read alone, or to do what they may. */
export interface PersonalToken {
  id: string;
  person: string;
  name: string;
  scope: 'read' | 'write';
  madeAt: Instant;
  expiresAt: Instant;
  usedAt: Instant | null;
}

const COLUMNS = 'id, person_id, name, scope, made_at, expires_at, used_at';
const decode = record<PersonalToken>({
  id: text('id'),
  person: text('person_id'),
  name: text('name'),
  scope: word('scope'),
  madeAt: instant('made_at'),
  expiresAt: instant('expires_at'),
  usedAt: nullable(instant)('used_at'),
});

/** Somebody's tokens, the newest first. */
export const ofPerson = (person: string): Query<PersonalToken> =>
  select(decode, `SELECT ${COLUMNS} FROM personal_tokens WHERE person_id = ? ORDER BY made_at DESC, id`, person);
/** The token of this hash, while its days last and its person is active. */
export const byHash = (hash: string, now: Instant): Query<PersonalToken> =>
  select(
    decode,
    `SELECT ${COLUMNS} FROM personal_tokens WHERE token_hash = ? AND expires_at > ?
     AND EXISTS (SELECT 1 FROM people p WHERE p.id = person_id AND p.is_active = 1)`,
    hash,
    sqlTime(now),
  );
/** Keeps a token, by its hash alone. */
export const create = (token: Omit<PersonalToken, 'usedAt'>, hash: string): Statement =>
  query('INSERT INTO personal_tokens (id, person_id, name, scope, made_at, expires_at, token_hash) VALUES (?)', [
    token.id,
    token.person,
    token.name,
    token.scope,
    sqlTime(token.madeAt),
    sqlTime(token.expiresAt),
    hash,
  ]);
/** Ends one of somebody's tokens; changes no row where it is not theirs. */
export const end = (id: string, person: string): Statement =>
  query('DELETE FROM personal_tokens WHERE id = ? AND person_id = ?', id, person);
/** Says that a token was used, at most once in a minute. */
export const note = (id: string, at: Instant): Statement =>
  query(
    'UPDATE personal_tokens SET used_at = ? WHERE id = ? AND (used_at IS NULL OR used_at < ?)',
    sqlTime(at),
    id,
    sqlTime(at - 60_000),
  );

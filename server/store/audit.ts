import type { AuditedKind } from '../../contract/wire/index.ts';
import type { Instant } from '../../core/time/index.ts';
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
} from './database/query.ts';

/** An entry of the audit trail: who did what, when, and from which address. */
export interface AuditEntry {
  seq: number;
  at: Instant;
  kind: AuditedKind;
  /** A person's id; the empty string where a refused sign-in named nobody. */
  actor: string;
  origin: string | null;
  /** What it was about, by names that need no looking up. */
  about: Record<string, string | number>;
}

/**
 * Writes an entry, in the transaction of what it tells of. The table is the database's own and not Ojo's: Ojo's user
 * may add to it and read it, and change nothing in it.
 */
export const add = ({ at, kind, actor, origin, about }: Omit<AuditEntry, 'seq'>): Statement =>
  query(
    'INSERT INTO audit_ojo.entries (house, at, kind, actor, origin, about) VALUES (DATABASE(), ?, ?, ?, ?, ?)',
    sqlTime(at),
    kind,
    actor.slice(0, 200),
    origin?.slice(0, 60) ?? null,
    JSON.stringify(about),
  );

/** Entries before one, the newest first; of one sort, where one is named. */
export const list = (before: number | null, kind: AuditedKind | null, limit: number): Query<AuditEntry> =>
  select(
    record<AuditEntry>({
      seq: number('seq'),
      at: instant('at'),
      kind: word('kind'),
      actor: text('actor'),
      origin: nullable(text)('origin'),
      about: json('about'),
    }),
    `SELECT seq, at, kind, actor, origin, about FROM audit_ojo.entries
     WHERE house = DATABASE() AND seq < ? AND (? IS NULL OR kind = ?) ORDER BY seq DESC LIMIT ?`,
    before ?? Number.MAX_SAFE_INTEGER,
    kind,
    kind,
    limit,
  );
/** Whether the trail is there, and may be read. */
export const answers = (): Query<number> =>
  select(number('found'), 'SELECT COUNT(*) AS found FROM (SELECT 1 FROM audit_ojo.entries LIMIT 1) e');

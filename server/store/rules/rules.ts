import type { Phase } from '../../../core/decide/index.ts';
import type { Rule } from '../../../core/rules/index.ts';
import type { Instant } from '../../../core/time/index.ts';
import {
  flag,
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

/** A rule as it is kept: what is live of it, what is edited, and how it stands. */
export interface StoredRule {
  id: string;
  owner: string;
  state: 'draft' | 'live' | 'ended';
  version: number;
  draft: Rule | null;
  draftRevision: number;
  draftBy: string | null;
  draftAt: Instant | null;
  /** The newest version that was ever put live. */
  live: Rule | null;
  liveFrom: Instant | null;
  liveUntil: Instant | null;
  isPaused: boolean;
  putLiveBy: string | null;
  deletedAt: Instant | null;
  /** Whom somebody has asked to look after it, and who did. */
  offer: Offer | null;
  /** That its edits, as they stood at a revision, wait for a second pair of eyes. */
  ask: Ask | null;
}

/** That somebody wants a rule's edits live, which a steward has to look at. */
export interface Ask {
  revision: number;
  by: string;
  at: Instant;
  why: string | null;
}

/** That somebody has been asked to look after a rule, and has not answered. */
export interface Offer {
  to: string;
  by: string;
  at: Instant;
}

const SELECT = `SELECT r.id, r.owner_id, r.state, r.deleted_at, r.version, r.draft, r.draft_revision, r.draft_by, r.draft_at, v.document, v.live_from, v.live_until, v.put_live_by,
  (SELECT p.is_paused FROM rule_phases p WHERE p.rule_id = r.id AND p.until IS NULL) AS is_paused,
  o.to_person, o.by_person, o.at AS offered_at,
  k.revision AS asked_revision, k.by_person AS asked_by, k.at AS asked_at, k.why AS asked_why
  FROM rules r LEFT JOIN rule_versions v ON v.rule_id = r.id AND v.version = r.version
  LEFT JOIN rule_offers o ON o.rule_id = r.id
  LEFT JOIN rule_asks k ON k.rule_id = r.id AND k.revision = r.draft_revision`;

const decode = record<StoredRule>({
  id: text('id'),
  owner: text('owner_id'),
  state: word('state'),
  version: number('version'),
  draft: json('draft'),
  draftRevision: number('draft_revision'),
  draftBy: nullable(text)('draft_by'),
  draftAt: nullable(instant)('draft_at'),
  live: json('document'),
  liveFrom: nullable(instant)('live_from'),
  liveUntil: nullable(instant)('live_until'),
  isPaused: flag('is_paused'),
  putLiveBy: nullable(text)('put_live_by'),
  deletedAt: nullable(instant)('deleted_at'),
  offer: (row) =>
    row.to_person === null
      ? null
      : { to: text('to_person')(row), by: text('by_person')(row), at: instant('offered_at')(row) },
  // Edited since, what was asked for is no more.
  ask: (row) =>
    row.asked_by === null
      ? null
      : {
          revision: number('asked_revision')(row),
          by: text('asked_by')(row),
          at: instant('asked_at')(row),
          why: nullable(text)('asked_why')(row),
        },
});

/** All rules that are not deleted. */
export const all = (): Query<StoredRule> =>
  select(decode, `${SELECT} WHERE r.deleted_at IS NULL ORDER BY r.created_at, r.id`);
/** One rule; locked where an act on it follows. */
export const byId = (id: string, { lock = false, withDeleted = false } = {}): Query<StoredRule> =>
  select(
    decode,
    `${SELECT} WHERE r.id = ?${withDeleted ? '' : ' AND r.deleted_at IS NULL'}${lock ? ' FOR UPDATE' : ''}`,
    id,
  );
/** What somebody's own rules are called, drafts by the name they are edited under; those that have ended aside. */
export const names = (owner: string): Query<{ id: string; name: string }> =>
  select(
    record<{ id: string; name: string }>({ id: text('id'), name: text('name') }),
    `SELECT r.id, JSON_VALUE(COALESCE(r.draft, v.document), '$.name') AS name
    FROM rules r LEFT JOIN rule_versions v ON v.rule_id = r.id AND v.version = r.version
    WHERE r.owner_id = ? AND r.deleted_at IS NULL AND r.state <> 'ended'`,
    owner,
  );
/** Deletes a rule; it can be brought back. */
export const remove = (id: string, at: Instant): Statement =>
  query('UPDATE rules SET deleted_at = ? WHERE id = ?', sqlTime(at), id);
/** Brings a deleted rule back as it was. */
export const bringBack = (id: string): Statement => query('UPDATE rules SET deleted_at = NULL WHERE id = ?', id);
/** Asks somebody to look after a rule, in the place of whoever was asked before. */
export const offer = (id: string, { to, by, at }: Offer): Statement =>
  query('REPLACE INTO rule_offers (rule_id, to_person, by_person, at) VALUES (?)', [id, to, by, sqlTime(at)]);
/** Takes it that somebody was asked as answered by them; changes no row where they are not asked any more. */
export const answerOffer = (id: string, by: string): Statement =>
  query('DELETE FROM rule_offers WHERE rule_id = ? AND to_person = ?', id, by);
/** Takes back that somebody was asked. */
export const dropOffer = (id: string): Statement => query('DELETE FROM rule_offers WHERE rule_id = ?', id);
/** Wants a rule's edits looked at, in the place of what was asked before. */
export const askForEyes = (id: string, { revision, by, at, why }: Ask): Statement =>
  query('REPLACE INTO rule_asks (rule_id, revision, by_person, at, why) VALUES (?)', [
    id,
    revision,
    by,
    sqlTime(at),
    why,
  ]);
/** Takes it that what was asked is answered; changes no row where it was already. */
export const answerAsk = (id: string, revision: number): Statement =>
  query('DELETE FROM rule_asks WHERE rule_id = ? AND revision = ?', id, revision);
/** Notes who looked at a version before it was live. */
export const noteApproval = (id: string, version: number, by: string): Statement =>
  query('UPDATE rule_versions SET approved_by = ? WHERE rule_id = ? AND version = ?', by, id, version);
/** Gives a rule, and its draft, another owner. */
export const handOver = (id: string, owner: string, draft: Rule | null): Statement =>
  query(
    'UPDATE rules SET owner_id = ?, draft = ?, draft_revision = draft_revision + 1 WHERE id = ?',
    owner,
    draft && JSON.stringify(draft),
    id,
  );

/** Every version of a rule that was ever live, the newest first. */
export interface StoredVersion {
  version: number;
  document: Rule;
  from: Instant;
  until: Instant | null;
  by: string;
  /** Who looked at it before it was live. */
  approvedBy: string | null;
  why: string | null;
}
/** All versions of a rule that were live, latest first. */
export const versions = (rule: string): Query<StoredVersion> =>
  select(
    decodeVersion,
    `SELECT version, document, live_from, live_until, put_live_by, approved_by, why
      FROM rule_versions
      WHERE rule_id = ?
      ORDER BY version DESC`,
    rule,
  );
const decodeVersion = record<StoredVersion>({
  version: number('version'),
  document: json('document'),
  from: instant('live_from'),
  until: nullable(instant)('live_until'),
  by: text('put_live_by'),
  approvedBy: nullable(text)('approved_by'),
  why: nullable(text)('why'),
});

/** Somebody has a rule open to edit it, until an instant unless they say so again. */
export const noteEditing = (rule: string, person: string, until: Instant): Statement =>
  query(
    'INSERT INTO rule_editors (rule_id, person_id, until) VALUES (?) ON DUPLICATE KEY UPDATE until = VALUES(until)',
    [rule, person, sqlTime(until)],
  );
/** Who has a rule open to edit just now. */
export const editors = (rule: string, now: Instant): Query<string> =>
  select(
    text('person_id'),
    'SELECT person_id FROM rule_editors WHERE rule_id = ? AND until > ? ORDER BY person_id',
    rule,
    sqlTime(now),
  );

/** Keeps a new rule as a draft. */
export const create = (rule: Rule, by: string, at: Instant): Statement =>
  query('INSERT INTO rules (id, owner_id, state, draft, draft_revision, draft_by, draft_at, created_at) VALUES (?)', [
    rule.id,
    rule.owner,
    'draft',
    JSON.stringify(rule),
    1,
    by,
    sqlTime(at),
    sqlTime(at),
  ]);

/** Keeps edits beside what is live; nothing happens where somebody else has kept others since `revision`. */
export const keepDraft = (rule: Rule, revision: number, by: string, at: Instant): Statement =>
  query(
    `UPDATE rules
      SET draft = ?, draft_revision = draft_revision + 1, draft_by = ?, draft_at = ?
      WHERE id = ? AND draft_revision = ?`,
    JSON.stringify(rule),
    by,
    sqlTime(at),
    rule.id,
    revision,
  );
/** Drops the edits of a rule; what is live stays. */
export const dropDraft = (id: string): Statement =>
  query(
    `UPDATE rules
      SET draft = NULL, draft_revision = draft_revision + 1, draft_by = NULL, draft_at = NULL
      WHERE id = ? AND version > 0`,
    id,
  );

/** A version put live at one instant, at which the one before it ends. Edits that are to gather on stay as `draft`. */
export const putLive = (
  rule: Rule,
  version: number,
  by: string,
  at: Instant,
  why: string | null = null,
  draft: Rule | null = null,
): Statement[] => [
  query('UPDATE rule_versions SET live_until = ? WHERE rule_id = ? AND live_until IS NULL', sqlTime(at), rule.id),
  query('INSERT INTO rule_versions (rule_id, version, document, live_from, put_live_by, why) VALUES (?)', [
    rule.id,
    version,
    JSON.stringify(rule),
    sqlTime(at),
    by,
    why,
  ]),
  draft
    ? query(
        "UPDATE rules SET state = 'live', version = ?, owner_id = ?, draft = ?, draft_revision = draft_revision + 1 WHERE id = ?",
        version,
        rule.owner,
        JSON.stringify(draft),
        rule.id,
      )
    : query(
        `UPDATE rules
          SET state = 'live', version = ?, owner_id = ?, draft = NULL, draft_revision = draft_revision + 1, draft_by = NULL, draft_at = NULL
          WHERE id = ?`,
        version,
        rule.owner,
        rule.id,
      ),
];
/** Ends a rule: no phase of it is live from this instant on. */
export const end = (id: string, at: Instant): Statement[] => [
  query('UPDATE rule_versions SET live_until = ? WHERE rule_id = ? AND live_until IS NULL', sqlTime(at), id),
  query('UPDATE rule_phases SET until = ? WHERE rule_id = ? AND until IS NULL', sqlTime(at), id),
  query("UPDATE rules SET state = 'ended' WHERE id = ?", id),
];

/** A phase as it is stored, with its rule as it was. */
export type StoredPhase = Phase<{ rule: Rule; version: number }> & { since: Instant; until: Instant | null };

const decodePhase = record<StoredPhase>({
  compiled: record<StoredPhase['compiled']>({ rule: json('document'), version: number('version') }),
  epoch: number('epoch'),
  isPaused: flag('is_paused'),
  burstSince: number('burst_since'),
  scheduleSince: number('schedule_since'),
  scheduleBefore: nullable(number)('schedule_before'),
  since: instant('since'),
  until: nullable(instant)('until'),
});

const PHASES = `SELECT p.rule_id, p.epoch, p.version, p.since, p.until, p.is_paused, p.burst_since, p.schedule_since, p.schedule_before, v.document
    FROM rule_phases p
    JOIN rule_versions v ON v.rule_id = p.rule_id AND v.version = p.version`;
/** How a rule stands, locked for whoever changes that. */
export const lastPhase = (rule: string): Query<StoredPhase> =>
  select(decodePhase, `${PHASES} WHERE p.rule_id = ? ORDER BY p.epoch DESC LIMIT 1 FOR UPDATE`, rule);
/** All phases of all rules, by rule and in their order. */
export const phases = (): Query<StoredPhase> => select(decodePhase, `${PHASES} ORDER BY p.rule_id, p.epoch`);
/** A phase begins, and the one before it ends. */
export const beginPhase = (
  {
    compiled: { rule, version },
    epoch,
    isPaused,
    burstSince,
    scheduleSince,
    scheduleBefore,
  }: StoredPhase | Phase<{ rule: Rule; version: number }>,
  by: string,
  at: Instant,
): Statement[] => [
  query('UPDATE rule_phases SET until = ? WHERE rule_id = ? AND until IS NULL', sqlTime(at), rule.id),
  query(
    `INSERT INTO rule_phases (rule_id, epoch, version, since, is_paused, burst_since, schedule_since, schedule_before, put_by)
      VALUES (?)`,
    [rule.id, epoch, version, sqlTime(at), isPaused ? 1 : 0, burstSince, scheduleSince, scheduleBefore, by],
  ),
];

/** Removes a rule that was never live; one that was stays for the record of what it caught. */
export const removeDraft = (id: string): Statement => query('DELETE FROM rules WHERE id = ? AND version = 0', id);

/** Whom a rule has told that it tells them. */
export const listeners = (rule: string): Query<string> =>
  select(text('person_id'), 'SELECT person_id FROM rule_listeners WHERE rule_id = ?', rule);
/** Notes that people hear by a rule from now on; of those who do already nothing changes. */
export const addListeners = (rule: string, people: string[], at: Instant): Statement =>
  query(
    'INSERT IGNORE INTO rule_listeners (rule_id, person_id, since) VALUES ?',
    people.map((person) => [rule, person, sqlTime(at)]),
  );
/** Notes that people hear by a rule no more. */
export const dropListeners = (rule: string, people: string[]): Statement =>
  query('DELETE FROM rule_listeners WHERE rule_id = ? AND person_id IN (?)', rule, people);

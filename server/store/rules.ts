import type { Phase } from '../../core/decide/index.ts';
import type { Rule } from '../../core/rules/index.ts';
import type { Instant } from '../../core/time/index.ts';
import { fromJson, type Query, query, type Row, sqlTime } from './connection.ts';

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
}

const SELECT = `SELECT r.id, r.owner_id, r.state, r.deleted_at, r.version, r.draft, r.draft_revision, r.draft_by, r.draft_at, v.document, v.live_from, v.live_until, v.put_live_by,
  (SELECT p.is_paused FROM rule_phases p WHERE p.rule_id = r.id AND p.until IS NULL) AS is_paused
  FROM rules r LEFT JOIN rule_versions v ON v.rule_id = r.id AND v.version = r.version`;

export const toStoredRule = (row: Row): StoredRule => ({
  id: String(row.id),
  owner: String(row.owner_id),
  state: row.state as StoredRule['state'],
  version: Number(row.version),
  draft: fromJson<Rule | null>(row.draft),
  draftRevision: Number(row.draft_revision),
  draftBy: row.draft_by as string | null,
  draftAt: row.draft_at as Instant | null,
  live: fromJson<Rule | null>(row.document),
  liveFrom: row.live_from as Instant | null,
  liveUntil: row.live_until as Instant | null,
  isPaused: row.is_paused === 1,
  putLiveBy: row.put_live_by as string | null,
  deletedAt: row.deleted_at as Instant | null,
});

export const rulesQuery = (): Query => query(`${SELECT} WHERE r.deleted_at IS NULL ORDER BY r.created_at, r.id`);
export const ruleQuery = (id: string, { lock = false, withDeleted = false } = {}): Query =>
  query(`${SELECT} WHERE r.id = ?${withDeleted ? '' : ' AND r.deleted_at IS NULL'}${lock ? ' FOR UPDATE' : ''}`, id);
export const deleteRuleQuery = (id: string, at: Instant): Query =>
  query('UPDATE rules SET deleted_at = ? WHERE id = ?', sqlTime(at), id);
export const undeleteRuleQuery = (id: string): Query => query('UPDATE rules SET deleted_at = NULL WHERE id = ?', id);
export const handOverQuery = (id: string, owner: string, draft: Rule | null): Query =>
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
  why: string | null;
}
export const versionsQuery = (rule: string): Query =>
  query(
    'SELECT version, document, live_from, live_until, put_live_by, why FROM rule_versions WHERE rule_id = ? ORDER BY version DESC',
    rule,
  );
export const toVersion = (row: Row): StoredVersion => ({
  version: Number(row.version),
  document: fromJson<Rule>(row.document),
  from: row.live_from as Instant,
  until: row.live_until as Instant | null,
  by: String(row.put_live_by),
  why: row.why as string | null,
});

/** Somebody has a rule open to edit it, until an instant unless they say so again. */
export const editingQuery = (rule: string, person: string, until: Instant): Query =>
  query(
    'INSERT INTO rule_editors (rule_id, person_id, until) VALUES (?) ON DUPLICATE KEY UPDATE until = VALUES(until)',
    [rule, person, sqlTime(until)],
  );
export const editorsQuery = (rule: string, now: Instant): Query =>
  query('SELECT person_id FROM rule_editors WHERE rule_id = ? AND until > ? ORDER BY person_id', rule, sqlTime(now));

export const createRuleQuery = (rule: Rule, by: string, at: Instant): Query =>
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
export const keepDraftQuery = (rule: Rule, revision: number, by: string, at: Instant): Query =>
  query(
    'UPDATE rules SET draft = ?, draft_revision = draft_revision + 1, draft_by = ?, draft_at = ? WHERE id = ? AND draft_revision = ?',
    JSON.stringify(rule),
    by,
    sqlTime(at),
    rule.id,
    revision,
  );
export const dropDraftQuery = (id: string): Query =>
  query(
    'UPDATE rules SET draft = NULL, draft_revision = draft_revision + 1, draft_by = NULL, draft_at = NULL WHERE id = ? AND version > 0',
    id,
  );

/** A version put live at one instant, at which the one before it ends. Edits that are to gather on stay as `draft`. */
export const putLiveQueries = (
  rule: Rule,
  version: number,
  by: string,
  at: Instant,
  why: string | null = null,
  draft: Rule | null = null,
): Query[] => [
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
        "UPDATE rules SET state = 'live', version = ?, owner_id = ?, draft = NULL, draft_revision = draft_revision + 1, draft_by = NULL, draft_at = NULL WHERE id = ?",
        version,
        rule.owner,
        rule.id,
      ),
];
export const endRuleQueries = (id: string, at: Instant): Query[] => [
  query('UPDATE rule_versions SET live_until = ? WHERE rule_id = ? AND live_until IS NULL', sqlTime(at), id),
  query('UPDATE rule_phases SET until = ? WHERE rule_id = ? AND until IS NULL', sqlTime(at), id),
  query("UPDATE rules SET state = 'ended' WHERE id = ?", id),
];

/** A phase as it is stored, with its rule as it was. */
export type StoredPhase = Phase<{ rule: Rule; version: number }> & { since: Instant; until: Instant | null };

export const toPhase = (row: Row): StoredPhase => ({
  compiled: { rule: fromJson<Rule>(row.document), version: Number(row.version) },
  epoch: Number(row.epoch),
  isPaused: row.is_paused === 1,
  burstSince: Number(row.burst_since),
  scheduleSince: Number(row.schedule_since),
  scheduleBefore: row.schedule_before === null ? null : Number(row.schedule_before),
  since: row.since as Instant,
  until: row.until as Instant | null,
});

const PHASES =
  'SELECT p.rule_id, p.epoch, p.version, p.since, p.until, p.is_paused, p.burst_since, p.schedule_since, p.schedule_before, v.document FROM rule_phases p JOIN rule_versions v ON v.rule_id = p.rule_id AND v.version = p.version';
/** How a rule stands, locked for whoever changes that. */
export const lastPhaseQuery = (rule: string): Query =>
  query(`${PHASES} WHERE p.rule_id = ? ORDER BY p.epoch DESC LIMIT 1 FOR UPDATE`, rule);
export const phasesQuery = (): Query => query(`${PHASES} ORDER BY p.rule_id, p.epoch`);
/** A phase begins, and the one before it ends. */
export const beginPhaseQueries = (
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
): Query[] => [
  query('UPDATE rule_phases SET until = ? WHERE rule_id = ? AND until IS NULL', sqlTime(at), rule.id),
  query(
    'INSERT INTO rule_phases (rule_id, epoch, version, since, is_paused, burst_since, schedule_since, schedule_before, put_by) VALUES (?)',
    [rule.id, epoch, version, sqlTime(at), isPaused ? 1 : 0, burstSince, scheduleSince, scheduleBefore, by],
  ),
];

/** Removes a rule that was never live; one that was stays for the record of what it caught. */
export const deleteDraftRuleQuery = (id: string): Query => query('DELETE FROM rules WHERE id = ? AND version = 0', id);

/** Filtered views of a source, by name. */
export const viewsQuery = (source: string): Query =>
  query('SELECT id, name, asked, owner_id FROM views WHERE source_id = ? ORDER BY name, id', source);
export const addViewQuery = (
  source: string,
  view: { id: string; name: string; owner: string; asked: object },
  at: Instant,
): Query =>
  query('INSERT INTO views (id, source_id, name, asked, owner_id, created_at) VALUES (?)', [
    view.id,
    source,
    view.name,
    JSON.stringify(view.asked),
    view.owner,
    sqlTime(at),
  ]);
/** Takes a view away; only its owner's, where one is named. */
export const removeViewQuery = (id: string, owner: string | null): Query =>
  owner === null
    ? query('DELETE FROM views WHERE id = ?', id)
    : query('DELETE FROM views WHERE id = ? AND owner_id = ?', id, owner);

/** Whom a rule has told that it tells them. */
export const listenersQuery = (rule: string): Query =>
  query('SELECT person_id FROM rule_listeners WHERE rule_id = ?', rule);
export const addListenersQuery = (rule: string, people: string[], at: Instant): Query =>
  query(
    'INSERT IGNORE INTO rule_listeners (rule_id, person_id, since) VALUES ?',
    people.map((person) => [rule, person, sqlTime(at)]),
  );
export const dropListenersQuery = (rule: string, people: string[]): Query =>
  query('DELETE FROM rule_listeners WHERE rule_id = ? AND person_id IN (?)', rule, people);

/** Texts that several rules share. */
export const saveWordingQuery = ({
  id,
  name,
  subject,
  body,
}: {
  id: string;
  name: string;
  subject: string | null;
  body: string | null;
}): Query =>
  query(
    'INSERT INTO wordings (id, name, subject, body) VALUES (?) ON DUPLICATE KEY UPDATE name = VALUES(name), subject = VALUES(subject), body = VALUES(body)',
    [id, name, subject, body],
  );
export const dropWordingQuery = (id: string): Query => query('DELETE FROM wordings WHERE id = ?', id);

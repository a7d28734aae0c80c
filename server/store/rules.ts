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
  putLiveBy: string | null;
}

const SELECT = `SELECT r.id, r.owner_id, r.state, r.version, r.draft, r.draft_revision, r.draft_by, r.draft_at, v.document, v.live_from, v.live_until, v.put_live_by
  FROM rules r LEFT JOIN rule_versions v ON v.rule_id = r.id AND v.version = r.version`;

export const toStoredRule = (row: Row): StoredRule => ({
  id: String(row.id), owner: String(row.owner_id), state: row.state as StoredRule['state'], version: Number(row.version), draft: fromJson<Rule | null>(row.draft),
  draftRevision: Number(row.draft_revision), draftBy: row.draft_by as string | null, draftAt: row.draft_at as Instant | null, live: fromJson<Rule | null>(row.document),
  liveFrom: row.live_from as Instant | null, liveUntil: row.live_until as Instant | null, putLiveBy: row.put_live_by as string | null,
});

export const rulesQuery = (): Query => query(`${SELECT} ORDER BY r.created_at, r.id`);
export const ruleQuery = (id: string, lock = false): Query => query(`${SELECT} WHERE r.id = ?${lock ? ' FOR UPDATE' : ''}`, id);

export const createRuleQuery = (rule: Rule, by: string, at: Instant): Query =>
  query("INSERT INTO rules (id, owner_id, state, draft, draft_revision, draft_by, draft_at, created_at) VALUES (?)", [rule.id, rule.owner, 'draft', JSON.stringify(rule), 1, by, sqlTime(at), sqlTime(at)]);

/** Keeps edits beside what is live; nothing happens where somebody else has kept others since `revision`. */
export const keepDraftQuery = (rule: Rule, revision: number, by: string, at: Instant): Query =>
  query('UPDATE rules SET draft = ?, draft_revision = draft_revision + 1, draft_by = ?, draft_at = ? WHERE id = ? AND draft_revision = ?', JSON.stringify(rule), by, sqlTime(at), rule.id, revision);
export const dropDraftQuery = (id: string): Query => query('UPDATE rules SET draft = NULL, draft_revision = draft_revision + 1, draft_by = NULL, draft_at = NULL WHERE id = ? AND version > 0', id);

/** Puts a version live at one instant, at which the one before it ends. */
export const putLiveQueries = (rule: Rule, version: number, by: string, at: Instant): Query[] => [
  query('UPDATE rule_versions SET live_until = ? WHERE rule_id = ? AND live_until IS NULL', sqlTime(at), rule.id),
  query('INSERT INTO rule_versions (rule_id, version, document, live_from, put_live_by) VALUES (?)', [rule.id, version, JSON.stringify(rule), sqlTime(at), by]),
  query("UPDATE rules SET state = 'live', version = ?, draft = NULL, draft_revision = draft_revision + 1, draft_by = NULL, draft_at = NULL WHERE id = ?", version, rule.id),
];
export const endRuleQueries = (id: string, at: Instant): Query[] => [
  query('UPDATE rule_versions SET live_until = ? WHERE rule_id = ? AND live_until IS NULL', sqlTime(at), id),
  query("UPDATE rules SET state = 'ended' WHERE id = ?", id),
];
/** Removes a rule that was never live; one that was stays for the record of what it caught. */
export const deleteDraftRuleQuery = (id: string): Query => query('DELETE FROM rules WHERE id = ? AND version = 0', id);

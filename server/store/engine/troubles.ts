import type { Trouble } from '../../../core/decide/index.ts';
import type { Instant } from '../../../core/time/index.ts';
import {
  instant,
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

/** A rule's trouble, with how often and since when. */
export interface StoredTrouble extends Trouble {
  lastAt: Instant;
  times: number;
}

const decode = record<StoredTrouble>({
  rule: text('rule_id'),
  version: number('version'),
  code: word('code'),
  to: text('recipient'),
  reason: text('reason'),
  at: instant('first_at'),
  lastAt: instant('last_at'),
  times: number('times'),
});

const TROUBLE = 'SELECT rule_id, version, code, recipient, reason, first_at, last_at, times FROM rule_troubles';
/** What the live versions of rules have been in trouble with. */
export const all = (): Query<StoredTrouble> =>
  select(decode, `${TROUBLE} t WHERE t.version = (SELECT r.version FROM rules r WHERE r.id = t.rule_id)`);
/** Rules' troubles that nobody has been told of. */
export const untold = (): Query<StoredTrouble> =>
  select(decode, `${TROUBLE} WHERE told_at IS NULL ORDER BY first_at LIMIT 50`);
/** Notes that somebody has been told of a rule's trouble. */
export const noteTold = ({ rule, version, code, to }: Trouble, at: Instant): Statement =>
  query(
    'UPDATE rule_troubles SET told_at = ? WHERE rule_id = ? AND version = ? AND code = ? AND recipient = ?',
    sqlTime(at),
    rule,
    version,
    code,
    to,
  );

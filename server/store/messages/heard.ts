import type { WithheldReason } from '../../../core/decide/index.ts';
import type { Channel } from '../../../core/people/index.ts';
import type { Instant } from '../../../core/time/index.ts';
import { instant, json, nullable, number, type Query, record, select, sqlTime, text, word } from '../database/query.ts';
import type { Fate } from './messages.ts';

/** A message that told somebody of a change, by one of its rules. */
export interface HeardBy {
  rule: string;
  id: string;
  channel: Channel;
  at: Instant;
  fate: Fate;
  reply: string | null;
  readAt: Instant | null;
}
/** The messages that told somebody of a change. */
export const messagesOf = (source: string, change: string, person: string): Query<HeardBy> =>
  select(
    record<HeardBy>({
      rule: text('rule_id'),
      id: text('id'),
      channel: word('channel'),
      at: instant('at'),
      fate: word('fate'),
      reply: nullable(text)('reply'),
      readAt: nullable(instant)('read_at'),
    }),
    `SELECT ma.rule_id, m.id, m.channel, m.at, m.fate, m.reply, m.read_at
      FROM alert_changes ac
      JOIN message_alerts ma ON ma.alert_id = ac.alert_id
      JOIN messages m ON m.id = ma.message_id
     JOIN changes c ON c.source_id = ac.source_id AND c.id = ac.change_id
     WHERE ac.source_id = ? AND ac.change_id = ? AND m.person_id = ? AND JSON_CONTAINS(ma.items, JSON_QUOTE(c.item_id)) ORDER BY m.at, m.seq`,
    source,
    change,
    person,
  );
/** By which rules somebody was withheld the item of a change, and why. */
export const withheldOf = (
  source: string,
  change: string,
  person: string,
): Query<{ rule: string; reason: WithheldReason }> =>
  select(
    record({ rule: text('rule_id'), reason: word<WithheldReason>('reason') }),
    `SELECT w.rule_id, w.reason FROM alert_changes ac JOIN changes c ON c.source_id = ac.source_id AND c.id = ac.change_id
     JOIN withheld w ON w.alert_id = ac.alert_id AND w.item_id = c.item_id WHERE ac.source_id = ? AND ac.change_id = ? AND w.person_id = ?`,
    source,
    change,
    person,
  );
/** What became of matches of a change that came to nothing. */
export const droppedOf = (
  rules: string[],
  change: string,
  from: Instant,
): Query<{ rule: string; reason: 'undone' | 'skipped' }> =>
  select(
    record({ rule: text('rule_id'), reason: word<'undone' | 'skipped'>('reason') }),
    'SELECT rule_id, reason FROM dropped WHERE rule_id IN (?) AND at >= ? AND JSON_CONTAINS(changes, JSON_QUOTE(?))',
    rules,
    sqlTime(from),
    change,
  );
/** Where a change gathers until it settles or its rule goes on, rule by rule. */
export const pendingOf = (rules: string[], change: string): Query<{ rule: string; isKept: boolean }> =>
  select(
    record({ rule: text('rule_id'), isKept: (row) => row.shelf === 'kept' }),
    `SELECT rule_id, shelf
      FROM engine_rows
      WHERE shelf IN ('gatherings', 'batched', 'kept') AND rule_id IN (?) AND JSON_SEARCH(value, 'one', ?) IS NOT NULL`,
    rules,
    change,
  );
/** What of a change gathers for somebody's digest, or is held by their quiet hours, and until when, by rule. */
export const gatheringOf = (person: string, change: string): Query<{ rules: string[]; until: Instant }> =>
  select(
    record({ rules: json<string[]>('rules'), until: number('until_at') }),
    `SELECT COALESCE(JSON_EXTRACT(value, '$.portions[*].rule'), JSON_ARRAY(JSON_VALUE(value, '$.rule'))) AS rules,
       CAST(COALESCE(JSON_VALUE(value, '$.due'), JSON_VALUE(value, '$.until')) AS SIGNED) AS until_at
     FROM engine_rows WHERE shelf IN ('waiting', 'held') AND recipient = ? AND JSON_SEARCH(value, 'one', ?) IS NOT NULL`,
    person,
    change,
  );
/** A change behind each of these alerts, the first of each. */
export const firstChanges = (alerts: string[]): Query<{ alert: string; source: string; change: string }> =>
  select(
    record({ alert: text('alert_id'), source: text('source_id'), change: text('change_id') }),
    `SELECT alert_id, source_id, MIN(change_id) AS change_id
      FROM alert_changes
      WHERE alert_id IN (?)
      GROUP BY alert_id, source_id`,
    alerts,
  );

import type { Occasion } from '../../../core/rules/index.ts';
import type { Instant } from '../../../core/time/index.ts';
import { instant, json, number, type Query, record, select, text, word } from '../database/query.ts';

/** An alert that somebody had a message of. */
export interface NewestTold {
  /** The id under which it is stored, and the engine's own. */
  id: string;
  alert: string;
  version: number;
  at: Instant;
  occasion: Occasion;
  /** All that the alert holds. */
  items: string[];
}

/** The newest alert of a rule of which a message went to somebody; with an item one that a message told of, with an alert's own id just that one. */
export const newest = (
  person: string,
  rule: string,
  item: string | null,
  alert: string | null = null,
): Query<NewestTold> =>
  select(
    record<NewestTold>({
      id: text('id'),
      alert: text('alert_key'),
      version: number('version'),
      at: instant('at'),
      occasion: word('occasion'),
      items: json<string[]>('items'),
    }),
    `SELECT a.id, a.alert_key, a.version, a.at, a.occasion, a.items
      FROM messages m JOIN message_alerts ma ON ma.message_id = m.id JOIN alerts a ON a.id = ma.alert_id
      WHERE m.person_id = ? AND m.recipient = 'person' AND ma.rule_id = ?${item === null ? '' : ' AND JSON_CONTAINS(ma.items, JSON_QUOTE(?))'}${alert === null ? '' : ' AND a.alert_key = ?'}
      ORDER BY a.at DESC, m.seq DESC LIMIT 1`,
    person,
    rule,
    ...(item === null ? [] : [item]),
    ...(alert === null ? [] : [alert]),
  );

/** The items of an alert that messages told somebody of, message by message. */
export const itemsTold = (alert: string, person: string): Query<string[]> =>
  select(
    json<string[]>('items'),
    `SELECT ma.items FROM message_alerts ma JOIN messages m ON m.id = ma.message_id
      WHERE ma.alert_id = ? AND m.person_id = ? AND m.recipient = 'person' ORDER BY m.seq`,
    alert,
    person,
  );

/** The changes of an alert with their items, in the order in which they came. */
export const changesOf = (alert: string): Query<{ source: string; item: string; change: string }> =>
  select(
    record({ source: text('source_id'), item: text('item_id'), change: text('id') }),
    `SELECT c.source_id, c.item_id, c.id FROM alert_changes ac JOIN changes c ON c.source_id = ac.source_id AND c.id = ac.change_id
      WHERE ac.alert_id = ? ORDER BY c.at, c.seq`,
    alert,
  );

import type { Effect, Message, Portion, Waiting } from '../../core/decide/index.ts';
import { type Content, type Site, wordsOf } from '../../core/messages/index.ts';
import type { Instant } from '../../core/time/index.ts';
import { fromJson, type Param, type Query, query, type Row, sqlTime } from './connection.ts';
import { shortKey } from './keys.ts';

/** The id under which a message is stored; also the left part of its email's Message-ID. */
export const messageId = (message: Message): string => shortKey(message.key);

/** The id under which an alert is stored. Everybody told of an alert asks for the same one in a row. */
function alertId(alert: string): string {
  if (alert !== lastAlert.alert) lastAlert = { alert, id: shortKey(alert) };
  return lastAlert.id;
}
let lastAlert = { alert: '', id: '' };

const timerId = (kind: string, ...parts: (string | number)[]) => shortKey([kind, ...parts].join('|'));

type Rows = Param[][];

/** Tables whose rows can be there already although the change was never decided: several rules may wait for one digest. */
const SHARED = new Set(['timers', 'waiting', 'withheld']);

/**
 * The statements that write what a step decided, each table once. Every row has a key derived from what was
 * decided: writing it a second time changes nothing. With `isFirst` a second time is refused instead, which is
 * quicker to write; the caller then does it the other way.
 */
export function effectQueries(effects: readonly Effect[], now: Instant, site: Site, isFirst = false): Query[] {
  const tables = new Map<string, Rows>();
  const add = (table: string, row: Param[]) => {
    const kept = tables.get(table);
    if (kept) kept.push(row);
    else tables.set(table, [row]);
  };
  const said = new Map<Content, string>();
  for (const effect of effects) addEffect(effect, now, site, add, said);
  return [...tables].map(([table, values]) => {
    const [columns, same] = COLUMNS[table] as [string, string];
    const again = isFirst && !SHARED.has(table) ? '' : ` ON DUPLICATE KEY UPDATE ${same} = ${table}.${same}`;
    return query(`INSERT INTO ${table} (${columns}) VALUES ?${again}`, values);
  });
}

const COLUMNS: Record<string, [columns: string, key: string]> = {
  alerts: ['id, rule_id, version, at, items, changes, suppressed', 'id'],
  alert_changes: ['alert_id, source_id, change_id, rule_id', 'alert_id'],
  withheld: ['alert_id, item_id, person_id, rule_id, reason, at', 'alert_id'],
  messages: ['id, person_id, channel, address, at, form, urgency, subject, body, content, content_of, fate, fate_at', 'id'],
  message_alerts: ['message_id, alert_id, rule_id, items', 'alert_id'],
  waiting: ['person_id, channel, due_at, alert_id, item_id, told', 'alert_id'],
  timers: ['id, kind, due_at, payload', 'id'],
};

function addEffect(effect: Effect, now: Instant, site: Site, add: (table: string, row: Param[]) => void, said: Map<Content, string>): void {
  switch (effect.effect) {
    case 'alert': {
      const { id, rule, version, at, items, changes, suppressed } = effect.alert;
      const key = alertId(id);
      add('alerts', [key, rule, version, sqlTime(at), JSON.stringify(items), JSON.stringify(changes), suppressed]);
      const source = id.split('/')[2] ?? '';
      for (const change of changes) add('alert_changes', [key, source, change, rule]);
      return;
    }
    case 'withheld': {
      const { alert, item, person, rule, reason, at } = effect.withheld;
      add('withheld', [alertId(alert), item, person, rule, reason, sqlTime(at)]);
      return;
    }
    case 'message': {
      const { to, channel, address, at, form, urgency, subject, content, alerts } = effect.message;
      const id = messageId(effect.message);
      // What stands in the inbox has arrived; the other channels are the senders' work.
      const arrived = channel === 'inApp';
      const same = said.get(content) ?? null;
      if (same === null) said.set(content, id);
      add('messages', [id, to, channel, address, sqlTime(at), form, urgency, subject.slice(0, 500), channel === 'text' ? wordsOf(content, channel, site) : null, same === null ? JSON.stringify(content) : null, same, arrived ? 'delivered' : 'waiting', arrived ? sqlTime(now) : null]);
      for (const { alert, rule, items } of alerts) add('message_alerts', [id, alertId(alert), rule, JSON.stringify(items)]);
      return;
    }
    case 'wait': {
      const { person, channel, due, ...portion } = effect.waiting;
      add('waiting', [person, channel, sqlTime(due), shortKey(portion.alert), portion.item, JSON.stringify(portion)]);
      add('timers', [timerId('digest', person, channel, due), 'digest', sqlTime(due), JSON.stringify({ input: 'digest', person, channel, at: due })]);
      return;
    }
    case 'later': {
      const { later } = effect;
      const first = later.portions[0] as Portion;
      add('timers', [timerId('later', first.alert, later.person, later.step), 'later', sqlTime(later.due), JSON.stringify({ input: 'later', later })]);
      return;
    }
    default:
      effect satisfies never;
  }
}

/** Claims the timers that are due, those that others are running left out; locked until the transaction ends. */
export const claimTimersQuery = (now: Instant, limit: number): Query =>
  query('SELECT id, kind, due_at, payload FROM timers WHERE due_at <= ? AND (not_before IS NULL OR not_before <= ?) ORDER BY due_at, kind DESC, id LIMIT ? FOR UPDATE SKIP LOCKED', sqlTime(now), sqlTime(now), limit);
export const timersDoneQuery = (ids: string[]): Query => query('DELETE FROM timers WHERE id IN (?)', ids);
export const putOffTimerQuery = (id: string, until: Instant, error: string): Query =>
  query('UPDATE timers SET tries = tries + 1, not_before = ?, error = ? WHERE id = ?', sqlTime(until), error.slice(0, 1000), id);

export const waitingQuery = (person: string, channel: string, due: Instant): Query =>
  query('SELECT told FROM waiting WHERE person_id = ? AND channel = ? AND due_at = ? ORDER BY seq', person, channel, sqlTime(due));
export const waitingDoneQuery = (person: string, channel: string, due: Instant): Query =>
  query('DELETE FROM waiting WHERE person_id = ? AND channel = ? AND due_at = ?', person, channel, sqlTime(due));
export const toWaiting = (row: Row, person: string, channel: Waiting['channel'], due: Instant): Waiting => ({ ...fromJson<Portion>(row.told), person, channel, due });

/** Which of these alerts a person has read a message of. */
export const readAlertsQuery = (person: string, alerts: string[]): Query =>
  query('SELECT DISTINCT ma.alert_id FROM message_alerts ma JOIN messages m ON m.id = ma.message_id WHERE ma.alert_id IN (?) AND m.person_id = ? AND m.read_at IS NOT NULL', alerts.map(shortKey), person);

/** What a rule caught, for the list of rules: alerts, messages and how many of those were read, since an instant. */
export const ruleFiguresQuery = (from: Instant): Query =>
  query(`SELECT r.id,
      (SELECT COUNT(*) FROM alerts a WHERE a.rule_id = r.id AND a.at >= ?) AS alerts,
      (SELECT COUNT(DISTINCT m.id) FROM message_alerts ma JOIN messages m ON m.id = ma.message_id WHERE ma.rule_id = r.id AND m.at >= ? AND m.channel = 'inApp') AS told,
      (SELECT COUNT(DISTINCT m.id) FROM message_alerts ma JOIN messages m ON m.id = ma.message_id WHERE ma.rule_id = r.id AND m.at >= ? AND m.channel = 'inApp' AND m.read_at IS NOT NULL) AS seen,
      (SELECT MAX(a.at) FROM alerts a WHERE a.rule_id = r.id) AS last_at
    FROM rules r`, sqlTime(from), sqlTime(from), sqlTime(from));

/** When a rule caught something, since an instant. */
export const catchesQuery = (from: Instant): Query => query('SELECT rule_id, at FROM alerts WHERE at >= ? ORDER BY at', sqlTime(from));


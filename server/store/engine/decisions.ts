import type { Effect, Message } from '../../../core/decide/index.ts';
import { type Content, plainLinks, type Site, subjectOf, wordsOf } from '../../../core/messages/index.ts';
import type { Instant } from '../../../core/time/index.ts';
import { answerCode, shortKey } from '../database/keys.ts';
import { type Param, query, sqlTime, type Statement } from '../database/query.ts';

/** The id under which a message is stored; also the left part of its email's Message-ID. */
export const messageId = (message: Message): string => shortKey(message.key);

/** The id under which an alert is stored. Everybody told of an alert asks for the same one in a row. */
function alertId(alert: string): string {
  if (alert !== lastAlert.alert) lastAlert = { alert, id: shortKey(alert) };
  return lastAlert.id;
}
let lastAlert = { alert: '', id: '' };

type Rows = Param[][];

/** Tables whose rows can be there already although the change was never decided: the first reason stands. */
const SHARED = new Set(['withheld', 'dropped', 'rule_troubles']);

/**
 * The statements that write what a step decided, each table once. Every row has a key derived from what was
 * decided: writing it a second time changes nothing. With `isFirst` a second time is refused instead, which is
 * quicker to write; the caller then does it the other way.
 */
export function save(effects: readonly Effect[], now: Instant, site: Site, isFirst = false): Statement[] {
  const tables = new Map<string, Rows>();
  const add = (table: string, row: Param[]) => {
    const kept = tables.get(table);
    if (kept) kept.push(row);
    else tables.set(table, [row]);
  };
  const writing: Writing = { now, site, said: new Map() };
  for (const effect of effects) addEffect(effect, add, writing);
  return [...tables].map(([table, values]) => {
    const [columns, same] = COLUMNS[table] as [string, string];
    const isRefused = isFirst && !SHARED.has(table);
    const again =
      table === 'rule_troubles' ? 'times = times + 1, last_at = VALUES(last_at)' : `${same} = ${table}.${same}`;
    return query(
      `INSERT INTO ${table} (${columns}) VALUES ?${isRefused ? '' : ` ON DUPLICATE KEY UPDATE ${again}`}`,
      values,
    );
  });
}

const COLUMNS: Record<string, [columns: string, key: string]> = {
  alerts: ['id, alert_key, occasion, rule_id, version, at, items, changes, suppressed', 'id'],
  alert_changes: ['alert_id, source_id, change_id, rule_id', 'alert_id'],
  withheld: ['alert_id, item_id, person_id, rule_id, reason, at', 'alert_id'],
  rule_troubles: ['rule_id, version, code, recipient, reason, first_at, last_at', 'rule_id'],
  dropped: ['id, at, rule_id, item_id, changes, reason', 'id'],
  messages: [
    'id, person_id, recipient, channel, address, at, form, urgency, subject, body, content, content_of, fate, fate_at',
    'id',
  ],
  message_alerts: ['message_id, alert_id, rule_id, items', 'alert_id'],
};

type Add = (table: string, row: Param[]) => void;
type EffectOf<E extends Effect['effect']> = Extract<Effect, { effect: E }>;

/** Where and when effects are written, and the contents that other messages of the step have already. */
interface Writing {
  now: Instant;
  site: Site;
  said: Map<Content, string>;
}

/** The rows of each effect. */
const WRITERS: { [E in Effect['effect']]: (effect: EffectOf<E>, add: Add, writing: Writing) => void } = {
  alert({ alert: { id, rule, version, at, occasion, parts, changes, suppressed } }, add) {
    const key = alertId(id);
    const items = JSON.stringify(parts.map((part) => part.item));
    add('alerts', [key, id, occasion, rule, version, sqlTime(at), items, JSON.stringify(changes), suppressed]);
    for (const { source, changes: own } of parts)
      for (const change of own) add('alert_changes', [key, source, change, rule]);
  },
  trouble({ trouble: { rule, version, code, to, reason, at } }, add) {
    add('rule_troubles', [rule, version, code, to, reason, sqlTime(at), sqlTime(at)]);
  },
  withheld({ withheld: { alert, item, person, rule, reason, at } }, add) {
    add('withheld', [alertId(alert), item, person, rule, reason, sqlTime(at)]);
  },
  dropped({ dropped: { at, rule, source, item, changes, reason } }, add) {
    const id = shortKey(['dropped', rule, source, item, at, ...changes].join('|'));
    add('dropped', [id, sqlTime(at), rule, item, JSON.stringify(changes), reason]);
  },
  message({ message }, add, { now, site, said }) {
    const { to, toKind, channel, address, at, form, urgency, content, alerts } = message;
    const id = messageId(message);
    // What stands in the inbox has arrived; the other channels are the senders' work.
    const arrived = channel === 'inApp';
    // Links stand in texts, and in what a rule says in its own words.
    const links = channel === 'text' || content.own ? plainLinks(site, id, answerCode(id)) : null;
    const same = said.get(content) ?? null;
    if (same === null) said.set(content, id);
    add('messages', [
      id,
      to,
      toKind,
      channel,
      address,
      sqlTime(at),
      form,
      urgency,
      (links ? subjectOf(content, links) : content.headline).slice(0, 500),
      channel === 'text' && links ? wordsOf(content, channel, links) : null,
      same === null ? JSON.stringify(content) : null,
      same,
      arrived ? 'delivered' : 'waiting',
      arrived ? sqlTime(now) : null,
    ]);
    for (const { alert, rule, items } of alerts)
      add('message_alerts', [id, alertId(alert), rule, JSON.stringify(items)]);
  },
};

function addEffect(effect: Effect, add: Add, writing: Writing): void {
  const write = WRITERS[effect.effect] as (effect: Effect, add: Add, writing: Writing) => void;
  write(effect, add, writing);
}

import { Router } from 'express';
import { type InboxPage, inboxQuerySchema, type MessagePage, type MessageRow, type OutboxRow, outboxQuerySchema, readSchema, unreadSchema } from '../../contract/api.ts';
import { Refusal } from '../../contract/problems.ts';
import { keyOf, type Rows, type Timer } from '../../core/decide/index.ts';
import type { Content } from '../../core/messages/index.ts';
import { parseInstant } from '../../core/time/index.ts';
import {
  acknowledgedQuery, type Directory, followingQuery, fromJson, inboxQuery, inTransaction, markReadQuery, markUnreadQuery, messageAlertsQuery, messageQuery, one, outboxQuery, phaseAt, queueSeenQuery, type Row, rowId, rows, rowsByIdQuery, rulesQuery, run, runAll, type StoredItem, type StoredMessage, toEngineRow, toldOfAlertsQuery, toMessage, toStoredRule, unreadQuery, withheldOfAlertsQuery,
} from '../store/index.ts';
import { acknowledge } from './acknowledging.ts';
import { caller, type Context, param, readableAmong, take, when, whenOrNull } from './context.ts';

const PAGE = 60;

export function inboxRoutes(context: Context): Router {
  const routes = Router();
  const { pool } = context;
  const unreadOf = async (person: string) => Number((await one<{ unread: number }>(pool, unreadQuery(person)))?.unread ?? 0);

  routes.get('/inbox', async (request, response) => {
    const { me, directory } = caller(response);
    const { unread, waits, before, ...asked } = take(inboxQuerySchema, request.query);
    const found = (await rows(pool, inboxQuery(me.id, { ...asked, isUnread: unread === '1', isWaiting: waits === '1' }, { before: readPlace(before), limit: PAGE + 1 }))).map(toMessage);
    const shown = found.slice(0, PAGE);
    const readable = await readableAmong(pool, itemsOf(shown), me.id, directory);
    const last = shown.at(-1);
    response.json({
      messages: shown.map((message) => messageRow(message, readable)),
      unread: await unreadOf(me.id),
      next: found.length > PAGE && last ? `${when(last.at)}_${last.id}` : null,
    } satisfies InboxPage);
  });

  routes.get('/messages/:id', async (request, response) => {
    const { me, directory } = caller(response);
    const row = await one(pool, messageQuery(param(request, 'id')));
    const message = row && toMessage(row);
    if (!message || message.person !== me.id) throw new Refusal('notFound');
    const readable = await readableAmong(pool, itemsOf([message]), me.id, directory);
    const behind = await rows<{ alert_id: string; alert_key: string; rule_id: string }>(pool, messageAlertsQuery([message.id]));
    const alerts = behind.map((one) => one.alert_id);
    const open = behind.length === 0 ? [] : (await rows(pool, rowsByIdQuery(behind.map((one) => rowId('open', keyOf(one.alert_key)))))).map((one) => toEngineRow(one).value as Rows['open']);
    const isShown = (items: string[]) => items.some((id) => readable.has(id));
    const told = alerts.length === 0 ? [] : (await rows(pool, toldOfAlertsQuery(alerts))).filter((one) => one.person_id !== me.id && isShown(fromJson<string[]>(one.items)));
    const withheld = alerts.length === 0 ? [] : (await rows(pool, withheldOfAlertsQuery(alerts))).filter((one) => isShown([String(one.item_id)]));
    const people = [...new Set(told.map((one) => String(one.person_id)))];
    response.json({
      ...messageRow(message, readable),
      waits: open.some((one) => !one.isClosed && [...one.told, ...one.escalated].includes(me.id) && !one.acknowledged.includes(me.id)),
      answered: alerts.length === 0 ? [] : (await rows<{ person_id: string }>(pool, acknowledgedQuery(alerts))).map((one) => one.person_id),
      next: open.some((one) => !one.isClosed && one.acknowledged.length === 0) ? await nextOf(behind, directory) : [],
      others: people.map((person) => {
        const own = told.filter((one) => one.person_id === person);
        const channels = own.map((one) => ({ channel: one.channel as StoredMessage['channel'], at: when(one.at as number), fate: one.fate as StoredMessage['fate'] }));
        return { person, channels, readAt: whenOrNull((own.find((one) => one.read_at !== null)?.read_at as number | undefined) ?? null) };
      }),
      withheld: withheld.map((one) => ({ person: String(one.person_id), reason: one.reason as MessagePage['withheld'][number]['reason'] })),
    } satisfies MessagePage);
  });

  /** What follows an alert while nobody has it: its timers, with whom each step of its rule names. */
  async function nextOf(behind: { alert_key: string; rule_id: string }[], directory: Directory): Promise<MessagePage['next']> {
    const keys = new Set(behind.map((one) => one.alert_key));
    const timers = (await rows<{ due_at: number; timer: unknown }>(pool, followingQuery(behind.map((one) => one.rule_id)))).map((row) => ({ at: row.due_at, timer: fromJson<Timer>(row.timer) }));
    return timers.flatMap(({ at, timer: { rule, task } }): MessagePage['next'] => {
      if ((task.task !== 'remind' && task.task !== 'escalate') || !keys.has(task.alert)) return [];
      const step = phaseAt(directory, rule, context.clock.now())?.compiled.rule.ack?.escalate[task.round];
      return [{ what: task.task, at: when(at), to: task.task === 'escalate' ? (step?.to ?? []) : [] }];
    }).slice(0, 4);
  }

  routes.post('/inbox/read', async (request, response) => {
    const { me } = caller(response);
    const wanted = take(readSchema, request.body);
    const ids = 'ids' in wanted ? wanted.ids : null;
    const at = context.clock.now();
    const alerts = ids && (await rows<{ alert_key: string }>(pool, messageAlertsQuery(ids))).map((row) => row.alert_key);
    await inTransaction(pool, (on) => runAll(on, [markReadQuery(me.id, ids, at), queueSeenQuery({ input: 'read', at, person: me.id, ...(alerts ? { alerts } : {}) })]));
    context.wake();
    response.json({ unread: await unreadOf(me.id) });
  });

  routes.post('/messages/:id/acknowledge', async (request, response) => {
    const { me } = caller(response);
    const row = await one(pool, messageQuery(param(request, 'id')));
    const message = row && toMessage(row);
    if (!message || message.person !== me.id) throw new Refusal('notFound');
    await acknowledge(context, message.id, me.id);
    response.json({ unread: await unreadOf(me.id) });
  });

  routes.post('/inbox/unread', async (request, response) => {
    const { me } = caller(response);
    await run(pool, markUnreadQuery(me.id, take(unreadSchema, request.body).id));
    response.json({ unread: await unreadOf(me.id) });
  });

  routes.get('/outbox', async (request, response) => {
    const { me, directory } = caller(response);
    const { fate, channel, text } = take(outboxQuerySchema, request.query);
    const rules = (await rows(pool, rulesQuery())).map(toStoredRule);
    const names = new Map(rules.map((rule) => [rule.id, (rule.live ?? rule.draft)?.name ?? rule.id]));
    // Stewards look after all of it, coordinators after their own rules, everybody after what concerns themselves.
    const see = { all: me.role === 'steward', rules: me.role === 'member' ? [] : rules.filter((rule) => rule.owner === me.id || me.role === 'coordinator').map((rule) => rule.id), person: me.id };
    const found = await rows(pool, outboxQuery(see, { fate: fate ?? null, channel: channel ?? null, text, limit: 300 }));
    const readable = await readableAmong(pool, found.flatMap((row) => fromJson<string[]>(row.items)), me.id, directory);
    const shown = new Map<string, OutboxRow>();
    for (const row of found) {
      const items = fromJson<string[]>(row.items).filter((id) => readable.has(id));
      const rule = { id: String(row.rule_id), name: names.get(String(row.rule_id)) ?? String(row.rule_id) };
      const known = shown.get(String(row.id));
      // A message for several alerts stands once, with all of its rules and items.
      if (known) {
        known.items = [...new Set([...known.items, ...items])];
        if (!known.rules.some((one) => one.id === rule.id)) known.rules.push(rule);
      } else if (items.length > 0 || row.form === 'notice') shown.set(String(row.id), outboxRow(row, rule, items));
    }
    response.json([...shown.values()]);
  });

  routes.get('/events', (request, response) => context.hub.open(caller(response).me.id, request, response));

  return routes;
}

/** The items that messages are about. */
export const itemsOf = (messages: StoredMessage[]) => messages.flatMap((message) => message.content.entries.map((entry) => entry.item.id));

/** What a message says of items that its reader may no longer read is left out of it. */
export function messageRow(message: StoredMessage, readable: ReadonlyMap<string, StoredItem>): MessageRow {
  const entries = message.content.entries.filter((entry) => readable.has(entry.item.id));
  const isWhole = entries.length === message.content.entries.length;
  const hidden = 'About something you may no longer read';
  const content: Content = isWhole ? message.content : { ...message.content, headline: entries.length === 0 ? hidden : message.content.headline, lead: '', entries };
  return { id: message.id, at: when(message.at), form: message.form, urgency: message.urgency, subject: isWhole || entries.length > 0 ? message.subject : hidden, content, readAt: whenOrNull(message.readAt) };
}

function outboxRow(row: Row, rule: OutboxRow['rules'][number], items: string[]): OutboxRow {
  return {
    id: String(row.id), at: when(row.at as number), person: String(row.person_id), channel: row.channel as OutboxRow['channel'], address: row.address as string | null,
    form: row.form as string | null, subject: String(row.subject), fate: row.fate as OutboxRow['fate'], fateAt: whenOrNull(row.fate_at as number | null), reply: row.reply as string | null,
    tries: Number(row.tries), retryAt: whenOrNull(row.retry_at as number | null), readAt: whenOrNull(row.read_at as number | null), rules: [rule], items,
    reason: (row.reason ?? (row.reply === 'noAccess' ? 'noAccess' : null)) as OutboxRow['reason'],
  };
}

function readPlace(text: string | undefined): { at: number; id: string } | null {
  const [at, id] = text?.split('_') ?? [];
  const instant = at ? parseInstant(at) : null;
  return instant === null || !id ? null : { at: instant, id };
}

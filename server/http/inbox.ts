import { Router } from 'express';
import { type InboxPage, inboxQuerySchema, type MessageRow, messagesSchema, readSchema } from '../../contract/api.ts';
import { Refusal } from '../../contract/problems.ts';
import type { Content } from '../../core/messages/index.ts';
import { parseInstant } from '../../core/time/index.ts';
import {
  inboxQuery,
  inTransaction,
  markReadQuery,
  markUnreadQuery,
  messageAlertsQuery,
  messagesQuery,
  one,
  queueSeenQuery,
  rows,
  run,
  runAll,
  type StoredItem,
  type StoredMessage,
  toMessage,
  unreadQuery,
} from '../store/index.ts';
import { acknowledge } from './acknowledging.ts';
import { caller, type Context, readableAmong, take, when, whenOrNull } from './context.ts';

const PAGE = 60;

export function inboxRoutes(context: Context): Router {
  const routes = Router();
  const { pool } = context;
  const unreadOf = async (person: string) =>
    Number((await one<{ unread: number }>(pool, unreadQuery(person)))?.unread ?? 0);

  routes.get('/inbox', async (request, response) => {
    const { me, directory } = caller(response);
    const { unread, waits, before, ...asked } = take(inboxQuerySchema, request.query);
    const found = (
      await rows(
        pool,
        inboxQuery(
          me.id,
          { ...asked, isUnread: unread === '1', isWaiting: waits === '1' },
          { before: readPlace(before), limit: PAGE + 1 },
        ),
      )
    ).map(toMessage);
    const shown = found.slice(0, PAGE);
    const readable = await readableAmong(pool, itemsOf(shown), me.id, directory);
    const last = shown.at(-1);
    response.json({
      messages: shown.map((message) => messageRow(message, readable)),
      unread: await unreadOf(me.id),
      next: found.length > PAGE && last ? `${when(last.at)}_${last.id}` : null,
    } satisfies InboxPage);
  });

  routes.post('/inbox/read', async (request, response) => {
    const { me } = caller(response);
    const wanted = take(readSchema, request.body);
    const ids = 'ids' in wanted ? wanted.ids : null;
    const at = context.clock.now();
    const alerts =
      ids && (await rows<{ alert_key: string }>(pool, messageAlertsQuery(ids))).map((row) => row.alert_key);
    await inTransaction(pool, (on) =>
      runAll(on, [
        markReadQuery(me.id, ids, at),
        queueSeenQuery({ input: 'read', at, person: me.id, ...(alerts ? { alerts } : {}) }),
      ]),
    );
    context.wake();
    response.json({ unread: await unreadOf(me.id) });
  });

  routes.post('/inbox/acknowledge', async (request, response) => {
    const { me } = caller(response);
    await acknowledge(context, await ownAmong(take(messagesSchema, request.body).ids, me.id), me.id);
    response.json({ unread: await unreadOf(me.id) });
  });

  routes.post('/inbox/unread', async (request, response) => {
    const { me } = caller(response);
    await run(pool, markUnreadQuery(me.id, take(messagesSchema, request.body).ids));
    response.json({ unread: await unreadOf(me.id) });
  });

  routes.get('/events', (request, response) => context.hub.open(caller(response).me.id, request, response));

  /** Those of the messages that are the caller's own; any other is answered as if it were not there. */
  async function ownAmong(ids: string[], person: string): Promise<string[]> {
    const own = (await rows(pool, messagesQuery(ids)))
      .map(toMessage)
      .filter((message) => message.person === person)
      .map((message) => message.id);
    if (own.length < new Set(ids).size) throw new Refusal('notFound');
    return own;
  }

  return routes;
}

/** The items that messages are about. */
export const itemsOf = (messages: StoredMessage[]) =>
  messages.flatMap((message) => message.content.entries.map((entry) => entry.item.id));

/** What a message says of items that its reader may no longer read is left out of it. */
export function messageRow(message: StoredMessage, readable: ReadonlyMap<string, StoredItem>): MessageRow {
  const entries = message.content.entries.filter((entry) => readable.has(entry.item.id));
  const isWhole = entries.length === message.content.entries.length;
  const hidden = 'About something you may no longer read';
  // Words about the whole, Ojo's and the rule's own, may tell of what is hidden: what is left speaks for itself.
  const left =
    entries.length === 0
      ? hidden
      : `${entries[0]?.headline}${entries.length > 1 ? `, and ${entries.length - 1} more` : ''}`;
  const { own: _, sender: _sender, ...bare } = message.content;
  const content: Content = isWhole ? message.content : { ...bare, headline: left, lead: '', entries };
  return {
    id: message.id,
    at: when(message.at),
    form: message.form,
    urgency: message.urgency,
    subject: isWhole ? message.subject : left,
    content,
    readAt: whenOrNull(message.readAt),
  };
}

function readPlace(text: string | undefined): { at: number; id: string } | null {
  const [at, id] = text?.split('_') ?? [];
  const instant = at ? parseInstant(at) : null;
  return instant === null || !id ? null : { at: instant, id };
}

import { Refusal } from '../../../contract/problems.ts';
import { instantOf, parseInstant } from '../../../core/time/index.ts';
import { itemsOf, messageRow, readableAmong, when } from '../../access/index.ts';
import { acknowledge, askAgain } from '../../acts/index.ts';
import { inTransaction, one, rows, run, runAll, store } from '../../store/index.ts';
import type { Context } from '../context.ts';
import type { Handlers } from '../register.ts';
import { digestOfToken } from '../../kit/index.ts';
import { tokenOf } from '../session.ts';

const PAGE = 60;

/** What Ojo told somebody: listed, read, taken on. */
export const inboxHandlers: Handlers<
  'inbox.list' | 'inbox.markRead' | 'inbox.markUnread' | 'inbox.acknowledge' | 'inbox.again' | 'session.events'
> = {
  async 'inbox.list'(context, { query: { unread, waits, before, ...asked }, asking: { me, directory } }) {
    const { pool } = context;
    const wanted = { ...asked, isUnread: unread === '1', isWaiting: waits === '1' };
    const found = await rows(pool, store.messages.inbox(me.id, wanted, { before: readPlace(before), limit: PAGE + 1 }));
    const shown = found.slice(0, PAGE);
    const readable = await readableAmong(pool, itemsOf(shown), me.id, directory);
    const last = shown.at(-1);
    return {
      messages: shown.map((message) => messageRow(message, readable)),
      unread: await unreadOf(context, me.id),
      next: found.length > PAGE && last ? `${when(last.at)}_${last.id}` : null,
    };
  },

  async 'inbox.markRead'(context, { body, asking: { me } }) {
    const { pool } = context;
    const ids = 'ids' in body ? body.ids : null;
    const at = context.clock.now();
    const alerts = ids && (await rows(pool, store.messages.alertsBehind(ids))).map(({ key }) => key);
    await inTransaction(pool, (on) =>
      runAll(on, [
        store.messages.markRead(me.id, ids, at),
        store.acts.queueSeen({ input: 'read', at, person: me.id, ...(alerts ? { alerts } : {}) }),
      ]),
    );
    context.wake();
    return { unread: await unreadOf(context, me.id) };
  },

  async 'inbox.markUnread'(context, { body, asking: { me } }) {
    await run(context.pool, store.messages.markUnread(me.id, body.ids));
    return { unread: await unreadOf(context, me.id) };
  },

  async 'inbox.acknowledge'(context, { body, asking: { me } }) {
    await acknowledge(context, await ownAmong(context, body.ids, me.id), me.id);
    return { unread: await unreadOf(context, me.id) };
  },

  async 'inbox.again'(context, { body, asking: { me } }) {
    const at = instantOf(body.when);
    await askAgain(context, await ownAmong(context, body.ids, me.id), me.id, at);
    return { when: when(at) };
  },

  'session.events'({ hub, isSecure }, { asking: { me }, request, response }) {
    hub.open(me.id, digestOfToken(tokenOf(request, { isSecure }) ?? ''), request, response);
    return undefined;
  },
};

const unreadOf = async ({ pool }: Context, person: string): Promise<number> =>
  (await one(pool, store.messages.unread(person))) ?? 0;

/** Those of the messages that are the caller's own; any other is answered as if it were not there. */
async function ownAmong({ pool }: Context, ids: string[], person: string): Promise<string[]> {
  const own = (await rows(pool, store.messages.byIds(ids))).filter((message) => message.person === person);
  if (own.length < new Set(ids).size) throw new Refusal('notFound');
  return own.map(({ id }) => id);
}

function readPlace(text: string | undefined): { at: number; id: string } | null {
  const [at, id] = text?.split('_') ?? [];
  const instant = at ? parseInstant(at) : null;
  return instant === null || !id ? null : { at: instant, id };
}

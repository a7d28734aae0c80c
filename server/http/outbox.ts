import { Router } from 'express';
import { type AsideRow, type OutboxRow, outboxQuerySchema } from '../../contract/api.ts';
import { Refusal } from '../../contract/problems.ts';
import {
  asideByIdQuery,
  asideQuery,
  fromJson,
  inTransaction,
  messageAlertsQuery,
  messageQuery,
  one,
  outboxQuery,
  type Row,
  rows,
  rulesQuery,
  run,
  runAll,
  sendAgainQuery,
  toAside,
  toMessage,
  toStoredRule,
  tryAgainQueries,
} from '../store/index.ts';
import { caller, type Context, param, readableAmong, take, when, whenOrNull } from './context.ts';

/** Everything that went out, is on its way or was withheld, with its fate. */
export function outboxRoutes({ pool, wake, wakeSender }: Context): Router {
  const routes = Router();

  routes.get('/outbox', async (request, response) => {
    const { me, directory } = caller(response);
    const { fate, channel, text } = take(outboxQuerySchema, request.query);
    const rules = (await rows(pool, rulesQuery())).map(toStoredRule);
    const names = new Map(rules.map((rule) => [rule.id, (rule.live ?? rule.draft)?.name ?? rule.id]));
    // Stewards look after all of it, coordinators after their own rules, everybody after what concerns themselves.
    const see = {
      all: me.role === 'steward',
      rules:
        me.role === 'member'
          ? []
          : rules.filter((rule) => rule.owner === me.id || me.role === 'coordinator').map((rule) => rule.id),
      person: me.id,
    };
    const found = await rows(
      pool,
      outboxQuery(see, { fate: fate ?? null, channel: channel ?? null, text, limit: 300 }),
    );
    const readable = await readableAmong(
      pool,
      found.flatMap((row) => fromJson<string[]>(row.items)),
      me.id,
      directory,
    );
    const shown = new Map<string, OutboxRow>();
    for (const row of found) {
      const items = fromJson<string[]>(row.items).filter((id) => readable.has(id));
      // What no rule brought about has none: a trial, a question to an address, something passed on.
      const rule =
        row.rule_id === null
          ? null
          : { id: String(row.rule_id), name: names.get(String(row.rule_id)) ?? String(row.rule_id) };
      const known = shown.get(String(row.id));
      // A message for several alerts stands once, with all of its rules and items.
      if (known) {
        known.items = [...new Set([...known.items, ...items])];
        if (rule && !known.rules.some((one) => one.id === rule.id)) known.rules.push(rule);
      } else if (items.length > 0 || WITHOUT_ITEMS.has(String(row.form)))
        shown.set(String(row.id), outboxRow(row, rule, items));
    }
    response.json([...shown.values()]);
  });

  /** What could not be decided and stands aside; it is the stewards' to look after. */
  routes.get('/aside', async (_request, response) => {
    const { me, directory } = caller(response);
    const found = me.role === 'steward' ? (await rows(pool, asideQuery())).map(toAside) : [];
    const readable = await readableAmong(
      pool,
      found.flatMap(({ item }) => item ?? []),
      me.id,
      directory,
    );
    response.json(
      found.map(
        ({ id, kind, at, since, item }): AsideRow => ({
          id,
          kind,
          at: when(at),
          since: when(since),
          item: item !== null && readable.has(item) ? { id: item, title: readable.get(item)?.title ?? item } : null,
        }),
      ),
    );
  });

  routes.post('/aside/:id/again', async (request, response) => {
    if (caller(response).me.role !== 'steward') throw new Refusal('notFound');
    await inTransaction(pool, async (on) => {
      const row = await one(on, asideByIdQuery(Number(param(request, 'id')) || 0));
      if (!row) throw new Refusal('notFound');
      await runAll(on, tryAgainQueries(toAside(row)));
    });
    wake();
    response.status(204).end();
  });

  /** Sends again what failed for good, or would be tried later: its reader may, whoever looks after its rules, and stewards. */
  routes.post('/outbox/:id/again', async (request, response) => {
    const { me, directory } = caller(response);
    const row = await one(pool, messageQuery(param(request, 'id')));
    const message = row && toMessage(row);
    const behind = message ? await rows<{ rule_id: string }>(pool, messageAlertsQuery([message.id])) : [];
    const owners = new Set(
      behind.flatMap(({ rule_id: rule }) =>
        [...(directory.versions.get(rule)?.values() ?? [])].slice(-1).map((compiled) => compiled.rule.owner),
      ),
    );
    const mayAct =
      message &&
      (message.person === me.id ||
        me.role === 'steward' ||
        (behind.length > 0 && (me.role === 'coordinator' || owners.has(me.id))));
    if (!message || !mayAct) throw new Refusal('notFound');
    const done = await run(pool, sendAgainQuery(message.id));
    if (done.affectedRows === 0)
      throw new Refusal('badRequest', { detail: 'Only what failed, or waits to be tried again, can be sent again.' });
    wakeSender();
    response.status(204).end();
  });

  return routes;
}

/** Forms of messages that are about no item. */
const WITHOUT_ITEMS = new Set(['notice', 'trial', 'confirm']);

function outboxRow(row: Row, rule: OutboxRow['rules'][number] | null, items: string[]): OutboxRow {
  return {
    id: String(row.id),
    at: when(row.at as number),
    person: String(row.person_id),
    channel: row.channel as OutboxRow['channel'],
    address: row.address as string | null,
    form: row.form as string | null,
    subject: String(row.subject),
    fate: row.fate as OutboxRow['fate'],
    fateAt: whenOrNull(row.fate_at as number | null),
    reply: row.reply as string | null,
    tries: Number(row.tries),
    retryAt: whenOrNull(row.retry_at as number | null),
    readAt: whenOrNull(row.read_at as number | null),
    rules: rule ? [rule] : [],
    items,
    reason: (row.reason ?? (row.reply === 'noAccess' ? 'noAccess' : null)) as OutboxRow['reason'],
  };
}

import { Router } from 'express';
import { type OutboxRow, outboxQuerySchema } from '../../contract/api.ts';
import { fromJson, outboxQuery, type Row, rows, rulesQuery, toStoredRule } from '../store/index.ts';
import { caller, type Context, readableAmong, take, when, whenOrNull } from './context.ts';

/** Everything that went out, is on its way or was withheld, with its fate. */
export function outboxRoutes({ pool }: Context): Router {
  const routes = Router();

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
      // What no rule brought about has none: a trial, a question to an address, something passed on.
      const rule = row.rule_id === null ? null : { id: String(row.rule_id), name: names.get(String(row.rule_id)) ?? String(row.rule_id) };
      const known = shown.get(String(row.id));
      // A message for several alerts stands once, with all of its rules and items.
      if (known) {
        known.items = [...new Set([...known.items, ...items])];
        if (rule && !known.rules.some((one) => one.id === rule.id)) known.rules.push(rule);
      } else if (items.length > 0 || WITHOUT_ITEMS.has(String(row.form))) shown.set(String(row.id), outboxRow(row, rule, items));
    }
    response.json([...shown.values()]);
  });

  return routes;
}

/** Forms of messages that are about no item. */
const WITHOUT_ITEMS = new Set(['notice', 'trial', 'confirm']);

function outboxRow(row: Row, rule: OutboxRow['rules'][number] | null, items: string[]): OutboxRow {
  return {
    id: String(row.id), at: when(row.at as number), person: String(row.person_id), channel: row.channel as OutboxRow['channel'], address: row.address as string | null,
    form: row.form as string | null, subject: String(row.subject), fate: row.fate as OutboxRow['fate'], fateAt: whenOrNull(row.fate_at as number | null), reply: row.reply as string | null,
    tries: Number(row.tries), retryAt: whenOrNull(row.retry_at as number | null), readAt: whenOrNull(row.read_at as number | null), rules: rule ? [rule] : [], items,
    reason: (row.reason ?? (row.reply === 'noAccess' ? 'noAccess' : null)) as OutboxRow['reason'],
  };
}

import { Refusal } from '../../../contract/problems.ts';
import type { OutboxRow } from '../../../contract/wire/index.ts';
import { type Caller, readableAmong, when, whenOrNull } from '../../access/index.ts';
import {
  inTransaction,
  one,
  type OutboxLine,
  rows,
  run,
  runAll,
  store,
  type StoredMessage,
  type StoredRule,
} from '../../store/index.ts';
import type { Context } from '../context.ts';
import type { Handlers } from '../register.ts';

/** So many lines are read for a page. */
const MOST = 300;
/** Forms of messages that are about no item. */
const WITHOUT_ITEMS = new Set(['notice', 'trial', 'confirm']);

/** Everything that went out, is on its way or was withheld, with its fate; and what could not be decided. */
export const outboxHandlers: Handlers<'outbox.list' | 'outbox.sendAgain' | 'aside.list' | 'aside.tryAgain'> = {
  async 'outbox.list'({ pool }, { query: { fate, channel, text }, asking }) {
    const { me, directory } = asking;
    const rules = await rows(pool, store.rules.all());
    const names = new Map(rules.map((rule) => [rule.id, (rule.live ?? rule.draft)?.name ?? rule.id]));
    const filter = { fate: fate ?? null, channel: channel ?? null, text, limit: MOST };
    const found = await rows(pool, store.outbox.outbox(seenBy(asking, rules), filter));
    const readable = await readableAmong(
      pool,
      found.flatMap((line) => line.items),
      me.id,
      directory,
    );
    const shown = new Map<string, OutboxRow>();
    for (const line of found) {
      const items = line.items.filter((id) => readable.has(id));
      // What no rule brought about has none: a trial, a question to an address, something passed on.
      const rule = line.rule === null ? null : { id: line.rule, name: names.get(line.rule) ?? line.rule };
      const known = shown.get(line.id);
      // A message for several alerts stands once, with all of its rules and items.
      if (known) {
        known.items = [...new Set([...known.items, ...items])];
        if (rule && !known.rules.some((one) => one.id === rule.id)) known.rules.push(rule);
      } else if (items.length > 0 || WITHOUT_ITEMS.has(line.form ?? ''))
        shown.set(line.id, outboxRow(line, rule, items));
    }
    return [...shown.values()];
  },

  /** Sends again what failed for good, or would be tried later: its reader may, whoever looks after its rules, and stewards. */
  async 'outbox.sendAgain'(context, { params, asking }) {
    const { pool } = context;
    const message = await one(pool, store.messages.byId(params.id));
    if (!message || !(await maySendAgain(context, message, asking))) throw new Refusal('notFound');
    const done = await run(pool, store.sending.sendAgain(message.id));
    if (done.affectedRows === 0) throw new Refusal('badRequest', { because: 'cannotBeSentAgain' });
    context.wakeSender();
  },

  /** What could not be decided and stands aside; it is the stewards' to look after. */
  async 'aside.list'({ pool }, { asking: { me, directory } }) {
    const found = me.role === 'steward' ? await rows(pool, store.aside.all()) : [];
    const readable = await readableAmong(
      pool,
      found.flatMap(({ item }) => item ?? []),
      me.id,
      directory,
    );
    return found.map(({ id, kind, at, since, item }) => {
      const known = item === null ? undefined : readable.get(item);
      return { id, kind, at: when(at), since: when(since), item: known ? { id: known.id, title: known.title } : null };
    });
  },

  async 'aside.tryAgain'({ pool, wake }, { params, asking: { me } }) {
    if (me.role !== 'steward') throw new Refusal('notFound');
    await inTransaction(pool, async (on) => {
      const found = await one(on, store.aside.byId(Number(params.id) || 0));
      if (!found) throw new Refusal('notFound');
      await runAll(on, store.aside.tryAgain(found));
    });
    wake();
  },
};

/** Stewards look after all of it, coordinators after their own rules, everybody after what concerns themselves. */
function seenBy({ me }: Caller, rules: readonly StoredRule[]): { all: boolean; rules: string[]; person: string } {
  const own = rules.filter((rule) => rule.owner === me.id || me.role === 'coordinator').map((rule) => rule.id);
  return { all: me.role === 'steward', rules: me.role === 'member' ? [] : own, person: me.id };
}

async function maySendAgain({ pool }: Context, message: StoredMessage, { me, directory }: Caller): Promise<boolean> {
  if (message.person === me.id || me.role === 'steward') return true;
  const behind = await rows(pool, store.messages.alertsBehind([message.id]));
  const owners = behind.flatMap(({ rule }) =>
    [...(directory.versions.get(rule)?.values() ?? [])].slice(-1).map((compiled) => compiled.rule.owner),
  );
  return behind.length > 0 && (me.role === 'coordinator' || owners.includes(me.id));
}

const outboxRow = (
  { rule: _, ...line }: OutboxLine,
  rule: OutboxRow['rules'][number] | null,
  items: string[],
): OutboxRow => ({
  ...line,
  at: when(line.at),
  fateAt: whenOrNull(line.fateAt),
  retryAt: whenOrNull(line.retryAt),
  readAt: whenOrNull(line.readAt),
  rules: rule ? [rule] : [],
  items,
  reason: line.reason ?? (line.reply === 'noAccess' ? 'noAccess' : null),
});

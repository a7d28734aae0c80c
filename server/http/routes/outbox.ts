import { Refusal } from '../../../contract/problems.ts';
import type { OutboxMessage, OutboxRow } from '../../../contract/wire/index.ts';
import { itemsIn, phrasesFor, plainWords, segmentsOf } from '../../../core/messages/index.ts';
import { foldCase } from '../../../core/values/index.ts';
import { type Caller, looksAfter, mayEdit, readableAmong, when, whenOrNull } from '../../access/index.ts';
import { asItLooked } from '../../delivery/index.ts';
import {
  type Directory,
  newestRule,
  type Profile,
  inTransaction,
  one,
  type OutboxFilter,
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
export const outboxHandlers: Handlers<
  'outbox.list' | 'outbox.read' | 'outbox.sendAgain' | 'aside.list' | 'aside.tryAgain'
> = {
  async 'outbox.list'(context, { query: { fate, channel, text }, asking }) {
    return linesFor(context, { id: null, fate: fate ?? null, channel: channel ?? null, text, limit: MOST }, asking);
  },

  /** One message: every try of it, and how it looked, as far as whoever asks may read what it tells of. */
  async 'outbox.read'(context, { params, asking }) {
    const { pool } = context;
    const everything = { id: params.id, fate: null, channel: null, text: '', limit: MOST };
    const [row] = await linesFor(context, everything, asking);
    const message = await one(pool, store.messages.byId(params.id));
    if (!row || !message) throw new Refusal('notFound');
    const attempts = await rows(pool, store.sending.attempts(message.id));
    return {
      row,
      attempts: attempts.map(({ at, ...attempt }) => ({ at: when(at), ...attempt })),
      looked: await lookedTo(context, message, asking),
    };
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

/** The lines that fit, as whoever asks may see them. */
async function linesFor({ pool }: Context, filter: OutboxFilter, asking: Caller): Promise<OutboxRow[]> {
  const { me, directory } = asking;
  const rules = await rows(pool, store.rules.all());
  const names = new Map(rules.map((rule) => [rule.id, (rule.live ?? rule.draft)?.name ?? rule.id]));
  const found = await rows(pool, store.outbox.outbox(seenBy(asking, rules), filter));
  const alerts = [...new Set(found.flatMap(({ alert }) => alert ?? []))];
  const behind = new Map(
    (alerts.length > 0 ? await rows(pool, store.heard.firstChanges(alerts)) : []).map(({ alert, source, change }) => [
      alert,
      { source, id: change },
    ]),
  );
  const { readable, isClosed } = await readingOf(pool, found, asking);
  const shown = new Map<string, OutboxRow>();
  // A subject that may not be read is not found by what it says either.
  const isFound = ({ id, person }: OutboxLine) =>
    !filter.text || !isClosed(id) || isNamed(person, filter.text, directory);
  for (const line of found.filter(isFound)) {
    const items = line.items.filter((id) => readable.has(id));
    // What no rule brought about has none: a trial, a question to an address, something passed on.
    const rule = line.rule === null ? null : { id: line.rule, name: names.get(line.rule) ?? line.rule };
    const known = shown.get(line.id);
    // A message for several alerts stands once, with all of its rules and items.
    if (known) {
      known.items = [...new Set([...known.items, ...items])];
      if (rule && !known.rules.some((one) => one.id === rule.id)) known.rules.push(rule);
    } else if (items.length > 0 || WITHOUT_ITEMS.has(line.form ?? ''))
      shown.set(
        line.id,
        outboxRow(
          { ...line, subject: isClosed(line.id) ? closedSubject(me) : line.subject },
          rule,
          items,
          behind.get(line.alert ?? '') ?? null,
        ),
      );
  }
  return [...shown.values()];
}

/** Which of the items that lines speak of may be read, and which messages speak of one that may not. */
async function readingOf(pool: Context['pool'], found: readonly OutboxLine[], { me, directory }: Caller) {
  const ids = [...new Set(found.map(({ id }) => id))];
  const spoken = ids.length === 0 ? [] : await rows(pool, store.outbox.spokenOf(ids));
  const named = [...found.flatMap(({ items }) => items), ...spoken.flatMap(({ items }) => items)];
  const readable = await readableAmong(pool, named, me.id, directory);
  const closed = new Set(spoken.flatMap(({ id, items }) => (items.every((item) => readable.has(item)) ? [] : [id])));
  return { readable, isClosed: (id: string) => closed.has(id) };
}

const isNamed = (person: string, text: string, { people }: Directory): boolean =>
  foldCase(people.get(person)?.name ?? '').includes(foldCase(text));

const closedSubject = ({ locale }: Profile): string => phrasesFor(locale).say('headline.hidden');

/** How a message looked; `null` to whoever may not read all of it, and where it is for its reader alone. */
async function lookedTo(
  { pool, site }: Context,
  message: StoredMessage,
  { me, directory }: Caller,
): Promise<OutboxMessage['looked']> {
  const { content, channel, person, form } = message;
  const ids = itemsIn([content]);
  const readable = await readableAmong(pool, ids, me.id, directory);
  const isPrivate = WITHOUT_ITEMS.has(form) || form === 'passed';
  // A confirming message holds what proves whose the address is.
  if (form === 'confirm' || (isPrivate && person !== me.id) || !ids.every((id) => readable.has(id))) return null;
  const said = asItLooked(message, directory, site);
  return {
    ...said,
    segments: channel === 'text' ? segmentsOf(said.text) : null,
    why: [...new Set(content.entries.flatMap(({ why }) => why.map(plainWords)))],
  };
}

/** Stewards look after all of it, coordinators after the rules that are theirs or look at what they coordinate, everybody after what concerns themselves. */
function seenBy(
  { me, directory }: Caller,
  rules: readonly StoredRule[],
): { all: boolean; rules: string[]; person: string } {
  const own = rules.filter((rule) => mayEdit(rule, me, directory)).map((rule) => rule.id);
  return { all: me.role === 'steward', rules: me.role === 'member' ? [] : own, person: me.id };
}

async function maySendAgain({ pool }: Context, message: StoredMessage, asking: Caller): Promise<boolean> {
  const { me, directory } = asking;
  if (message.person === me.id || me.role === 'steward') return true;
  const behind = await rows(pool, store.messages.alertsBehind([message.id]));
  return behind.some(({ rule }) => looksAfter(newestRule(directory, rule), asking));
}

const outboxRow = (
  { rule: _, alert: _alert, ...line }: OutboxLine,
  rule: OutboxRow['rules'][number] | null,
  items: string[],
  change: OutboxRow['change'],
): OutboxRow => ({
  ...line,
  at: when(line.at),
  fateAt: whenOrNull(line.fateAt),
  retryAt: whenOrNull(line.retryAt),
  readAt: whenOrNull(line.readAt),
  rules: rule ? [rule] : [],
  items,
  change,
  reason: line.reason ?? (line.reply === 'noAccess' ? 'noAccess' : null),
});

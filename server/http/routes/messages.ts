import { Refusal } from '../../../contract/problems.ts';
import type { MessagePage } from '../../../contract/wire/index.ts';
import { conditionOf, thresholdsOf } from '../../../core/rules/index.ts';
import { DAY_MS, instantOf } from '../../../core/time/index.ts';
import { decimalOf, type Fields, fieldOf, sameValue, type Source } from '../../../core/values/index.ts';
import {
  looksAfter,
  type Caller,
  itemsOf,
  linksOf,
  messageRow,
  readableAmong,
  statesOf,
  trailRow,
  when,
  whenOrNull,
} from '../../access/index.ts';
import {
  newestRule,
  type AlertBehind,
  type Directory,
  one,
  rows,
  store,
  type StoredChange,
  type StoredItem,
  type StoredMessage,
} from '../../store/index.ts';
import type { Context } from '../context.ts';
import type { Handlers } from '../register.ts';
import { followingOf, takenBehind, waitsFor } from './following.ts';

/** So much of what happened since is shown of an item, and so many readings are drawn. */
const MOST_SINCE = 6;
const MOST_POINTS = 120;
/** Readings are drawn from so long before the message on, and at least so many. */
const READING_MS = 3 * DAY_MS;
const FEW_POINTS = 12;
/** Of a long digest what happened since is told for the first items alone. */
const MOST_ITEMS = 8;
/** So far back is looked for what happened to an item. */
const LOOKED_BACK = 30;

/** One message whole: what it says, who has it, what follows, who else was told, and what happened since. */
export const messageHandlers: Handlers<'messages.read'> = {
  async 'messages.read'(context, { params, asking }) {
    const { pool } = context;
    const { me, directory } = asking;
    const message = await one(pool, store.messages.byId(params.id));
    if (!message || message.person !== me.id) throw new Refusal('notFound');
    const readable = await readableAmong(pool, itemsOf([message]), me.id, directory);
    const behind = await rows(pool, store.messages.alertsBehind([message.id]));
    const taken = await takenBehind(pool, behind);
    const answered = await answeredBy(context, behind);
    return {
      ...messageRow(message, readable),
      waits: taken.some((one) => waitsFor(one, me.id, directory)),
      again: whenOrNull(await againOf(context, behind, me.id)),
      answered,
      next: await followingOf(context, { behind, taken, items: itemsOf([message]) }, readable, directory),
      ...(await othersOf(context, behind, readable, asking)),
      since: await sinceOf(context, message, readable, asking),
      reading: await readingOf(context, message, readable, directory),
    };
  },
};

/** When what a message told comes again, as its reader asked; the first of several. */
async function againOf({ pool }: Context, behind: readonly AlertBehind[], person: string): Promise<number | null> {
  if (behind.length === 0) return null;
  const keys = new Set(behind.map(({ key }) => key));
  const asked = await rows(pool, store.engine.again(person));
  return asked.find(({ alert }) => keys.has(alert))?.when ?? null;
}

async function answeredBy({ pool }: Context, behind: readonly AlertBehind[]): Promise<string[]> {
  if (behind.length === 0) return [];
  const said = await rows(pool, store.messages.acknowledgements(behind.map(({ alert }) => alert)));
  return [...new Set(said.map(({ person }) => person))];
}

/** Who else heard; why somebody did not is for those who look after the rule. */
async function othersOf(
  { pool }: Context,
  behind: readonly AlertBehind[],
  readable: ReadonlyMap<string, StoredItem>,
  { me, directory }: Caller,
): Promise<Pick<MessagePage, 'others' | 'withheld'>> {
  const alerts = behind.map(({ alert }) => alert);
  if (alerts.length === 0) return { others: [], withheld: [] };
  const told = (await rows(pool, store.messages.toldOfAlerts(alerts))).filter(
    ({ person, items }) => person !== me.id && items.some((id) => readable.has(id)),
  );
  const mine = new Set(
    behind.filter(({ rule }) => looksAfter(newestRule(directory, rule), { me, directory })).map(({ alert }) => alert),
  );
  const withheld = (await rows(pool, store.messages.withheldOfAlerts(alerts))).filter(
    ({ alert, item }) => mine.has(alert) && readable.has(item),
  );
  return {
    others: [...new Set(told.map(({ person }) => person))].map((person) => {
      const own = told.filter((other) => other.person === person);
      const channels = own.map(({ channel, at, fate }) => ({ channel, at: when(at), fate }));
      return { person, channels, readAt: whenOrNull(own.find(({ readAt }) => readAt !== null)?.readAt ?? null) };
    }),
    withheld: withheld.map(({ person, reason }) => ({ person, reason })),
  };
}

/** What became of the message's items after what it tells; whether they are back where they were before it. */
async function sinceOf(
  { pool }: Context,
  message: StoredMessage,
  readable: ReadonlyMap<string, StoredItem>,
  asking: Caller,
): Promise<MessagePage['since']> {
  const { sources } = asking.directory;
  const entries = message.content.entries.filter((entry) => readable.has(entry.item.id)).slice(0, MOST_ITEMS);
  const found = await Promise.all(
    entries.map(async ({ item, steps, fields }) => {
      const source = sources.get(item.source) as Source;
      const told = new Set(steps.map((step) => step.change));
      const recent = await rows(pool, store.changes.ofItem(item.id, LOOKED_BACK));
      const from = recent.find((change) => told.has(change.id))?.at ?? message.at;
      const after = recent.filter((change) => !told.has(change.id) && change.at >= from);
      if (after.length === 0) return [];
      const [first] = steps[0] ? await rows(pool, store.changes.byIds([[item.source, steps[0].change]])) : [];
      const names = fields.map((field) => field.id);
      const shown = after.slice(0, MOST_SINCE).reverse();
      const links = await linksOf(
        pool,
        shown.flatMap((change) => statesOf(change, source)),
        asking,
      );
      return [
        {
          item: item.id,
          isBack: first !== undefined && isAsBefore(source, names, first.before, after[0]?.after ?? null),
          rows: shown.map((change) => trailRow(change, source, links)),
        },
      ];
    }),
  );
  return found.flat();
}

/** Whether the fields that a message told of are as they were before it. */
const isAsBefore = (source: Source, fields: readonly string[], before: Fields | null, now: Fields | null): boolean =>
  fields.length > 0 &&
  fields.every((id) => {
    const field = fieldOf(source, id);
    return field !== undefined && sameValue(field.type, before?.[id], now?.[id]);
  });

/** The readings around a figure that a rule compares them with, where a message is about one. */
async function readingOf(
  { pool }: Context,
  message: StoredMessage,
  readable: ReadonlyMap<string, StoredItem>,
  directory: Directory,
): Promise<MessagePage['reading']> {
  const [entry] = message.content.entries;
  if (message.content.entries.length !== 1 || !entry || !readable.has(entry.item.id)) return null;
  const source = directory.sources.get(entry.item.source) as Source;
  const isShown = (field: string) =>
    fieldOf(source, field)?.type === 'number' && entry.fields.some((shown) => shown.id === field);
  const compared = entry.rules.flatMap(({ id }) => {
    const rule = newestRule(directory, id);
    return rule ? [...thresholdsOf(conditionOf(rule))] : [];
  });
  for (const [field, lines] of compared) {
    if (lines.length === 0 || !isShown(field)) continue;
    const changes = await rows(pool, store.changes.ofItem(entry.item.id, MOST_POINTS * 2));
    const points = readingsIn(changes.reverse(), field);
    const recent = points.filter((point) => instantOf(point.at) > message.at - READING_MS).slice(-MOST_POINTS);
    const shown = recent.length >= FEW_POINTS ? recent : points.slice(-FEW_POINTS);
    if (shown.length > 1) return { item: entry.item.id, field, lines, points: shown };
  }
  return null;
}

const readingsIn = (changes: readonly StoredChange[], field: string): { at: string; value: number }[] =>
  changes.flatMap(({ at, before, after }) => {
    const value = decimalOf(after?.[field])?.toNumber();
    return value === undefined || sameValue('number', before?.[field], after?.[field]) ? [] : [{ at: when(at), value }];
  });

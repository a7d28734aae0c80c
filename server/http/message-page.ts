import { Router } from 'express';
import type { MessagePage } from '../../contract/api.ts';
import { Refusal } from '../../contract/problems.ts';
import { conditionOf, thresholdsOf } from '../../core/rules/index.ts';
import { instantOf } from '../../core/time/index.ts';
import { decimalOf, fieldOf, type Fields, sameValue, type Source } from '../../core/values/index.ts';
import {
  changesByIdQuery,
  changesOfItemQuery,
  fromJson,
  messageAlertsQuery,
  messageQuery,
  one,
  type Row,
  rows,
  type StoredChange,
  type StoredItem,
  type StoredMessage,
  toChange,
  toldOfAlertsQuery,
  toMessage,
  withheldOfAlertsQuery,
} from '../store/index.ts';
import { type Caller, caller, type Context, param, readableAmong, when, whenOrNull } from './context.ts';
import { type Behind, followingOf, isDone, openOf, takenOf, takersOf, waitsFor } from './following.ts';
import { itemsOf, messageRow } from './inbox.ts';
import { trailRow } from './shown.ts';

/** So much of what happened since is shown of an item, and so many readings are drawn. */
const MOST_SINCE = 6;
const MOST_POINTS = 120;
/** Readings are drawn from so long before the message on, and at least so many. */
const READING_MS = 3 * 86_400_000;
const FEW_POINTS = 12;
/** Of a long digest what happened since is told for the first items alone. */
const MOST_ITEMS = 8;

/** One message whole: what it says, who has it, what follows, who else was told, and what happened since. */
export function messageRoutes(context: Context): Router {
  const routes = Router();
  const { pool } = context;

  routes.get('/messages/:id', async (request, response) => {
    const asking = caller(response);
    const { me, directory } = asking;
    const row = await one(pool, messageQuery(param(request, 'id')));
    const message = row && toMessage(row);
    if (!message || message.person !== me.id) throw new Refusal('notFound');
    const readable = await readableAmong(pool, itemsOf([message]), me.id, directory);
    const behind = await rows<Behind & Row>(pool, messageAlertsQuery([message.id]));
    const alerts = behind.map((one) => one.alert_id);
    const [open, takers] = [await openOf(pool, behind), await takersOf(pool, behind)];
    const taken = takenOf(open, behind, takers);
    const answered = [...new Set([...takers.values()].flat())];
    response.json({
      ...messageRow(message, readable),
      waits: taken.some((one) => waitsFor(one, me.id, directory)),
      answered,
      next: taken.some((one) => !isDone(one, directory) && one.takers.length === 0)
        ? await followingOf(context, behind, open, itemsOf([message]), readable, directory)
        : [],
      ...(await othersOf(alerts, behind, readable, asking)),
      since: await sinceOf(message, readable, asking),
      reading: await readingOf(message, readable, asking),
    } satisfies MessagePage);
  });

  /** Who else heard; why somebody did not is for those who look after the rule. */
  async function othersOf(
    alerts: string[],
    behind: Behind[],
    readable: ReadonlyMap<string, StoredItem>,
    { me, directory }: Caller,
  ): Promise<Pick<MessagePage, 'others' | 'withheld'>> {
    if (alerts.length === 0) return { others: [], withheld: [] };
    const isShown = (items: string[]) => items.some((id) => readable.has(id));
    const told = (await rows(pool, toldOfAlertsQuery(alerts))).filter(
      (one) => one.person_id !== me.id && isShown(fromJson<string[]>(one.items)),
    );
    const mine = new Set(
      behind
        .filter(
          ({ rule_id: rule }) =>
            me.role !== 'member' || [...(directory.versions.get(rule)?.values() ?? [])].at(-1)?.rule.owner === me.id,
        )
        .map((one) => one.alert_id),
    );
    const withheld = (await rows(pool, withheldOfAlertsQuery(alerts))).filter(
      (one) => mine.has(String(one.alert_id)) && isShown([String(one.item_id)]),
    );
    return {
      others: [...new Set(told.map((one) => String(one.person_id)))].map((person) => {
        const own = told.filter((one) => one.person_id === person);
        const channels = own.map((one) => ({
          channel: one.channel as StoredMessage['channel'],
          at: when(one.at as number),
          fate: one.fate as StoredMessage['fate'],
        }));
        return {
          person,
          channels,
          readAt: whenOrNull((own.find((one) => one.read_at !== null)?.read_at as number | undefined) ?? null),
        };
      }),
      withheld: withheld.map((one) => ({
        person: String(one.person_id),
        reason: one.reason as MessagePage['withheld'][number]['reason'],
      })),
    };
  }

  /** What became of the message's items after what it tells; whether they are back where they were before it. */
  async function sinceOf(
    message: StoredMessage,
    readable: ReadonlyMap<string, StoredItem>,
    { directory }: Caller,
  ): Promise<MessagePage['since']> {
    const entries = message.content.entries.filter((entry) => readable.has(entry.item.id)).slice(0, MOST_ITEMS);
    return (
      await Promise.all(
        entries.map(async (entry) => {
          const source = directory.sources.get(entry.item.source) as Source;
          const told = new Set(entry.steps.map((step) => step.change));
          const recent = (await rows(pool, changesOfItemQuery(entry.item.id, 30))).map(toChange);
          const after = recent.filter(
            (change) => !told.has(change.id) && change.at >= (lastAt(recent, told) ?? message.at),
          );
          if (after.length === 0) return [];
          const [first] =
            entry.steps.length === 0
              ? []
              : (await rows(pool, changesByIdQuery([[entry.item.source, entry.steps[0]?.change ?? '']]))).map(toChange);
          return [
            {
              item: entry.item.id,
              isBack:
                first !== undefined &&
                isAsBefore(
                  source,
                  entry.fields.map((field) => field.id),
                  first.before,
                  after[0]?.after ?? null,
                ),
              rows: after
                .slice(0, MOST_SINCE)
                .reverse()
                .map((change) => trailRow(change, source)),
            },
          ];
        }),
      )
    ).flat();
  }

  /** The readings around a figure that a rule compares them with, where a message is about one. */
  async function readingOf(
    message: StoredMessage,
    readable: ReadonlyMap<string, StoredItem>,
    { directory }: Caller,
  ): Promise<MessagePage['reading']> {
    const [entry] = message.content.entries;
    if (message.content.entries.length !== 1 || !entry || !readable.has(entry.item.id)) return null;
    const source = directory.sources.get(entry.item.source) as Source;
    for (const { id } of entry.rules) {
      const rule = [...(directory.versions.get(id)?.values() ?? [])].at(-1)?.rule;
      for (const [field, lines] of rule ? thresholdsOf(conditionOf(rule)) : []) {
        if (
          lines.length === 0 ||
          fieldOf(source, field)?.type !== 'number' ||
          !entry.fields.some((shown) => shown.id === field)
        )
          continue;
        const changes = (await rows(pool, changesOfItemQuery(entry.item.id, MOST_POINTS * 2))).map(toChange).reverse();
        const points = changes.flatMap((change) => {
          const value = decimalOf(change.after?.[field])?.toNumber();
          return value === undefined || sameValue('number', change.before?.[field], change.after?.[field])
            ? []
            : [{ at: when(change.at), value }];
        });
        const recent = points.filter((point) => instantOf(point.at) > message.at - READING_MS).slice(-MOST_POINTS);
        const shown = recent.length >= FEW_POINTS ? recent : points.slice(-FEW_POINTS);
        if (shown.length > 1) return { item: entry.item.id, field, lines, points: shown };
      }
    }
    return null;
  }

  return routes;
}

const lastAt = (changes: readonly StoredChange[], told: ReadonlySet<string>): number | undefined =>
  changes.find((change) => told.has(change.id))?.at;

/** Whether the fields that a message told of are as they were before it. */
const isAsBefore = (source: Source, fields: readonly string[], before: Fields | null, now: Fields | null): boolean =>
  fields.length > 0 &&
  fields.every((id) => {
    const field = fieldOf(source, id);
    return field !== undefined && sameValue(field.type, before?.[id], now?.[id]);
  });

import { Router } from 'express';
import { todayQuerySchema, type TodayPage } from '../../contract/api.ts';
import { mayRead } from '../../core/people/index.ts';
import { eyeOf } from '../../core/rules/index.ts';
import { instantOf } from '../../core/time/index.ts';
import {
  changesFromQuery,
  followedQuery,
  gatheringQuery,
  inboxQuery,
  livePhases,
  messageAlertsQuery,
  readableItems,
  type Row,
  rows,
  toChange,
  toMessage,
  worldOf,
} from '../store/index.ts';
import { caller, type Context, readableAmong, take, when } from './context.ts';
import { type Behind, followingOf, isDone, openOf, takenOf, takersOf, waitsFor } from './following.ts';
import { itemsOf, messageRow } from './inbox.ts';
import { samplesOf } from './shown.ts';

/** So much of what happened is shown; the Trail has the rest. */
const MOST = 150;

/** The first page: what waits for its reader, what happened in what they keep an eye on, and the next digests. */
export function todayRoutes(context: Context): Router {
  const routes = Router();
  const { pool, clock } = context;

  routes.get('/today', async (request, response) => {
    const { me, directory } = caller(response);
    const since = instantOf(take(todayQuerySchema, request.query).since);
    const now = clock.now();
    const waiting = (await rows(pool, inboxQuery(me.id, { isWaiting: true }, { before: null, limit: 20 }))).map(
      toMessage,
    );
    const readable = await readableAmong(pool, itemsOf(waiting), me.id, directory);
    const behind =
      waiting.length === 0
        ? []
        : await rows<Behind & Row & { message_id: string }>(
            pool,
            messageAlertsQuery(waiting.map((message) => message.id)),
          );
    const [open, takers] = [await openOf(pool, behind), await takersOf(pool, behind)];
    const waits = waiting.map((message) => {
      const own = behind.filter((row) => row.message_id === message.id);
      return {
        message,
        own,
        taken: takenOf(
          open.filter((one) => own.some((row) => row.alert_key === one.alert)),
          own,
          takers,
        ),
      };
    });
    // A reminder is about the same alert as the message before it: the newest of them stands for all.
    const said = new Set<string>();
    const newest = waits.filter(({ own, taken }) => {
      const isNew = own.some((row) => !said.has(row.alert_id));
      for (const row of own) said.add(row.alert_id);
      return isNew && taken.some((one) => waitsFor(one, me.id, directory));
    });
    const nextOf = ({ message, own, taken }: (typeof waits)[number]) =>
      taken.some((one) => !isDone(one, directory) && one.takers.length === 0)
        ? followingOf(
            context,
            own,
            taken.map((one) => one.open),
            itemsOf([message]),
            readable,
            directory,
          )
        : [];
    const eyes = livePhases(directory, now)
      .map(({ compiled }) => compiled)
      .filter(({ rule }) => eyeOf(rule) === me.id);
    const followed = new Map(
      (await rows<{ item_id: string; source_id: string }>(pool, followedQuery(me.id))).map((row) => [
        row.item_id,
        row.source_id,
      ]),
    );
    const sources = [...new Set([...eyes.flatMap(({ rule }) => rule.scope.sources), ...followed.values()])];
    const world = worldOf(directory, new Map());
    const happened =
      sources.length === 0
        ? []
        : (await rows(pool, changesFromQuery(sources, since, readableItems(me.id, directory))))
            .map(toChange)
            .filter(
              (change) =>
                change.actor !== me.id &&
                mayRead(
                  me.id,
                  { source: change.source, folder: change.folder, fields: change.after ?? change.before ?? {} },
                  world,
                ) &&
                (followed.has(change.item) || eyes.some((eye) => eye.inScope(change, world))),
            );
    const digests = await rows<{ channel: string; due: number; items: number }>(pool, gatheringQuery(me.id));
    response.json({
      since: when(since),
      eyes: eyes.filter(({ rule }) => !rule.scope.items.some((item) => followed.has(item))).length + followed.size,
      waiting: await Promise.all(
        newest.map(async (one) => ({ ...messageRow(one.message, readable), next: await nextOf(one) })),
      ),
      changes: await samplesOf(pool, happened.slice(-MOST), { me, directory }),
      isCut: happened.length > MOST,
      digests: digests.map(({ channel, due, items }) => ({
        channel: channel as TodayPage['digests'][number]['channel'],
        at: when(Number(due)),
        items: Number(items),
      })),
    } satisfies TodayPage);
  });

  return routes;
}

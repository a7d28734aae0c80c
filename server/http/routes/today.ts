import type { Coming, TodayPage } from '../../../contract/wire/index.ts';
import { eyeOf } from '../../../core/rules/index.ts';
import { DAY_MS, instantOf } from '../../../core/time/index.ts';
import { type Caller, itemsOf, messageRow, readableAmong, when } from '../../access/index.ts';
import { livePhases, one, readableItems, rows, store } from '../../store/index.ts';
import type { Context } from '../context.ts';
import type { Handlers } from '../register.ts';
import { followingOf, takenBehind, waitsFor } from './following.ts';
import { comingFor } from './today-coming.ts';
import { digestsFor, gatheringAt } from './today-gathering.ts';
import { movedSince } from './today-moved.ts';

/** So many messages that wait are looked through. */
const WAITING = 20;
/** Whoever was not here for longer is shown what moved in so many days. */
const LONGEST_DAYS = 14;

/** The first page: what waits for its reader, what moved in what they hear of, what comes, and the next digests. */
export const todayHandlers: Handlers<'today.read' | 'today.gathering'> = {
  async 'today.read'(context, { query, asking }) {
    const { pool, clock } = context;
    const { me, directory } = asking;
    const now = clock.now();
    const since = Math.max(instantOf(query.since), now - LONGEST_DAYS * DAY_MS);
    const rules = livePhases(directory, now)
      .map(({ compiled }) => compiled)
      .filter(({ rule }) => eyeOf(rule) === me.id);
    const followed = new Map(
      (await rows(pool, store.followers.followedBy(me.id))).map(({ item, source }) => [item, source]),
    );
    const waiting = await waitingFor(context, asking);
    const { moved, all, isTold } = await movedSince(context, since, { rules, followed }, asking);
    const others = (await one(pool, store.changes.itemsMoved(me.id, since, readableItems(me.id, directory)))) ?? 0;
    const coming = await comingFor(context, asking);
    const digests = await digestsFor(context, asking);
    return {
      since: when(since),
      hears: rules.length + followed.size + waiting.length + digests.length > 0 || isTold,
      waiting,
      moved,
      more: all - moved.length,
      others: Math.max(0, others - all),
      coming: [...coming, ...waiting.flatMap(nextOf)].sort((a, b) => a.at.localeCompare(b.at)),
      digests,
    };
  },

  async 'today.gathering'(context, { query, asking }) {
    return gatheringAt(context, instantOf(query.at), asking);
  },
};

/** What follows a message while nobody takes it on, as it comes. */
const nextOf = ({ next, urgency, content }: TodayPage['waiting'][number]): Coming[] =>
  next.map(({ what, at, to }) => ({
    what,
    at,
    isDay: false,
    urgency,
    field: null,
    rule: null,
    items: content.entries.slice(0, 1).map(({ item }) => ({ id: item.id, title: item.title, source: item.source })),
    count: content.entries.length,
    to,
  }));

/** What waits for somebody to take it on, with what follows while nobody does. */
async function waitingFor(context: Context, { me, directory }: Caller): Promise<TodayPage['waiting']> {
  const { pool } = context;
  const messages = await rows(pool, store.messages.inbox(me.id, { isWaiting: true }, { before: null, limit: WAITING }));
  if (messages.length === 0) return [];
  const readable = await readableAmong(pool, itemsOf(messages), me.id, directory);
  const allBehind = await rows(pool, store.messages.alertsBehind(messages.map((message) => message.id)));
  const allTaken = await takenBehind(pool, allBehind);
  // A reminder is about the same alert as the message before it: the newest of them stands for all.
  const said = new Set<string>();
  const newest = messages.flatMap((message) => {
    const behind = allBehind.filter((one) => one.message === message.id);
    const taken = allTaken.filter(({ open }) => behind.some((one) => one.key === open.alert));
    const isNew = behind.some((one) => !said.has(one.alert));
    for (const one of behind) said.add(one.alert);
    return isNew && taken.some((one) => waitsFor(one, me.id, directory)) ? [{ message, behind, taken }] : [];
  });
  return Promise.all(
    newest.map(async ({ message, ...about }) => ({
      ...messageRow(message, readable),
      next: await followingOf(context, { ...about, items: itemsOf([message]) }, readable, directory),
    })),
  );
}

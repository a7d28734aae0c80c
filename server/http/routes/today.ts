import { mayRead } from '../../../core/people/index.ts';
import { type CompiledRule, eyeOf } from '../../../core/rules/index.ts';
import { type Instant, instantOf } from '../../../core/time/index.ts';
import type { TodayPage } from '../../../contract/wire/index.ts';
import { type Caller, itemsOf, messageRow, readableAmong, samplesOf, when } from '../../access/index.ts';
import { livePhases, readableItems, rows, store, type StoredChange, worldOf } from '../../store/index.ts';
import type { Context } from '../context.ts';
import type { Handlers } from '../register.ts';
import { followingOf, takenBehind, waitsFor } from './following.ts';

/** So much of what happened is shown; the Trail has the rest. */
const MOST = 150;
/** So many messages that wait are looked through. */
const WAITING = 20;

/** The first page: what waits for its reader, what happened in what they keep an eye on, and the next digests. */
export const todayHandlers: Handlers<'today.read'> = {
  async 'today.read'(context, { query, asking }) {
    const { pool, clock } = context;
    const { me, directory } = asking;
    const since = instantOf(query.since);
    const eyes = livePhases(directory, clock.now())
      .map(({ compiled }) => compiled)
      .filter(({ rule }) => eyeOf(rule) === me.id);
    const followed = new Map(
      (await rows(pool, store.followers.followedBy(me.id))).map(({ item, source }) => [item, source]),
    );
    const happened = await happenedSince(context, since, { eyes, followed }, asking);
    const digests = await rows(pool, store.messages.gathering(me.id));
    return {
      since: when(since),
      eyes: eyes.filter(({ rule }) => !rule.scope.items.some((item) => followed.has(item))).length + followed.size,
      waiting: await waitingFor(context, asking),
      changes: await samplesOf(pool, happened.slice(-MOST), asking),
      isCut: happened.length > MOST,
      digests: digests.map(({ channel, due, items }) => ({ channel, at: when(due), items })),
    };
  },
};

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

/** What others did, since an instant, to what somebody keeps an eye on. */
async function happenedSince(
  { pool }: Context,
  since: Instant,
  { eyes, followed }: { eyes: readonly CompiledRule[]; followed: ReadonlyMap<string, string> },
  { me, directory }: Caller,
): Promise<StoredChange[]> {
  const sources = [...new Set([...eyes.flatMap(({ rule }) => rule.scope.sources), ...followed.values()])];
  if (sources.length === 0) return [];
  const world = worldOf(directory, new Map());
  const found = await rows(pool, store.changes.from(sources, since, readableItems(me.id, directory)));
  return found.filter((change) => {
    const { source, folder, after, before, item } = change;
    return (
      change.actor !== me.id &&
      mayRead(me.id, { source, folder, fields: after ?? before ?? {} }, world) &&
      (followed.has(item) || eyes.some((eye) => eye.inScope(change, world)))
    );
  });
}

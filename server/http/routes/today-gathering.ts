import type { TodayPage } from '../../../contract/wire/index.ts';
import type { Rows } from '../../../core/decide/index.ts';
import { type Content, forPages, makeContent, type Telling } from '../../../core/messages/index.ts';
import type { Channel } from '../../../core/people/index.ts';
import { linksIn } from '../../../core/rules/index.ts';
import type { Instant } from '../../../core/time/index.ts';
import { type Caller, readableAmong, when } from '../../access/index.ts';
import { rows, store, worldOf } from '../../store/index.ts';
import type { Context } from '../context.ts';

type Waiting = Rows['waiting'];

/** What waits for one instant, once, whatever channels it will go by. */
interface Gathered {
  at: Instant;
  channels: Set<Channel>;
  portions: Map<string, Waiting>;
}

async function gatheredFor({ pool }: Pick<Context, 'pool'>, person: string): Promise<Gathered[]> {
  const byInstant = new Map<Instant, Gathered>();
  for (const one of await rows(pool, store.messages.gathering(person))) {
    const known = byInstant.get(one.due) ?? { at: one.due, channels: new Set(), portions: new Map() };
    known.channels.add(one.channel);
    known.portions.set(`${one.alert} ${one.item}`, one);
    byInstant.set(one.due, known);
  }
  return [...byInstant.values()].sort((a, b) => a.at - b.at);
}

/** What a digest would say if it went out now; `null` where its reader may read nothing of it any more. */
async function contentOf(
  { pool, clock }: Pick<Context, 'pool' | 'clock'>,
  { portions }: Gathered,
  { me, directory }: Caller,
): Promise<Content | null> {
  const all = [...portions.values()];
  const keys = all.flatMap(({ source, changes }) => changes.map((id): [string, string] => [source, id]));
  const changes = keys.length === 0 ? [] : await rows(pool, store.changes.byIds(keys));
  const known = new Map(changes.map((change) => [`${change.source}/${change.id}`, change]));
  const linked = changes.flatMap(({ source, before, after }) =>
    [before, after].flatMap((fields) => (fields ? [...linksIn(directory.sources.get(source), fields)] : [])),
  );
  const readable = await readableAmong(pool, [...all.map((one) => one.item), ...linked], me.id, directory);
  const byItem = new Map<string, Telling[]>();
  for (const { alert, rule: id, version, source, item, occasion, at, changes: ids, reasons } of all) {
    const rule = directory.versions.get(id)?.get(version)?.rule;
    if (!rule || !readable.has(item)) continue;
    const own = ids.flatMap((one) => known.get(`${source}/${one}`) ?? []);
    byItem.set(item, [...(byItem.get(item) ?? []), { alert, rule, source, item, occasion, at, changes: own, reasons }]);
  }
  return makeContent('digest', [...byItem.values()], clock.now(), me, worldOf(directory, readable));
}

/** The digests that gather for somebody: when, by what, of how many items, and the first of them by name. */
export async function digestsFor(
  context: Pick<Context, 'pool' | 'clock'>,
  asking: Caller,
): Promise<TodayPage['digests']> {
  const gathered = await gatheredFor(context, asking.me.id);
  const digests = await Promise.all(
    gathered.map(async (one) => {
      const entries = (await contentOf(context, one, asking))?.entries ?? [];
      return {
        at: when(one.at),
        channels: [...one.channels],
        items: entries.length,
        first: entries[0]?.item.title ?? '',
      };
    }),
  );
  return digests.filter(({ items }) => items > 0);
}

/** What gathers for the digest of an instant, item by item, as it would be told now. */
export async function gatheringAt(
  context: Pick<Context, 'pool' | 'clock'>,
  at: Instant,
  asking: Caller,
): Promise<Content['entries']> {
  const one = (await gatheredFor(context, asking.me.id)).find((digest) => digest.at === at);
  const content = one ? await contentOf(context, one, asking) : null;
  return content ? forPages(content).entries : [];
}

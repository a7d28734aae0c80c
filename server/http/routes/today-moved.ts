import type { MovedItem } from '../../../contract/wire/index.ts';
import { highest, itemEntry } from '../../../core/messages/index.ts';
import { mayRead, type Urgency } from '../../../core/people/index.ts';
import { type CompiledRule, linksIn } from '../../../core/rules/index.ts';
import type { Instant } from '../../../core/time/index.ts';
import { isLook, type ItemState } from '../../../core/values/index.ts';
import { type Caller, when } from '../../access/index.ts';
import { readableItems, rows, store, type StoredChange, worldOf } from '../../store/index.ts';
import type { Context } from '../context.ts';

/** So many items are shown; the Trail has the rest. */
const MOST = 40;
/** So many messages are looked through for what they told of. */
const MESSAGES = 400;

/** What somebody keeps an eye on: by rules of their own, and single items with their sources. */
export interface Eyes {
  rules: readonly CompiledRule[];
  followed: ReadonlyMap<string, string>;
}

/** What a rule told of an item: how urgently, and by which rules. */
interface Told {
  urgency: Urgency;
  rules: Map<string, string>;
}

/** What somebody was told since, item by item. */
async function toldSince({ pool }: Pick<Context, 'pool'>, since: Instant, person: string): Promise<Map<string, Told>> {
  const messages = await rows(pool, store.messages.inbox(person, {}, { before: null, limit: MESSAGES }));
  const told = new Map<string, Told>();
  for (const { at, content } of messages)
    if (at >= since)
      for (const entry of content.entries) {
        const known = told.get(entry.item.id) ?? { urgency: 'routine' as const, rules: new Map() };
        for (const { id, name } of entry.rules) known.rules.set(id, name);
        told.set(entry.item.id, { urgency: highest([known.urgency, entry.urgency]), rules: known.rules });
      }
  return told;
}

/** Everything others did since to what somebody keeps an eye on or was told of, item by item, in order of arrival. */
async function changesSince(
  { pool }: Pick<Context, 'pool'>,
  since: Instant,
  { rules, followed }: Eyes,
  told: ReadonlyMap<string, Told>,
  { me, directory }: Caller,
): Promise<Map<string, StoredChange[]>> {
  const sources = [...new Set([...rules.flatMap(({ rule }) => rule.scope.sources), ...followed.values()])];
  const may = readableItems(me.id, directory);
  const world = worldOf(directory, new Map());
  const eyed = sources.length === 0 ? [] : await rows(pool, store.changes.from(sources, since, may));
  const seen = eyed.filter(
    (change) => !isLook(change) && (followed.has(change.item) || rules.some((eye) => eye.inScope(change, world))),
  );
  const ofTold = told.size === 0 ? [] : await rows(pool, store.changes.ofItemsFrom([...told.keys()], since));
  const all = new Map([...seen, ...ofTold].map((change) => [change.seq, change]));
  const byItem = new Map<string, StoredChange[]>();
  for (const change of [...all.values()].sort((a, b) => a.seq - b.seq)) {
    const { source, folder, after, before, actor, item } = change;
    const isTheirs = actor !== me.id && mayRead(me.id, { source, folder, fields: after ?? before ?? {} }, world);
    if (isTheirs) byItem.set(item, [...(byItem.get(item) ?? []), change]);
  }
  return byItem;
}

/** What moved since, item by item and net of what went back and forth: the most urgent first, then the latest. */
export async function movedSince(
  context: Pick<Context, 'pool'>,
  since: Instant,
  eyes: Eyes,
  asking: Caller,
): Promise<{ moved: MovedItem[]; all: number; isTold: boolean }> {
  const { me, directory } = asking;
  const told = await toldSince(context, since, me.id);
  const byItem = await changesSince(context, since, eyes, told, asking);
  const linked = [...byItem.values()]
    .flat()
    .flatMap(({ source, before, after }) =>
      [before, after].flatMap((fields) => (fields ? [...linksIn(directory.sources.get(source), fields)] : [])),
    );
  const ids = [...new Set([...byItem.keys(), ...linked])];
  const items = ids.length === 0 ? [] : await rows(context.pool, store.items.byIds(ids));
  const world = worldOf(directory, new Map(items.map((item) => [item.id, item])));
  const sees = (item: ItemState) => mayRead(me.id, item, world);
  const readable = new Set(items.filter(sees).map(({ id }) => id));
  const moved = [...byItem].flatMap(([item, changes]): (MovedItem & { last: Instant })[] => {
    const last = changes.at(-1);
    // Of what is deleted its last reader still learns that; of what was closed to them meanwhile nothing.
    if (!last || (!readable.has(item) && last.after !== null)) return [];
    const { linked: _, ...entry } = itemEntry({ source: last.source, item, at: last.at }, changes, [], me, world, sees);
    const by = told.get(item);
    return [
      {
        at: when(last.at),
        last: last.at,
        by: [...new Set(changes.map((change) => change.actor))],
        entry: {
          ...entry,
          urgency: by?.urgency ?? 'routine',
          rules: [...(by?.rules ?? [])].map(([id, name]) => ({ id, name })),
        },
      },
    ];
  });
  const RANKS: Record<Urgency, number> = { critical: 0, important: 1, routine: 2 };
  const sorted = moved.sort(
    (a, b) =>
      Number(a.entry.isBack) - Number(b.entry.isBack) ||
      RANKS[a.entry.urgency] - RANKS[b.entry.urgency] ||
      b.last - a.last,
  );
  return {
    moved: sorted.slice(0, MOST).map(({ last: _, ...one }) => one),
    all: sorted.length,
    isTold: told.size > 0,
  };
}

import { Refusal } from '../../contract/problems.ts';
import { mayRead, mayReadSome } from '../../core/people/index.ts';
import type { Source } from '../../core/values/index.ts';
import {
  type Connection,
  type Directory,
  type ListedSource,
  one,
  type Profile,
  rows,
  store,
  type StoredItem,
  worldOf,
} from '../store/index.ts';

/** Who asks, with the directory as it stood when the request came. */
export interface Caller {
  me: Profile;
  directory: Directory;
}

/** An item that the caller may read. One they may not read is answered as if it were not there. */
export async function readableItem(on: Connection, id: string, { me, directory }: Caller): Promise<StoredItem> {
  const item = await one(on, store.items.byId(id));
  if (!item || !mayRead(me.id, item, worldOf(directory, new Map()))) throw new Refusal('notFound');
  return item;
}

/** Which of these items a person may read, by id. */
export async function readableAmong(
  on: Connection,
  ids: readonly string[],
  person: string,
  directory: Directory,
): Promise<Map<string, StoredItem>> {
  if (ids.length === 0) return new Map();
  const items = await rows(on, store.items.byIds([...new Set(ids)]));
  const world = worldOf(directory, new Map());
  return new Map(items.filter((item) => mayRead(person, item, world)).map((item) => [item.id, item]));
}

/** Sources of which a person may read something, or could if there were an item. */
export const visibleSources = (person: string, directory: Directory): ListedSource[] =>
  [...directory.sources.values()].filter((source) => mayReadSome(person, source.id, directory));

/** A source that the caller may see; any other is answered as if it were not there. */
export function visibleSource(id: string, { me, directory }: Caller): Source {
  const source = visibleSources(me.id, directory).find((one) => one.id === id);
  if (!source) throw new Refusal('notFound');
  return source;
}

/** Whether somebody looks after all of these sources: stewards do, and coordinators of each, or of none that has its own. */
export function coordinates(me: Profile, sources: readonly string[], directory: Directory): boolean {
  if (me.role === 'steward') return true;
  return (
    me.role === 'coordinator' && sources.every((source) => directory.coordinators.get(source)?.includes(me.id) ?? true)
  );
}

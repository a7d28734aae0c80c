import type { PoolConnection } from 'mysql2/promise';
import { Refusal } from '../../contract/problems.ts';
import { runAll, type StoredItem, store } from '../store/index.ts';
import { applyEdit, type Edit, refuseBadValues } from './door.ts';

/** So many rows go in one statement. */
const AT_ONCE = 400;

/** How many edits were kept, and what came of them. */
export interface ManyDone {
  kept: number;
  /** The items as they stand after. */
  items: StoredItem[];
}

/** Hears how many rows are written, of how many. */
export type OnWritten = (done: number, total: number) => void;

/**
 * The same door for many edits of one source at once, each of another item, that belong together: all of them are
 * written in the caller's transaction, or none. Items that are there already have to be locked by the caller.
 * @param known the items that are edited, by id; of what is made anew there is none
 * @param onWritten hears how far it has come
 * @throws Refusal for values that cannot stand, and for an item that is gone
 */
export async function passDoorTogether(
  on: PoolConnection,
  edits: readonly (Edit & { id: string })[],
  known: ReadonlyMap<string, StoredItem>,
  onWritten?: OnWritten,
): Promise<ManyDone> {
  const made = edits.flatMap((edit) => {
    refuseBadValues(edit);
    const item = known.get(edit.item) ?? null;
    if ((edit.kind === 'created') !== (item === null)) throw new Refusal('notFound');
    if (item?.isDeleted && edit.kind !== 'restored') throw new Refusal('gone');
    return applyEdit(item, edit) ?? [];
  });
  for (let from = 0; from < made.length; from += AT_ONCE) {
    const some = made.slice(from, from + AT_ONCE);
    await runAll(on, [
      store.items.saveMany(some.map(({ item }) => item)),
      ...store.changes.saveMany(
        edits[0]?.source.id ?? '',
        some.map(({ item, change }) => ({ change, version: item.version })),
      ),
    ]);
    onWritten?.(from + some.length, made.length);
  }
  return { kept: made.length, items: made.map(({ item }) => item) };
}

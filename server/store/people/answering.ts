import { mayRead } from '../../../core/people/index.ts';
import type { StoredItem } from '../items/items.ts';
import { type Directory, worldOf } from './directory.ts';

/**
 * Whether an item may be told to somebody outside by rules: whoever owns each of them is here and may read it, and so may
 * whoever put its newest version live. Neither alone can have the other's rights tell more than they may read themselves.
 *
 * @param items the items by id; one that is not among them is gone, and hides nothing
 */
export function toldOutside(
  directory: Directory,
  rules: readonly string[],
  items: ReadonlyMap<string, StoredItem>,
): (item: string) => boolean {
  const world = worldOf(directory, items);
  const answering = [...new Set(rules)].map((id) => directory.answering.get(id));
  return (item) => {
    const stored = items.get(item);
    return (
      stored === undefined ||
      answering.every(
        (who) =>
          who !== undefined &&
          directory.people.get(who.owner)?.active === true &&
          [who.owner, who.editor].every((one) => mayRead(one, stored, world)),
      )
    );
  };
}

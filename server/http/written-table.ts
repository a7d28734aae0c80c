import type { Pool } from 'mysql2/promise';
import { HIDDEN_ITEM } from '../../contract/hidden.ts';
import { type Cell, ITEM_ID, writeCell, type Writing } from '../../core/tables/index.ts';
import { foldCase, isLinkType, type Source } from '../../core/values/index.ts';
import type { Caller } from '../access/index.ts';
import { readableItems, rows, store, type StoredItem } from '../store/index.ts';

/** Items as a table: their ids, then all their fields, each cell so that it is read again as the value it was. */
export async function tableOf(
  pool: Pool,
  source: Source,
  items: readonly StoredItem[],
  asking: Caller,
): Promise<{ columns: string[]; rows: Cell[][] }> {
  const { me, directory } = asking;
  const may = readableItems(me.id, directory);
  const titles = new Map<string, (id: string) => string>();
  for (const { type, to = '' } of source.fields) {
    if (!isLinkType(type) || titles.has(to)) continue;
    const linked = await rows(pool, store.items.titlesIn(to, may));
    const readable = new Map(linked.map(({ id, title }) => [id, title]));
    const said = unmistakable(readable);
    titles.set(to, (id) => (readable.has(id) ? said(id) : HIDDEN_ITEM));
  }
  const people = unmistakable(new Map([...directory.people.values()].map(({ id, name }) => [id, name])));
  const writing: Writing = { person: people, item: (to, id) => titles.get(to)?.(id) ?? HIDDEN_ITEM };
  return {
    columns: [ITEM_ID, ...source.fields.map(({ name }) => name)],
    rows: items.map(({ id, fields }) => [
      id,
      ...source.fields.map((field) => writeCell(field, fields[field.id], writing)),
    ]),
  };
}

/** Names where each is one's own and can stand among others, else ids. */
function unmistakable(names: ReadonlyMap<string, string>): (id: string) => string {
  const times = new Map<string, number>();
  for (const name of names.values()) times.set(foldCase(name), (times.get(foldCase(name)) ?? 0) + 1);
  return (id) => {
    const name = names.get(id);
    const isOne = name !== undefined && times.get(foldCase(name)) === 1 && !names.has(name);
    return isOne && !/[;\n]/.test(name) && name.trim() === name ? name : id;
  };
}

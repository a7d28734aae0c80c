import type { z } from 'zod';
import { Refusal } from '../../contract/problems.ts';
import { listQuerySchema } from '../../contract/wire/index.ts';
import type { Folder } from '../../core/people/index.ts';
import {
  checkRule,
  compileState,
  isKind,
  type Linked,
  openRule,
  type StateTest,
  stateParts,
  wordsTest,
} from '../../core/rules/index.ts';
import { fieldOf, membersOf, type Source } from '../../core/values/index.ts';
import { type Caller, readableAmong } from '../access/index.ts';
import type { Pool } from 'mysql2/promise';
import { one, orderSql, readableItems, rows, stateSql, store, type StoredItem } from '../store/index.ts';
import { type Context, take } from './context.ts';

/** So many items of one source are looked through at most. */
export const MOST_LISTED = 50_000;

/** What is asked of a source's items. */
export type ListingAsked = Omit<z.output<typeof listQuerySchema>, 'offset'>;

/** What a kept question asks for, as its page has put it. */
export const listingOf = (asked: { text?: string | undefined; where?: string | undefined }): ListingAsked =>
  take(listQuerySchema, asked);

/** A page of a source's items as they were asked for. Where the database cannot judge a state exactly, core does, over all that may be. */
export async function listItems(
  { pool, clock }: Pick<Context, 'pool' | 'clock'>,
  source: Source,
  { text, folder, where, sort, down }: ListingAsked,
  { me, directory }: Caller,
  { limit, offset }: { limit: number; offset: number },
): Promise<{ items: StoredItem[]; total: number }> {
  const now = clock.now();
  if (where) expectSound(where, source, { me, directory });
  // Words are a state as any other, so that a rule made of what they find looks at just that.
  const found = text.trim() === '' ? [] : [wordsTest(text, source, directory.people.values())];
  const test: StateTest | null = where || found.length > 0 ? { all: [...(where ? [where] : []), ...found] } : null;
  const sorted = sort === undefined ? undefined : fieldOf(source, sort);
  const state = test ? stateSql(test, { source, zone: me.zone, now }) : null;
  const folders = folder ? [folder, ...below(folder, directory.folders)] : null;
  const listing = { folders, where: state };
  const may = readableItems(me.id, directory);
  const order = sorted ? orderSql(sorted, down === '1') : null;
  if (!test || state?.isExact) {
    const [items, size] = await Promise.all([
      rows(pool, store.items.list(source.id, may, listing, { order, limit, offset })),
      one(pool, store.items.listSize(source.id, may, listing)),
    ]);
    return { items, total: size ?? 0 };
  }
  const near = await rows(pool, store.items.list(source.id, may, listing, { order, limit: MOST_LISTED, offset: 0 }));
  const linked = await linkedItems(pool, near, test, { me, directory });
  const holds = compileState(test, { source, zone: me.zone, sources: directory.sources });
  const items = near.filter((item) => holds(item.fields, now, linked));
  return { items: items.slice(offset, offset + limit), total: items.length };
}

/** The items that a test asks about across links, as far as whoever asks may read them: of others nothing is told, nor found. */
async function linkedItems(
  pool: Pool,
  items: readonly StoredItem[],
  test: StateTest,
  { me, directory }: Caller,
): Promise<Linked> {
  const ids = throughIn(test).flatMap((id) => items.flatMap(({ fields }) => membersOf(fields[id])));
  const open = await readableAmong(pool, ids, me.id, directory);
  return {
    item: (id) => {
      const item = open.get(id);
      return item?.isDeleted ? undefined : item;
    },
  };
}

/** The links that a state test follows. */
const throughIn = (test: StateTest): string[] =>
  isKind(test, 'through') ? [test.through] : stateParts(test).flatMap(throughIn);

/** Refuses a state test that does not fit the source, with every fault. */
function expectSound(where: StateTest, source: Source, { me, directory }: Caller): void {
  const rule = {
    ...openRule('list', 'List', me.id, [source.id]),
    to: [{ person: me.id }],
    scope: { sources: [source.id], under: [], items: [], linked: false, where },
  };
  const faults = checkRule(rule, directory).filter((fault) => fault.path.startsWith('scope.where'));
  if (faults.length > 0) throw new Refusal('badRequest', { faults });
}

function below(folder: string, folders: ReadonlyMap<string, Folder>): string[] {
  const children = [...folders.values()].filter((one) => one.parent === folder);
  return children.flatMap((child) => [child.id, ...below(child.id, folders)]);
}

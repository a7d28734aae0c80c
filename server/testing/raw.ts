import { type Param, type Query, select } from '../store/database/query.ts';
import { decode as decodeChange, type StoredChange } from '../store/items/changes.ts';
import { decode as decodeItem, type StoredItem } from '../store/items/items.ts';

export { fromJson } from '../store/database/query.ts';

/** A query of a test's own, whose rows are as the database hands them out. */
export const raw = <T extends object = Record<string, unknown>>(sql: string, ...params: Param[]): Query<T> =>
  select((row) => row as T, sql, ...params);
/** The same over whole rows of `items`, of `changes`. */
export const rawItems = (sql: string, ...params: Param[]): Query<StoredItem> => select(decodeItem, sql, ...params);
export const rawChanges = (sql: string, ...params: Param[]): Query<StoredChange> =>
  select(decodeChange, sql, ...params);

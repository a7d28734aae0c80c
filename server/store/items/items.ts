import type { Instant } from '../../../core/time/index.ts';
import type { ItemState } from '../../../core/values/index.ts';
import {
  flag,
  instant,
  json,
  likeText,
  nullable,
  number,
  type Query,
  query,
  record,
  select,
  type Sql,
  sqlTime,
  type Statement,
  text,
} from '../database/query.ts';
import { NOTHING } from './readable.ts';

/** An item as it is kept: with its version, and whether it is deleted. */
export interface StoredItem extends ItemState {
  title: string;
  version: number;
  isDeleted: boolean;
  createdAt: Instant;
  lastBy: string;
  lastAt: Instant;
}

/** The columns of `items i` that {@link decode} reads. */
export const COLUMNS =
  'i.id, i.source_id, i.folder_id, i.title, i.fields, i.version, i.is_deleted, i.created_by, i.created_at, i.last_by, i.last_at';

/** Makes of a whole row of `items` what it is. */
export const decode = record<StoredItem>({
  id: text('id'),
  source: text('source_id'),
  folder: nullable(text)('folder_id'),
  title: text('title'),
  fields: json('fields'),
  version: number('version'),
  isDeleted: flag('is_deleted'),
  createdBy: text('created_by'),
  createdAt: instant('created_at'),
  lastBy: text('last_by'),
  lastAt: instant('last_at'),
});

/** One item, deleted or not; locked where a change of it follows. */
export const byId = (id: string, lock = false): Query<StoredItem> =>
  select(decode, `SELECT ${COLUMNS} FROM items i WHERE i.id = ?${lock ? ' FOR UPDATE' : ''}`, id);
/** Items by id, deleted or not, in order of their ids, locked until the transaction ends. */
export const locked = (ids: string[]): Query<StoredItem> =>
  select(decode, `SELECT ${COLUMNS} FROM items i WHERE i.id IN (?) ORDER BY i.id FOR UPDATE`, ids);
/** Items by id, deleted or not; those that there are not are left out. */
export const byIds = (ids: string[]): Query<StoredItem> =>
  select(decode, `SELECT ${COLUMNS} FROM items i WHERE i.id IN (?)`, ids);

/** The items of a source that the reader may see, deleted ones left out, in order of their ids; locked where changes of them follow. */
export const readableOf = (source: string, may: Sql, lock: boolean): Query<StoredItem> =>
  select(
    decode,
    `SELECT ${COLUMNS}
      FROM items i
      WHERE i.source_id = ? AND i.is_deleted = 0 AND ${may.sql}
      ORDER BY i.id${lock ? ' FOR UPDATE' : ''}`,
    source,
    ...may.params,
  );
/** All items of a source, whoever may see them; else as {@link readableOf}. */
export const allOf = (source: string, lock: boolean): Query<StoredItem> =>
  readableOf(source, { sql: 'TRUE', params: [] }, lock);
/** What the items of a source are called that the reader may see. */
export const titlesIn = (source: string, may: Sql): Query<{ id: string; title: string }> =>
  select(
    record({ id: text('id'), title: text('title') }),
    `SELECT i.id, i.title FROM items i WHERE i.source_id = ? AND i.is_deleted = 0 AND ${may.sql}`,
    source,
    ...may.params,
  );

/** The ids of all items of a source. */
export const idsOf = (source: string): Query<string> =>
  select(text('id'), 'SELECT id FROM items WHERE source_id = ? ORDER BY id', source);

/** What is asked of a source's items; `folders` narrows to these folders, `where` to a state. */
export interface Listing {
  folders: string[] | null;
  where: Sql | null;
}

function listed(source: string, may: Sql, { folders, where }: Listing): Sql {
  const parts: Sql[] = [{ sql: 'i.source_id = ? AND i.is_deleted = 0', params: [source] }, may];
  if (folders) parts.push(folders.length > 0 ? { sql: 'i.folder_id IN (?)', params: [folders] } : NOTHING);
  if (where) parts.push(where);
  return { sql: parts.map((part) => part.sql).join(' AND '), params: parts.flatMap((part) => part.params) };
}

/** A page of the items of a source that the reader may see, in an order; the last changed first where none is given. */
export function list(
  source: string,
  may: Sql,
  listing: Listing,
  page: { order: Sql | null; limit: number; offset: number },
): Query<StoredItem> {
  const { sql, params } = listed(source, may, listing);
  const order = page.order ?? { sql: 'i.last_at DESC', params: [] };
  return select(
    decode,
    `SELECT ${COLUMNS} FROM items i WHERE ${sql} ORDER BY ${order.sql}, i.id LIMIT ? OFFSET ?`,
    ...params,
    ...order.params,
    page.limit,
    page.offset,
  );
}

/** How many items there are in all pages of such a list. */
export function listSize(source: string, may: Sql, listing: Listing): Query<number> {
  const { sql, params } = listed(source, may, listing);
  return select(number('total'), `SELECT COUNT(*) AS total FROM items i WHERE ${sql}`, ...params);
}

/** How many items of each source the reader may see, and when the last of them changed. */
export const counts = (may: Sql): Query<{ source: string; folder: string | null; items: number; lastAt: Instant }> =>
  select(
    record({
      source: text('source_id'),
      folder: nullable(text)('folder_id'),
      items: number('items'),
      lastAt: instant('last_at'),
    }),
    `SELECT i.source_id, i.folder_id, COUNT(*) AS items, MAX(i.last_at) AS last_at
      FROM items i
      WHERE i.is_deleted = 0 AND ${may.sql}
      GROUP BY i.source_id, i.folder_id`,
    ...may.params,
  );

/** Items of the sources that nothing has happened to since an instant. */
export const untouched = (sources: string[], since: Instant): Query<StoredItem> =>
  select(
    decode,
    `SELECT ${COLUMNS} FROM items i WHERE i.source_id IN (?) AND i.is_deleted = 0 AND i.last_at < ?`,
    sources,
    sqlTime(since),
  );

/** The items of the sources, the last changed first; so many that whoever they name is found. */
export const ofSources = (sources: string[]): Query<StoredItem> =>
  select(
    decode,
    `SELECT ${COLUMNS} FROM items i WHERE i.source_id IN (?) AND i.is_deleted = 0 ORDER BY i.last_at DESC LIMIT 5000`,
    sources,
  );

/** The items of the sources that changed last and that the reader may see. */
export const last = (sources: string[], may: Sql, limit: number): Query<StoredItem> =>
  select(
    decode,
    `SELECT ${COLUMNS}
      FROM items i
      WHERE i.source_id IN (?) AND i.is_deleted = 0 AND ${may.sql}
      ORDER BY i.last_at DESC, i.id
      LIMIT ?`,
    sources,
    ...may.params,
    limit,
  );

/** Items the reader may see whose title holds the text. */
export const find = (wanted: string, may: Sql, limit: number): Query<StoredItem> =>
  select(
    decode,
    `SELECT ${COLUMNS} FROM items i WHERE i.is_deleted = 0 AND i.title LIKE ? AND ${may.sql} ORDER BY i.title LIMIT ?`,
    `%${likeText(wanted)}%`,
    ...may.params,
    limit,
  );

/** Items of some sources (one at least) that the reader may see and that are called just so (one title at least), in whatever case. */
export const calledSo = (sources: string[], titles: string[], may: Sql, limit: number): Query<StoredItem> =>
  select(
    decode,
    `SELECT ${COLUMNS} FROM items i WHERE i.source_id IN (?) AND i.is_deleted = 0 AND i.title IN (?) AND ${may.sql} ORDER BY i.title, i.id LIMIT ?`,
    sources,
    titles,
    ...may.params,
    limit,
  );

/** Items of some sources (one at least) that the reader may see whose titles begin so. */
export const begunSo = (sources: string[], wanted: string, may: Sql, limit: number): Query<StoredItem> =>
  select(
    decode,
    `SELECT ${COLUMNS} FROM items i WHERE i.source_id IN (?) AND i.is_deleted = 0 AND i.title LIKE ? AND ${may.sql} ORDER BY i.title, i.id LIMIT ?`,
    sources,
    `${likeText(wanted)}%`,
    ...may.params,
    limit,
  );

/** Writes an item's state: a new item at version 1, otherwise over the one before. */
export function save(item: StoredItem): Statement {
  const fields = JSON.stringify(item.fields);
  if (item.version > 1) {
    return query(
      'UPDATE items SET folder_id = ?, title = ?, fields = ?, version = ?, is_deleted = ?, last_by = ?, last_at = ? WHERE id = ?',
      item.folder,
      item.title,
      fields,
      item.version,
      item.isDeleted ? 1 : 0,
      item.lastBy,
      sqlTime(item.lastAt),
      item.id,
    );
  }
  return insert([item]);
}

/** Writes items over those before, and makes those that are not there yet. */
export function saveMany(items: readonly StoredItem[]): Statement {
  const { sql, params } = insert(items);
  return {
    sql: `${sql} ON DUPLICATE KEY UPDATE folder_id = VALUES(folder_id), title = VALUES(title), fields = VALUES(fields),
      version = VALUES(version), is_deleted = VALUES(is_deleted), last_by = VALUES(last_by), last_at = VALUES(last_at)`,
    params,
  };
}

/** Writes items that are not there yet, as they stand. */
export const insert = (items: readonly StoredItem[]): Statement =>
  query(
    `INSERT INTO items (id, source_id, folder_id, title, fields, version, is_deleted, created_by, created_at, last_by, last_at)
      VALUES ?`,
    items.map((item) => [
      item.id,
      item.source,
      item.folder,
      item.title,
      JSON.stringify(item.fields),
      item.version,
      item.isDeleted ? 1 : 0,
      item.createdBy ?? item.lastBy,
      sqlTime(item.createdAt),
      item.lastBy,
      sqlTime(item.lastAt),
    ]),
  );

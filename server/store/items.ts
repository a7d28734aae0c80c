import { membersOfGroup, readersAt, type Selector, type World } from '../../core/people/index.ts';
import type { Instant } from '../../core/time/index.ts';
import type { Fields, ItemState } from '../../core/values/index.ts';
import { fromJson, type Param, type Query, query, type Row, sqlTime } from './connection.ts';

export interface StoredItem extends ItemState {
  title: string;
  version: number;
  isDeleted: boolean;
  createdAt: Instant;
  lastBy: string;
  lastAt: Instant;
}

const COLUMNS =
  'i.id, i.source_id, i.folder_id, i.title, i.fields, i.version, i.is_deleted, i.created_by, i.created_at, i.last_by, i.last_at';

export const toItem = (row: Row): StoredItem => ({
  id: String(row.id),
  source: String(row.source_id),
  folder: row.folder_id as string | null,
  title: String(row.title),
  fields: fromJson<Fields>(row.fields),
  version: Number(row.version),
  isDeleted: row.is_deleted === 1,
  createdBy: String(row.created_by),
  createdAt: row.created_at as Instant,
  lastBy: String(row.last_by),
  lastAt: row.last_at as Instant,
});

export const itemQuery = (id: string, lock = false): Query =>
  query(`SELECT ${COLUMNS} FROM items i WHERE i.id = ?${lock ? ' FOR UPDATE' : ''}`, id);
export const itemsQuery = (ids: string[]): Query => query(`SELECT ${COLUMNS} FROM items i WHERE i.id IN (?)`, ids);

/** A condition in SQL: text and its parameters. */
export interface Sql {
  sql: string;
  params: Param[];
}

/** Whether a field of an item holds a text by itself or among others. */
const holds = (item: string, field: string, text: string): Sql => ({
  sql: `(JSON_VALUE(${item}.fields, CONCAT('$."', ?, '"')) = ? OR JSON_CONTAINS(JSON_QUERY(${item}.fields, CONCAT('$."', ?, '"')), JSON_QUOTE(?)))`,
  params: [field, text, field, text],
});

/** Whether a field names somebody: by id, or where it is an email field by their address. */
function fieldNames(item: string, field: string, person: string, world: Omit<World, 'item'>): Sql {
  const email = world.people.get(person)?.email?.trim();
  const byId = holds(item, field, person);
  if (!email) return byId;
  const byAddress: Sql = {
    sql: `LOWER(TRIM(JSON_VALUE(${item}.fields, CONCAT('$."', ?, '"')))) = LOWER(?)`,
    params: [field, email],
  };
  return anyOf([byId, byAddress]);
}

const anyOf = (ways: Sql[]): Sql => ({
  sql: `(${ways.map((one) => one.sql).join(' OR ')})`,
  params: ways.flatMap((one) => one.params),
});

const NOBODY: Sql = { sql: 'FALSE', params: [] };
const EVERYBODY: Sql = { sql: 'TRUE', params: [] };

/**
 * Which items `i` a person may read, in SQL: the same answer as core's `mayRead`, source by source and folder by
 * folder where one has readers of its own.
 */
export function readableItems(person: string, world: Omit<World, 'item'>): Sql {
  const places: Sql[] = [];
  for (const source of world.sources.values()) {
    const folders = [...world.folders.values()].filter((folder) => folder.source === source.id);
    const apart = folders.filter(
      (folder) => readersAt(source.id, folder.id, world) !== readersAt(source.id, null, world),
    );
    const own = readable(person, source.id, null, world);
    const except = apart.length === 0 ? '' : ' AND (i.folder_id IS NULL OR i.folder_id NOT IN (?))';
    places.push({
      sql: `(i.source_id = ?${except} AND ${own.sql})`,
      params: [source.id, ...(apart.length > 0 ? [apart.map((one) => one.id)] : []), ...own.params],
    });
    for (const folder of apart) {
      const there = readable(person, source.id, folder.id, world);
      if (there !== NOBODY)
        places.push({
          sql: `(i.source_id = ? AND i.folder_id = ? AND ${there.sql})`,
          params: [source.id, folder.id, ...there.params],
        });
    }
  }
  return places.length === 0
    ? NOBODY
    : { sql: `(${places.map((one) => one.sql).join(' OR ')})`, params: places.flatMap((one) => one.params) };
}

function readable(person: string, source: string, folder: string | null, world: Omit<World, 'item'>): Sql {
  const readers = readersAt(source, folder, world);
  if (readers === null) return world.people.has(person) ? { sql: 'TRUE', params: [] } : NOBODY;
  const ways = readers.map((reader) => readerNames(reader, person, world)).filter((way) => way !== NOBODY);
  if (ways.includes(EVERYBODY)) return EVERYBODY;
  return ways.length === 0 ? NOBODY : anyOf(ways);
}

/** Whether a selector reaches a person on item `i`, in SQL: the same answer as core's `reach`. */
function readerNames(reader: Selector, person: string, world: Omit<World, 'item'>): Sql {
  if (
    reader === '*' ||
    'system' in reader ||
    'contact' in reader ||
    'webhook' in reader ||
    'mentioned' in reader ||
    'told' in reader
  )
    return NOBODY;
  if ('person' in reader) return reader.person === person ? EVERYBODY : NOBODY;
  if ('group' in reader) return membersOfGroup(reader.group, world).has(person) ? EVERYBODY : NOBODY;
  if ('linked' in reader) {
    const named = fieldNames('l', reader.field, person, world);
    const link = `(JSON_VALUE(i.fields, CONCAT('$."', ?, '"')) = l.id OR JSON_CONTAINS(JSON_QUERY(i.fields, CONCAT('$."', ?, '"')), JSON_QUOTE(l.id)))`;
    return {
      sql: `EXISTS (SELECT 1 FROM items l WHERE ${link} AND ${named.sql})`,
      params: [reader.linked, reader.linked, ...named.params],
    };
  }
  if ('field' in reader) return fieldNames('i', reader.field, person, world);
  if ('creator' in reader) return { sql: 'i.created_by = ?', params: [person] };
  if ('lastEditor' in reader) return { sql: 'i.last_by = ?', params: [person] };
  if ('followers' in reader)
    return { sql: 'EXISTS (SELECT 1 FROM followers f WHERE f.item_id = i.id AND f.person_id = ?)', params: [person] };
  const reports = [...world.people.values()]
    .filter((one) => one.manager === person)
    .map((one) => readerNames(reader.managerOf, one.id, world))
    .filter((way) => way !== NOBODY);
  if (reports.includes(EVERYBODY)) return EVERYBODY;
  return reports.length === 0 ? NOBODY : anyOf(reports);
}

/** Text made fit for LIKE: its own signs mean themselves. */
const likeText = (text: string) => `%${text.replace(/[\\%_]/g, '\\$&')}%`;

/** What is asked of a source's items; `folders` narrows to these folders, `where` to a state. */
export interface Listing {
  text: string;
  folders: string[] | null;
  where: Sql | null;
}

function listed(source: string, may: Sql, { text, folders, where }: Listing): Sql {
  const parts: Sql[] = [{ sql: 'i.source_id = ? AND i.is_deleted = 0', params: [source] }, may];
  if (text) parts.push({ sql: '(i.title LIKE ? OR i.fields LIKE ?)', params: [likeText(text), likeText(text)] });
  if (folders) parts.push(folders.length > 0 ? { sql: 'i.folder_id IN (?)', params: [folders] } : NOBODY);
  if (where) parts.push(where);
  return { sql: parts.map((part) => part.sql).join(' AND '), params: parts.flatMap((part) => part.params) };
}

/** A page of the items of a source that the reader may see, in an order; the last changed first where none is given. */
export function listQuery(
  source: string,
  may: Sql,
  listing: Listing,
  page: { order: Sql | null; limit: number; offset: number },
): Query {
  const { sql, params } = listed(source, may, listing);
  const order = page.order ?? { sql: 'i.last_at DESC', params: [] };
  return query(
    `SELECT ${COLUMNS} FROM items i WHERE ${sql} ORDER BY ${order.sql}, i.id LIMIT ? OFFSET ?`,
    ...params,
    ...order.params,
    page.limit,
    page.offset,
  );
}

/** How many items there are in all pages of such a list. */
export function listSizeQuery(source: string, may: Sql, listing: Listing): Query {
  const { sql, params } = listed(source, may, listing);
  return query(`SELECT COUNT(*) AS total FROM items i WHERE ${sql}`, ...params);
}

/** How many items of each source the reader may see, and when the last of them changed. */
export const countsQuery = (may: Sql): Query =>
  query(
    `SELECT i.source_id, i.folder_id, COUNT(*) AS items, MAX(i.last_at) AS last_at FROM items i WHERE i.is_deleted = 0 AND ${may.sql} GROUP BY i.source_id, i.folder_id`,
    ...may.params,
  );

/** Items of the sources that nothing has happened to since an instant. */
export const untouchedQuery = (sources: string[], since: Instant): Query =>
  query(
    `SELECT ${COLUMNS} FROM items i WHERE i.source_id IN (?) AND i.is_deleted = 0 AND i.last_at < ?`,
    sources,
    sqlTime(since),
  );

/** The items of the sources, the last changed first; so many that whoever they name is found. */
export const itemsOfSourcesQuery = (sources: string[]): Query =>
  query(
    `SELECT ${COLUMNS} FROM items i WHERE i.source_id IN (?) AND i.is_deleted = 0 ORDER BY i.last_at DESC LIMIT 5000`,
    sources,
  );

/** The items of the sources that changed last and that the reader may see. */
export const lastItemsQuery = (sources: string[], may: Sql, limit: number): Query =>
  query(
    `SELECT ${COLUMNS} FROM items i WHERE i.source_id IN (?) AND i.is_deleted = 0 AND ${may.sql} ORDER BY i.last_at DESC, i.id LIMIT ?`,
    sources,
    ...may.params,
    limit,
  );

/** Items the reader may see whose title holds the text. */
export const findItemsQuery = (text: string, may: Sql, limit: number): Query =>
  query(
    `SELECT ${COLUMNS} FROM items i WHERE i.is_deleted = 0 AND i.title LIKE ? AND ${may.sql} ORDER BY i.title LIMIT ?`,
    likeText(text),
    ...may.params,
    limit,
  );

/** Writes an item's state: a new item at version 1, otherwise over the one before. */
export function saveItemQuery(item: StoredItem): Query {
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
  return insertItemsQuery([item]);
}

/** Writes items that are not there yet, as they stand. */
export const insertItemsQuery = (items: readonly StoredItem[]): Query =>
  query(
    'INSERT INTO items (id, source_id, folder_id, title, fields, version, is_deleted, created_by, created_at, last_by, last_at) VALUES ?',
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

export const fileQuery = (item: string, version: number | null): Query =>
  version === null
    ? query('SELECT version, media_type, bytes FROM item_files WHERE item_id = ? ORDER BY version DESC LIMIT 1', item)
    : query('SELECT version, media_type, bytes FROM item_files WHERE item_id = ? AND version = ?', item, version);
export const saveFileQuery = (item: string, version: number, mediaType: string, bytes: Buffer): Query =>
  query('INSERT INTO item_files (item_id, version, media_type, bytes) VALUES (?)', [item, version, mediaType, bytes]);

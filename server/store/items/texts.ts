import { nullable, type Query, query, record, select, type Sql, type Statement, text } from '../database/query.ts';
import { COLUMNS, decode, type StoredItem } from './items.ts';

/** Items of which what they say is not kept, or not as they are now; so many at once. */
export const stale = (most: number): Query<string> =>
  select(
    text('id'),
    `SELECT i.id FROM items i FORCE INDEX (versions) LEFT JOIN item_texts t ON t.item_id = i.id
     WHERE t.item_id IS NULL OR t.version <> i.version LIMIT ?`,
    most,
  );
/** The newest contents of documents, of at most so many bytes each. */
export const contentsOf = (
  items: string[],
  most: number,
): Query<{ item: string; content: string; mediaType: string | null }> =>
  select(
    record({ item: text('item_id'), content: text('content_id'), mediaType: nullable(text)('media_type') }),
    `SELECT f.item_id, f.content_id, c.media_type FROM item_files f JOIN contents c ON c.id = f.content_id
     WHERE f.item_id IN (?) AND c.size <= ? AND f.version = (SELECT MAX(g.version) FROM item_files g WHERE g.item_id = f.item_id)`,
    items,
    most,
  );
/** Keeps what items say, over what was kept of them. */
export const save = (texts: readonly { item: string; version: number; body: string }[]): Statement =>
  query(
    'REPLACE INTO item_texts (item_id, version, body) VALUES ?',
    texts.map(({ item, version, body }) => [item, version, body]),
  );

/** What is asked of a full-text index (boolean mode): all the words, the last of them perhaps not whole yet; `null` where there is none. */
export function wordsAsked(wanted: string): string | null {
  const words = wanted.normalize('NFC').match(/[\p{L}\p{N}]+/gu) ?? [];
  // One letter is said by almost everything.
  const telling = words.filter((word) => word.length > 1);
  return telling.length === 0 ? null : telling.map((word) => `+${word}*`).join(' ');
}

/** Items the reader may see that say all the words, those that say them most first. */
export const find = (asked: string, may: Sql, limit: number): Query<StoredItem> =>
  select(
    decode,
    `SELECT ${COLUMNS} FROM item_texts t JOIN items i ON i.id = t.item_id
     WHERE MATCH (t.body) AGAINST (? IN BOOLEAN MODE) AND i.is_deleted = 0 AND ${may.sql}
     ORDER BY MATCH (t.body) AGAINST (? IN BOOLEAN MODE) DESC, i.id LIMIT ?`,
    asked,
    ...may.params,
    asked,
    limit,
  );

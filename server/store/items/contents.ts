import type { Instant } from '../../../core/time/index.ts';
import {
  instant,
  number,
  type Query,
  query,
  record,
  select,
  sqlTime,
  type Statement,
  text,
} from '../database/query.ts';

/** What a document holds, apart from its bytes; `size` in bytes. */
export interface Content {
  id: string;
  size: number;
  mediaType: string;
  madeBy: string;
  madeAt: Instant;
}

/** So many bytes stand in one row: well below what a statement may carry. */
export const CHUNK_BYTES = 512 * 1024;

/** Begins contents; their bytes follow in pieces. */
export const begin = ({ id, size, mediaType, madeBy, madeAt }: Content): Statement =>
  query('INSERT INTO contents (id, size, media_type, made_by, made_at) VALUES (?)', [
    id,
    size,
    mediaType,
    madeBy,
    sqlTime(madeAt),
  ]);
/** One piece of contents, in its place. */
export const addChunk = (content: string, seq: number, bytes: Buffer): Statement =>
  query('INSERT INTO content_chunks (content_id, seq, bytes) VALUES (?)', [content, seq, bytes]);
/** Says how large contents are and of what kind, once they are whole. */
export const complete = (content: string, size: number, mediaType: string): Statement =>
  query('UPDATE contents SET size = ?, media_type = ? WHERE id = ?', size, mediaType, content);
/** Takes contents away, with all their pieces. */
export const drop = (content: string): Statement => query('DELETE FROM contents WHERE id = ?', content);
/** Contents that no version shows, made before an instant; so many at once. */
export const sweep = (before: Instant, most: number): Statement =>
  query(
    'DELETE FROM contents WHERE made_at < ? AND NOT EXISTS (SELECT 1 FROM item_files f WHERE f.content_id = contents.id) LIMIT ?',
    sqlTime(before),
    most,
  );

const decodeContent = record<Content>({
  id: text('id'),
  size: number('size'),
  mediaType: text('media_type'),
  madeBy: text('made_by'),
  madeAt: instant('made_at'),
});
/** Contents that somebody handed in, locked, so that they are used once. */
export const handedIn = (ids: string[], by: string): Query<Content> =>
  select(
    decodeContent,
    'SELECT c.id, c.size, c.media_type, c.made_by, c.made_at FROM contents c WHERE c.id IN (?) AND c.made_by = ? FOR UPDATE',
    ids,
    by,
  );
/** Contents that somebody handed in and that no document shows. */
export const waitingOf = (id: string, by: string): Query<Content> =>
  select(
    decodeContent,
    `SELECT c.id, c.size, c.media_type, c.made_by, c.made_at FROM contents c
     WHERE c.id = ? AND c.made_by = ? AND NOT EXISTS (SELECT 1 FROM item_files f WHERE f.content_id = c.id)`,
    id,
    by,
  );
/** Which documents show these contents, as of now: also what was kept since the transaction began. */
export const shownBy = (ids: string[]): Query<{ content: string; item: string }> =>
  select(
    record({ content: text('content_id'), item: text('item_id') }),
    'SELECT content_id, item_id FROM item_files WHERE content_id IN (?) FOR UPDATE',
    ids,
  );
/** How much of somebody's no version shows yet, in bytes. */
export const waitingSize = (by: string): Query<number> =>
  select(
    number('total'),
    `SELECT COALESCE(SUM(c.size), 0) AS total
      FROM contents c
      WHERE c.made_by = ?
      AND NOT EXISTS (SELECT 1 FROM item_files f WHERE f.content_id = c.id)`,
    by,
  );
/** One piece of contents; nothing where there are no more. */
export const chunk = (content: string, seq: number): Query<Buffer> =>
  select(
    (row) => row.bytes as Buffer,
    'SELECT bytes FROM content_chunks WHERE content_id = ? AND seq = ?',
    content,
    seq,
  );

/** A version of a document: which version of its item brought it, its number, and what it holds. */
export interface DocumentVersion {
  itemVersion: number;
  number: number;
  name: string;
  madeBy: string;
  madeAt: Instant;
  content: string;
  size: number;
  mediaType: string;
}
const decodeVersion = record<DocumentVersion>({
  itemVersion: number('version'),
  number: number('number'),
  name: text('name'),
  madeBy: text('made_by'),
  madeAt: instant('made_at'),
  content: text('content_id'),
  size: number('size'),
  mediaType: text('media_type'),
});
const VERSION =
  'f.version, f.number, f.name, f.made_by, f.made_at, f.content_id, c.size, c.media_type FROM item_files f JOIN contents c ON c.id = f.content_id';
/** All versions of a document, the newest first. */
export const versionsOf = (item: string): Query<DocumentVersion> =>
  select(decodeVersion, `SELECT ${VERSION} WHERE f.item_id = ? ORDER BY f.version DESC`, item);
/** One version of a document by its number; the newest where none is named. */
export const version = (item: string, wanted: number | null): Query<DocumentVersion> =>
  wanted === null
    ? select(decodeVersion, `SELECT ${VERSION} WHERE f.item_id = ? ORDER BY f.version DESC LIMIT 1`, item)
    : select(
        decodeVersion,
        `SELECT ${VERSION} WHERE f.item_id = ? AND f.number = ? ORDER BY f.version DESC LIMIT 1`,
        item,
        wanted,
      );
/** Keeps what a version of a document holds. */
export const saveVersion = (
  item: string,
  { itemVersion, number: of, name, madeBy, madeAt, content }: Omit<DocumentVersion, 'size' | 'mediaType'>,
): Statement =>
  query('INSERT INTO item_files (item_id, version, number, name, made_by, made_at, content_id) VALUES (?)', [
    item,
    itemVersion,
    of,
    name.slice(0, 400),
    madeBy,
    sqlTime(madeAt),
    content,
  ]);

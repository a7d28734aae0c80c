import type { Pool } from 'mysql2/promise';
import { LIMITS } from '../../contract/limits.ts';
import { Refusal } from '../../contract/problems.ts';
import { type Grid, gridOf } from '../../core/tables/index.ts';
import { piecesOf } from '../contents/index.ts';
import type { Content } from '../store/index.ts';
import { unpackedSize, unpacksTooLarge } from './archive.ts';
import type { Parsed, ReadKind } from './parsing.ts';
import { apart, noTable } from './working.ts';

/** A table as it was read from contents, with the names of the sheets that it could be read from. */
export interface TableRead {
  grid: Grid;
  sheets: string[];
}

type Readable = Pick<Content, 'id' | 'mediaType' | 'size'>;

const KINDS: Record<string, ReadKind> = {
  'text/csv': 'csv',
  'text/plain': 'csv',
  'text/tab-separated-values': 'csv',
  'application/json': 'json',
  'text/calendar': 'ics',
  'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet': 'xlsx',
};
/** Whether contents are a workbook, which is no text by itself. */
export const isWorkbook = (mediaType: string): boolean => KINDS[mediaType] === 'xlsx';
/** Whether contents of a media type may hold a table. */
export const isTable = (mediaType: string): boolean => Object.hasOwn(KINDS, mediaType);

/**
 * The table that contents hold, read in a thread of its own that a hostile file can only end. Refused are what is no
 * table, an archive that would unpack to more than it may, and too many rows or columns.
 */
async function readAnew(pool: Pool, { id, mediaType, size }: Readable, sheet: string | null): Promise<TableRead> {
  const kind = KINDS[mediaType];
  if (!kind) throw new Refusal('badRequest', { because: 'notATable' });
  if (size > LIMITS.tableBytes)
    throw new Refusal('badRequest', {
      because: { code: 'tableTooLarge', params: { most: LIMITS.tableBytes / 1024 / 1024 } },
    });
  const pieces: Buffer[] = [];
  for await (const piece of piecesOf(pool, id)) pieces.push(piece);
  const bytes = Buffer.concat(pieces);
  if (kind === 'xlsx') expectUnpackable(bytes);
  const { lines, sheets } = await apart<Parsed>({ work: 'read', bytes, kind, sheet });
  const grid = gridOf(lines);
  const { columns, rows } = grid;
  if (columns.length === 0) throw noTable('0');
  if (columns.length > LIMITS.tableColumns || rows.length > LIMITS.tableRows)
    throw new Refusal('badRequest', {
      because: { code: 'tableTooLong', params: { rows: LIMITS.tableRows, columns: LIMITS.tableColumns } },
    });
  return { grid, sheets };
}

/** So many tables stay read, since one is looked at, planned and taken in a row; contents never change. */
const KEPT = 3;
const kept = new Map<string, Promise<TableRead>>();

/** The table that contents hold, as {@link readAnew} reads it; read once for who looks at it again soon. */
export function readTable(pool: Pool, content: Readable, sheet: string | null = null): Promise<TableRead> {
  const key = `${content.id} ${sheet}`;
  const read = kept.get(key) ?? readAnew(pool, content, sheet);
  kept.delete(key);
  kept.set(key, read);
  for (const old of [...kept.keys()].slice(0, -KEPT)) kept.delete(old);
  read.catch(() => kept.delete(key));
  return read;
}

/** Refuses an archive that would unpack to more than may be held, before anything of it is unpacked. */
function expectUnpackable(bytes: Buffer): void {
  const held = unpackedSize(bytes);
  if (!held) throw noTable('ZIP');
  if (unpacksTooLarge(held))
    throw new Refusal('badRequest', {
      because: { code: 'unpacksTooLarge', params: { most: LIMITS.unpackedBytes / 1024 / 1024 } },
    });
}

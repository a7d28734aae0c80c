import type { RowFault } from '../../../core/tables/index.ts';
import {
  flag,
  json,
  nullable,
  number,
  type Query,
  query,
  record,
  select,
  type Statement,
  text,
} from '../database/query.ts';
import { COLUMNS as ITEM_COLUMNS, decode as decodeItem, type StoredItem } from './items.ts';

/** What of a version could not be taken into the rows: of a line, or of the whole (`line` is `null`). */
export interface SheetFault extends RowFault {
  line: number | null;
}

/** A table document whose rows are watched. */
export interface Sheet {
  /** The source whose items are its rows. */
  source: string;
  document: string;
  /** Which sheet of a workbook; `null` for the first. */
  sheet: string | null;
  /** The name of the column that tells rows apart. */
  key: string;
  /** Which column is which field, by its name. */
  columns: Record<string, string>;
  /** The language in which its numbers and days are written (BCP 47). */
  locale: string;
  /** The version of the document that the rows are of. */
  number: number;
  faults: SheetFault[];
  /** New versions go on giving rows. */
  isWatching: boolean;
}

const decode = record<Sheet>({
  source: text('source_id'),
  document: text('item_id'),
  sheet: nullable(text)('sheet'),
  key: text('key_column'),
  columns: json('columns'),
  locale: text('locale'),
  number: number('number'),
  faults: json('faults'),
  isWatching: flag('is_watching'),
});
const COLUMNS = 's.source_id, s.item_id, s.sheet, s.key_column, s.columns, s.locale, s.number, s.faults, s.is_watching';

/** The sheet of a document; nothing where its rows were never watched. */
export const ofDocument = (item: string): Query<Sheet> =>
  select(decode, `SELECT ${COLUMNS} FROM sheets s WHERE s.item_id = ?`, item);
/** The documents whose rows are watched, as they stand, each with the source of its rows. */
export const documents = (): Query<{ source: string; document: StoredItem }> =>
  select(
    (row) => ({ source: text('sheet_source')(row), document: decodeItem(row) }),
    `SELECT s.source_id AS sheet_source, ${ITEM_COLUMNS} FROM sheets s JOIN items i ON i.id = s.item_id ORDER BY s.source_id`,
  );
/** Keeps a sheet, over what was kept of it. */
export const save = (sheet: Sheet): Statement =>
  query(
    'REPLACE INTO sheets (source_id, item_id, sheet, key_column, columns, locale, number, faults, is_watching) VALUES (?)',
    [
      sheet.source,
      sheet.document,
      sheet.sheet,
      sheet.key,
      JSON.stringify(sheet.columns),
      sheet.locale,
      sheet.number,
      JSON.stringify(sheet.faults),
      sheet.isWatching ? 1 : 0,
    ],
  );

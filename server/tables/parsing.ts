import { parse } from 'csv-parse/sync';
import type ExcelJS from 'exceljs';
import { asItWas, type Cell } from '../../core/tables/index.ts';
import { isMoney, type Money, type Value } from '../../core/values/index.ts';

/** What a table stands in: text parted by signs, a workbook, or a list in JSON. */
export type TableKind = 'csv' | 'xlsx' | 'json';

/** What a table can be read from: the events of a calendar are one too. */
export type ReadKind = TableKind | 'ics';

/** The lines of a file's table, with the names of all the sheets it could be read from. */
export interface Parsed {
  lines: Cell[][];
  sheets: string[];
}

/** Why a file is no table, as whoever read it says. */
export class NoTable extends Error {}

/** Reads the table of a file; throws a {@link NoTable} where it is none. */
export async function parseTable(bytes: Buffer, kind: ReadKind, sheet: string | null): Promise<Parsed> {
  switch (kind) {
    case 'csv':
      return { lines: linesOfText(bytes), sheets: [] };
    case 'xlsx':
      return linesOfWorkbook(bytes, sheet);
    case 'json':
      return { lines: linesOfList(bytes), sheets: [] };
    case 'ics':
      return { lines: await linesOfEvents(bytes), sheets: [] };
    default:
      return kind satisfies never;
  }
}

const PARTED_BY = [',', ';', '\t', '|'];

function linesOfText(bytes: Buffer): Cell[][] {
  const text = new TextDecoder('utf-8').decode(bytes);
  const head =
    text
      .slice(0, 10_000)
      .replace(/"[^"]*"/g, '')
      .split(/\r?\n/)
      .find((line) => line.trim() !== '') ?? '';
  const counts = PARTED_BY.map((sign) => head.split(sign).length);
  const delimiter = PARTED_BY[counts.indexOf(Math.max(...counts))] ?? ',';
  try {
    const lines = parse(text, { delimiter, bom: true, relax_column_count: true, skip_empty_lines: false });
    return lines.map((line) => line.map(asItWas));
  } catch (error) {
    throw new NoTable(error instanceof Error ? error.message : String(error));
  }
}

async function linesOfWorkbook(bytes: Buffer, wanted: string | null): Promise<Parsed> {
  // Large, and most tables are plain text: it comes where it is needed.
  const { default: Excel } = await import('exceljs');
  const book = new Excel.Workbook();
  try {
    await book.xlsx.load(bytes as unknown as ExcelJS.Buffer);
  } catch (error) {
    throw new NoTable(error instanceof Error ? error.message : String(error));
  }
  const sheets = book.worksheets.map(({ name }) => name);
  const sheet = book.worksheets.find(({ name }) => name === wanted) ?? book.worksheets[0];
  const lines: Cell[][] = [];
  sheet?.eachRow({ includeEmpty: true }, (row) => {
    const cells: Cell[] = [];
    row.eachCell({ includeEmpty: true }, (cell, column) => {
      cells[column - 1] = cellOf(cell.value);
    });
    lines.push(Array.from(cells, (cell) => cell ?? null));
  });
  return { lines, sheets };
}

/** What a workbook's cell shows: of a formula its result, of a link or of rich text its text; a day where no time is. */
function cellOf(value: ExcelJS.CellValue): Cell {
  if (value === null || value === undefined) return null;
  if (value instanceof Date) {
    if (Number.isNaN(value.getTime())) return null;
    const text = value.toISOString();
    return text.endsWith('T00:00:00.000Z') ? text.slice(0, 10) : text;
  }
  if (typeof value !== 'object') return value;
  if ('richText' in value) return value.richText.map(({ text }) => text).join('');
  if ('hyperlink' in value) return cellOf(value.text as ExcelJS.CellValue);
  if ('result' in value) return cellOf(value.result as ExcelJS.CellValue);
  return 'error' in value ? String(value.error) : null;
}

async function linesOfEvents(bytes: Buffer): Promise<Cell[][]> {
  const { linesOfCalendar } = await import('./calendar-lines.ts');
  try {
    return linesOfCalendar(new TextDecoder('utf-8').decode(bytes));
  } catch (error) {
    throw new NoTable(error instanceof Error ? error.message : String(error));
  }
}

function linesOfList(bytes: Buffer): Cell[][] {
  const list = listIn(bytes);
  const columns = [...new Set(list.flatMap((row) => Object.keys(row)))];
  return [
    columns,
    ...list.map((row) => columns.map((column) => cellOfJson(Object.hasOwn(row, column) ? row[column] : null))),
  ];
}

function listIn(bytes: Buffer): Record<string, unknown>[] {
  let json: unknown;
  try {
    json = JSON.parse(new TextDecoder('utf-8').decode(bytes));
  } catch (error) {
    throw new NoTable(error instanceof Error ? error.message : String(error));
  }
  if (!Array.isArray(json) || json.some((row) => typeof row !== 'object' || row === null || Array.isArray(row)))
    throw new NoTable('[{"column": "cell"}]');
  return json as Record<string, unknown>[];
}

function cellOfJson(value: unknown): Cell {
  if (value === null || value === undefined) return null;
  if (Array.isArray(value)) return value.map(String).join('; ');
  if (isMoney(value as Value)) return `${(value as Money).currency} ${(value as Money).amount}`;
  if (typeof value === 'object') return JSON.stringify(value);
  return value as Cell;
}

import { stringify } from 'csv-stringify/sync';
import { type Cell, defused } from '../../core/tables/index.ts';
import type { TableKind } from './parsing.ts';

/** Columns with their names, and the cells below them. */
export interface Written {
  columns: string[];
  rows: Cell[][];
}

/** A table as the bytes of a file; in text no cell begins as a formula does. */
export async function writeTable({ columns, rows }: Written, kind: TableKind): Promise<Uint8Array> {
  switch (kind) {
    case 'csv':
      return Buffer.from(
        stringify(
          [columns, ...rows].map((line) => line.map(cellOfText)),
          { bom: true },
        ),
      );
    case 'json':
      return Buffer.from(
        JSON.stringify(rows.map((row) => Object.fromEntries(columns.map((name, at) => [name, row[at] ?? null])))),
      );
    case 'xlsx': {
      const { default: Excel } = await import('exceljs');
      const book = new Excel.Workbook();
      const sheet = book.addWorksheet('Ojo', { views: [{ state: 'frozen', ySplit: 1 }] });
      sheet.addRows([columns, ...rows]);
      sheet.getRow(1).font = { bold: true };
      return Buffer.from(await book.xlsx.writeBuffer());
    }
    default:
      return kind satisfies never;
  }
}

/** A text in a cell that no sheet takes for a formula; figures stay figures. */
function cellOfText(cell: Cell): string {
  if (cell === null) return '';
  if (typeof cell === 'boolean') return cell ? 'yes' : 'no';
  return typeof cell === 'string' ? defused(cell) : String(cell);
}

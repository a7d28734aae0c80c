import { parse } from 'csv-parse/browser/esm/sync';
import { useMemo } from 'react';
import { t } from '../../words/documents.ts';

/** So many rows are shown in place; the whole is in the file. */
const MOST_ROWS = 200;

/** A table as text with commas, semicolons or tabs between its cells (RFC 4180), its first row as heads. */
export function cellsOf(text: string): string[][] {
  const [first = ''] = text.split('\n', 1);
  const delimiter = [';', '\t'].find((sign) => first.includes(sign) && !first.includes(',')) ?? ',';
  return parse(text, { delimiter, bom: true, relaxColumnCount: true, skipEmptyLines: true, toLine: MOST_ROWS + 1 });
}

/** A document that is a table. Where it cannot be read as one, it is shown as the text that it is. */
export default function TableShown({ text, name }: { text: string; name: string }) {
  const cells = useMemo(() => {
    try {
      return cellsOf(text);
    } catch {
      return null;
    }
  }, [text]);
  if (cells === null) return <pre className="document-text">{text}</pre>;
  const [heads = [], ...rows] = cells;
  const more = text.trimEnd().split('\n').length - cells.length;
  return (
    <div className="document-table">
      <table aria-label={name}>
        <thead>
          <tr>
            {heads.map((head, at) => (
              <th key={`${at} ${head}`} scope="col">
                {head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((row, at) => (
            <tr key={at}>
              {row.map((cell, column) => (
                <td key={`${column} ${heads[column] ?? ''}`}>{cell}</td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      {more > 0 && <p className="quiet small">{t('moreRows', { rows: more })}</p>}
    </div>
  );
}

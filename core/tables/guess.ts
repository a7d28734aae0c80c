import { parseInstant } from '../time/index.ts';
import { type FieldType, faultOf, readAmount, readDay, readNumber } from '../values/index.ts';
import type { Cell, Grid } from './grid.ts';

/** What a column seems to hold: a type, and for choices what they are. */
export interface Guess {
  name: string;
  type: FieldType;
  options?: string[];
}

/** So many different texts at most are taken for choices, each of them there about so often. */
const MOST_OPTIONS = 12;
const TIMES_EACH = 3;
const LONG = 120;

type Fits = (text: string, cell: Cell, locale: string) => boolean;

const sound = (type: FieldType) => (text: string) => faultOf({ id: '', name: '', type }, text) === null;
const hasSign = (text: string) => /[-/.\p{L}]/u.test(text);

/** The types that a column's cells can be of without anybody's say, the narrowest first; each cell has to fit. */
const TYPES: readonly [FieldType, Fits][] = [
  ['boolean', (text, cell) => typeof cell === 'boolean' || /^(yes|no|true|false|sí)$/i.test(text)],
  [
    'number',
    (text, cell, locale) => typeof cell === 'number' || (!/^0\d/.test(text) && readNumber(text, locale) !== null),
  ],
  ['money', (text, _cell, locale) => Boolean(readAmount(text, locale)?.currency)],
  ['date', (text, cell, locale) => typeof cell === 'string' && hasSign(text) && readDay(text, locale) !== null],
  ['dateTime', (text) => parseInstant(text) !== null],
  ['email', sound('email')],
  ['url', (text) => /^https?:/i.test(text) && URL.canParse(text)],
];

/** What each column of a table seems to hold. What could be several is taken for the narrowest; what is nothing else is text. */
export const guessColumns = ({ columns, rows }: Grid, locale: string): Guess[] =>
  columns.map((name, at) => ({
    name,
    ...guess(
      rows.flatMap(({ cells }) => (cells[at] === null || cells[at] === undefined ? [] : [cells[at]])),
      locale,
    ),
  }));

function guess(cells: readonly Cell[], locale: string): Omit<Guess, 'name'> {
  const texts = cells.map((cell) => String(cell).trim());
  if (texts.length === 0) return { type: 'text' };
  const fitting = TYPES.find(([, fits]) => cells.every((cell, at) => fits(texts[at] as string, cell, locale)));
  if (fitting) return { type: fitting[0] };
  if (texts.some((text) => text.length > LONG || text.includes('\n'))) return { type: 'longText' };
  const options = [...new Set(texts)];
  const isChoice = options.length <= MOST_OPTIONS && texts.length >= options.length * TIMES_EACH;
  return isChoice ? { type: 'choice', options: options.sort() } : { type: 'text' };
}

/** The column that tells rows apart: the first in which every cell is there and no two are alike; `null` where there is none. */
export function guessKey(grid: Grid): number | null {
  const at = grid.columns.findIndex((_, column) => tellsApart(grid, column));
  return at < 0 ? null : at;
}

/** Whether a column tells rows apart: every cell is there, and no two are alike. */
export function tellsApart({ rows }: Grid, column: number): boolean {
  const seen = new Set(rows.map(({ cells }) => String(cells[column] ?? '').trim()));
  return rows.length > 0 && seen.size === rows.length && !seen.has('');
}

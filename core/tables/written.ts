import { decimalOf, type Field, isEmpty, isMoney, membersOf, optionName, type Value } from '../values/index.ts';
import type { Cell } from './grid.ts';

/** How ids that values hold are written, so that they are read again as the same: a name where that is unmistakable, else the id. */
export interface Writing {
  person: (id: string) => string;
  item: (source: string, id: string) => string;
}

/** A decimal that reads as the same in every language: what could be thousands (`1.234`) ends in a zero more. */
function unmistakable(value: Value): string {
  const text = decimalOf(value)?.toFixed() ?? String(value);
  return /\.\d{3}$/.test(text) ? `${text}0` : text;
}

/** A field's value as a cell of a file, which `readCell` reads as the same value in any language. */
export function writeCell(field: Field, value: Value | undefined, by: Writing): Cell {
  if (isEmpty(value) || value === undefined || value === null) return null;
  if (isMoney(value)) return `${value.currency} ${unmistakable({ ...value })}`;
  const names = (name: (id: string) => string) => membersOf(value).map(name).join('; ');
  switch (field.type) {
    case 'number':
      return Number.isSafeInteger(value) ? (value as number) : unmistakable(value);
    case 'person':
    case 'people':
      return names(by.person);
    case 'link':
    case 'links':
      return names((id) => by.item(field.to ?? '', id));
    case 'choices':
      return names((option) => optionName(field, option));
    case 'choice':
      return optionName(field, String(value));
    case 'boolean':
      return value === true;
    case 'text':
    case 'longText':
    case 'money':
    case 'date':
    case 'dateTime':
    case 'url':
    case 'email':
      return String(value);
    default:
      return field.type satisfies never;
  }
}

/** What a sheet would take for a formula, or already stands behind the sign that keeps it from being one. */
const FORMULA = /^'*[=+\-@\t\r]/;
/** A text as a cell of a CSV file in which no sheet takes it for a formula. */
export const defused = (text: string): string => (FORMULA.test(text) ? `'${text}` : text);
/** The text that {@link defused} made a cell of. */
export const asItWas = (cell: string): string => (/^'+[=+\-@\t\r]/.test(cell) ? cell.slice(1) : cell);

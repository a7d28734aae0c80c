import { parseInstant, printInstant } from '../time/index.ts';
import {
  type Field,
  type FieldType,
  faultOf,
  optionNamed,
  readAmount,
  readDay,
  readNumber,
  type Value,
  type ValueFault,
} from '../values/index.ts';
import type { Cell } from './grid.ts';

/** What cells are read by. */
export interface Reading {
  /** The language in which numbers and days are written (BCP 47). */
  locale: string;
  /** The person whom a text names, by id, name or address; `null` where it names nobody, or several. */
  person: (text: string) => string | null;
  /** The item of a source that a text names, by id or title; `null` where it names none, or several. */
  item: (source: string, text: string) => string | null;
  /** Whether a text stands for an item that was kept from whoever wrote it. */
  isHidden?: (text: string) => boolean;
}

/** What a cell is as a field's value, or what keeps it from being one. */
export type ReadCell = { value: Value } | { fault: ValueFault };

const YES = new Set(['yes', 'true', 'y', '1', 'x', 'sí', 'si', 'verdadero']);
const NO = new Set(['no', 'false', 'n', '0', 'falso']);
/** Parts of what holds several; a comma may stand in a name. */
const SEVERAL = /\s*[;\n]\s*/;

type Read = (text: string, field: Field, by: Reading) => Value | undefined;

const listOf = (text: string): string[] => [...new Set(text.split(SEVERAL).filter((part) => part !== ''))];
const optionOf = (text: string, field: Field): string => optionNamed(field, text) ?? text;
const asGiven: Read = (text) => text;

/** All named, or the text of the first that is not, so that it can be said. */
function named(text: string, find: (part: string) => string | null): string[] | undefined {
  const found = listOf(text).map(find);
  return found.some((one) => one === null) ? undefined : (found as string[]);
}

function amountOf(text: string, { locale }: Reading): Value | undefined {
  const read = readAmount(text, locale);
  return read?.currency ? { amount: read.amount, currency: read.currency } : undefined;
}

/** What a text is as a value of each type; `undefined` where it is none. */
const READ: Record<FieldType, Read> = {
  text: asGiven,
  longText: asGiven,
  url: asGiven,
  email: asGiven,
  number: (text, _field, { locale }) => {
    const number = readNumber(text, locale);
    return number === null ? undefined : plainNumber(number);
  },
  money: (text, _field, by) => amountOf(text, by),
  boolean: (text) => {
    const word = text.toLocaleLowerCase();
    if (YES.has(word)) return true;
    return NO.has(word) ? false : undefined;
  },
  date: (text, _field, { locale }) => readDay(text.replace(/T\d{2}:\d{2}.*$/, ''), locale) ?? undefined,
  dateTime: (text) => {
    const at = parseInstant(text);
    return at === null ? undefined : printInstant(at);
  },
  choice: optionOf,
  choices: (text, field) => listOf(text).map((part) => optionOf(part, field)),
  person: (text, _field, { person }) => person(text) ?? undefined,
  people: (text, _field, { person }) => named(text, person),
  link: (text, { to }, { item }) => item(to ?? '', text) ?? undefined,
  links: (text, { to }, { item }) => named(text, (part) => item(to ?? '', part)),
};

/** What a text that is no value of a type is told. */
const FAULTS: Partial<Record<FieldType, string>> = {
  number: 'needsNumber',
  money: 'needsMoney',
  boolean: 'needsYesOrNo',
  date: 'needsDate',
  dateTime: 'needsInstant',
  person: 'namesNobody',
  people: 'namesNobody',
  link: 'namesNoItem',
  links: 'namesNoItem',
};

/** A decimal as a number where it is exactly that, else as its text. */
const plainNumber = (text: string): Value => (String(Number(text)) === text ? Number(text) : text);

/** What a cell is as a value of a field, as people write such values in files. Empty is empty in every field. */
export function readCell(field: Field, cell: Cell, by: Reading): ReadCell {
  const text = cell === null ? '' : String(cell).normalize('NFC').trim();
  if (text === '') return { value: null };
  // A sheet's own number is one in no language.
  const value =
    typeof cell === 'number' && field.type === 'number'
      ? plainNumber(decimalText(cell))
      : READ[field.type](text, field, by);
  if (value === undefined)
    return { fault: { code: FAULTS[field.type] ?? 'needsText', params: { field: field.name, text } } };
  const fault = faultOf(field, value);
  return fault ? { fault } : { value };
}

/** A number in figures, never with a power of ten. */
const decimalText = (number: number): string =>
  Math.abs(number) >= 1e21 || !Number.isFinite(number)
    ? String(number)
    : number.toLocaleString('en-US', { useGrouping: false, maximumFractionDigits: 15 });

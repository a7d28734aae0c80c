import { Decimal } from 'decimal.js';
import { parseInstant } from '../time/index.ts';
import { type FieldType, isSetType, isTextType } from './field-types.ts';
import type { Value } from './fields.ts';
import { isAscii, isEmpty, isMoney, membersOf } from './plain.ts';

// Wide enough that differences and shares of any amount a person can type stay exact.
const Exact = Decimal.clone({ precision: 80, toExpNeg: -40, toExpPos: 40 });

/** The value as an exact decimal; `null` where it is none. */
export function decimalOf(value: Value | undefined): Decimal | null {
  const text = isMoney(value) ? value.amount : value;
  if (typeof text !== 'number' && typeof text !== 'string') return null;
  try {
    const decimal = new Exact(typeof text === 'string' ? text.trim() : text);
    return decimal.isFinite() ? decimal : null;
  } catch {
    return null;
  }
}

/** Whether two values of one type are the same, as *changed* sees it: case counts, a set's order does not. */
export function sameValue(type: FieldType, a: Value | undefined, b: Value | undefined): boolean {
  if (a === b) return true;
  if (isEmpty(a) || isEmpty(b)) return isEmpty(a) && isEmpty(b);
  if (isSetType(type)) {
    const left = membersOf(a);
    const right = new Set(membersOf(b));
    return left.length === right.size && left.every((member) => right.has(member));
  }
  const compare = COMPARERS[type];
  if (compare && type !== 'date') return compare(a, b) === 0;
  // Days, ids and choices compare exactly.
  if (!isTextType(type)) return false;
  if (typeof a === 'string' && typeof b === 'string')
    return !(isAscii(a) && isAscii(b)) && a.normalize('NFC') === b.normalize('NFC');
  return a === b;
}

type Comparer = (a: Value | undefined, b: Value | undefined) => number | null;

const compareInstants: Comparer = (a, b) => {
  const left = parseInstant(String(a));
  const right = parseInstant(String(b));
  return left === null || right === null ? null : left - right;
};

/** How values of each type stand in order; `null` of types without one. */
const COMPARERS = {
  text: null,
  longText: null,
  number: compareDecimals,
  money: (a, b) => (!isMoney(a) || !isMoney(b) || a.currency !== b.currency ? null : compareDecimals(a, b)),
  boolean: null,
  date: (a, b) => signOf(String(a), String(b)),
  dateTime: compareInstants,
  choice: null,
  choices: null,
  person: null,
  people: null,
  link: null,
  links: null,
  url: null,
  email: null,
} satisfies Record<FieldType, Comparer | null>;

/**
 * Below zero where `a` comes before `b`, zero where they are equal, above zero otherwise; `null` where the two
 * cannot be compared (an empty one, two currencies, a type without order).
 */
export function compareValues(type: FieldType, a: Value | undefined, b: Value | undefined): number | null {
  if (isEmpty(a) || isEmpty(b)) return null;
  return COMPARERS[type]?.(a, b) ?? null;
}

/** Decimals of so few digits keep their order as floating-point numbers: no two of them round to the same. */
const SHORT = /^-?\d{1,12}(\.\d{1,3})?$/;
function shortNumber(value: Value | undefined): number | null {
  const text = isMoney(value) ? value.amount : value;
  if (typeof text === 'string') return text.length < 18 && SHORT.test(text) ? Number(text) : null;
  return typeof text === 'number' && Number.isInteger(text) && Math.abs(text) < 1e12 ? text : null;
}

function signOf<T extends string | number>(a: T, b: T): number {
  if (a === b) return 0;
  return a < b ? -1 : 1;
}

function compareDecimals(a: Value | undefined, b: Value | undefined): number | null {
  const [few, other] = [shortNumber(a), shortNumber(b)];
  if (few !== null && other !== null) return signOf(few, other);
  const left = decimalOf(a);
  const right = decimalOf(b);
  return left === null || right === null ? null : left.comparedTo(right);
}

import type { Money, Value } from './fields.ts';

// What can be said of a value without reckoning: the first page needs no more.

/** `null`, a missing key, `""`, white space alone and `[]` are all empty; so is money without an amount. */
export function isEmpty(value: Value | undefined): boolean {
  if (value === null || value === undefined) return true;
  // A first sign that is plainly visible is the usual case, and the cheap one.
  if (typeof value === 'string')
    return !(value.charCodeAt(0) > 0x20 && value.charCodeAt(0) < 0x7f) && value.trim() === '';
  if (Array.isArray(value)) return value.length === 0;
  return isMoney(value) && value.amount.trim() === '';
}

/** Whether a value is an amount with its currency. */
export const isMoney = (value: Value | undefined): value is Money =>
  typeof value === 'object' && value !== null && !Array.isArray(value) && 'amount' in value;

/** Text as it is compared where case does not count: NFC, locale-free lower case, NFC. */
export const foldCase = (text: string): string =>
  isAscii(text) ? text.toLowerCase() : text.normalize('NFC').toLowerCase().normalize('NFC');

/** Text of ASCII alone is in every normal form already. */
export const isAscii = (text: string): boolean => !/[^ -~\t\n\r]/.test(text);

/** The members of a set value, each once. */
export function membersOf(value: Value | undefined): string[] {
  if (Array.isArray(value)) return [...new Set(value)];
  return typeof value === 'string' && value.trim() !== '' ? [value] : [];
}

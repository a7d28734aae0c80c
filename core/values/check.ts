import { isCivilDate, parseInstant } from '../time/index.ts';
import { decimalOf } from './compare.ts';
import { isEmpty, isMoney } from './plain.ts';
import type { FieldType } from './field-types.ts';
import type { Field, Value } from './fields.ts';

/** What keeps a value from standing in a field: a code for its words, and what would be allowed. */
export interface ValueFault {
  code: string;
  params: Record<string, string | string[]>;
}

/** An address has no more signs (RFC 5321, 4.5.3.1.3). */
export const LONGEST_ADDRESS = 254;

/** What names something or says it in a line has no more signs. */
export const LONGEST_LINE = 1000;
/** A text of several lines has no more signs. */
export const LONGEST_TEXT = 50_000;

type Check = (
  value: Value,
  field: Field,
  fault: (code: string, params?: ValueFault['params']) => ValueFault,
) => ValueFault | null;

const isText = (value: Value): value is string => typeof value === 'string';
/** A check that a text has to pass. */
const textThat =
  (holds: (text: string) => boolean, code: string): Check =>
  (value, _field, fault) =>
    isText(value) && holds(value) ? null : fault(code);

const anyText = textThat(() => true, 'needsText');
/** A text of so many signs at most. */
const textOf =
  (most: number): Check =>
  (value, _field, fault) => {
    if (!isText(value)) return fault('needsText');
    return value.length > most ? fault('textTooLong', { most: String(most) }) : null;
  };

const oneOption: Check = (value, { options }, fault) =>
  isText(value) && (!options || options.includes(value))
    ? null
    : fault('unknownOption', { option: String(value), allowed: options ?? [] });

const list: Check = (value, { options }, fault) => {
  if (!Array.isArray(value) || value.some((one) => typeof one !== 'string')) return fault('needsList');
  const strange = options && value.find((one) => !options.includes(one));
  return strange ? fault('unknownOption', { option: strange, allowed: options ?? [] }) : null;
};

const isAddress = (text: string): boolean =>
  /^[^\s@]+@[^\s@]+$/.test(text.trim()) && text.trim().length <= LONGEST_ADDRESS;

const CHECKS = {
  text: textOf(LONGEST_LINE),
  longText: textOf(LONGEST_TEXT),
  number: (value, _field, fault) => (isMoney(value) || decimalOf(value) === null ? fault('needsNumber') : null),
  money: (value, _field, fault) =>
    isMoney(value) && decimalOf(value) !== null && /^[A-Z]{3}$/.test(value.currency) ? null : fault('needsMoney'),
  boolean: (value, _field, fault) => (typeof value === 'boolean' ? null : fault('needsYesOrNo')),
  date: textThat(isCivilDate, 'needsDate'),
  dateTime: textThat((text) => parseInstant(text) !== null, 'needsInstant'),
  choice: oneOption,
  choices: list,
  person: anyText,
  people: list,
  link: anyText,
  links: list,
  url: textThat((text) => URL.canParse(text), 'needsUrl'),
  email: textThat(isAddress, 'needsAddress'),
} satisfies Record<FieldType, Check>;

/** Whether a value may stand in a field; `null` where it may. Empty always may. */
export function faultOf(field: Field, value: Value | undefined): ValueFault | null {
  if (isEmpty(value)) return null;
  return CHECKS[field.type](value as Value, field, (code, params = {}) => ({
    code,
    params: { field: field.name, ...params },
  }));
}

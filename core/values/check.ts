import { isCivilDate, parseInstant } from '../time/index.ts';
import { decimalOf, isEmpty, isMoney } from './compare.ts';
import { type Field, isSetType, type Value } from './fields.ts';

/** What keeps a value from standing in a field: a code for its words, and what would be allowed. */
export interface ValueFault {
  code: string;
  params: Record<string, string | string[]>;
}

/** An address has no more signs (RFC 5321, 4.5.3.1.3). */
export const LONGEST_ADDRESS = 254;

/** Whether a value may stand in a field; `null` where it may. Empty always may. */
export function faultOf(field: Field, value: Value | undefined): ValueFault | null {
  if (isEmpty(value)) return null;
  const fault = (code: string, params: ValueFault['params'] = {}): ValueFault => ({
    code,
    params: { field: field.name, ...params },
  });
  const isText = typeof value === 'string';
  if (isSetType(field.type)) {
    if (!Array.isArray(value) || value.some((one) => typeof one !== 'string')) return fault('needsList');
    const strange = field.options && value.find((one) => !field.options?.includes(one));
    return strange ? fault('unknownOption', { option: strange, allowed: field.options ?? [] }) : null;
  }
  switch (field.type) {
    case 'number':
      return isMoney(value) || decimalOf(value) === null ? fault('needsNumber') : null;
    case 'money':
      return isMoney(value) && decimalOf(value) !== null && /^[A-Z]{3}$/.test(value.currency)
        ? null
        : fault('needsMoney');
    case 'boolean':
      return typeof value === 'boolean' ? null : fault('needsYesOrNo');
    case 'date':
      return isText && isCivilDate(value) ? null : fault('needsDate');
    case 'dateTime':
      return isText && parseInstant(value) !== null ? null : fault('needsInstant');
    case 'choice':
      return !isText || (field.options && !field.options.includes(value))
        ? fault('unknownOption', { option: String(value), allowed: field.options ?? [] })
        : null;
    case 'email':
      return isText && /^[^\s@]+@[^\s@]+$/.test(value.trim()) && value.trim().length <= LONGEST_ADDRESS
        ? null
        : fault('needsAddress');
    case 'url':
      return isText && URL.canParse(value) ? null : fault('needsUrl');
    default:
      return isText ? null : fault('needsText');
  }
}

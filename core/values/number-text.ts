import { decimalOf } from './compare.ts';

interface Separators {
  group: string;
  decimal: string;
}

function separatorsOf(locale: string): Separators {
  const parts = new Intl.NumberFormat(locale, { useGrouping: true }).formatToParts(1234567.5);
  const of = (type: string) => parts.find((part) => part.type === type)?.value;
  return { group: of('group') ?? ',', decimal: of('decimal') ?? '.' };
}

/** A decimal in the figures of the locale (BCP 47), every digit kept: `100,000` or `100.000`. */
export const numberText = (value: string, locale: string): string =>
  new Intl.NumberFormat(locale, { maximumFractionDigits: 20, useGrouping: true }).format(value as unknown as number);

const escaped = (sign: string): string => `\\${sign}`;

/** Whole figures that a sign parts in threes, and what may follow the other sign. */
const partedBy = ({ group, decimal }: Separators): RegExp =>
  new RegExp(`^(\\d{1,3}(?:${escaped(group)}\\d{3})+|\\d*)(?:${escaped(decimal)}(\\d*))?$`);

/**
 * The number that somebody wrote, as people write one, as a decimal (`-1000.5`), or `null` where it is none. Signs stand
 * as the locale has them; where they cannot (`1.5` where a point parts thousands), as the other half of the world has them.
 */
export function readNumber(text: string, locale: string): string | null {
  const [, sign = '', rest = ''] = /^([-+−]?)(.*)$/u.exec(text.replace(/[\s'’]/gu, '')) ?? [];
  const own = separatorsOf(locale);
  const { group, decimal } = /[.,]/.test(own.group)
    ? own
    : { group: own.decimal === ',' ? '.' : ',', decimal: own.decimal };
  const found = partedBy({ group, decimal }).exec(rest) ?? partedBy({ group: decimal, decimal: group }).exec(rest);
  if (!found) return null;
  const [, whole = '', fraction = ''] = found;
  if (whole === '' && fraction === '') return null;
  const figures = whole.replace(/[.,]/g, '').replace(/^0+(?=\d)/, '') || '0';
  const written = `${sign === '-' || sign === '−' ? '-' : ''}${figures}${fraction === '' ? '' : `.${fraction}`}`;
  return decimalOf(written) === null ? null : written;
}

/** How currencies are written before or after an amount, beside their codes (ISO 4217). */
const SIGNS: Record<string, string> = { '€': 'EUR', '£': 'GBP', $: 'USD', '¥': 'JPY' };

/** An amount as people write one, with the currency that stands before or after it, where one does. */
export function readAmount(text: string, locale: string): { amount: string; currency: string | null } | null {
  const [, before = '', figures = '', after = ''] = /^\s*([A-Za-z€£$¥]*)(.*?)([A-Za-z€£$¥]*)\s*$/u.exec(text) ?? [];
  const named = before || after;
  const code = SIGNS[named] ?? named.toUpperCase();
  if ((before && after) || (code !== '' && !/^[A-Z]{3}$/.test(code))) return null;
  const amount = readNumber(figures, locale);
  return amount === null ? null : { amount, currency: code || null };
}

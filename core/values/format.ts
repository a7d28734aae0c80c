import { parseInstant } from '../time/index.ts';
import { isEmpty, isMoney, membersOf } from './plain.ts';
import type { Field, Value } from './fields.ts';
import { optionName } from './options.ts';

/** Who reads: numbers, days and times are written in this locale and zone. */
export interface Reader {
  locale: string;
  zone: string;
}

/** Turns ids into what people call them; an unknown id is given back as it is. */
export interface Names {
  person(id: string): string;
  item(id: string): string;
  /** Yes or no in the reader's language; English where it is left out. */
  truth?(isSo: boolean): string;
}

const cache = new Map<string, Intl.NumberFormat | Intl.DateTimeFormat>();
function kept<T extends Intl.NumberFormat | Intl.DateTimeFormat>(key: string, make: () => T): T {
  const known = cache.get(key);
  if (known) return known as T;
  const made = make();
  cache.set(key, made);
  return made;
}

/** A value in words for the reader; the empty string where it is empty. */
export function formatValue(field: Field, value: Value | undefined, reader: Reader, names: Names): string {
  if (isEmpty(value)) return '';
  switch (field.type) {
    case 'text':
    case 'longText':
    case 'url':
    case 'email':
      return String(value);
    case 'choice':
      return optionName(field, String(value));
    case 'choices':
      return membersOf(value)
        .map((option) => optionName(field, option))
        .join(', ');
    case 'boolean':
      return names.truth?.(value === true) ?? (value === true ? 'yes' : 'no');
    case 'number':
      return formatNumber(value, reader.locale);
    case 'money':
      return formatMoney(value, reader.locale);
    case 'date':
      return formatDay(String(value), reader.locale);
    case 'dateTime': {
      const instant = parseInstant(String(value));
      return instant === null ? String(value) : formatInstant(instant, reader);
    }
    case 'person':
    case 'people':
      return membersOf(value).map(names.person).join(', ');
    case 'link':
    case 'links':
      return membersOf(value).map(names.item).join(', ');
    default:
      return field.type satisfies never;
  }
}

function formatNumber(value: Value | undefined, locale: string): string {
  const format = kept(`n ${locale}`, () => new Intl.NumberFormat(locale, { maximumFractionDigits: 20 }));
  // The text form keeps every digit; a double would lose the last ones.
  return format.format(String(value) as unknown as number);
}

function formatMoney(value: Value | undefined, locale: string): string {
  if (!isMoney(value)) return String(value);
  const whole = /^-?\d+(\.0*)?$/.test(value.amount);
  const digits = whole ? 0 : 2;
  try {
    const format = kept(
      `m ${locale} ${value.currency} ${digits}`,
      () =>
        new Intl.NumberFormat(locale, {
          style: 'currency',
          currency: value.currency,
          minimumFractionDigits: digits,
          maximumFractionDigits: Math.max(digits, 4),
        }),
    );
    return format.format(value.amount as unknown as number);
  } catch {
    return `${value.amount} ${value.currency}`;
  }
}

/** A civil day (RFC 3339, full-date) as `4 March 2026`, in the locale's order; what is none as it stands. */
export function formatDay(date: string, locale: string): string {
  const format = kept(`d ${locale}`, () => new Intl.DateTimeFormat(locale, { dateStyle: 'long', timeZone: 'UTC' }));
  const instant = parseInstant(`${date}T00:00:00Z`);
  return instant === null ? date : format.format(instant);
}

/** An instant as day and time of the reader's zone: `Wed 4 Mar 2026, 11:15`. */
export function formatInstant(instant: number, reader: Reader): string {
  return kept(
    `i ${reader.locale} ${reader.zone}`,
    () =>
      new Intl.DateTimeFormat(reader.locale, {
        weekday: 'short',
        day: 'numeric',
        month: 'short',
        year: 'numeric',
        hour: '2-digit',
        minute: '2-digit',
        hourCycle: 'h23',
        timeZone: reader.zone,
      }),
  ).format(instant);
}

/** An instant's time of day in the reader's zone: `11:15`. */
export function formatTime(instant: number, reader: Reader): string {
  return kept(
    `t ${reader.locale} ${reader.zone}`,
    () =>
      new Intl.DateTimeFormat(reader.locale, {
        hour: '2-digit',
        minute: '2-digit',
        hourCycle: 'h23',
        timeZone: reader.zone,
      }),
  ).format(instant);
}

/** An instant's weekday and time in the reader's zone: `Tue 11:15`. */
export function formatDayTime(instant: number, reader: Reader): string {
  const day = kept(
    `w ${reader.locale} ${reader.zone}`,
    () => new Intl.DateTimeFormat(reader.locale, { weekday: 'short', timeZone: reader.zone }),
  );
  return `${day.format(instant)} ${formatTime(instant, reader)}`;
}

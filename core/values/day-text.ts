import { type CivilDate, instantOf, isCivilDate } from '../time/index.ts';

type Part = 'year' | 'month' | 'day';

const midnightOf = (day: CivilDate): number => instantOf(`${day}T00:00:00Z`);

const format = (locale: string, options: Intl.DateTimeFormatOptions) =>
  new Intl.DateTimeFormat(locale, { ...options, timeZone: 'UTC', calendar: 'gregory', numberingSystem: 'latn' });

/** A day in figures, in the order of the locale (BCP 47): `04/03/2026`. */
export const dayText = (day: CivilDate, locale: string): string =>
  format(locale, { day: '2-digit', month: '2-digit', year: 'numeric' }).format(midnightOf(day));

const orderIn = (locale: string): Part[] =>
  format(locale, { day: '2-digit', month: '2-digit', year: 'numeric' })
    .formatToParts(0)
    .flatMap(({ type }) => (type === 'year' || type === 'month' || type === 'day' ? [type] : []));

const bare = (word: string): string => word.toLocaleLowerCase().replace(/\.$/, '');

/** The month that a word names, in the locale's language or in English, whole or by its first three letters. */
function monthOf(word: string, locale: string): number | null {
  if (word.length < 3) return null;
  for (const language of [locale, 'en']) {
    const month = format(language, { month: 'long' });
    for (let at = 0; at < 12; at += 1)
      if (bare(month.format(midnightOf(`2026-${String(at + 1).padStart(2, '0')}-01`))).startsWith(bare(word)))
        return at + 1;
  }
  return null;
}

/** The three parts of a day as they are written in figures: the year first where it has four, else in the locale's order. */
function fromFigures(figures: string[], locale: string): Record<Part, string> | null {
  if (figures.length !== 3) return null;
  const order: Part[] = figures[0]?.length === 4 ? ['year', 'month', 'day'] : orderIn(locale);
  return Object.fromEntries(order.map((part, at) => [part, figures[at] ?? ''])) as Record<Part, string>;
}

/** The same where the month is written in letters: `4 March 2026`, `March 4, 2026`. */
function fromWords(words: string[], locale: string): Record<Part, string> | null {
  const figures = words.filter((word) => /^\d+$/.test(word));
  const month = words.flatMap((word) => monthOf(word, locale) ?? [])[0];
  const [day = '', year = ''] = figures;
  return month === undefined || figures.length !== 2 ? null : { day, month: String(month), year };
}

/** The day that somebody wrote, as people write one, or `null` where it is none. */
export function readDay(text: string, locale: string): CivilDate | null {
  const words = text
    .trim()
    .split(/[^\p{L}\d]+/u)
    .filter(Boolean);
  const isFigures = words.every((word) => /^\d+$/.test(word));
  const parts = isFigures ? fromFigures(words, locale) : fromWords(words, locale);
  if (!parts || !/^(\d{2}|\d{4})$/.test(parts.year)) return null;
  const year = parts.year.length === 2 ? `20${parts.year}` : parts.year;
  const day = `${year}-${parts.month.padStart(2, '0')}-${parts.day.padStart(2, '0')}`;
  return isCivilDate(day) ? day : null;
}

/** Whether a day is written out, so that nothing more is to come: digit by digit, `4/3/20` may become `4/3/2026`. */
export const isWrittenOut = (text: string): boolean => /(^|\D)\d{4}(\D|$)/.test(text.trim());

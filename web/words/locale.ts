import { termsFor } from '../../core/messages/index.ts';
import { languageOf } from '../../core/locales/index.ts';

let current = typeof navigator === 'undefined' ? 'en-GB' : navigator.language;

/** The locale (BCP 47) in which the pages speak just now: the signed-in person's, before that the browser's. */
export const locale = (): string => current;

/** From here on the pages speak so. What is drawn already is drawn anew by whoever calls this. */
export function speak(wanted: string): void {
  current = wanted;
  if (typeof document !== 'undefined') document.documentElement.lang = languageOf(wanted);
}

/** What messages say too: conditions, paces, durations, kinds of change, in the language of the pages. */
export const phrases = () => termsFor(current);

/** A number with the reader's separators. */
export const figure = (value: number, options?: Intl.NumberFormatOptions): string =>
  new Intl.NumberFormat(current, options).format(value);

/** A size in the person's way of writing numbers, in the unit that suits it: *1.2 MB*. */
export function bytes(size: number): string {
  const units = ['byte', 'kilobyte', 'megabyte', 'gigabyte'] as const;
  const at = Math.min(units.length - 1, Math.max(0, Math.floor(Math.log(Math.max(1, size)) / Math.log(1024))));
  const shown = size / 1024 ** at;
  return shown.toLocaleString(locale(), {
    style: 'unit',
    unit: units[at] ?? 'byte',
    unitDisplay: at === 0 ? 'long' : 'short',
    maximumFractionDigits: shown < 10 && at > 0 ? 1 : 0,
  });
}

import { LANGUAGES } from '../../../core/locales/index.ts';
import { locale as readers } from '../../words/index.ts';

/** Regions whose dates, numbers and money people here are used to, by language. */
const REGIONS: Record<(typeof LANGUAGES)[number], string[]> = {
  en: ['GB', 'IE', 'US'],
  es: ['ES', 'MX', 'AR'],
};

/** Languages with their formats, each by its name in the reader's language; the one that is kept stays among them. */
export function localeNames(kept: string): [string, string][] {
  const names = new Intl.DisplayNames(readers(), { type: 'language' });
  const known = LANGUAGES.flatMap((language) => REGIONS[language].map((region) => `${language}-${region}`));
  return [...new Set([...known, kept])].map((tag) => [tag, names.of(tag) ?? tag]);
}

/** All time zones, by their IANA names; the one that is kept stays among them. */
export const zoneNames = (kept: string): [string, string][] =>
  [...new Set(['UTC', ...Intl.supportedValuesOf('timeZone'), kept])]
    .sort()
    .map((zone) => [zone, zone.replace(/_/g, ' ')]);

/** Every language that Ojo speaks, by its subtag (BCP 47). Another one is a line here; the compiler names the catalogues that lack it. */
export const LANGUAGES = ['en', 'es'] as const;
export type Language = (typeof LANGUAGES)[number];

/** The locale whose figures and dates stand in for a language that Ojo does not speak. */
const FALLBACK = 'en-GB';

const subtagOf = (locale: string | undefined): string => (locale ?? '').toLowerCase().split('-')[0] ?? '';

/** The language that a locale (BCP 47) is spoken to in; English where there is no catalogue for it. */
export function languageOf(locale: string | undefined): Language {
  const subtag = subtagOf(locale);
  return LANGUAGES.find((language) => language === subtag) ?? 'en';
}

/** The locale itself where Ojo speaks its language, else the one that stands in. */
export const spokenLocale = (locale: string | undefined): string =>
  locale && LANGUAGES.some((language) => language === subtagOf(locale)) ? locale : FALLBACK;

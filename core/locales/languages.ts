/** Every language that Ojo speaks, by its subtag (BCP 47). Another one is a line here; the compiler names the catalogues that lack it. */
export const LANGUAGES = ['en', 'es'] as const;
/** A language that Ojo speaks, by its subtag (RFC 5646). */
export type Language = (typeof LANGUAGES)[number];

/** The locale whose figures and dates go with a language where nothing else is known. */
const LOCALES: Record<Language, string> = { en: 'en-GB', es: 'es-ES' };

const subtagOf = (locale: string | undefined): string => (locale ?? '').toLowerCase().split('-')[0] ?? '';

/** The language that a locale (BCP 47) is spoken to in; English where there is no catalogue for it. */
export function languageOf(locale: string | undefined): Language {
  const subtag = subtagOf(locale);
  return LANGUAGES.find((language) => language === subtag) ?? 'en';
}

/** The locale itself where Ojo speaks its language, else the one that stands in. */
export const spokenLocale = (locale: string | undefined): string =>
  locale && LANGUAGES.some((language) => language === subtagOf(locale)) ? locale : LOCALES.en;

/** Somebody's locale once they have chosen a language: their own where it is of that language already. */
export const localeIn = (language: Language, locale: string): string =>
  subtagOf(locale) === language ? locale : LOCALES[language];

/** What a language calls itself. */
export const LANGUAGE_NAMES: Record<Language, string> = { en: 'English', es: 'Español' };

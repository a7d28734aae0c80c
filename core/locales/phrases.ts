import { IntlMessageFormat } from 'intl-messageformat';
import { type Language, languageOf, spokenLocale } from './languages.ts';

/** What is put into a text, by name. */
export type Put = Record<string, string | number>;
/** Words of which some stand out. */
export type Words = (string | { strong: string })[];
/** What may be put in where the parts are of another kind than text, such as elements of a page. */
export type PutParts<T> = Record<string, string | number | T | ((parts: (string | T)[]) => T)>;

/**
 * The same texts in every language, each an ICU message (MessageFormat 1): `{name}` is put in, plurals are chosen by the
 * language's own rules (CLDR), and what stands between `<b>` and `</b>` stands out.
 */
export type Catalogues<Key extends string> = Record<Language, Readonly<Record<Key, string>>>;

/** One language's texts, with its plural rules and lists, and the figures of one locale. */
export interface Phrases<Key extends string = string> {
  /** The subtag of the language, for what is rendered later. */
  language: Language;
  say(key: Key, put?: Put): string;
  /** The same with what stands out marked. */
  words(key: Key, put?: Put): Words;
  /** The same with whatever is put in, in the order in which it stands there. */
  parts<T>(key: Key, put: PutParts<T>): (string | T)[];
  /** Parts in a row: *a, b and c*. */
  and(parts: readonly string[]): string;
  or(parts: readonly string[]): string;
}

/** Gives, for a locale (BCP 47), the texts of its language; English where there are none. */
export function phraseBook<Key extends string>(catalogues: Catalogues<Key>): (locale?: string) => Phrases<Key> {
  const known = new Map<string, Phrases<Key>>();
  return (asked) => {
    const locale = spokenLocale(asked);
    const made = known.get(locale) ?? makePhrases(catalogues[languageOf(locale)], locale);
    known.set(locale, made);
    return made;
  };
}

function makePhrases<Key extends string>(catalogue: Readonly<Record<Key, string>>, locale: string): Phrases<Key> {
  const formats = new Map<Key, IntlMessageFormat>();
  const formatOf = (key: Key) => {
    const known = formats.get(key) ?? new IntlMessageFormat(catalogue[key], locale);
    formats.set(key, known);
    return known;
  };
  const language = languageOf(locale);
  // The British list has no comma before its last joiner; with the bare language it would have.
  const listing = language === 'en' ? 'en-GB' : locale;
  const and = new Intl.ListFormat(listing, { type: 'conjunction' });
  const or = new Intl.ListFormat(listing, { type: 'disjunction' });
  const parts = <T>(key: Key, put: PutParts<T>): (string | T)[] => {
    const said = formatOf(key).format<T>(put as Parameters<typeof IntlMessageFormat.prototype.format<T>>[0]);
    return Array.isArray(said) ? said : [said];
  };
  return {
    language,
    parts,
    say: (key, put) => String(formatOf(key).format({ ...put, b: (inside) => inside.join('') })),
    words: (key, put) => parts<{ strong: string }>(key, { ...put, b: (inside) => ({ strong: inside.join('') }) }),
    and: (parts) => and.format(parts),
    or: (parts) => or.format(parts),
  };
}

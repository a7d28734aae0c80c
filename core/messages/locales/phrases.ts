import { IntlMessageFormat } from 'intl-messageformat';
import type { Words } from '../content.ts';
import { type Catalogue, ENGLISH, type TextKey } from './en.ts';
import { SPANISH } from './es.ts';

/** Languages by their subtag (BCP 47): another one is its file and its line here. */
export const CATALOGUES: Record<string, Catalogue> = { en: ENGLISH, es: SPANISH };

type Put = Record<string, string | number>;

/** A language as messages are worded in it, with its plural rules and lists, and the figures of one locale. */
export interface Phrases {
  /** The subtag of the language, for what is rendered later. */
  language: string;
  say(key: TextKey, put?: Put): string;
  /** The same with what stands out marked. */
  words(key: TextKey, put?: Put): Words;
  /** Parts in a row: *a, b and c*. */
  and(parts: readonly string[]): string;
  or(parts: readonly string[]): string;
}

const byLocale = new Map<string, Phrases>();

/** The language of a locale, a BCP 47 tag; English where there is no catalogue for it. */
export function phrasesFor(locale: string | undefined): Phrases {
  const known = byLocale.get(locale ?? '');
  if (known) return known;
  const [subtag = ''] = (locale ?? '').toLowerCase().split('-');
  const made = CATALOGUES[subtag] ? makePhrases(subtag, locale as string) : makePhrases('en', 'en-GB');
  byLocale.set(locale ?? '', made);
  return made;
}

function makePhrases(language: string, locale: string): Phrases {
  const catalogue = CATALOGUES[language] as Catalogue;
  const formats = new Map<TextKey, IntlMessageFormat>();
  const formatOf = (key: TextKey) => {
    const known = formats.get(key) ?? new IntlMessageFormat(catalogue[key], locale);
    formats.set(key, known);
    return known;
  };
  // The British list has no comma before its last joiner; with the bare language it would have.
  const listing = language === 'en' ? 'en-GB' : locale;
  const and = new Intl.ListFormat(listing, { type: 'conjunction' });
  const or = new Intl.ListFormat(listing, { type: 'disjunction' });
  return {
    language,
    say: (key, put) => String(formatOf(key).format({ ...put, b: (parts) => parts.join('') })),
    words: (key, put) => {
      const said = formatOf(key).format<Words[number]>({ ...put, b: (parts) => ({ strong: parts.join('') }) });
      return Array.isArray(said) ? said : [said];
    },
    and: (parts) => and.format(parts),
    or: (parts) => or.format(parts),
  };
}

/** The language of Ojo's own pages. */
export const PAGES_PHRASES: Phrases = phrasesFor('en-GB');

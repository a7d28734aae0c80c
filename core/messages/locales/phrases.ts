import { type Phrases as PhrasesOf, phraseBook } from '../../locales/index.ts';
import { ENGLISH, type MessageKey } from './en.ts';
import { SPANISH } from './es.ts';
import { ENGLISH_TERMS, type TermKey } from './terms.en.ts';
import { SPANISH_TERMS } from './terms.es.ts';

/** The name of a text. */
export type TextKey = MessageKey | TermKey;
/** What messages say, by the language of a locale; its terms among it. */
export type Phrases = PhrasesOf<TextKey>;

/** The texts of messages in each language (ICU MessageFormat), by key. */
export const CATALOGUES = {
  en: { ...ENGLISH_TERMS, ...ENGLISH },
  es: { ...SPANISH_TERMS, ...SPANISH },
};

/** The language of a locale, a BCP 47 tag; English where there is no catalogue for it. */
export const phrasesFor = phraseBook<TextKey>(CATALOGUES);

import { type Phrases, phraseBook } from '../../locales/index.ts';
import { ENGLISH_TERMS, type TermKey } from './terms.en.ts';
import { SPANISH_TERMS } from './terms.es.ts';

/** What it takes to word conditions, paces, durations and kinds of change. */
export type Terms = Phrases<TermKey>;

/** Those of the language of a locale, a BCP 47 tag; English where there is no catalogue for it. */
export const termsFor = phraseBook<TermKey>({ en: ENGLISH_TERMS, es: SPANISH_TERMS });

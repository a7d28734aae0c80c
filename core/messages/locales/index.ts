export { CATALOGUES, type Phrases, phrasesFor, type TextKey } from './phrases.ts';
export { type Terms, termsFor } from './terms.ts';
export type { TermKey } from './terms.en.ts';

export type { TextKey } from './en.ts';
export { CATALOGUES, PAGES_PHRASES, type Phrases, phrasesFor } from './phrases.ts';

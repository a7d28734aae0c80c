export { LANGUAGE_NAMES, LANGUAGES, type Language, languageOf, localeIn } from './languages.ts';
export { type Catalogues, type Phrases, phraseBook, type Put, type PutParts, type Words } from './phrases.ts';

export { LANGUAGES, type Language, languageOf } from './languages.ts';
export { type Catalogues, type Phrases, phraseBook, type Put, type PutParts, type Words } from './phrases.ts';

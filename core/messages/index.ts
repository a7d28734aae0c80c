export { conditionWords, OPERATOR_WORDS, type Phrasing, plainWords } from './condition-words.ts';
export type { Content, Entry, Form, ShownField, ShownStep, Words } from './content.ts';
export { digestContent, highest, kindWords, makeEntry, type SharedEntries, singleContent, type Telling, titleOf } from './entry.ts';
export { htmlMail } from './html.ts';
export { type Segments, segmentsOf } from './segments.ts';
export { itemPath, rulePath, type Site, sourcePath, wordsOf } from './text.ts';

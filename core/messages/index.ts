export { conditionWords, durationWords, fieldsNamed, OPERATOR_WORDS, operandWords, plainWords, type Phrasing } from './condition-words.ts';
export type { Content, Entry, Form, ShownField, ShownStep, Words } from './content.ts';
export { actorName, digestContent, highest, kindWords, makeEntry, namesIn, singleContent, type Telling, titleOf } from './entry.ts';
export { htmlMail } from './html.ts';
export { type Segments, segmentsOf, toBasicSet } from './segments.ts';
export { itemPath, plainText, rulePath, type Site, sourcePath, textMessage } from './text.ts';

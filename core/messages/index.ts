export { forPages, itemsIn, readableContent } from './hidden.ts';
export {
  BODY_KINDS,
  type BodyKind,
  checkMachineBody,
  MACHINE_NAMES,
  machineBody,
  sampleMessage,
} from './machine-body.ts';
export { SHORT_SIGNS } from './paths.ts';
export { conditionWords, durationWords, operatorWords, type Phrasing, plainWords } from './condition-words.ts';
export { FORMS } from './content.ts';
export type {
  AnyForm,
  Content,
  Entry,
  ReportRow,
  ReportTable,
  TallyMove,
  Form,
  AddressedReader,
  ShownField,
  ShownStep,
  Telling,
  Words,
} from './content.ts';
export { highest, itemEntry, phrasingOf, type SharedEntries, titleOf } from './entry.ts';
export { makeContent, seesOf } from './forms.ts';
export { columnsOf, type Listed, makeReport } from './report.ts';
export { type HouseVoice, type Sender, type Usual, voiceOf, type Wordings } from './house.ts';
export { escapeHtml, htmlMail } from './html.ts';
export { contactAskContent, numberAskContent, ownAskContent, passedContent, trialContent } from './direct.ts';
export { asksFor, type MessageLinks, type Paper, plainLinks, type Site } from './message-links.ts';
export {
  asideNotice,
  bouncedNotice,
  deputyNotice,
  codesNotice,
  machineNotice,
  listenerNotice,
  eyesNotice,
  offerNotice,
  ownerNotice,
  troubleNotice,
} from './notices.ts';
export { type Line, linesOf, marked, type Run, withoutMarks } from './marked.ts';
export { paceWords } from './pace-words.ts';
export { itemPath, rulePath, sourcePath } from './paths.ts';
export { type Segments, segmentsOf } from './segments.ts';
export { subjectOf, wordsOf } from './text.ts';
export { type Phrases, phrasesFor, type Terms, termsFor } from './locales/index.ts';
export { countedWords, kindWords, markWords, occasionWords, scheduleWords } from './occasion-words.ts';
export { checkMessage, placeholdersOf } from './wording.ts';

export type { Known, Named, NameKind } from './known.ts';
export type { Mark, Understood } from './reading-state.ts';
export { type Reading, readSentence, type Spoken } from './reading.ts';
export { saySentence } from './saying.ts';
export { tidyRule } from './tidy.ts';
export { completeAt, couldStandAt, type Completion, type Expectation } from './completing.ts';

export { acknowledge } from './acknowledging.ts';
export { askContact, askOwnAddress, askTheUnasked, contactOf } from './confirming.ts';
export type { ActContext } from './context.ts';
export { passOn, readersAmong, readThread, sayInThread } from './passing.ts';
export { saveLocale, savePreferences } from './preferences.ts';
export { pauseRule, publishRule, resumeRule } from './publishing.ts';
export { actOnRules } from './rule-acts.ts';
export { createRule, dropDraft, importRules, keepAnEye, keepDraft, putInPlace, putLive } from './rule-edits.ts';
export { tellTroubles } from './troubles.ts';

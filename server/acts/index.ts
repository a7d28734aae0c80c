export { askAgain } from './again.ts';
export { acknowledge } from './acknowledging.ts';
export { askContact, askOwnAddress, askTheUnasked, contactOf } from './confirming.ts';
export type { ActContext } from './context.ts';
export { passOn, readersAmong, readThread, sayInThread } from './passing.ts';
export { saveLocale, savePreferences } from './preferences.ts';
export { pauseRule, publishRule, resumeRule } from './publishing.ts';
export { actOnRules } from './rule-acts.ts';
export { createRule, dropDraft, importRules, keepAnEye, keepDraft, putInPlace, putLive } from './rule-edits.ts';
export { sendTrial } from './trial.ts';
export { nobodyThere, resumeAddresses, takeReport } from './bounces.ts';
export { setUp } from './setting-up.ts';
export { tellTroubles } from './troubles.ts';
export { actOnItems, expectFree, expectTyped } from './item-acts.ts';
export { progressOf, withProgress } from './import-progress.ts';
export { fieldsOfColumns, planImport, type Planned, takeImport } from './importing.ts';
export { changeAccess, previewAccess, rightsOf } from './access.ts';
export { chooseLooks, noteLook } from './looks.ts';
export { accountPage, addAccount, previewAccount, saveAccount } from './accounts.ts';
export { addContact, dropContact, renameContact } from './contacts.ts';
export { takeEvents } from './door-events.ts';
export { addDoor, doorNamedBy, doorRows, dropDoor, keyHash, rekeyDoor, saveDoor, tryDoor } from './doors.ts';
export { askedBy, keepForm, takeForm } from './forms.ts';
export {
  addMachine,
  dropMachine,
  expectMachine,
  expectTemplate,
  machineRows,
  pauseFailing,
  rotateSecret,
  saveMachine,
} from './machines.ts';
export { addGroup, dropGroup, groupRows, previewGroup, saveGroup } from './groups.ts';
export { approveRule, sendBack } from './second-eyes.ts';
export { saveStarts, startsPage } from './starts.ts';
export { defineSource, redefineSource } from './defining.ts';
export { leaveSheet, lookAtSheet, type NewContents, watchSheet } from './sheets.ts';
export { addDocuments, addVersion, expectPlace } from './documents.ts';
export { welcomeFirstSteward, welcomeLink } from './welcoming.ts';

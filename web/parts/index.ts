export { ChangeMark, ItemLink, NowStands, Said, WhatHappened, Why } from './change.tsx';
export { askForDesktop, desktopState, keepDesktop, showOnDesktop } from './desktop.ts';
export { DayInput } from './inputs/day-input.tsx';
export { CountInput, NumberInput } from './inputs/number-input.tsx';
export { TimeInput } from './inputs/time-input.tsx';
export { type Read, TypedInput } from './inputs/typed-input.tsx';
export { faultId } from './inputs/fault-id.ts';
export { goToUnread } from './inputs/unread.ts';
export { Combobox, type Found } from './inputs/combobox.tsx';
export { ChosenItems, ItemFinder, useTitles } from './items.tsx';
export { areKeysOn, rowInFocus, turnKeys, useKeys, useListKeys } from './list-keys.ts';
export { Logo } from './logo.tsx';
export { Notices, useNotice } from './notices.tsx';
export { dayWords, type Viewer, ViewerProvider, useViewer } from './viewer.tsx';
export { useSettled, useTyped } from './settled.ts';
export { Sheet } from './sheet.tsx';
export { ShownFields } from './shown-fields.tsx';
export { Radios } from './inputs/radios.tsx';
export { RuleState, ShareRead, Timeline, UrgencyBar, urgencyName, urgencyWords } from './signs.tsx';
export { forgetDraft, forgetDrafts, hasDrafts, ontoStart, readDraft, useDraftKey, writeDraft } from './drafts.ts';
export { Empty, FromBefore, Loaded, ProblemNote, refusalWords, Waiting } from './states.tsx';
export { Hour, shortTime, Time } from './times.tsx';
export { Several, ValueInput } from './inputs/value-input.tsx';
export {
  byWhat,
  channelsWords,
  kindName,
  kindNames,
  nameFor,
  phrasingOf,
  reasonPhrase,
  roleName,
  sourceKind,
  selectorWords,
  whatWords,
  whoWords,
} from './rule-words.ts';
export { partWords } from './part-words.ts';
export { aboutWords, editedParts, PARTS, partName, type RulePart, worldFrom } from './rule-parts.ts';
export { MarkedLine, OwnWords } from './own-words.tsx';
export { templateInWords } from './writing/placeholder-names.ts';
export { Writing } from './writing/index.tsx';
export { senderName } from './senders.ts';
export { keepersOf } from './keepers.ts';
export { LessWays } from './less-ways.tsx';

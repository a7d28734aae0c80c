export { ApiError, call, problemOf } from './api.ts';
export { keys } from './keys.ts';
export { noteBack, useLost } from './connection.ts';
export { useDropView, useKeepAnEye, useNameView, useViews } from './eyes.ts';
export {
  type InboxActs,
  type InboxAsked,
  type OutboxFilter,
  useAside,
  useInbox,
  useInboxAct,
  useTellAgain,
  useMessage,
  useOutbox,
  useOutboxMessage,
  usePass,
  usePassCheck,
  useSay,
  useSendAgain,
  useThread,
  useGathering,
  useToday,
  useTryAgain,
  useWhy,
} from './inbox.ts';
export {
  type Days,
  pastChangeQuery,
  useChangeLive,
  useCost,
  useCreateRule,
  useDropDraft,
  useEditing,
  useImportRules,
  useKeepDraft,
  useLeaveOut,
  usePutLive,
  useApprove,
  useSendBack,
  useRule,
  useRuleActs,
  useRules,
  useSendTrial,
  useReading,
  useSaid,
  useSuggestions,
  useTally,
  useTry,
  useVersions,
} from './rules.ts';
export {
  useAccount,
  useAccountPreview,
  useAddAccount,
  useAddGroup,
  useChoosePassword,
  useDropGroup,
  useDropTheirSecond,
  useGroupPreview,
  useGroups,
  useSaveAccount,
  useSaveGroup,
  useSaveStarts,
  useStarts,
  useWelcome,
  useWelcomed,
} from './accounts.ts';
export { useAddDoor, useDoors, useDropDoor, useRekeyDoor, useSaveDoor, useTryDoor } from './doors.ts';
export { type Described, useDescribed, useEndToken, useMakeToken, useTokens } from './tokens.ts';
export { useKeep, useResumeAddress, useRunning } from './running.ts';
export {
  useAddMachine,
  useDropMachine,
  useMachinePreview,
  useMachines,
  useRotateSecret,
  useSaveMachine,
  useTryMachine,
} from './machines.ts';
export {
  useAddContact,
  useAskContact,
  useContacts,
  useDropContact,
  useHears,
  usePeople,
  useRenameContact,
} from './people.ts';
export { useAddressActs, useKeepPlan, useLess, useLessBack, usePlan, usePlanWeek, useTakeLess } from './plan.ts';
export { useDemo, useMe, useSignIn, useWays, useSignOut, useSpeak } from './session.ts';
export {
  type ItemsAsked,
  itemQueryOf,
  useCreateItem,
  useDirectory,
  useFind,
  useBringBack,
  useItem,
  useItemPages,
  useItems,
  useItemsWhere,
  useRemoveItem,
  useSaveItem,
  useReaders,
  useRhythm,
  useSources,
} from './sources.ts';
export {
  useAnswerText,
  useHooksTaken,
  useMail,
  useMailbox,
  useMailboxes,
  useMoods,
  usePhone,
  usePhones,
  useSetMoods,
} from './standins.ts';
export { type TrailAsked, useTrail } from './trail.ts';
export { useDropSender, useDropWording, useSaveEyes, useSavePaper, useSaveSender, useSaveWording } from './house.ts';
export {
  fileAddress,
  type ItemActAsked,
  type Placed,
  useAddDocuments,
  useAddVersion,
  useDocumentText,
  useDocumentVersions,
  useItemActs,
  useNamesakes,
} from './documents.ts';
export { handIn } from './api.ts';
export { type AccessAsked, useAccess, useAccessPreview, useNoteLooks, useSaveAccess } from './access.ts';
export { useAudit } from './audit.ts';
export { useAddCalendar, useCalendars, useDropCalendar } from './calendars.ts';
export { useDropForm, useForms, useSaveForm } from './forms.ts';
export { useDefineSource, useGuessFields } from './defining.ts';
export { useMore } from './more.ts';
export { useSheet, useWatchSheet } from './sheets.ts';
export {
  tableAddress,
  type TableFile,
  type TableMapping,
  useLookAtTable,
  usePlannedTable,
  useTakeProgress,
  useTakeTable,
} from './tables.ts';
export {
  useAfterSecond,
  useAskSecond,
  useBeginSecond,
  useChangePassword,
  useDropSecond,
  useEndOtherSessions,
  useEndSession,
  usePutOnSecond,
  useSigningIn,
} from './signing-in.ts';

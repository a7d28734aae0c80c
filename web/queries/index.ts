export { ApiError, api, problemOf } from './api.ts';
export { noteBack, useLost } from './connection.ts';
export { useDropView, useKeepAnEye, useNameView, useViews } from './eyes.ts';
export {
  type InboxAsked,
  type OutboxFilter,
  type Passing,
  useAside,
  useInbox,
  useInboxAct,
  useMessage,
  useOutbox,
  usePass,
  usePassCheck,
  useSay,
  useSendAgain,
  useTalk,
  useToday,
  useTryAgain,
} from './inbox.ts';
export {
  type Days,
  pastChangeQuery,
  useCost,
  useCreateRule,
  useDropDraft,
  useDropWording,
  useEditing,
  useKeepDraft,
  useLeaveOut,
  useMends,
  usePutLive,
  useRule,
  useRuleActs,
  useRules,
  useSaveWording,
  useTry,
  useVersions,
} from './rules.ts';
export { useAskContact, useContacts, useHears, usePeople } from './people.ts';
export { useAddressActs, useKeepPlan, useLess, useLessBack, usePlan, usePlanWeek, useTakeLess } from './plan.ts';
export { useDemo, useMe, useSignIn, useSignOut } from './session.ts';
export {
  type ItemList,
  type ItemsAsked,
  itemQueryOf,
  useCreateItem,
  useDirectory,
  useFind,
  useItem,
  useItemPages,
  useItems,
  useRemoveItem,
  useSaveItem,
  useSources,
} from './sources.ts';
export { useAnswerText, useMail, useMailbox, useMailboxes, usePhone, usePhones } from './standins.ts';
export { type TrailAsked, useTrail } from './trail.ts';

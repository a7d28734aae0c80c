export { ApiError, problemOf } from './api.ts';
export { useDropView, useKeepAnEye, useNameView, useViews } from './eyes.ts';
export { type OutboxFilter, useAcknowledge, useInbox, useMarkRead, useMessage, useOutbox } from './inbox.ts';
export { type Days, pastChangeQuery, useCost, useCreateRule, useDropDraft, useDropWording, useEditing, useKeepDraft, useLeaveOut, useMends, usePutLive, useRule, useRuleActs, useRules, useSaveWording, useTry, useVersions } from './rules.ts';
export { useHears, usePeople } from './people.ts';
export { useDemo, useMe, useSignIn, useSignOut } from './session.ts';
export { type ItemList, type ItemsAsked, itemQueryOf, useCreateItem, useDirectory, useFind, useItem, useItemPages, useItems, useRemoveItem, useSaveItem, useSources } from './sources.ts';
export { useMail, useMailbox, useMailboxes, usePhone, usePhones } from './standins.ts';
export { type TrailAsked, useTrail } from './trail.ts';

export { ApiError, problemOf } from './api.ts';
export { type OutboxFilter, useAcknowledge, useInbox, useMarkRead, useMessage, useOutbox } from './inbox.ts';
export { useCost, useCreateRule, useDropDraft, useEndRule, useKeepDraft, usePutLive, useRule, useRules } from './rules.ts';
export { useDemo, useMe, useSignIn, useSignOut } from './session.ts';
export { type ItemList, useCreateItem, useDirectory, useFind, useItem, useItems, useRemoveItem, useSaveItem, useSources } from './sources.ts';
export { useMail, useMailbox, useMailboxes, usePhone, usePhones } from './standins.ts';

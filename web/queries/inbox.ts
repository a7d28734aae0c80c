import {
  type InfiniteData,
  keepPreviousData,
  type QueryClient,
  useInfiniteQuery,
  useMutation,
  useQuery,
  useQueryClient,
} from '@tanstack/react-query';
import type {
  InboxPage,
  Me,
  MessagePage,
  MessageRow,
  OutboxRow,
  Passing,
  TodayPage,
} from '../../contract/wire/index.ts';
import type { Channel, Urgency } from '../../core/people/index.ts';
import { call } from './api.ts';
import { keys } from './keys.ts';
import { SHOWN } from './shown.ts';

/** What is asked of the inbox. */
export interface InboxAsked extends Partial<Record<'text' | 'rule' | 'source' | 'by', string>> {
  unread?: '1';
  waits?: '1';
  urgency?: Urgency;
}

export const useInbox = (asked: InboxAsked) =>
  useInfiniteQuery({
    queryKey: keys.inbox.asked(asked),
    placeholderData: keepPreviousData,
    // Comparing thousands of messages part by part, to keep what is the same, costs more than drawing those in view.
    structuralSharing: false,
    initialPageParam: '',
    queryFn: ({ pageParam, signal }) =>
      call('inbox.list', { query: { ...asked, before: pageParam || undefined }, signal }),
    getNextPageParam: (page) => page.next,
  });

export const useMessage = (id: string | null) =>
  useQuery({
    queryKey: keys.messages.one(id),
    queryFn: () => call('messages.read', { params: { id: id ?? '' } }),
    enabled: id !== null,
  });

/** Changes messages where they stand in open lists: nothing is asked for again, and nothing jumps. */
function changeShown(client: QueryClient, change: (message: MessageRow) => MessageRow): void {
  client.setQueriesData<InfiniteData<InboxPage>>({ queryKey: keys.inbox.all }, (list) =>
    list && 'pages' in list
      ? { ...list, pages: list.pages.map((page) => ({ ...page, messages: page.messages.map(change) })) }
      : list,
  );
}

export type InboxAct = { read: string[] | 'all' } | { unread: string[] } | { acknowledge: string[] };

/** The messages that something is done to. */
function idsOf(act: InboxAct): string[] | 'all' {
  if ('acknowledge' in act) return act.acknowledge;
  return 'unread' in act ? act.unread : act.read;
}

function send(act: InboxAct): Promise<{ unread: number }> {
  if ('acknowledge' in act) return call('inbox.acknowledge', { body: { ids: act.acknowledge } });
  if ('unread' in act) return call('inbox.markUnread', { body: { ids: act.unread } });
  return call('inbox.markRead', { body: act.read === 'all' ? { all: true } : { ids: act.read } });
}

/** What is done to messages, and how far it has come. */
export type InboxActs = ReturnType<typeof useInboxAct>;

/** Marks messages read or unread, or takes on what they tell of; lists and the count in the frame follow at once. */
export function useInboxAct() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: send,
    onSuccess: ({ unread }, act) => {
      client.setQueryData<Me | null>(keys.me, (me) => me && { ...me, unread });
      const now = client.getQueryData<Me | null>(keys.me)?.now ?? null;
      const ids = idsOf(act);
      changeShown(client, (message) =>
        ids !== 'all' && !ids.includes(message.id)
          ? message
          : { ...message, readAt: 'unread' in act ? null : (message.readAt ?? now) },
      );
      if ('acknowledge' in act) {
        const { acknowledge } = act;
        const me = client.getQueryData<Me | null>(keys.me)?.id;
        for (const id of acknowledge)
          client.setQueryData<MessagePage>(
            keys.messages.one(id),
            (known) =>
              known && {
                ...known,
                waits: false,
                next: [],
                answered: me && !known.answered.includes(me) ? [...known.answered, me] : known.answered,
              },
          );
        client.setQueriesData<TodayPage>(
          { queryKey: keys.inbox.today },
          (today) =>
            today && { ...today, waiting: today.waiting.filter((message) => !acknowledge.includes(message.id)) },
        );
      }
    },
  });
}

/** Asks for a message once more, at an instant to come; its page and Today follow. */
export function useTellAgain() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ id, when }: { id: string; when: string }) => call('inbox.again', { body: { ids: [id], when } }),
    onSuccess: async ({ when }, { id }) => {
      client.setQueryData<MessagePage>(keys.messages.one(id), (known) => known && { ...known, again: when });
      await client.invalidateQueries({ queryKey: keys.inbox.today });
    },
  });
}

/** What is asked of the Outbox; empty where it does not matter. */
export interface OutboxFilter {
  fate: '' | 'open' | Extract<OutboxRow['fate'], 'delivered' | 'withheld' | 'failed'>;
  channel: '' | Channel;
  text: string;
}

export const useOutbox = ({ fate, channel, text }: OutboxFilter) =>
  useQuery({
    queryKey: keys.outbox.asked({ fate, channel, text }),
    queryFn: ({ signal }) =>
      call('outbox.list', { query: { fate: fate || undefined, channel: channel || undefined, text }, signal }),
  });

/** One message, with each try of it. */
export const useOutboxMessage = (id: string) =>
  useQuery({ queryKey: keys.outbox.one(id), queryFn: () => call('outbox.read', { params: { id } }) });
/** Why somebody heard of a change, or did not. */
export const useWhy = (source: string, change: string, person: string) =>
  useQuery({
    queryKey: keys.outbox.why(source, change, person),
    queryFn: () => call('changes.why', { params: { source, id: change }, query: { person } }),
  });

/** What could not be decided and stands aside. */
export const useAside = (isAsked: boolean) =>
  useQuery({ queryKey: keys.outbox.aside, queryFn: () => call('aside.list'), enabled: isAsked });

export function useTryAgain() {
  const client = useQueryClient();
  return useMutation({
    meta: SHOWN,
    mutationFn: (id: number) => call('aside.tryAgain', { params: { id: String(id) } }),
    onSettled: () => client.invalidateQueries({ queryKey: keys.outbox.all }),
  });
}

/** Sends a message again that failed, or waits to be tried again. */
export function useSendAgain() {
  const client = useQueryClient();
  return useMutation({
    meta: SHOWN,
    mutationFn: (id: string) => call('outbox.sendAgain', { params: { id } }),
    onSettled: () => client.invalidateQueries({ queryKey: keys.outbox.all }),
  });
}

export const useToday = (since: string) =>
  useQuery({
    queryKey: keys.inbox.since(since),
    queryFn: () => call('today.read', { query: { since } }),
    refetchInterval: 60_000,
  });

/** What gathers for the digest of an instant, as it would be told now. */
export const useGathering = (at: string) =>
  useQuery({ queryKey: keys.inbox.gathering(at), queryFn: () => call('today.gathering', { query: { at } }) });

/** Who of those named may read it: known before anything is sent. */
export const usePassCheck = (passing: Passing) =>
  useQuery({
    queryKey: keys.passing(passing),
    queryFn: () => call('threads.check', { body: passing }),
    enabled: (passing.people ?? []).length + (passing.groups ?? []).length > 0,
    placeholderData: keepPreviousData,
  });
export const usePass = () =>
  useMutation({ meta: SHOWN, mutationFn: (passing: Passing) => call('threads.begin', { body: passing }) });

/** What those say to whom something was passed on. */
export const useThread = (id: string) =>
  useQuery({ queryKey: keys.thread(id), queryFn: () => call('threads.read', { params: { id } }) });
export function useSay(id: string) {
  const client = useQueryClient();
  return useMutation({
    meta: SHOWN,
    mutationFn: (words: string) => call('threads.say', { params: { id }, body: { words } }),
    onSuccess: (thread) => client.setQueryData(keys.thread(id), thread),
  });
}

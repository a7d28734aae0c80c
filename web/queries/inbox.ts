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
  AsideRow,
  InboxPage,
  Me,
  MessagePage,
  MessageRow,
  OutboxRow,
  PassCheck,
  PassDone,
  TalkPage,
  TodayPage,
} from '../../contract/api.ts';
import { api } from './api.ts';

/** What is asked of the inbox. */
export type InboxAsked = Partial<Record<'unread' | 'waits' | 'text' | 'rule' | 'source' | 'urgency' | 'by', string>>;

export const useInbox = (asked: InboxAsked) =>
  useInfiniteQuery({
    queryKey: ['inbox', asked],
    placeholderData: keepPreviousData,
    // Comparing thousands of messages part by part, to keep what is the same, costs more than drawing those in view.
    structuralSharing: false,
    initialPageParam: '',
    queryFn: ({ pageParam }) =>
      api<InboxPage>(`/inbox?${new URLSearchParams({ ...asked, ...(pageParam ? { before: pageParam } : {}) })}`),
    getNextPageParam: (page) => page.next,
  });

export const useMessage = (id: string | null) =>
  useQuery({ queryKey: ['message', id], queryFn: () => api<MessagePage>(`/messages/${id}`), enabled: id !== null });

/** Changes messages where they stand in open lists: nothing is asked for again, and nothing jumps. */
function changeShown(client: QueryClient, change: (message: MessageRow) => MessageRow): void {
  client.setQueriesData<InfiniteData<InboxPage>>({ queryKey: ['inbox'] }, (list) =>
    list && 'pages' in list
      ? { ...list, pages: list.pages.map((page) => ({ ...page, messages: page.messages.map(change) })) }
      : list,
  );
}

export type InboxAct = { read: string[] | 'all' } | { unread: string[] } | { acknowledge: string[] };

function send(act: InboxAct): Promise<{ unread: number }> {
  if ('acknowledge' in act) return api('/inbox/acknowledge', 'POST', { ids: act.acknowledge });
  if ('unread' in act) return api('/inbox/unread', 'POST', { ids: act.unread });
  return api('/inbox/read', 'POST', act.read === 'all' ? { all: true } : { ids: act.read });
}

/** Marks messages read or unread, or takes on what they tell of; lists and the count in the frame follow at once. */
export function useInboxAct() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: send,
    onSuccess: ({ unread }, act) => {
      client.setQueryData<Me | null>(['me'], (me) => me && { ...me, unread });
      const now = client.getQueryData<Me | null>(['me'])?.now ?? null;
      const ids = 'acknowledge' in act ? act.acknowledge : 'unread' in act ? act.unread : act.read;
      changeShown(client, (message) =>
        ids !== 'all' && !ids.includes(message.id)
          ? message
          : { ...message, readAt: 'unread' in act ? null : (message.readAt ?? now) },
      );
      if ('acknowledge' in act) {
        const { acknowledge } = act;
        const me = client.getQueryData<Me | null>(['me'])?.id;
        for (const id of acknowledge)
          client.setQueryData<MessagePage>(
            ['message', id],
            (known) =>
              known && {
                ...known,
                waits: false,
                next: [],
                answered: me && !known.answered.includes(me) ? [...known.answered, me] : known.answered,
              },
          );
        client.setQueriesData<TodayPage>(
          { queryKey: ['inbox', 'today'] },
          (today) =>
            today && { ...today, waiting: today.waiting.filter((message) => !acknowledge.includes(message.id)) },
        );
      }
    },
  });
}

export interface OutboxFilter {
  fate: string;
  channel: string;
  text: string;
}

export const useOutbox = (filter: OutboxFilter) =>
  useQuery({
    queryKey: ['outbox', filter],
    queryFn: () =>
      api<OutboxRow[]>(`/outbox?${new URLSearchParams(Object.entries(filter).filter(([, value]) => value !== ''))}`),
  });

/** What could not be decided and stands aside. */
export const useAside = (isAsked: boolean) =>
  useQuery({ queryKey: ['outbox', 'aside'], queryFn: () => api<AsideRow[]>('/aside'), enabled: isAsked });

export function useTryAgain() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (id: number) => api<void>(`/aside/${id}/again`, 'POST'),
    onSettled: () => client.invalidateQueries({ queryKey: ['outbox'] }),
  });
}

/** Sends a message again that failed, or waits to be tried again. */
export function useSendAgain() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (id: string) => api<void>(`/outbox/${encodeURIComponent(id)}/again`, 'POST'),
    onSettled: () => client.invalidateQueries({ queryKey: ['outbox'] }),
  });
}

export const useToday = (since: string) =>
  useQuery({
    queryKey: ['inbox', 'today', since],
    queryFn: () => api<TodayPage>(`/today?${new URLSearchParams({ since })}`),
    refetchInterval: 60_000,
  });

/** What is passed on, and to whom. */
export interface Passing {
  item: string;
  message?: string;
  people: string[];
  groups: string[];
  word?: string;
}

/** Who of those named may read it: known before anything is sent. */
export const usePassCheck = (passing: Passing) =>
  useQuery({
    queryKey: ['pass', passing],
    queryFn: () => api<PassCheck>('/pass/check', 'POST', passing),
    enabled: passing.people.length + passing.groups.length > 0,
    placeholderData: keepPreviousData,
  });
export const usePass = () => useMutation({ mutationFn: (passing: Passing) => api<PassDone>('/pass', 'POST', passing) });

export const useTalk = (id: string) =>
  useQuery({ queryKey: ['talk', id], queryFn: () => api<TalkPage>(`/talks/${id}`) });
export function useSay(id: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (words: string) => api<TalkPage>(`/talks/${id}`, 'POST', { words }),
    onSuccess: (talk) => client.setQueryData(['talk', id], talk),
  });
}

import { keepPreviousData, useInfiniteQuery, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { InboxPage, Me, MessagePage, OutboxRow, TodayPage } from '../../contract/api.ts';
import { api } from './api.ts';

/** What is asked of the inbox. */
export type InboxAsked = Partial<Record<'unread' | 'waits' | 'text' | 'rule' | 'source' | 'urgency', string>>;

export const useInbox = (asked: InboxAsked) =>
  useInfiniteQuery({
    queryKey: ['inbox', asked], placeholderData: keepPreviousData,
    initialPageParam: '',
    queryFn: ({ pageParam }) => api<InboxPage>(`/inbox?${new URLSearchParams({ ...asked, ...(pageParam ? { before: pageParam } : {}) })}`),
    getNextPageParam: (page) => page.next,
  });

export const useMessage = (id: string | null) => useQuery({ queryKey: ['message', id], queryFn: () => api<MessagePage>(`/messages/${id}`), enabled: id !== null });

/** Takes on what a message tells of: it waits for its reader no longer. */
export function useAcknowledge(id: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: () => api<{ unread: number }>(`/messages/${id}/acknowledge`, 'POST', {}),
    onSuccess: ({ unread }) => {
      client.setQueryData<Me | null>(['me'], (me) => me && { ...me, unread });
      client.setQueryData<MessagePage>(['message', id], (known) => known && { ...known, waits: false });
      return client.invalidateQueries({ queryKey: ['inbox'] });
    },
  });
}

/** Marks messages read, all of them, or one unread again; the count in the frame follows at once. */
export function useMarkRead() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (what: { ids: string[] } | { all: true } | { unread: string }) =>
      'unread' in what ? api<{ unread: number }>('/inbox/unread', 'POST', { id: what.unread }) : api<{ unread: number }>('/inbox/read', 'POST', what),
    onSuccess: ({ unread }) => {
      client.setQueryData<Me | null>(['me'], (me) => me && { ...me, unread });
      return client.invalidateQueries({ queryKey: ['inbox'] });
    },
  });
}

export interface OutboxFilter {
  fate: string;
  channel: string;
  text: string;
}

export const useOutbox = (filter: OutboxFilter) =>
  useQuery({ queryKey: ['outbox', filter], queryFn: () => api<OutboxRow[]>(`/outbox?${new URLSearchParams(Object.entries(filter).filter(([, value]) => value !== ''))}`) });

export const useToday = (since: string) => useQuery({ queryKey: ['inbox', 'today', since], queryFn: () => api<TodayPage>(`/today?${new URLSearchParams({ since })}`), refetchInterval: 60_000 });

import { type InfiniteData, type QueryClient, useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef } from 'react';
import { useNavigate } from 'react-router';
import type { InboxPage, Me, MessageRow, PageEvent } from '../../contract/api.ts';
import { showOnDesktop } from '../parts/index.ts';
import { api } from '../queries/index.ts';

const AGAIN_MS = 2000;

/** Keeps the page's data as the server says it is, over one stream of server-sent events. */
export function useEvents(): void {
  const client = useQueryClient();
  const navigate = useNavigate();
  // The way to a page may be another at each render; the stream stays open.
  const go = useRef(navigate);
  go.current = navigate;
  useEffect(() => {
    let stream: EventSource | null = null;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const refresh = (...keys: unknown[][]) => {
      for (const queryKey of keys) void client.invalidateQueries({ queryKey });
    };
    const take = (data: PageEvent) => {
      switch (data.event) {
        case 'message':
          takeIn(client, data.message);
          showOnDesktop(
            data.message.id,
            data.message.subject,
            data.message.content.entries.flatMap((entry) => entry.rules.map((rule) => rule.name)).join(', '),
            () => void go.current(`/inbox/${data.message.id}`),
          );
          return refresh(['outbox'], ['rules']);
        case 'item':
          return refresh(['item', data.item], ['items', data.source], ['sources'], ['trail']);
        case 'rules':
          return refresh(['rules'], ['sources'], ['item']);
        case 'outbox':
          return refresh(['outbox']);
        case 'answered':
          return refresh(['message'], ['inbox', 'today']);
        default:
          return data satisfies never;
      }
    };
    // A page that asks for nothing just now would not notice that the connection is lost.
    const probe = () => void api('/session').catch(() => undefined);
    const onEvent = (event: MessageEvent<string>) => take(JSON.parse(event.data) as PageEvent);
    const open = () => {
      const fresh = new EventSource('/api/events');
      stream = fresh;
      for (const name of ['message', 'item', 'rules', 'outbox', 'answered']) fresh.addEventListener(name, onEvent);
      fresh.onerror = () => {
        probe();
        // A stream that was refused is not tried again by the browser.
        if (fresh.readyState === EventSource.CLOSED) timer = setTimeout(open, AGAIN_MS);
      };
      // What was asked for before the stream stood, at first or after a break, may lack what passed meanwhile.
      fresh.onopen = () => void client.invalidateQueries();
    };
    open();
    addEventListener('offline', probe);
    return () => {
      removeEventListener('offline', probe);
      clearTimeout(timer);
      stream?.close();
    };
  }, [client]);
}

/** Puts a message that has just arrived on top of the lists that are open, and counts it; nothing has to be asked for. */
function takeIn(client: QueryClient, message: MessageRow): void {
  let isNew = true;
  // A list that is narrowed is asked for again: only the server knows what belongs in it. So is one that is on its way, which may be older.
  const isNarrowed = (key: readonly unknown[]) =>
    Object.keys((key[1] ?? {}) as object).some((name) => name !== 'unread');
  void client.invalidateQueries({
    queryKey: ['inbox'],
    predicate: ({ queryKey, state }) => isNarrowed(queryKey) || state.fetchStatus === 'fetching',
  });
  client.setQueriesData<InfiniteData<InboxPage>>(
    { queryKey: ['inbox'], predicate: ({ queryKey }) => !isNarrowed(queryKey) },
    (list) => {
      const [first, ...rest] = list?.pages ?? [];
      if (!list || !first) return list;
      if (list.pages.some((page) => page.messages.some((one) => one.id === message.id))) {
        isNew = false;
        return list;
      }
      return { ...list, pages: [{ ...first, messages: [message, ...first.messages] }, ...rest] };
    },
  );
  if (isNew)
    client.setQueryData<Me | null>(
      ['me'],
      (me) => me && { ...me, unread: me.unread + 1, now: later(message.at, me.now) },
    );
}

/** The later of two instants in UTC, which as text are in order too. */
const later = (a: string, b: string): string => [a, b].sort()[1] ?? b;

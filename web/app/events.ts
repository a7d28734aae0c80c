import { type InfiniteData, type QueryClient, type QueryFilters, useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef } from 'react';
import { type NavigateFunction, useNavigate } from 'react-router';
import { addressOf } from '../../contract/paths.ts';
import type { InboxPage, Me, MessageRow, PageEvent } from '../../contract/wire/index.ts';
import { showOnDesktop } from '../parts/index.ts';
import { call, keys } from '../queries/index.ts';

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
    // A page that asks for nothing just now would not notice that the connection is lost.
    const probe = () => void call('session.me').catch(() => undefined);
    const onEvent = ({ data }: MessageEvent<string>) => take(client, go.current, JSON.parse(data) as PageEvent);
    const open = () => {
      const fresh = new EventSource(`/api${addressOf('session.events', {}).path}`);
      stream = fresh;
      for (const name of Object.keys(STALE)) fresh.addEventListener(name, onEvent);
      fresh.onerror = () => {
        probe();
        // A stream that was refused is not tried again by the browser.
        if (fresh.readyState === EventSource.CLOSED) timer = setTimeout(open, AGAIN_MS);
      };
      // What was asked for before the stream stood, at first or after a break, may lack what passed meanwhile.
      fresh.onopen = () => askAgain(client);
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

type EventOf<E extends PageEvent['event']> = Extract<PageEvent, { event: E }>;

/** What each event leaves stale, and has to be asked for again where it is shown. */
const STALE: { [E in PageEvent['event']]: (event: EventOf<E>) => readonly (readonly unknown[])[] } = {
  message: () => [keys.outbox.all, keys.rules.all],
  item: ({ item, source }) => [keys.items.one(item), keys.items.of(source), keys.sources, keys.trail.all],
  rules: () => [keys.rules.all, keys.sources, keys.items.every],
  outbox: () => [keys.outbox.all],
  answered: () => [keys.messages.all, keys.inbox.today],
};

function take(client: QueryClient, go: NavigateFunction, event: PageEvent): void {
  if (event.event === 'message') {
    const { id, subject, content } = event.message;
    takeIn(client, event.message);
    const rules = content.entries.flatMap((entry) => entry.rules.map((rule) => rule.name));
    showOnDesktop(id, subject, rules.join(', '), () => void go(`/inbox/${id}`));
  }
  const staleOf = STALE[event.event] as (event: PageEvent) => readonly (readonly unknown[])[];
  for (const queryKey of staleOf(event)) askAgain(client, { queryKey });
}

/**
 * Has asked again what is shown. What is on its way for the first time may be older than what it is asked again for, and
 * would count as fresh once it is there: it is given up, and asked for anew.
 */
function askAgain(client: QueryClient, filters: QueryFilters = {}): void {
  const first = new Set(
    client
      .getQueryCache()
      .findAll({ ...filters, fetchStatus: 'fetching' })
      .filter((query) => query.state.data === undefined),
  );
  void client.invalidateQueries(filters);
  if (first.size === 0) return;
  const isFirst: QueryFilters['predicate'] = (query) => first.has(query);
  void client
    .cancelQueries({ predicate: isFirst }, { silent: true })
    .then(() => client.refetchQueries({ predicate: isFirst }));
}

/** Puts a message that has just arrived on top of the lists that are open, and counts it; nothing has to be asked for. */
function takeIn(client: QueryClient, message: MessageRow): void {
  let isNew = true;
  // A list that is narrowed is asked for again: only the server knows what belongs in it. So is one that is on its way, which may be older.
  const isNarrowed = (key: readonly unknown[]) =>
    Object.keys((key[1] ?? {}) as object).some((name) => name !== 'unread');
  askAgain(client, {
    queryKey: keys.inbox.all,
    predicate: ({ queryKey, state }) => isNarrowed(queryKey) || state.fetchStatus === 'fetching',
  });
  client.setQueriesData<InfiniteData<InboxPage>>(
    { queryKey: keys.inbox.all, predicate: ({ queryKey }) => !isNarrowed(queryKey) },
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
      keys.me,
      (me) => me && { ...me, unread: me.unread + 1, now: later(message.at, me.now) },
    );
}

/** The later of two instants in UTC, which as text are in order too. */
const later = (a: string, b: string): string => [a, b].sort()[1] ?? b;

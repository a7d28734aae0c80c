// @vitest-environment jsdom
import { waitFor } from '@testing-library/react';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { InfiniteData } from '@tanstack/react-query';
import type { InboxPage, Me, MessageRow, PageEvent } from '../../contract/wire/index.ts';
import { keys, useInbox } from '../queries/index.ts';
import { draw, ME } from '../testing/drawing.tsx';
import { messageOf } from '../testing/messages.ts';
import { serve } from '../testing/serving.ts';
import { useEvents } from './events.ts';

/** Stands for the browser's stream: a test says what comes through it. */
class Stream extends EventTarget {
  static readonly CLOSED = 2;
  static all: Stream[] = [];
  readyState = 0;
  onopen: () => void = () => undefined;
  onerror: () => void = () => undefined;
  constructor(readonly address: string) {
    super();
    Stream.all.push(this);
  }
  close = () => {
    this.readyState = Stream.CLOSED;
  };
  tell = (event: PageEvent) => this.dispatchEvent(new MessageEvent(event.event, { data: JSON.stringify(event) }));
}

const Page = () => {
  useEvents();
  return null;
};
/** A page with the inbox in it. */
const List = () => {
  useEvents();
  const ids = useInbox({}).data?.pages.flatMap((page) => page.messages.map(({ id }) => id));
  return <output>{ids?.join(' ')}</output>;
};
const listOf = (...messages: MessageRow[]): InfiniteData<InboxPage> => ({
  pageParams: [''],
  pages: [{ messages, unread: 0, next: null }],
});

function open() {
  const asked = serve({ 'session.me': () => ME });
  const { client, unmount } = draw(<Page />);
  client.setQueryData(keys.me, ME);
  const [stream] = Stream.all as [Stream];
  const shown = (key: readonly unknown[]) =>
    client.getQueryData<InfiniteData<InboxPage>>(key)?.pages.flatMap((page) => page.messages.map(({ id }) => id));
  const isStale = (key: readonly unknown[]) => client.getQueryState(key)?.isInvalidated;
  return { asked, client, unmount, stream, shown, isStale };
}

beforeEach(() => {
  Stream.all = [];
  vi.stubGlobal('EventSource', Stream);
});

describe('the stream of a page', () => {
  it('puts a message on top of the list that is open, once, and counts it', () => {
    const { client, stream, shown } = open();
    client.setQueryData(keys.inbox.asked({}), listOf(messageOf('m1')));
    stream.tell({ event: 'message', message: messageOf('m2', { at: '2026-03-04T12:05:00.000Z' }) });
    stream.tell({ event: 'message', message: messageOf('m2') });
    expect(shown(keys.inbox.asked({}))).toEqual(['m2', 'm1']);
    expect(client.getQueryData<Me>(keys.me)).toMatchObject({ unread: 3, now: '2026-03-04T12:05:00.000Z' });
  });

  it('has a narrowed list asked for again: only the server knows what belongs in it', () => {
    const { client, stream, shown, isStale } = open();
    const narrowed = keys.inbox.asked({ text: 'loom' });
    client.setQueryData(narrowed, listOf(messageOf('m1')));
    client.setQueryData(keys.inbox.asked({ unread: '1' }), listOf(messageOf('m1')));
    stream.tell({ event: 'message', message: messageOf('m2') });
    expect(shown(narrowed)).toEqual(['m1']);
    expect(isStale(narrowed)).toBe(true);
    expect(shown(keys.inbox.asked({ unread: '1' }))).toEqual(['m2', 'm1']);
  });

  it.each([
    ['what came before the stream stood', (stream: Stream) => stream.onopen()],
    ['what comes meanwhile', (stream: Stream) => stream.tell({ event: 'message', message: messageOf('m2') })],
  ])('loses nothing while a list is on its way for the first time: %s', async (_, happen) => {
    const messages = [messageOf('m1')];
    let old: () => void = () => undefined;
    let asked = 0;
    serve({
      'session.me': () => ME,
      'inbox.list': async () => {
        const page = { messages: [...messages], unread: 0, next: null };
        // The first answer was made before, and takes long to come.
        if (asked++ === 0) await new Promise<void>((resolve) => (old = resolve));
        return page;
      },
    });
    draw(<List />);
    await waitFor(() => expect(asked).toBe(1));
    messages.unshift(messageOf('m2'));
    happen(Stream.all[0] as Stream);
    old();
    await waitFor(() => expect(document.querySelector('output')?.textContent).toBe('m2 m1'));
  });

  it('leaves stale just what an event is about', () => {
    const { client, stream, isStale } = open();
    const all = [keys.items.one('l1'), keys.items.one('l2'), keys.rules.all, keys.outbox.all, keys.messages.all];
    const told = (event: PageEvent) => {
      for (const key of all) client.setQueryData(key, {});
      stream.tell(event);
      return all.filter((key) => isStale(key));
    };
    expect(told({ event: 'item', source: 'loans', item: 'l1' })).toEqual([keys.items.one('l1')]);
    expect(told({ event: 'outbox' })).toEqual([keys.outbox.all]);
    expect(told({ event: 'answered' })).toEqual([keys.messages.all]);
    expect(told({ event: 'rules' })).toContainEqual(keys.rules.all);
  });

  it('asks for everything anew once it stands, and opens again where it was refused', async () => {
    vi.useFakeTimers({ shouldAdvanceTime: true });
    const { client, stream, asked, isStale, unmount } = open();
    client.setQueryData(keys.sources, []);
    stream.onopen();
    expect(isStale(keys.sources)).toBe(true);
    stream.readyState = Stream.CLOSED;
    stream.onerror();
    await waitFor(() => expect(asked.map(({ route }) => route)).toContain('session.me'));
    vi.advanceTimersByTime(2000);
    expect(Stream.all).toHaveLength(2);
    unmount();
    expect(Stream.all[1]?.readyState).toBe(Stream.CLOSED);
    vi.useRealTimers();
  });
});

// @vitest-environment jsdom
import { screen, waitFor, within } from '@testing-library/react';
import { Route, Routes } from 'react-router';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { MessageRow } from '../../../contract/wire/index.ts';
import { rowInFocus, turnKeys } from '../../parts/index.ts';
import { draw } from '../../testing/drawing.tsx';
import { messageOf } from '../../testing/messages.ts';
import { type Asked, refuse, serve } from '../../testing/serving.ts';
import { InboxPage } from './inbox.tsx';

const [M1, M2, M3] = ['1', '2', '3'].map((at) => `m${at}`.padEnd(26, '0')) as [string, string, string];
const YESTERDAY = '2026-03-03T15:00:00.000Z';
const MESSAGES = [
  messageOf(M1, {}, 'Tidal Loom'),
  messageOf(M2, { readAt: '2026-03-04T09:30:00.000Z', at: '2026-03-04T08:00:00.000Z' }, 'Reed Coat'),
  messageOf(M3, { at: YESTERDAY }, 'Salt Basket'),
];

beforeEach(() => {
  // The document of a test is not laid out: as if all rows had their height.
  vi.spyOn(HTMLElement.prototype, 'offsetHeight', 'get').mockReturnValue(84);
});

async function openInbox(messages: MessageRow[] = MESSAGES, at = '/inbox') {
  const asked = serve({
    'inbox.list': ({ query }) => ({
      messages: messages.filter((one) => (query.unread ? one.readAt === null : true)),
      unread: 2,
      next: null,
    }),
    'inbox.markRead': () => ({ unread: 1 }),
    'inbox.markUnread': () => ({ unread: 3 }),
    'inbox.acknowledge': ({ body }) =>
      (body as { ids: string[] }).ids.includes(M3) ? refuse('unavailable') : { unread: 0 },
    'messages.read': ({ params }) => ({
      ...(messages.find((one) => one.id === params.id) ?? refuse('notFound')),
      waits: true,
      again: null,
      answered: [],
      next: [],
      others: [],
      withheld: [],
      since: [],
      reading: null,
    }),
  });
  const { user } = draw(
    <Routes>
      <Route path="/inbox/:message?" element={<InboxPage />} />
    </Routes>,
    { at },
  );
  const did = (route: Asked['route']) => asked.filter((one) => one.route === route).map(({ body }) => body);
  return { user, asked, did };
}

const rows = () => [...document.querySelectorAll('[data-row]')].map((row) => row.getAttribute('data-row'));
const openRow = () => document.querySelector('.log-row.is-open')?.getAttribute('data-row');

describe('the inbox', () => {
  it('stands by day, the newest first, with what is unread said so', async () => {
    await openInbox();
    await waitFor(() => expect(rows()).toEqual([M1, M2, M3]));
    expect([...document.querySelectorAll('.day')].map((day) => day.textContent)).toEqual([
      'Today, Wednesday 4 March',
      'Yesterday, Tuesday 3 March',
    ]);
    const unread = [...document.querySelectorAll('.is-unread')].map((row) => row.getAttribute('data-row'));
    expect(unread).toEqual([M1, M3]);
    expect(document.querySelector(`[data-row="${M1}"]`)?.textContent).toContain('Agreed');
  });

  it('goes by keys alone: along it, open, choose, acknowledge, not read', async () => {
    const { user, did } = await openInbox();
    await waitFor(() => expect(rows()).toHaveLength(3));
    await user.keyboard('{ArrowDown}');
    await waitFor(() => expect(rowInFocus()).toBe(M1));
    expect(openRow()).toBeUndefined();
    await user.keyboard('{Enter}');
    await waitFor(() => expect(openRow()).toBe(M1));
    // What is opened is read.
    await waitFor(() => expect(did('inbox.markRead')).toEqual([{ ids: [M1] }]));
    await user.keyboard(' ');
    await user.keyboard('{ArrowDown}');
    await waitFor(() => expect(openRow()).toBe(M2));
    await waitFor(() => expect(rowInFocus()).toBe(M2));
    await user.keyboard(' ');
    expect(within(screen.getByRole('region', { name: /chosen/ })).getByText(/2/)).toBeDefined();
    await user.keyboard('a');
    await waitFor(() => expect(did('inbox.acknowledge')).toEqual([{ ids: [M1, M2] }]));
    await waitFor(() => expect(screen.queryByRole('region', { name: /chosen/ })).toBeNull());
    await user.keyboard('n');
    await waitFor(() => expect(did('inbox.markUnread')).toEqual([{ ids: [M2] }]));
    await waitFor(() => expect(openRow()).toBeUndefined());
  });

  it('does nothing by a letter for whoever has turned that off', async () => {
    const { user, did } = await openInbox();
    await waitFor(() => expect(rows()).toHaveLength(3));
    turnKeys(false);
    await user.keyboard('{ArrowDown}');
    await waitFor(() => expect(rowInFocus()).toBe(M1));
    await user.keyboard('a');
    turnKeys(true);
    await user.keyboard('n');
    await waitFor(() => expect(did('inbox.markUnread')).toEqual([{ ids: [M1] }]));
    expect(did('inbox.acknowledge')).toEqual([]);
  });

  it('keeps what is chosen where an act is refused, and says why', async () => {
    const { user } = await openInbox();
    await waitFor(() => expect(rows()).toHaveLength(3));
    await user.click(within(document.querySelector(`[data-row="${M3}"]`) as HTMLElement).getByRole('checkbox'));
    const bar = within(screen.getByRole('region', { name: /chosen/ }));
    await user.click(bar.getByRole('button', { name: /acknowledge/i }));
    expect(await screen.findByRole('alert')).toBeDefined();
    expect(screen.getByRole('region', { name: /chosen/ })).toBeDefined();
  });

  it('asks for what is unread alone, and says so where there is nothing', async () => {
    const { user, asked } = await openInbox([messageOf(M2, { readAt: YESTERDAY })]);
    await waitFor(() => expect(rows()).toEqual([M2]));
    await user.click(screen.getByRole('button', { name: 'Unread' }));
    expect(await screen.findByRole('heading', { name: /nothing unread/i })).toBeDefined();
    expect(asked.filter(({ route }) => route === 'inbox.list').at(-1)?.query).toMatchObject({ unread: '1' });
    await user.click(screen.getByRole('button', { name: /all messages/i }));
    await waitFor(() => expect(rows()).toEqual([M2]));
  });

  it('with nothing in it says what will be here, and where to begin', async () => {
    await openInbox([]);
    expect(await screen.findByRole('link', { name: /sources/i })).toBeDefined();
  });
});

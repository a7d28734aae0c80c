// @vitest-environment jsdom
import { screen, waitFor, within } from '@testing-library/react';
import { beforeEach, describe, expect, it } from 'vitest';
import type { TodayPage as Page } from '../../../contract/wire/index.ts';
import { draw, ME, rowOf } from '../../testing/drawing.tsx';
import { messageOf } from '../../testing/messages.ts';
import { refuse, serve } from '../../testing/serving.ts';
import { TodayPage } from './today.tsx';

const SINCE = '2026-03-03T18:00:00.000Z';
const message = messageOf('m1'.padEnd(26, '0'), {}, 'Tidal Loom');
const [entry] = messageOf('m2'.padEnd(26, '0'), {}, 'Reed Coat').content.entries;
if (!entry) throw new Error('a message tells of an item');

const page = (more: Partial<Page> = {}): Page => ({
  since: SINCE,
  hears: true,
  waiting: [],
  moved: [],
  more: 0,
  others: 0,
  coming: [],
  digests: [],
  ...more,
});

/** Today as it is served, and what is asked of the server. */
function openToday(first: Page, served: Parameters<typeof serve>[0] = {}) {
  const asked = serve({ 'today.read': () => first, 'rules.list': () => [], ...served });
  const { user } = draw(<TodayPage />, { at: '/today' });
  return { user, asked };
}

beforeEach(() => localStorage.clear());

describe('Today', () => {
  it('says in a line what waits, what moved, and how much was not for one', async () => {
    openToday(
      page({
        waiting: [{ ...message, next: [{ what: 'escalate', at: '2026-03-04T15:00:00.000Z', to: ['wren'] }] }],
        moved: [{ at: '2026-03-04T09:00:00.000Z', by: ['mei'], entry }],
        others: 40,
      }),
    );
    expect(await screen.findByText(/1 thing waits, 1 item moved, 40 more were not for you/)).toBeDefined();
    expect(screen.getByText(/Wren Adeyemi/)).toBeDefined();
    const moved = screen.getByRole('link', { name: 'Reed Coat' }).closest('li') as HTMLElement;
    expect(within(moved).getByText('On view', { selector: 'mark' })).toBeDefined();
    expect(within(moved).getByRole('button', { name: 'Pass it on' })).toBeDefined();
  });

  it('takes something on by one press, and says so where that fails', async () => {
    let fails = true;
    const { user, asked } = openToday(page({ waiting: [{ ...message, next: [] }] }), {
      'inbox.acknowledge': () => (fails ? refuse('unavailable') : { unread: 0 }),
    });
    const press = await screen.findByRole('button', { name: /^I have it: Tidal Loom/ });
    await user.click(press);
    expect(await screen.findByRole('alert')).toBeDefined();
    fails = false;
    await waitFor(() => expect((press as HTMLButtonElement).disabled).toBe(false));
    await user.click(press);
    expect(await screen.findByText('You have it.')).toBeDefined();
    expect(asked.filter(({ route }) => route === 'inbox.acknowledge')).toHaveLength(2);
  });

  it('asks for what moved since one was last here, in this browser, and for a week where nobody knows', async () => {
    const first = openToday(page());
    await screen.findByText(/Nothing of what you hear of/);
    const sinceOf = (asked: typeof first.asked) => asked.find(({ route }) => route === 'today.read')?.query.since;
    expect(sinceOf(first.asked)).toBe('2026-02-25T12:00:00Z');
    localStorage.setItem(`ojo.today.${ME.id}`, SINCE);
    const second = openToday(page());
    await waitFor(() => expect(sinceOf(second.asked)).toBe(SINCE));
  });

  it('shows what gathers, to be read before it goes out', async () => {
    const at = '2026-03-05T07:30:00.000Z';
    const { user, asked } = openToday(page({ digests: [{ at, channels: ['email'], items: 3, first: 'Reed Coat' }] }), {
      'today.gathering': () => [entry],
    });
    await user.click(await screen.findByRole('link', { name: 'Read it now' }));
    expect(await screen.findByText(/It goes out .* all the same/)).toBeDefined();
    expect(asked.find(({ route }) => route === 'today.gathering')?.query).toEqual({ at });
  });

  it('shows somebody whom nothing reaches how to begin, and a rule only to who may make one for others', async () => {
    serve({ 'today.read': () => page({ hears: false }), 'rules.list': () => [] });
    draw(<TodayPage />, { at: '/today', me: { role: 'member' }, directory: { coordinates: [] } });
    expect(await screen.findByText('Nothing reaches you yet')).toBeDefined();
    expect(screen.getByRole('link', { name: 'Look at the sources' })).toBeDefined();
    expect(screen.queryByRole('link', { name: 'Make a rule' })).toBeNull();
  });

  it('shows what waits of those who look after rules, though nothing reaches them', async () => {
    const asked = rowOf({ ask: { revision: 2, by: 'wren', at: '2026-03-04T09:00:00.000Z', why: null } });
    serve({ 'today.read': () => page({ hears: false }), 'rules.list': () => [asked] });
    draw(<TodayPage />, { at: '/today', me: { role: 'steward' } });
    expect(await screen.findByText('Nothing reaches you yet')).toBeDefined();
    expect(await screen.findByText('Waits for a second pair of eyes.')).toBeDefined();
  });
});

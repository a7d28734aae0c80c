// @vitest-environment jsdom
import { screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import type { OutboxRow } from '../../../contract/wire/index.ts';
import type { Me } from '../../../contract/wire/index.ts';
import { draw } from '../../testing/drawing.tsx';
import { refuse, serve } from '../../testing/serving.ts';
import { OutboxPage } from './outbox.tsx';

const rowOf = (id: string, more: Partial<OutboxRow> = {}): OutboxRow => ({
  id,
  at: '2026-03-04T09:00:00.000Z',
  person: 'mei',
  channel: 'email',
  address: 'mei@marisma.example',
  form: 'single',
  subject: `Tidal Loom ${id}`,
  fate: 'delivered',
  fateAt: '2026-03-04T09:00:01.000Z',
  reply: '250 taken',
  tries: 1,
  retryAt: null,
  readAt: null,
  rules: [{ id: 'on-view', name: 'Loan goes on view' }],
  items: ['l1'],
  reason: null,
  change: null,
  ...more,
});

async function openOutbox(rows: OutboxRow[], { me, at = '/outbox' }: { me?: Partial<Me>; at?: string } = {}) {
  let isStuck = true;
  const asked = serve({
    'outbox.list': ({ query }) => rows.filter((row) => !query.fate || row.fate === query.fate),
    'outbox.sendAgain': () => undefined,
    'aside.list': () => [
      {
        id: 7,
        kind: 'change',
        at: '2026-03-04T08:00:00.000Z',
        since: '2026-03-04T08:00:00.000Z',
        item: { id: 'l1', title: 'Tidal Loom' },
      },
    ],
    'aside.tryAgain': () => {
      if (isStuck) {
        isStuck = false;
        refuse('unavailable');
      }
    },
  });
  const { user } = draw(<OutboxPage />, { me, at });
  await waitFor(() => expect(document.querySelector('[aria-busy="true"]')).toBeNull());
  return { user, asked };
}

describe('the Outbox', () => {
  it('says of each what became of it, and why somebody did not hear', async () => {
    await openOutbox([
      rowOf('1'),
      rowOf('2', { fate: 'withheld', channel: null, address: null, reason: 'ownChange', person: 'wren' }),
      rowOf('3', { fate: 'failed', reply: '550 no such box', tries: 4 }),
    ]);
    expect(screen.getByText('Wren Adeyemi')).toBeDefined();
    expect(screen.getByText(/The other side, 550: “no such box”/)).toBeDefined();
    expect(document.body.textContent).toMatch(/own change/i);
  });

  it('sends again what failed, by one press, and nothing that arrived', async () => {
    const { user, asked } = await openOutbox([rowOf('1'), rowOf('3', { fate: 'failed', reply: '550', tries: 4 })]);
    const again = screen.getAllByRole('button', { name: /send .*again/i });
    expect(again).toHaveLength(1);
    await user.click(again[0] as HTMLElement);
    await waitFor(() =>
      expect(asked.filter(({ route }) => route === 'outbox.sendAgain').map(({ params }) => params.id)).toEqual(['3']),
    );
  });

  it('is narrowed by fate, way and words, which the address keeps', async () => {
    const { user, asked } = await openOutbox([rowOf('1'), rowOf('2', { fate: 'failed' })], { at: '/outbox?text=loom' });
    await user.click(screen.getByRole('button', { name: 'Failed' }));
    await user.selectOptions(screen.getByRole('combobox'), 'by email');
    await waitFor(() =>
      expect(asked.filter(({ route }) => route === 'outbox.list').at(-1)?.query).toEqual({
        fate: 'failed',
        channel: 'email',
        text: 'loom',
      }),
    );
  });

  it('says what stands there once something goes out, and that nothing is like what was asked', async () => {
    const { user } = await openOutbox([]);
    expect(screen.getByRole('heading', { name: /nothing has gone out/i })).toBeDefined();
    await user.click(screen.getByRole('button', { name: 'Failed' }));
    expect(await screen.findByRole('heading', { name: /nothing like that/i })).toBeDefined();
  });

  it('shows stewards alone what could not be decided, and says so where trying again is refused', async () => {
    await openOutbox([]).then(() => expect(screen.queryByText(/could not be decided/i)).toBeNull());
    const { user, asked } = await openOutbox([], { me: { role: 'steward' } });
    await user.click(await screen.findByRole('button', { name: 'Try again' }));
    expect((await screen.findByRole('alert')).textContent).not.toBe('');
    await user.click(screen.getByRole('button', { name: 'Try again' }));
    await waitFor(() => expect(asked.filter(({ route }) => route === 'aside.tryAgain')).toHaveLength(2));
    await waitFor(() => expect(screen.queryByRole('alert')).toBeNull());
  });
});

// @vitest-environment jsdom
import { cleanup, screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import type { DeliveryPreferences, PlanPage as Page, ReplayedMessage } from '../../../contract/wire/index.ts';
import { draw, part } from '../../testing/drawing.tsx';
import { refuse, serve } from '../../testing/serving.ts';
import { PlanPage } from './plan.tsx';

const PAGE: Page = {
  plan: null,
  mutes: [],
  email: 'ines@marisma.example',
  mailTo: null,
  start: null,
  further: [],
  phone: null,
  silenced: null,
  cameBack: [],
  asks: [],
  standsInFor: [],
  titles: { l1: 'Tidal Loom' },
};
const EMAIL: Omit<ReplayedMessage, 'at'> = {
  channel: 'email',
  form: 'single',
  urgency: 'critical',
  subject: 'Tidal Loom',
  rules: ['on-view'],
  arose: [],
};

/** The plan's page, which keeps what is sent to it. */
async function openPlan(more: Partial<Page> = {}) {
  let page: Page = { ...PAGE, ...more };
  const asked = serve({
    'plan.read': () => page,
    'plan.save': ({ body }) => {
      page = { ...page, ...(body as DeliveryPreferences) };
      return page;
    },
    'plan.week': ({ body }) => ({
      from: '2026-02-25T12:00:00Z',
      present: [{ ...EMAIL, at: '2026-03-03T20:00:00Z' }],
      inPlace: null,
      planned: (body as DeliveryPreferences).plan?.quiet ? [] : [{ ...EMAIL, at: '2026-03-03T20:00:00Z' }],
    }),
    'rules.list': () => [],
  });
  const { user } = draw(<PlanPage />);
  await screen.findByRole('heading', { name: 'Delivery plan' });
  const keep = () => screen.getByRole('button', { name: 'Keep this plan' }) as HTMLButtonElement;
  const kept = () => asked.filter(({ route }) => route === 'plan.save').map(({ body }) => body as DeliveryPreferences);
  const open = async (label: string, nth = 0) => {
    await user.click(screen.getAllByRole('button', { name: part(label) })[nth] as HTMLElement);
    return within(await screen.findByRole('dialog', { name: label }));
  };
  return { user, asked, keep, kept, open };
}

describe('the delivery plan', () => {
  it('shows what the last week would have been under it before it is kept, and only then keeps it', async () => {
    const { user, keep, kept, open } = await openPlan();
    expect(keep().disabled).toBe(true);
    await user.click(screen.getByRole('button', { name: '+ quiet hours' }));
    const hours = await open('Quiet hours');
    await user.click(hours.getByLabelText('Sun'));
    expect(screen.getAllByText('19:00 to 07:30')).toHaveLength(1);
    await waitFor(() => expect(document.querySelector('.plan-figures mark')?.textContent).toBe('0'));
    expect(kept()).toEqual([]);
    await user.keyboard('{Escape}');
    await user.click(keep());
    await waitFor(() => expect(kept()).toHaveLength(1));
    expect(kept()[0]?.plan?.quiet).toEqual([
      { days: ['MO', 'TU', 'WE', 'TH', 'FR', 'SA'], from: '19:00', to: '07:30' },
    ]);
  });

  it('is here again as it was edited where one leaves it half done', async () => {
    const { user } = await openPlan();
    await user.click(screen.getByRole('button', { name: '+ quiet hours' }));
    cleanup();
    const again = await openPlan();
    expect(screen.getByText('19:00 to 07:30')).toBeDefined();
    expect(again.keep().disabled).toBe(false);
    await again.user.click(screen.getByRole('button', { name: 'Begin anew' }));
    expect(screen.queryByText('19:00 to 07:30')).toBeNull();
  });

  it('is put back by one press once it is kept, and dropped by one before', async () => {
    const { user, keep, kept, open } = await openPlan();
    await user.click((await open('Email as')).getByLabelText('as plain text'));
    await user.keyboard('{Escape}');
    await user.click(screen.getByRole('button', { name: 'Drop edits' }));
    expect(keep().disabled).toBe(true);
    await user.click((await open('My own changes')).getByLabelText('always'));
    await user.keyboard('{Escape}');
    await user.click(keep());
    await user.click(await screen.findByRole('button', { name: /undo/i }));
    await waitFor(() => expect(kept().map(({ plan }) => plan)).toEqual([{ ownChanges: true }, null]));
  });

  it('keeps what was edited where the server refuses it, and says why', async () => {
    const asked = serve({
      'plan.read': () => PAGE,
      'plan.week': () => ({ from: '2026-02-25T12:00:00Z', present: [], planned: [], inPlace: null }),
      'rules.list': () => [],
      'plan.save': () => refuse('unavailable'),
    });
    const { user } = draw(<PlanPage />);
    await user.click(await screen.findByRole('button', { name: '+ quiet hours' }));
    await user.click(screen.getByRole('button', { name: 'Keep this plan' }));
    expect(await screen.findByRole('alert')).toBeDefined();
    expect(screen.getByText('19:00 to 07:30')).toBeDefined();
    expect(asked.filter(({ route }) => route === 'plan.save')).toHaveLength(1);
  });

  it('lets what is muted be heard again, or until another day', async () => {
    const { user, keep, kept, open } = await openPlan({
      mutes: [{ item: 'l1' }, { rule: 'on-view', until: '2026-03-09' }],
    });
    expect(screen.getByText('Tidal Loom', { selector: 'strong' })).toBeDefined();
    await user.click(screen.getAllByRole('button', { name: 'hear again' })[0] as HTMLElement);
    const until = (await open('How long on-view is muted')).getByLabelText(/the end of/i, {
      selector: 'input[inputmode]',
    });
    await user.clear(until);
    await user.type(until, '12/03/2026');
    await user.tab();
    await user.click(keep());
    await waitFor(() => expect(kept()[0]?.mutes).toEqual([{ rule: 'on-view', until: '2026-03-12' }]));
  });

  it('has another address asked for only where it is one, and a number confirmed by its code', async () => {
    const asked = serve({
      'plan.read': () => ({
        ...PAGE,
        asks: [{ channel: 'text', isFurther: false, address: '+34 600 555 014', askedAt: '2026-03-04T11:00:00Z' }],
      }),
      'plan.week': () => ({ from: '2026-02-25T12:00:00Z', present: [], planned: [], inPlace: null }),
      'rules.list': () => [],
      'addresses.ask': () => undefined,
      'addresses.confirm': () => undefined,
    });
    const { user } = draw(<PlanPage />);
    await user.click(await screen.findByRole('button', { name: /send my email somewhere else/i }));
    await user.type(screen.getByLabelText('Another address'), 'ines at home{Enter}');
    expect((await screen.findByRole('alert')).textContent).toContain('no email address');
    await user.clear(screen.getByLabelText('Another address'));
    await user.type(screen.getByLabelText('Another address'), ' ines@home.example{Enter}');
    await waitFor(() => expect(screen.queryByLabelText('Another address')).toBeNull());
    await user.type(screen.getByLabelText(/code that was sent/), '12345{Enter}');
    expect((await screen.findByRole('alert')).textContent).toContain('six figures');
    await user.type(screen.getByLabelText(/code that was sent/), '6{Enter}');
    await waitFor(() =>
      expect(asked.filter(({ route }) => route.startsWith('addresses.')).map(({ body }) => body)).toEqual([
        { channel: 'email', address: 'ines@home.example', isFurther: false },
        { code: '123456' },
      ]),
    );
  });
});

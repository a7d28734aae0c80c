// @vitest-environment jsdom
import { screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import type { RuleRow } from '../../../../contract/wire/index.ts';
import { DIRECTORY, draw, rowOf, ruleOf } from '../../../testing/drawing.tsx';
import { refuse, serve } from '../../../testing/serving.ts';
import Wanting from './wanting.tsx';

const open = (row: RuleRow, served: Parameters<typeof serve>[0] = {}) => {
  const asked = serve({ 'rules.list': () => [row], 'rules.acts': () => [row], ...served });
  const people = DIRECTORY.people.map((one) => (one.id === 'mei' ? { ...one, isActive: false } : one));
  return { ...draw(<Wanting />, { directory: { people } }), asked };
};
const actsIn = (asked: ReturnType<typeof serve>) =>
  asked.filter(({ route }) => route === 'rules.acts').map(({ body }) => body);

describe('what wants somebody is mended where it stands', () => {
  it('lets a paused rule go on, with what was kept or without it', async () => {
    const { user, asked } = open(rowOf({ isPaused: true, kept: 5 }));
    await user.click(await screen.findByRole('button', { name: 'Go on, and tell all 5 in one message' }));
    await user.click(screen.getByRole('button', { name: 'Go on without it' }));
    await waitFor(() =>
      expect(actsIn(asked)).toEqual([
        { act: 'resume', ids: ['on-view'], catchUp: 'summary' },
        { act: 'resume', ids: ['on-view'], catchUp: 'skip' },
      ]),
    );
  });

  it('takes over what nobody looks after, and says why it cannot where that is so', async () => {
    const row = rowOf({ owner: 'mei', faults: [{ code: 'ownerless', params: {} }] });
    const { user, asked } = open(row, {
      'rules.acts': () => refuse('notAllowed', { detail: 'It would reach farther than you may read.' }),
    });
    await user.click(await screen.findByRole('button', { name: 'Take it over' }));
    await waitFor(() => expect(actsIn(asked)).toEqual([{ act: 'handOver', ids: ['on-view'], to: 'ines' }]));
    expect(await screen.findByText(/It would reach farther than you may read/)).toBeTruthy();
  });

  it('leaves out who has left, live at once, and puts them back where that is taken back', async () => {
    const live = ruleOf({ to: [{ person: 'mei' }, { group: 'insurers' }] });
    const row = rowOf({ live, draftRevision: 3, faults: [{ code: 'hasLeft', params: { person: 'mei' } }] });
    let revision = 3;
    const kept = () => rowOf({ live, draftRevision: ++revision });
    const { user, asked } = open(row, { 'rules.keepDraft': kept, 'rules.putLive': kept });
    await user.click(await screen.findByRole('button', { name: 'Leave Mei Tanaka out' }));
    await user.click(await screen.findByRole('button', { name: 'Undo' }));
    const of = (route: string) => asked.filter((one) => one.route === route).map(({ body }) => body);
    await waitFor(() => expect(of('rules.putLive')).toHaveLength(2));
    expect(of('rules.keepDraft')).toMatchObject([
      { revision: 3, document: { to: [{ group: 'insurers' }] } },
      { revision: 5, document: { to: live.to } },
    ]);
    expect(of('rules.putLive')).toMatchObject([
      { revision: 4, why: 'Leave Mei Tanaka out', isSure: true },
      { revision: 6, why: 'taken back' },
    ]);
  });

  it('leads to the rule where edits wait in it, or nobody else would hear', async () => {
    const faults = [{ code: 'hasLeft' as const, params: { person: 'mei' } }];
    open(rowOf({ live: ruleOf({ to: [{ person: 'mei' }] }), faults }));
    expect((await screen.findByRole('link', { name: 'See to it' })).getAttribute('href')).toBe('/rules/on-view');
  });
});

// @vitest-environment jsdom
import { screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { draw, rowOf } from '../../../testing/drawing.tsx';
import { refuse, serve } from '../../../testing/serving.ts';
import { EyesNote } from './eyes-note.tsx';

const ask = { revision: 4, by: 'wren', at: '2026-03-04T09:00:00.000Z', why: 'Season opens' };

/** The note on a rule that Wren wants live, as somebody else sees it. */
function openNote(role: 'steward' | 'coordinator', served: Parameters<typeof serve>[0] = {}) {
  const row = rowOf({ ask });
  const asked = serve({ 'rules.approve': () => row, 'rules.sendBack': () => row, ...served });
  const { user } = draw(<EyesNote row={row} />, { me: { role } });
  return { user, sent: () => asked.map(({ route, body }) => [route, body]) };
}

describe('a rule that waits for a second pair of eyes', () => {
  it('is let live by a steward, at the state that was asked for', async () => {
    const { user, sent } = openNote('steward');
    expect(screen.getByText('“Season opens”')).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Let it live' }));
    await waitFor(() => expect(sent()).toEqual([['rules.approve', { revision: 4 }]]));
  });

  it('goes back with a word, which is asked for where it is missing', async () => {
    const { user, sent } = openNote('steward');
    await user.click(screen.getByRole('button', { name: 'Send it back…' }));
    await user.keyboard('{Tab}');
    await user.type(screen.getByLabelText('Why it goes back'), '  {Enter}');
    expect(screen.getByText('Say in a word why it goes back.')).toBeTruthy();
    expect(sent()).toEqual([]);
    await user.type(screen.getByLabelText('Why it goes back'), 'Too loud{Enter}');
    await waitFor(() => expect(sent()).toEqual([['rules.sendBack', { why: '  Too loud' }]]));
  });

  it('says so where it was edited meanwhile, and to others that it waits', async () => {
    const { user } = openNote('steward', { 'rules.approve': () => refuse('editedMeanwhile') });
    await user.click(screen.getByRole('button', { name: 'Let it live' }));
    expect(await screen.findByRole('alert')).toBeTruthy();
    openNote('coordinator');
    expect(screen.getByText('Waits for a second pair of eyes.')).toBeTruthy();
    expect(screen.getAllByRole('button', { name: 'Let it live' })).toHaveLength(1);
  });
});

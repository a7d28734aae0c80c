// @vitest-environment jsdom
import { cleanup, screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import type { RuleRow } from '../../../../contract/wire/index.ts';
import { draw, rowOf } from '../../../testing/drawing.tsx';
import { refuse, serve } from '../../../testing/serving.ts';
import { ChosenBar } from './chosen-bar.tsx';

function choose(...chosen: RuleRow[]) {
  const asked = serve({
    'rules.acts': ({ body }) => ((body as { act: string }).act === 'end' ? refuse('notAllowed') : chosen),
  });
  const onClear = vi.fn();
  const { user } = draw(<ChosenBar chosen={chosen} onClear={onClear} />);
  const did = () => asked.filter(({ route }) => route === 'rules.acts').map(({ body }) => body);
  const names = () => screen.getAllByRole('button').map((one) => one.textContent);
  return { user, did, onClear, names };
}

describe('what is done to several rules at once', () => {
  const live = [rowOf({ id: 'a' }), rowOf({ id: 'b' })];

  it('is what fits all of them', () => {
    expect(choose(...live).names()).toContain('Pause');
    cleanup();
    expect(choose(rowOf({ id: 'a' }), rowOf({ id: 'b', isPaused: true })).names()).not.toContain('Pause');
  });

  it('is nothing but export where one of them is somebody else’s', () => {
    const { names } = choose(rowOf({ id: 'a' }), rowOf({ id: 'b', mayEdit: false }));
    expect(names()).toEqual(['Export', 'Clear']);
    expect(screen.getByText(/Some of them/i)).toBeDefined();
  });

  it('is taken back by one press', async () => {
    const { user, did, onClear } = choose(...live);
    await user.click(screen.getByRole('button', { name: 'Pause' }));
    await waitFor(() => expect(onClear).toHaveBeenCalledOnce());
    await user.click(await screen.findByRole('button', { name: /undo/i }));
    await waitFor(() =>
      expect(did()).toEqual([
        { act: 'pause', ids: ['a', 'b'] },
        { act: 'resume', ids: ['a', 'b'], catchUp: 'each' },
      ]),
    );
  });

  it('is another pace, or another owner', async () => {
    const { user, did } = choose(...live);
    await user.click(screen.getByRole('button', { name: /another pace/i }));
    const pace = within(await screen.findByRole('dialog'));
    await user.selectOptions(pace.getByLabelText('How soon'), 'at once');
    await user.click(pace.getByRole('button', { name: /give it to 2 rules/i }));
    await user.click(screen.getByRole('button', { name: /hand .*over/i }));
    // Nobody is asked by merely going along the names.
    const whom = within(await screen.findByRole('dialog')).getByRole('combobox', { name: /to whom/i });
    await user.type(whom, '{ArrowDown}{ArrowDown}{ArrowUp}');
    expect(did()).toHaveLength(1);
    await user.type(whom, 'Wren{Enter}');
    await waitFor(() =>
      expect(did()).toEqual([
        { act: 'pace', ids: ['a', 'b'], pace: { kind: 'now' } },
        { act: 'handOver', ids: ['a', 'b'], to: 'wren' },
      ]),
    );
  });

  it('that is refused is said, and what was chosen stays chosen', async () => {
    const { user, onClear } = choose(...live);
    await user.click(screen.getByRole('button', { name: 'End' }));
    expect(await screen.findByText(/You may not do this/)).toBeDefined();
    expect(onClear).not.toHaveBeenCalled();
  });
});

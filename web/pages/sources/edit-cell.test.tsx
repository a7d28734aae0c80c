// @vitest-environment jsdom
import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it } from 'vitest';
import type { ItemRow } from '../../../contract/wire/index.ts';
import type { Field } from '../../../core/values/index.ts';
import { draw } from '../../testing/drawing.tsx';
import { refuse, serve } from '../../testing/serving.ts';
import { EditCell } from './edit-cell.tsx';

const PLACE: Field = { id: 'place', name: 'Place', type: 'text' };
const ITEM: ItemRow = {
  id: 'L-1',
  source: 'loans',
  folder: null,
  title: 'Reed Gate',
  fields: { place: 'Foyer' },
  version: 3,
  isDeleted: false,
  lastAt: '2026-03-04T09:00:00Z',
  lastBy: 'mei',
  last: null,
};
const cell = () => screen.getByRole('button', { name: /^Place of Reed Gate/ });
const box = () => screen.getByLabelText('Place');

describe('a cell', () => {
  it('saves what was typed, and nothing where it is as it was', async () => {
    const asked = serve({ 'items.edit': () => ({ ...ITEM, fields: { place: 'Store 2' } }) });
    draw(<EditCell item={ITEM} field={PLACE} shown="Foyer" />);
    await userEvent.click(cell());
    await userEvent.click(screen.getByRole('button', { name: 'Save' }));
    expect(asked.filter(({ route }) => route === 'items.edit')).toEqual([]);
    await userEvent.click(cell());
    await userEvent.clear(box());
    await userEvent.type(box(), 'Store 2{Enter}');
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
    expect(asked.find(({ route }) => route === 'items.edit')?.body).toEqual({ from: 3, set: { place: 'Store 2' } });
  });

  it('keeps what was typed where it is refused, or left half-way', async () => {
    serve({ 'items.edit': () => refuse('editedMeanwhile') });
    draw(<EditCell item={ITEM} field={PLACE} shown="Foyer" />);
    await userEvent.click(cell());
    await userEvent.type(box(), ' 3{Enter}');
    expect((await screen.findByRole('alert')).textContent).toContain('edited this meanwhile');
    expect((box() as HTMLInputElement).value).toBe('Foyer 3');
    await userEvent.keyboard('{Escape}');
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
    await userEvent.click(cell());
    expect((box() as HTMLInputElement).value).toBe('Foyer 3');
  });
});

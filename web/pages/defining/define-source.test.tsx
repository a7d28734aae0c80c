// @vitest-environment jsdom
import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it } from 'vitest';
import { DIRECTORY, draw, LOANS, ME } from '../../testing/drawing.tsx';
import { refuse, serve } from '../../testing/serving.ts';
import { DefineSourcePage } from './define-source.tsx';
import { definedShape, typedOf } from './defined-shape.ts';

const STEWARD = { me: { ...ME, role: 'steward' as const }, directory: DIRECTORY };
const field = (place: number) => screen.getByLabelText(`Field ${place}`);

describe('a source as it is defined', () => {
  it('is for stewards, who are named to everybody else', () => {
    draw(<DefineSourcePage />, { directory: { stewards: ['mei'] } });
    expect(screen.getByText('Ask Mei Tanaka.')).toBeTruthy();
  });

  it('goes with its fields in their order, what can be chosen in one line, and the one that names an item', async () => {
    const asked = serve({ 'sources.define': () => ({ id: 'vans' }) });
    draw(<DefineSourcePage />, STEWARD);
    await userEvent.type(screen.getByLabelText('Name'), 'Vans');
    await userEvent.type(field(1), 'Van');
    await userEvent.click(screen.getByRole('button', { name: 'Add a field' }));
    await userEvent.type(field(2), 'State');
    await userEvent.selectOptions(screen.getAllByLabelText('Holds')[1] as HTMLElement, 'choice');
    await userEvent.type(screen.getByLabelText('What can be chosen'), 'Free ; Out;');
    await userEvent.click(screen.getByRole('button', { name: 'Make the source' }));
    await waitFor(() => expect(asked.some(({ route }) => route === 'sources.define')).toBe(true));
    expect(asked.find(({ route }) => route === 'sources.define')?.body).toEqual({
      name: 'Vans',
      about: '',
      kind: 'list',
      fields: [
        { id: null, name: 'Van', type: 'text', options: [], to: null },
        {
          id: null,
          name: 'State',
          type: 'choice',
          options: [
            { id: null, name: 'Free' },
            { id: null, name: 'Out' },
          ],
          to: null,
        },
      ],
      title: 0,
    });
  });

  it('says at the field what stands against it, and keeps what was typed', async () => {
    serve({
      'sources.define': () =>
        refuse('badValues', {
          faults: [{ code: 'titleNeedsText', path: 'name', params: {}, words: '' }],
        }),
    });
    draw(<DefineSourcePage />, STEWARD);
    await userEvent.click(screen.getByRole('button', { name: 'Make the source' }));
    expect(await screen.findAllByText('Something has to stand here.')).toHaveLength(2);
    await userEvent.type(screen.getByLabelText('Name'), 'Vans');
    await userEvent.type(field(1), 'Van');
    await userEvent.click(screen.getByRole('button', { name: 'Make the source' }));
    expect(await screen.findByText('What names an item has to be a text.')).toBeTruthy();
    expect((field(1) as HTMLInputElement).value).toBe('Van');
  });

  it('that is known comes back as it is', () => {
    const { fields, titleField } = LOANS;
    const read = definedShape.parse(typedOf({ ...LOANS, about: 'What the museum borrows' }));
    expect(read.fields.map(({ id, name, type }) => ({ id, name, type }))).toEqual(
      fields.map(({ id, name, type }) => ({ id, name, type })),
    );
    expect(read.fields[1]?.options).toEqual(fields[1]?.options?.map((id) => ({ id, name: id })));
    expect(fields[read.title]?.id).toBe(titleField);
  });
});

// @vitest-environment jsdom
import { screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import type { DoorRow } from '../../../contract/wire/index.ts';
import { draw, LOANS } from '../../testing/drawing.tsx';
import { refuse, serve } from '../../testing/serving.ts';
import { Doors } from './doors.tsx';

const DOOR: DoorRow = {
  id: 'desk',
  name: 'Loan desk',
  owner: 'ines',
  isOpen: true,
  mappings: [
    {
      type: 'desk.*',
      does: 'keep',
      key: '/subject',
      actor: null,
      text: null,
      fields: [{ field: 'title', from: '/data/title', fixed: null }],
    },
  ],
  lastAt: null,
  taken: 3,
  refused: 1,
};

async function open(doors: DoorRow[]) {
  const asked = serve({
    'doors.list': () => doors,
    'doors.add': ({ body }) => {
      const given = body as { mappings: { fields: unknown[] }[] };
      if (given.mappings[0]?.fields.length === 0)
        refuse('badValues', {
          faults: [
            {
              code: 'titleIsMapped',
              path: 'mappings.0.fields',
              params: { field: 'Loan' },
              words: 'Say where Loan comes from.',
            },
          ],
        });
      return { id: 'new', key: 'ojo-door-new.1234' };
    },
    'doors.save': () => undefined,
    'doors.try': () => ({
      outcome: 'keep' as const,
      key: 'L-1',
      actor: 'system:',
      text: null,
      fields: [{ field: 'Loan', words: 'Tidal Loom' }],
      faults: [],
    }),
  });
  const { user } = draw(<Doors source={LOANS} />, { me: { role: 'steward' } });
  await waitFor(() => expect(document.querySelector('[aria-busy="true"]')).toBeNull());
  return { user, asked };
}
const sent = (asked: Awaited<ReturnType<typeof open>>['asked'], route: string) =>
  asked.filter((one) => one.route === route).map(({ body }) => body as DoorRow);

describe('doors into a source', () => {
  it('say what came and was refused, and what their events do', async () => {
    await open([DOOR]);
    expect(screen.getByText(/3 events taken, 1 refused/)).toBeDefined();
    expect(screen.getByText('desk.*')).toBeDefined();
  });

  it('are made of what is typed alone, refused at its place, and tell their key once', async () => {
    const { user, asked } = await open([]);
    await user.click(screen.getByRole('button', { name: 'New door' }));
    await user.click(screen.getByRole('button', { name: 'Make the door' }));
    expect(await screen.findAllByText('Something has to stand here.')).toHaveLength(2);
    expect(sent(asked, 'doors.add')).toEqual([]);
    await user.type(screen.getByLabelText('What it is called'), 'Desk');
    await user.type(screen.getByLabelText('Events of type'), 'desk.saved');
    await user.click(screen.getByRole('button', { name: 'Make the door' }));
    expect((await screen.findByRole('alert')).textContent).toContain('say where it comes from');
    await user.type(screen.getByLabelText('Where Loan comes from'), '/data/title');
    await user.click(screen.getByRole('button', { name: 'Make the door' }));
    const key = (await screen.findByLabelText('The key of Desk')) as HTMLInputElement;
    expect(key.value).toBe('ojo-door-new.1234');
    expect(sent(asked, 'doors.add').at(-1)?.mappings).toEqual([{ ...DOOR.mappings[0], type: 'desk.saved' }]);
    await user.click(screen.getByRole('button', { name: 'I have it' }));
    expect(screen.queryByLabelText('The key of Desk')).toBeNull();
  });

  it('are tried on a sample, with what would come of it', async () => {
    const { user, asked } = await open([DOOR]);
    await user.click(screen.getByRole('button', { name: 'Edit Loan desk' }));
    const tries = screen.getByRole('button', { name: 'Try it' }) as HTMLButtonElement;
    expect(tries.disabled).toBe(true);
    await user.click(screen.getByLabelText('A sample of what comes'));
    await user.paste('{"type": "desk.saved"}');
    await user.click(tries);
    expect(await screen.findByText('It would edit the item L-1, or make it:')).toBeDefined();
    expect(screen.getByText('Tidal Loom')).toBeDefined();
    expect(sent(asked, 'doors.try')[0]).toEqual({ mappings: DOOR.mappings, sample: '{"type": "desk.saved"}' });
  });

  it('keep what they were when another sort of events comes beside it', async () => {
    const { user, asked } = await open([DOOR]);
    await user.click(screen.getByRole('button', { name: 'Edit Loan desk' }));
    await user.click(screen.getByRole('button', { name: 'Another sort of events' }));
    const types = screen.getAllByLabelText('Events of type');
    await user.type(types[1] as HTMLElement, 'desk.gone');
    await user.selectOptions(screen.getAllByLabelText('What they do here')[1] as HTMLElement, 'remove');
    await user.click(screen.getByRole('button', { name: 'Keep it' }));
    await waitFor(() => expect(sent(asked, 'doors.save')).toHaveLength(1));
    expect(sent(asked, 'doors.save')[0]?.mappings).toMatchObject([
      DOOR.mappings[0],
      { type: 'desk.gone', does: 'remove', key: '/subject' },
    ]);
  });
});

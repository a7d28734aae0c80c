// @vitest-environment jsdom
import { screen, waitFor } from '@testing-library/react';
import { expect, it } from 'vitest';
import { draw } from '../../testing/drawing.tsx';
import { serve } from '../../testing/serving.ts';
import { PassOn } from './pass-on.tsx';

it('offers first whom the item names, says by which field, and tells those who may read it', async () => {
  const asked = serve({
    'items.read': () => ({
      item: {
        id: 'i1',
        source: 'loans',
        folder: null,
        title: 'Reed Gate',
        fields: { registrar: 'wren' },
        version: 1,
        isDeleted: false,
        lastAt: '2026-03-04T10:00:00.000Z',
        lastBy: 'mei',
        last: null,
      },
      names: {},
      trail: [],
      hears: [],
      eyes: [],
      file: null,
      looks: { isNoted: false, last: [] },
      mayEdit: false,
    }),
    'threads.check': ({ body }) => ({ may: (body as { people: string[] }).people, mayNot: [] }),
    'threads.begin': () => ({ thread: 't1', told: ['wren'], mayNot: [] }),
  });
  const { user } = draw(<PassOn item="i1" onDone={() => undefined} />);
  await waitFor(() => expect(asked.some(({ route }) => route === 'items.read')).toBe(true));
  await user.click(screen.getByRole('combobox'));
  await waitFor(() => expect(screen.getAllByRole('option')[0]?.textContent).toBe('Wren AdeyemiRegistrar'));
  expect(screen.getAllByRole('option').map((one) => one.textContent)).not.toContainEqual(
    expect.stringContaining('Inés Calder'),
  );
  await user.click(screen.getByRole('option', { name: /Wren/ }));
  await user.click(await screen.findByRole('button', { name: 'Tell Wren Adeyemi' }));
  await waitFor(() =>
    expect(asked.find(({ route }) => route === 'threads.begin')?.body).toMatchObject({ item: 'i1', people: ['wren'] }),
  );
});

// @vitest-environment jsdom
import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import type { View } from '../../../contract/wire/index.ts';
import type { ItemsAsked } from '../../queries/index.ts';
import { draw, Keeper, LOANS, part } from '../../testing/drawing.tsx';
import { refuse, serve } from '../../testing/serving.ts';
import { FilterBar, readWhere } from './filter-bar.tsx';

const ON_VIEW = JSON.stringify({ field: 'status', op: 'is', value: 'On view' });
const VIEW: View = { id: 'v1', name: 'On view', owner: 'ines', asked: { where: ON_VIEW } };

function show(first: ItemsAsked = {}, known: View[] = [VIEW]) {
  const views = [...known];
  const asked = serve({
    'views.list': () => views,
    'views.name': ({ body }) => {
      const { name } = body as { name: string };
      if (views.some((view) => view.name === name)) refuse('badRequest');
      const made = { id: `v${views.length + 1}`, owner: 'ines', ...(body as Omit<View, 'id' | 'owner'>) };
      views.push(made);
      return made;
    },
    'views.drop': ({ params }) => {
      views.splice(
        views.findIndex(({ id }) => id === params.id),
        1,
      );
      return undefined;
    },
  });
  const now: ItemsAsked[] = [first];
  const { user } = draw(
    <Keeper first={first} onChange={(next) => now.push(next)}>
      {(value, set) => <FilterBar source={LOANS} asked={value} onAsk={set} />}
    </Keeper>,
  );
  const bodies = () => asked.filter(({ route }) => route === 'views.name').map(({ body }) => body);
  return { user, bodies, latest: () => now.at(-1) };
}

describe('what narrows a list', () => {
  it('is words, and the state that items are in', async () => {
    const { user, latest } = show();
    await user.type(screen.getByRole('searchbox'), 'loom');
    await user.click(screen.getByRole('button', { name: /only where/ }));
    const part = within(await screen.findByRole('dialog'));
    await user.selectOptions(part.getByLabelText('Field'), 'Fragile');
    expect(latest()?.text).toBe('loom');
    expect(JSON.parse(latest()?.where ?? '')).toEqual({ field: 'fragile', op: 'is', value: true });
  });

  it('gets a name where it is wanted again, and none where that is left empty or taken', async () => {
    const { user, bodies } = show({ text: 'loom', where: ON_VIEW, sort: 'due' });
    await user.click(await screen.findByRole('button', { name: part('A name for this view') }));
    const naming = within(await screen.findByRole('dialog'));
    await user.click(naming.getByRole('button', { name: /keep it/i }));
    expect(await naming.findByText('Something has to stand here.')).toBeDefined();
    await user.type(naming.getByRole('textbox'), 'On view{Enter}');
    expect(await naming.findByText(/./, { selector: '.problem *' })).toBeDefined();
    await user.type(naming.getByRole('textbox'), ', of looms{Enter}');
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
    expect(bodies().at(-1)).toEqual({
      name: 'On view, of looms',
      asked: { text: 'loom', where: ON_VIEW, sort: 'due' },
    });
  });

  it('is shown as the view that it is, which can be forgotten, and had back', async () => {
    const { user, bodies } = show({ where: ON_VIEW });
    expect((await screen.findByRole('button', { name: 'On view', pressed: true })).textContent).toBe('On view');
    await user.click(screen.getByRole('button', { name: /forget/i }));
    await user.click(await screen.findByRole('button', { name: /undo/i }));
    await waitFor(() => expect(bodies()).toEqual([{ name: 'On view', asked: { where: ON_VIEW } }]));
  });

  it('that an address says and nobody can read narrows nothing', () => {
    for (const text of [undefined, '', '{', '7', '{"changed":"status"}', '{"all":[{"field":1}]}'])
      expect(readWhere(text)).toEqual({ all: [] });
    expect(readWhere(ON_VIEW)).toEqual(JSON.parse(ON_VIEW));
  });
});

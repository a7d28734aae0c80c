// @vitest-environment jsdom
import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it } from 'vitest';
import type { Source } from '../../../core/values/index.ts';
import { DIRECTORY, draw, ME, ruleOf } from '../../testing/drawing.tsx';
import { serve } from '../../testing/serving.ts';
import { LooksHint, looksNotedFor } from '../rules/editors/looks-hint.tsx';
import { LooksNoted, NotedHere, NotedWhoOpens, WhoOpened } from './looks.tsx';

const PAPERS: Source = {
  id: 'papers',
  kind: 'folders',
  name: 'Papers',
  titleField: 'name',
  fields: [{ id: 'name', name: 'Name', type: 'text' }],
};
const folder = (id: string, parent: string | null, notesLooks = false) => ({
  id,
  source: 'papers',
  name: id.toUpperCase(),
  parent,
  notesLooks,
});
const FOLDERS = [folder('a', null), folder('b', 'a', true), folder('c', 'b'), folder('d', null)];
const directory = { sources: [...DIRECTORY.sources, { ...PAPERS, about: '' }], folders: FOLDERS };
const rule = (under: string[]) => ruleOf({ scope: { sources: ['papers'], under }, when: { kinds: ['opened'] } });

describe('where looks are noted', () => {
  it('is switched on and off by stewards, and offered where it does not hold already', async () => {
    const asked = serve({ 'access.noteLooks': () => undefined });
    draw(<LooksNoted source={PAPERS} />, { directory, me: { ...ME, role: 'steward' } });
    // Nothing is switched on by merely going along the choices.
    await userEvent.click(screen.getByRole('button', { name: /note it in a folder/ }));
    await userEvent.keyboard('{ArrowDown}{ArrowUp}');
    expect(screen.getAllByRole('option').map(({ textContent }) => textContent)).toEqual(['A', 'D']);
    expect(asked).toEqual([]);
    await userEvent.type(screen.getByRole('combobox'), 'D{Enter}');
    expect(await screen.findByText(/Whoever opens a document in D is noted from now on/)).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Note it no longer' }));
    await waitFor(() => expect(asked).toHaveLength(2));
    expect(asked.map(({ body }) => body)).toEqual([
      { folder: 'd', isOn: true },
      { folder: 'b', isOn: false },
    ]);
  });

  it('is read by others who look after it, and said beside every folder where it holds', () => {
    draw(<LooksNoted source={PAPERS} />, { directory, me: { ...ME, role: 'coordinator' } });
    expect(screen.getByText('A / B')).toBeTruthy();
    expect(screen.queryByRole('combobox')).toBeNull();
    draw(<NotedHere folder="c" />, { directory });
    expect(screen.getByText('who opens is noted')).toBeTruthy();
    const { container } = draw(<NotedHere folder="a" />, { directory });
    expect(container.textContent).not.toContain('who opens is noted');
  });

  it('is said to whoever waits for documents to be opened', () => {
    const names = (under: string[]) => looksNotedFor(rule(under), FOLDERS).map(({ id }) => id);
    expect([names([]), names(['a']), names(['c']), names(['d'])]).toEqual([['b'], ['b'], ['c'], []]);
    draw(<LooksHint rule={rule(['d'])} />, { directory });
    expect(screen.getByText(/nowhere in what this rule looks at/)).toBeTruthy();
    draw(<LooksHint rule={rule([])} />, { directory });
    expect(screen.getByText('Ojo notes who opens a document in A / B, and nowhere else.')).toBeTruthy();
    // Folders that lie in each other are no way without an end.
    const ring = [folder('x', 'y', true), folder('y', 'x')];
    expect(looksNotedFor(rule(['a']), ring)).toEqual([]);
  });
});

describe('who opened a document', () => {
  it('is named with when, the latest first, and the rest at one press', async () => {
    const last = Array.from({ length: 8 }, (_, at) => ({
      person: ['ines', 'mei', 'wren'][at % 3] ?? '',
      at: `2026-03-0${4 - Math.floor(at / 3)}T10:0${at}:00Z`,
    }));
    // One line a person, as it is told.
    const looks = { isNoted: true, last: last.map((one, at) => ({ ...one, person: `${one.person}${at}` })) };
    draw(<WhoOpened looks={looks} />);
    expect(screen.getAllByRole('listitem')).toHaveLength(6);
    await userEvent.click(screen.getByRole('button', { name: '2 more people' }));
    expect(screen.getAllByRole('listitem')).toHaveLength(8);
  });

  it('says that it is noted where nobody has yet, and nothing where it never was', () => {
    const looks = { isNoted: true, last: [] };
    draw(
      <>
        <NotedWhoOpens looks={looks} />
        <WhoOpened looks={looks} />
      </>,
    );
    expect(screen.getByText('Nobody yet.')).toBeTruthy();
    expect(screen.getByText(/Whoever opens this document is noted/)).toBeTruthy();
    const { container } = draw(<WhoOpened looks={{ isNoted: false, last: [] }} />);
    expect(container.querySelector('section')).toBeNull();
  });
});

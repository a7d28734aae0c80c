// @vitest-environment jsdom
import { cleanup, render, screen } from '@testing-library/react';
import { userEvent } from '@testing-library/user-event';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { Combobox, type Found } from './combobox.tsx';

afterEach(cleanup);

const OFFERS: Found<string>[] = [
  { value: 'registrar', name: 'the item’s Registrar', kind: 'whoever it names' },
  { value: 'registrars', name: 'Registrars 4', kind: 'group' },
  { value: 'ines', name: 'Inés Calder', kind: 'Registrar, loans' },
];

describe('a combobox', () => {
  const shown = () => screen.queryAllByRole('option').map((option) => option.textContent);

  it('narrows by every word typed, however fast, and Enter adds what is marked, the first at first', async () => {
    const onAdd = vi.fn();
    render(<Combobox offers={OFFERS} label="Find" onAdd={onAdd} />);
    const box = screen.getByRole('combobox', { name: 'Find' });
    await userEvent.type(box, 'the item’s Registrar');
    expect((box as HTMLInputElement).value).toBe('the item’s Registrar');
    expect(shown()).toEqual(['the item’s Registrarwhoever it names']);
    await userEvent.keyboard('{Enter}');
    expect(onAdd.mock.calls).toEqual([['registrar']]);
    expect((box as HTMLInputElement).value).toBe('');
    expect(shown()).toHaveLength(3);
    await userEvent.keyboard('reg{ArrowDown}{Enter}');
    expect(onAdd.mock.calls).toEqual([['registrar'], ['registrars']]);
  });

  it('adds by a press, once for each, and says where nothing fits', async () => {
    const onAdd = vi.fn();
    render(<Combobox offers={OFFERS} label="Find" nothing="Nobody else by that name." onAdd={onAdd} />);
    await userEvent.click(screen.getByRole('option', { name: /Inés/ }));
    await userEvent.click(screen.getByRole('option', { name: /Inés/ }));
    expect(onAdd.mock.calls).toEqual([['ines'], ['ines']]);
    await userEvent.type(screen.getByRole('combobox'), 'zzz{Enter}');
    expect(onAdd).toHaveBeenCalledTimes(2);
    expect(screen.getByText('Nobody else by that name.')).toBeDefined();
  });

  it('leaves Escape to whatever it stands in, and what is typed as it is', async () => {
    const onEscape = vi.fn();
    render(
      // biome-ignore lint/a11y/noStaticElementInteractions: stands for the editor around it
      <div onKeyDown={(event) => event.key === 'Escape' && onEscape()}>
        <Combobox offers={OFFERS} label="Find" onAdd={() => undefined} />
      </div>,
    );
    await userEvent.type(screen.getByRole('combobox'), 'reg{Escape}');
    expect(onEscape).toHaveBeenCalledOnce();
    expect((screen.getByRole('combobox') as HTMLInputElement).value).toBe('reg');
  });

  it('hands on what is typed where somebody else finds by it, and shows what they found', async () => {
    const onSearch = vi.fn();
    render(<Combobox offers={OFFERS} label="Find" onSearch={onSearch} onAdd={() => undefined} />);
    await userEvent.type(screen.getByRole('combobox'), 'xy');
    expect(onSearch.mock.calls).toEqual([['x'], ['xy']]);
    expect(shown()).toHaveLength(3);
  });

  it('takes the focus where one is here to find something, and among other fields leaves it where it is', () => {
    render(
      <>
        <Combobox offers={OFFERS} label="Entered" onAdd={() => undefined} />
        <Combobox offers={OFFERS} label="Beside" isEntered={false} onAdd={() => undefined} />
      </>,
    );
    expect(document.activeElement).toBe(screen.getByRole('combobox', { name: 'Entered' }));
    expect(screen.getAllByRole('listbox')).toHaveLength(2);
  });
});

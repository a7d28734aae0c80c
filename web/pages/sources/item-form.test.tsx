// @vitest-environment jsdom
import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import type { ItemPage, ItemRow } from '../../../contract/wire/index.ts';
import { draw, LOANS } from '../../testing/drawing.tsx';
import { refuse, serve } from '../../testing/serving.ts';
import { ItemForm } from './item-form.tsx';
import { NewItemSheet } from './new-item-sheet.tsx';

const ITEM: ItemRow = {
  id: 'l1',
  source: 'loans',
  folder: null,
  title: 'Tidal Loom',
  fields: { title: 'Tidal Loom', status: 'Agreed', insured: { amount: '12000', currency: 'EUR' }, hazards: ['Glass'] },
  version: 4,
  isDeleted: false,
  lastAt: '2026-03-03T09:00:00Z',
  lastBy: 'wren',
  last: null,
};
const PAGE: ItemPage = {
  item: ITEM,
  names: {},
  trail: [],
  hears: [],
  eyes: [],
  mayEdit: true,
} as unknown as ItemPage;

const box = (name: string) => screen.getByLabelText(name) as HTMLInputElement;
const save = () => screen.getByRole('button', { name: /^(Save|Nothing edited)/ }) as HTMLButtonElement;

describe('the form of an item', () => {
  it('sends only what differs, from the version that the edits began at', async () => {
    const asked = serve({ 'items.edit': () => ({ ...ITEM, version: 5 }) });
    const onDone = vi.fn();
    const { user } = draw(<ItemForm page={PAGE} source={LOANS} onDone={onDone} />);
    expect(save().disabled).toBe(true);
    await user.selectOptions(box('Status'), 'On view');
    await user.type(box('Note'), 'x{Backspace}');
    await user.click(screen.getByLabelText('Salt'));
    expect(save().textContent).toBe('Save 2 edits');
    await user.click(save());
    await waitFor(() => expect(onDone).toHaveBeenCalledOnce());
    expect(asked.find(({ route }) => route === 'items.edit')?.body).toEqual({
      from: 4,
      set: { status: 'On view', hazards: ['Glass', 'Salt'] },
    });
  });

  it('keeps what is typed over leaving it, on top of what others did since, until it is saved or given up', async () => {
    serve({ 'items.edit': () => ({ ...ITEM, version: 6 }) });
    const first = draw(<ItemForm page={PAGE} source={LOANS} onDone={() => undefined} />);
    await first.user.type(box('Note'), 'hung low');
    first.unmount();
    const moved = { ...PAGE, item: { ...ITEM, version: 5, fields: { ...ITEM.fields, status: 'On view' } } };
    const second = draw(<ItemForm page={moved} source={LOANS} onDone={() => undefined} />);
    expect([box('Note').value, box('Status').value]).toEqual(['hung low', 'On view']);
    expect(save().textContent).toBe('Save 1 edit');
    await second.user.click(screen.getByRole('button', { name: 'Begin anew' }));
    expect(box('Note').value).toBe('');
    await second.user.type(box('Note'), 'hung high');
    await second.user.click(save());
    second.unmount();
    draw(<ItemForm page={PAGE} source={LOANS} onDone={() => undefined} />);
    expect(box('Note').value).toBe('');
    expect(screen.queryByText(/typed and not kept/)).toBeNull();
  });

  it('takes amounts as they are written in the language, and refuses what is none where it stands', async () => {
    const asked = serve({ 'items.edit': () => ITEM });
    const { user } = draw(<ItemForm page={PAGE} source={LOANS} onDone={() => undefined} />, {
      me: { locale: 'es-ES' },
    });
    const amount = box('Insured value');
    expect(amount.value).toBe('12.000');
    await user.clear(amount);
    await user.type(amount, '1.000,50 gbp');
    await user.clear(box('Crates'));
    await user.type(box('Crates'), 'doce');
    await user.click(screen.getByRole('button', { name: /Guardar/ }));
    expect(await screen.findByText(/número/)).toBeDefined();
    expect(box('Crates').value).toBe('doce');
    expect(amount.value).toBe('1.000,5');
    await user.clear(box('Crates'));
    await user.type(box('Crates'), '12{Enter}');
    await waitFor(() =>
      expect(asked.find(({ route }) => route === 'items.edit')?.body).toEqual({
        from: 4,
        set: { insured: { amount: '1000.50', currency: 'GBP' }, crates: '12' },
      }),
    );
  });

  it('says what cannot stand in a field, and sends nothing', async () => {
    const asked = serve({});
    const { user } = draw(<ItemForm page={PAGE} source={LOANS} onDone={() => undefined} />);
    await user.clear(box('Crates'));
    await user.type(box('Crates'), 'a few');
    await user.click(save());
    expect((await screen.findByRole('alert')).textContent).toContain('number');
    expect(asked).toEqual([]);
  });

  it('sends no day that is none, by a press or by Enter, and keeps it as it was typed', async () => {
    const asked = serve({ 'items.edit': () => ({ ...ITEM, version: 5 }) });
    const { user } = draw(<ItemForm page={PAGE} source={LOANS} onDone={() => undefined} />);
    await user.type(box('Due back'), '31/02/2027');
    await user.tab();
    expect(screen.getByText(/This is no day/)).toBeDefined();
    await user.click(box('Due back'));
    await user.click(save());
    expect((await screen.findByRole('alert')).textContent).toContain('needs a day');
    expect(box('Due back').value).toBe('31/02/2027');
    await user.type(box('Due back'), '{Enter}');
    expect(screen.getAllByRole('alert')).toHaveLength(1);
    expect(asked).toEqual([]);
    await user.clear(box('Due back'));
    await user.type(box('Due back'), '28/02/2027{Enter}');
    await waitFor(() => expect(asked.at(-1)?.body).toEqual({ from: 4, set: { due: '2027-02-28' } }));
  });

  it('tells the second of two writers what the first did, and saves what they choose', async () => {
    const version = 5;
    const asked = serve({
      'items.edit': ({ body }) =>
        (body as { from: number }).from < version
          ? refuse('editedMeanwhile', {
              conflict: {
                version,
                meanwhile: [
                  {
                    field: 'status',
                    by: 'wren',
                    at: Date.parse('2026-03-04T11:00:00Z'),
                    theirs: 'Returned',
                    yours: 'On view',
                  },
                  { field: 'crates', by: 'wren', at: Date.parse('2026-03-04T11:00:00Z'), theirs: '3' },
                ],
              },
            } as never)
          : { ...ITEM, version: version + 1 },
    });
    const onDone = vi.fn();
    const { user } = draw(<ItemForm page={PAGE} source={LOANS} onDone={onDone} />);
    await user.selectOptions(box('Status'), 'On view');
    await user.type(box('Note'), 'Hung by two.');
    await user.click(save());
    const clash = within(await screen.findByRole('alert'));
    expect(clash.getByText(/Wren Adeyemi/, { selector: 'strong' })).toBeDefined();
    await user.click(clash.getByLabelText(/theirs/i));
    await user.click(clash.getByRole('button'));
    await waitFor(() => expect(onDone).toHaveBeenCalledOnce());
    // Of the status theirs stands: only the note is an edit still, from where they left it.
    expect(asked.at(-1)?.body).toEqual({ from: 5, set: { note: 'Hung by two.' } });
  });
});

describe('a new item', () => {
  it('has a name at least, and nothing that was left empty', async () => {
    const asked = serve({ 'items.create': () => ITEM });
    const onMade = vi.fn();
    const { user } = draw(<NewItemSheet source={LOANS} onClose={() => undefined} onMade={onMade} />);
    expect(document.activeElement).toBe(screen.getByLabelText('Loan'));
    await user.click(screen.getByRole('button', { name: 'Add it' }));
    expect((await screen.findByRole('alert')).textContent).toBe('Something has to stand here.');
    expect(document.activeElement).toBe(box('Loan'));
    await user.type(box('Loan'), 'Reed Coat{Enter}');
    await waitFor(() => expect(onMade).toHaveBeenCalledWith('l1'));
    expect(asked.at(-1)).toMatchObject({
      route: 'items.create',
      params: { source: 'loans' },
      body: { set: { title: 'Reed Coat' }, folder: null },
    });
  });
});

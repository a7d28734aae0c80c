import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { HIDDEN_ITEM } from '../../contract/hidden.ts';
import type { Source } from '../../core/values/index.ts';
import { linksAmong } from './shown.ts';

const SOURCE: Source = {
  id: 'loans',
  kind: 'records',
  name: 'Loans',
  titleField: 'title',
  fields: [
    { id: 'title', name: 'Title', type: 'text' },
    { id: 'lender', name: 'Lender', type: 'link', to: 'lenders' },
    { id: 'objects', name: 'Objects', type: 'links', to: 'vault' },
  ],
};
const IDS = ['a', 'b', 'c', 'd', 'e', 'f'];
const some = fc.subarray(IDS);
const linksTo = (readable: readonly string[]) =>
  linksAmong(new Map(readable.map((id) => [id, { id, title: `Called ${id}` }])));

describe('items that an item leads to', () => {
  it('are shown as far as they may be read, by id and by name, and otherwise only that there is one', () =>
    fc.assert(
      fc.property(some, some, fc.constantFrom(...IDS), (readable, objects, lender) => {
        const { names, shown } = linksTo(readable);
        const said = shown({ title: 'T', lender, objects }, SOURCE) ?? {};
        expect(Object.keys(names).sort()).toEqual([...readable].sort());
        expect(said.lender).toBe(readable.includes(lender) ? lender : HIDDEN_ITEM);
        const open = objects.filter((id) => readable.includes(id));
        expect((said.objects as string[]).filter((id) => id !== HIDDEN_ITEM)).toEqual(open);
        expect((said.objects as string[]).filter((id) => id === HIDDEN_ITEM)).toHaveLength(
          open.length < objects.length ? 1 : 0,
        );
        expect(said.title).toBe('T');
      }),
    ));

  it('stay as they are where they are sent back as they were shown, though all that was hidden is open by then, or more is closed', () =>
    fc.assert(
      fc.property(some, some, some, fc.constantFrom(...IDS), (before, later, objects, lender) => {
        const unseen = objects.filter((id) => !before.includes(id));
        const opened = unseen.filter((id) => later.includes(id));
        // Of several that were hidden, one that is open by then cannot be told from one that was taken out.
        fc.pre(opened.length === 0 || opened.length === unseen.length);
        const stands = { lender, objects };
        const sent = linksTo(before).shown(stands, SOURCE) ?? {};
        const kept = linksTo(later).kept(sent, stands, SOURCE);
        expect(kept.lender).toBe(lender);
        // What was closed in between stands in what is sent by its own name.
        expect(new Set(kept.objects as string[])).toEqual(new Set(objects));
      }),
    ));

  it('are added and taken out by whoever does not see the others, and those stay', () =>
    fc.assert(
      fc.property(some, some, some, (readable, objects, chosen) => {
        const visible = chosen.filter((id) => readable.includes(id));
        const hidden = objects.filter((id) => !readable.includes(id));
        const links = linksTo(readable);
        const sent = [...visible, ...(hidden.length > 0 ? [HIDDEN_ITEM] : [])];
        expect(links.kept({ objects: sent }, { objects }, SOURCE).objects).toEqual([...visible, ...hidden]);
        expect(links.kept({ objects: visible }, { objects }, SOURCE).objects ?? []).toEqual(visible);
        expect(links.kept({ lender: 'f', title: 'x' }, { lender: 'a' }, SOURCE)).toEqual({ lender: 'f', title: 'x' });
      }),
    ));
});

// @vitest-environment jsdom
import { screen, waitFor } from '@testing-library/react';
import { useLocation } from 'react-router';
import { describe, expect, it } from 'vitest';
import type { Found, TypedRule } from '../../contract/wire/index.ts';
import { draw, ruleOf } from '../testing/drawing.tsx';
import { serve } from '../testing/serving.ts';
import { FindBox } from './find.tsx';

const NOTHING: Found = { items: [], saying: [], rules: [], sources: [] };
const READ: TypedRule = { document: ruleOf(), marks: [], names: [], offered: [] };
const Where = () => {
  const { pathname, search } = useLocation();
  return <output>{pathname + search}</output>;
};

/** The box, and where it leads. */
function openBox(found: Partial<Found>, read: (text: string) => Partial<TypedRule> = () => ({})) {
  const asked = serve({
    'find.text': () => ({ ...NOTHING, ...found }),
    'rules.typed': ({ body }) => ({ ...READ, ...read((body as { text: string }).text) }),
  });
  const { user } = draw(
    <>
      <FindBox />
      <Where />
    </>,
  );
  return { asked, user, box: screen.getByRole<HTMLInputElement>('combobox', { name: 'Find anything' }) };
}
const hits = () => screen.getAllByRole('option').map(({ textContent }) => textContent);
const where = () => screen.getByRole('status').textContent;

describe('the box that finds', () => {
  it('finds what is called so before what says it, people and pages too, and goes to the first by Enter', async () => {
    const { user, box } = openBox({
      items: [{ id: 'i1', title: 'Reed Gate', source: 'loans' }],
      saying: [{ id: 'i2', title: 'Tidal Loom', source: 'loans' }],
      rules: [{ id: 'r1', name: 'A reed is moved' }],
    });
    await user.type(box, 'ree');
    await waitFor(() => expect(hits()).toHaveLength(3));
    expect(hits()).toEqual([
      'Reed GateLoan agreements',
      'A reed is movedrule',
      expect.stringMatching(/^Tidal Loom.*says/),
    ]);
    await user.keyboard('{Enter}');
    await waitFor(() => expect(where()).toBe('/items/i1'));
    expect(box.value).toBe('');
  });

  it('goes on with a sentence word by word by Tab, and makes it a rule by Enter', async () => {
    const { user, box } = openBox({}, (text) =>
      /changes\s*$/.test(text)
        ? {}
        : {
            marks: [{ from: text.length, to: text.length, code: 'goesOn', could: [] }],
            offered: [{ text: 'Mei Tanaka when a loan changes', from: 5, kind: 'person', of: null }],
          },
    );
    await user.type(box, 'tell M');
    await waitFor(() => expect(hits()[0]).toContain('Mei Tanaka'));
    // What is not whole can be made a rule, too: its page says what is missing.
    expect(hits().at(-1)).toBe('tell Mmake it a rule');
    await user.keyboard('{Tab}');
    await waitFor(() => expect(box.value).toBe('tell Mei Tanaka when a loan changes '));
    expect(document.activeElement).toBe(box);
    await waitFor(() => expect(hits()[0]).toContain('make it a rule'));
    await user.keyboard('{Enter}');
    await waitFor(() =>
      expect(where()).toBe(`/rules/new?say=${encodeURIComponent('tell Mei Tanaka when a loan changes ')}`),
    );
  });

  it('takes no word for a sentence that only begins alike, and nothing away by Escape but what was typed', async () => {
    const { user, box, asked } = openBox({ items: [{ id: 'i3', title: 'Telling Bone', source: 'loans' }] });
    await user.type(box, 'telling');
    await waitFor(() => expect(hits()).toEqual(['Telling BoneLoan agreements']));
    expect(asked.some(({ route }) => route === 'rules.typed')).toBe(false);
    await user.keyboard('{Escape}');
    expect([box.value, where()]).toEqual(['', '/']);
  });
});

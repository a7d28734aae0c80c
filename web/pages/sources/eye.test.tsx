// @vitest-environment jsdom
import { screen, waitFor, within } from '@testing-library/react';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { checkRule, type Rule } from '../../../core/rules/index.ts';
import type { Source } from '../../../core/values/index.ts';
import { type Viewer, worldFrom } from '../../parts/index.ts';
import { DIRECTORY, draw, LOANS, ME, part as chip, rowOf, ruleOf } from '../../testing/drawing.tsx';
import { serve } from '../../testing/serving.ts';
import { EyeEditor } from './eye.tsx';
import { BY_WHOM, type EyeChoice, type EyeTarget, eyeRule, kindsFor, SOONS, turnsOf, WAYS } from './eye-choices.ts';
import { eyeWords } from './eye-words.ts';

const LENDERS: Source = {
  id: 'lenders',
  kind: 'records',
  name: 'Lenders',
  titleField: 'name',
  fields: [{ id: 'name', name: 'Name', type: 'text' }],
};
const LINKED: Source = {
  ...LOANS,
  fields: [...LOANS.fields, { id: 'lender', name: 'Lender', type: 'link', to: 'lenders' }],
};
const PAPERS: Source = { ...LINKED, kind: 'folders' };
const sources = [LINKED, LENDERS].map((source) => ({ ...source, about: '' }));
const directory = { ...DIRECTORY, sources };
const viewer: Viewer = {
  me: ME,
  directory,
  person: (id) => DIRECTORY.people.find((one) => one.id === id)?.name ?? id,
  sources: new Map(sources.map((one) => [one.id, one])),
  source: (id) => sources.find((one) => one.id === id),
  group: () => undefined,
  folder: () => undefined,
  names: () => ({ person: (id) => id, item: (id) => id }),
};
const ITEM = { id: 'i1', title: 'Reed Gate', fields: { due: '2026-05-01' } };
const target: fc.Arbitrary<EyeTarget> = fc.constantFrom<EyeTarget>(
  { source: LINKED, item: ITEM },
  { source: PAPERS, under: { id: 'f', name: 'Contracts' } },
  { source: LINKED },
);
const choiceFor = (of: EyeTarget): fc.Arbitrary<EyeChoice> =>
  fc.record({
    whose: fc.constantFrom('ines', 'mei'),
    what: fc.oneof(
      fc.constant<EyeChoice['what']>({ what: 'anything' }),
      fc.constantFrom<EyeChoice['what']>(of.item ? { what: 'linked' } : { what: 'anything' }),
      fc.constantFrom(...kindsFor(of)).map((kind): EyeChoice['what'] => ({ what: 'done', kind })),
      fc.constantFrom(...of.source.fields.flatMap(turnsOf)),
    ),
    by: fc.constantFrom(...BY_WHOM),
    soon: fc.constantFrom(...SOONS),
    quiet: fc.constantFrom('PT6M', 'PT10M'),
    way: fc.constantFrom(...WAYS),
    until: fc.constantFrom(null, '2026-04-01', '2026-05-01'),
  });

describe('the sentence of an eye', () => {
  it('says what its rule does: of two rules that differ the sentences differ, and each is sound', () => {
    const known = new Map<string, string>();
    const doing = ({ name: _, ...rule }: Rule) => JSON.stringify(rule);
    fc.assert(
      fc.property(
        target.chain((of) => fc.tuple(fc.constant(of), choiceFor(of))),
        ([of, choice]) => {
          const rule = eyeRule(of, choice, viewer);
          const world = {
            ...worldFrom(directory),
            folders: new Map([['f', { id: 'f', source: 'loans', name: '', parent: null }]]),
          };
          if (of.source.kind !== 'folders') expect(checkRule(rule, world)).toEqual([]);
          const sentence = `${rule.owner} ${rule.name} ${Object.values(eyeWords(rule, viewer)).join(' | ')}`;
          expect(known.get(sentence) ?? doing(rule)).toBe(doing(rule));
          known.set(sentence, doing(rule));
        },
      ),
      { numRuns: 3000 },
    );
    expect(new Set(known.values()).size).toBe(known.size);
    expect(known.size).toBeGreaterThan(500);
  });

  it('names what is linked as what it is: anything that happens there', () => {
    const choice: EyeChoice = {
      whose: 'ines',
      what: { what: 'linked' },
      by: 'others',
      soon: 'now',
      quiet: 'PT10M',
      way: 'plan',
      until: null,
    };
    const rule = eyeRule({ source: LINKED, item: ITEM }, choice, viewer);
    expect(rule).toMatchObject({ scope: { sources: ['loans', 'lenders'], linked: true }, when: { if: { all: [] } } });
    expect(eyeWords(rule, viewer).what).toBe('anything that happens to it, or to what is linked with it in Lenders');
  });
});

describe('an eye', () => {
  function open(of: EyeTarget, more: Parameters<typeof serve>[0] = {}) {
    const asked = serve({
      'rules.cost': () => ({ days: 30, steps: [], messages: 7, withheld: 0, all: [], caught: [], people: [] }),
      'eyes.keep': ({ body }) => rowOf({ live: ruleOf({ name: (body as { document: Rule }).document.name }) }),
      'sources.readers': () => ['ines', 'mei'],
      'sources.rhythm': () => null,
      ...more,
    });
    const { user } = draw(<EyeEditor target={of} />, { directory });
    const part = async (label: string) => {
      await user.click(screen.getByRole('button', { name: chip(label) }));
      return within(await screen.findByRole('dialog', { name: label }));
    };
    const kept = () => asked.filter(({ route }) => route === 'eyes.keep').map(({ body }) => body);
    return { user, part, kept };
  }

  it('offers every field with its options and a date that comes near, and is kept by one press', async () => {
    const { user, part, kept } = open({ source: LINKED, item: ITEM });
    const what = await part('What of');
    await user.selectOptions(what.getByLabelText('What of it'), 'Status');
    await user.selectOptions(what.getByLabelText('What becomes of it'), 'becomes Returned');
    await user.selectOptions(what.getByLabelText('What of it'), 'Due back');
    await user.selectOptions(what.getByLabelText('What becomes of it'), 'comes near');
    await user.clear(what.getByLabelText('Days before'));
    await user.type(what.getByLabelText('Days before'), '3');
    await user.click(what.getByRole('button', { name: 'Done' }));
    expect(screen.getByText(/that it is 3 days before Due back/)).toBeDefined();
    expect(screen.queryByRole('button', { name: chip('Done by whom') })).toBeNull();
    await user.click(screen.getByRole('button', { name: 'Keep an eye on Reed Gate' }));
    await waitFor(() => expect(kept()).toHaveLength(1));
    expect(kept()[0]).toMatchObject({
      person: 'ines',
      document: { due: { field: 'due', offset: '-P3D' }, when: null, pace: { kind: 'now' }, scope: { items: ['i1'] } },
    });
  });

  it('says before it is kept that somebody may not read it, and who could open it', async () => {
    const { user, part } = open({ source: LINKED, item: ITEM });
    await user.selectOptions((await part('Who hears')).getByRole('combobox'), 'Wren Adeyemi');
    expect(await screen.findByText(/Wren Adeyemi may not read it.*Inés Calder can open it/)).toBeDefined();
    await user.selectOptions(screen.getByRole('combobox'), 'Mei Tanaka');
    await waitFor(() => expect(screen.queryByText(/may not read it/)).toBeNull());
  });

  it('waits as long as edits of it have taken, where its past says so', async () => {
    const rhythm = () => ({ within: 4, quiet: 6 });
    const { user, part, kept } = open({ source: LINKED, item: ITEM }, { 'sources.rhythm': rhythm });
    const soon = await part('How soon');
    expect(await soon.findByText(/mostly come within 4 minutes of each other/)).toBeDefined();
    await user.click(soon.getByRole('button', { name: 'Wait for 6 minutes' }));
    expect(screen.getByRole('button', { name: chip('How soon') }).textContent).toContain('for 6 minutes');
    expect(soon.getByText(/as it is/)).toBeDefined();
    await user.click(soon.getByRole('button', { name: 'Done' }));
    await user.click(screen.getByRole('button', { name: 'Keep an eye on Reed Gate' }));
    await waitFor(() => expect(kept()[0]).toMatchObject({ document: { pace: { kind: 'settled', quiet: 'PT6M' } } }));
  });

  it('is kept for a day that is yet to come, or until it is stopped', async () => {
    const { user, part } = open({ source: LINKED, item: ITEM });
    const until = await part('Until when');
    await user.click(until.getByLabelText(/Due back, 1 May 2026/));
    expect(screen.getByRole('button', { name: chip('Until when') }).textContent).toBe('Until when: until 1 May 2026');
    const day = until.getByRole('textbox');
    await user.clear(day);
    await user.type(day, '1/1/2020');
    await user.click(until.getByRole('button', { name: 'Done' }));
    expect(until.getByText(/04\/03\/2026 or later/)).toBeDefined();
  });
});

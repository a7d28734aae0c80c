import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { World } from '../people/index.ts';
import { instantOf } from '../time/index.ts';
import { asChange, type Change, type Source } from '../values/index.ts';
import { type Content, type Form, htmlMail, makeContent, type Telling, wordsOf } from './index.ts';
import { LETTER, READER, LOANS, WORLD, RULE, change, telling, content, single, ONE } from '../testing/letters.ts';

describe('what is told later than it happened', () => {
  const standing = (fields: Record<string, string> | null): World => ({
    ...WORLD,
    item: () =>
      fields
        ? {
            ...asChange(
              { id: 'L-12', source: 'loans', folder: null, fields, createdBy: null, lastBy: null, lastAt: null },
              0,
            ),
            id: 'L-12',
            fields,
            createdBy: null,
            lastBy: null,
            lastAt: null,
          }
        : undefined,
    lastState: () => ({
      id: 'L-12',
      source: 'loans',
      folder: null,
      fields: {},
      createdBy: null,
      lastBy: null,
      lastAt: null,
    }),
  });
  const said = (form: Form, fields: Record<string, string> | null) => {
    const made = makeContent(form, [[telling(RULE, ONE)]], ONE.at, READER, standing(fields)) as Content;
    return [wordsOf(made, 'email', LETTER), htmlMail(made, LETTER)].map(
      (text) => /Now [^<\n]*/.exec(text)?.[0] ?? null,
    );
  };
  it('says how the item stands now, where it changed again since', () => {
    expect(said('digest', { status: 'Agreed', place: 'Gallery 3' })).toEqual([
      'Now Status Agreed',
      'Now Status Agreed',
    ]);
    expect(said('summary', { place: 'Gallery 3' })).toEqual(['Now Status empty', 'Now Status empty']);
    expect(said('digest', null)).toEqual(['Now was deleted', 'Now was deleted']);
  });
  it('says nothing more where it stands as it was told, or where it is told at once', () => {
    expect(said('digest', { status: 'On view', place: 'Gallery 3' })).toEqual([null, null]);
    expect(said('single', { status: 'Agreed', place: 'Gallery 3' })).toEqual([null, null]);
  });
});

describe('a digest', () => {
  it('gives the net change, each step, and says what came back to where it was', () => {
    const away = change('c1', '2026-03-03T09:12:00Z', { place: 'Dock 2' }, { place: 'Corridor C' });
    const back = change('c2', '2026-03-03T10:31:00Z', { place: 'Corridor C' }, { place: 'Dock 2' }, 'mei');
    const made = content('digest', instantOf('2026-03-04T07:30:00Z'), [telling(RULE, away, back)]);
    expect(made).toMatchObject({
      headline: 'Tidal Loom is back where it was',
      lead: '2 changes on 1 item.',
      entries: [{ isBack: true, fields: [], steps: [{ actor: 'Wren Adeyemi' }, { actor: 'Mei Tanaka' }] }],
    });
    expect(wordsOf(made, 'email', LETTER)).toContain('Tue 11:31  Mei Tanaka: Place: Corridor C → Dock 2');
  });

  it('stands the urgent first, and every change in it once', () => {
    fc.assert(
      fc.property(
        fc.array(fc.constantFrom('routine', 'important', 'critical'), { minLength: 1, maxLength: 8 }),
        (urgencies) => {
          const items = urgencies.map((urgency, at) => [
            { ...telling({ ...RULE, urgency: urgency as 'routine' }, { ...ONE, id: `c${at}` }), item: `L-${at}` },
          ]);
          const made = content('digest', 0, ...items);
          const ranks = made.entries.map((one) => ['critical', 'important', 'routine'].indexOf(one.urgency));
          expect(ranks).toEqual([...ranks].sort());
          expect(made.entries.flatMap((one) => one.steps.map((step) => step.change)).sort()).toEqual(
            urgencies.map((_, at) => `c${at}`).sort(),
          );
          expect(made.lead).toBe(
            `${urgencies.length} change${urgencies.length === 1 ? '' : 's'} on ${urgencies.length} item${urgencies.length === 1 ? '' : 's'}.`,
          );
        },
      ),
      { seed: 6, numRuns: 40 },
    );
  });
});

describe('a digest of a generated week', () => {
  const TITLES = ['title', 'place', 'status'] as const;
  const CRATES: Source = { ...LOANS, id: 'crates', kind: 'list', name: 'Crate list' };
  const world: World = {
    ...WORLD,
    sources: new Map([
      ['loans', LOANS],
      ['crates', CRATES],
    ]),
  };
  const step = fc.record({
    item: fc.integer({ min: 0, max: 34 }),
    minute: fc.integer({ min: 0, max: 7 * 24 * 60 }),
    field: fc.constantFrom(...TITLES),
    value: fc.constantFrom('Agreed', 'On view', 'Dock 2', 'Gallery <3>'),
    actor: fc.constantFrom('wren', 'mei'),
  });
  const monday = instantOf('2026-03-02T00:00:00Z');

  it('loses nothing: each change stands once, each item is shown or counted, in both languages and both formats', () => {
    fc.assert(
      fc.property(
        fc.array(step, { minLength: 1, maxLength: 90 }),
        fc.constantFrom('en-GB', 'es'),
        fc.constantFrom('digest', 'summary'),
        (steps, locale, form) => {
          const states = new Map<number, Record<string, string>>();
          const items = new Map<number, Telling[]>();
          for (const [at, { item, minute, field, value, actor }] of [...steps]
            .sort((a, b) => a.minute - b.minute)
            .entries()) {
            const before = states.get(item) ?? { title: `Piece ${item}.`, place: 'Store', status: 'Agreed' };
            const after = { ...before, [field]: value };
            states.set(item, after);
            const source = item % 3 === 0 ? 'crates' : 'loans';
            const made: Change = {
              ...change(`c${at}`, '2026-03-02T00:00:00Z', before, after, actor),
              at: monday + minute * 60_000,
              source,
              item: `I-${item}`,
            };
            items.set(item, [
              ...(items.get(item) ?? []),
              {
                ...telling({ ...RULE, urgency: item % 5 === 0 ? 'critical' : 'routine' }, made),
                source,
                item: `I-${item}`,
              },
            ]);
          }
          const made = makeContent(form as Form, [...items.values()], monday, { ...READER, locale }, world);
          if (!made) throw new Error('nothing is told');
          expect(made.entries.flatMap((one) => one.steps.map((own) => own.change)).sort()).toEqual(
            steps.map((_, at) => `c${at}`).sort(),
          );
          expect(made.entries.map((one) => one.item.id).sort()).toEqual(
            [...items.keys()].map((item) => `I-${item}`).sort(),
          );
          const ranks = made.entries.map((one) => (one.urgency === 'critical' ? 0 : 1));
          expect(ranks).toEqual([...ranks].sort());
          const hidden = made.entries.length - 20;
          for (const [text, said, isPlain] of [
            [wordsOf(made, 'email', LETTER), (words: string) => words, true],
            [htmlMail(made, LETTER), (words: string) => words.replaceAll('<', '&lt;').replaceAll('>', '&gt;'), false],
          ] as const) {
            for (const entry of made.entries.slice(0, 20)) {
              expect(text).toContain(`https://ojo.example/items/${entry.item.id}`);
              for (const field of entry.fields) expect(text).toContain(said(field.after));
              for (const own of entry.steps.slice(-6))
                expect(text).toContain(
                  entry.steps.length === 1 && (isPlain || made.entries.length === 1) ? own.when : own.hour,
                );
            }
            const [one, many] = locale === 'es' ? ['elemento más', 'elementos más'] : ['more item', 'more items'];
            expect(text.includes(`${hidden} ${hidden === 1 ? one : many}`)).toBe(hidden > 0);
          }
        },
      ),
      { seed: 9, numRuns: 60 },
    );
  });

  it('says what happened to an item, whoever opened it since', () => {
    const look: Change = { ...ONE, id: 'look', at: ONE.at + 1, kind: 'opened', before: ONE.after };
    expect(content('digest', 0, [telling(RULE, ONE, look)])).toMatchObject({
      headline: single(ONE).headline,
      lead: '1 change and 1 look at 1 item.',
    });
  });

  it('leads with what matters: how many became what, and what came back', () => {
    const onView = [1, 2, 3].map((at) => [
      { ...telling(RULE, { ...ONE, id: `c${at}`, item: `L-${at}` }), item: `L-${at}` },
    ]);
    const back = [
      {
        ...telling(
          RULE,
          change('b1', '2026-03-03T09:12:00Z', { status: 'On view' }, { status: 'Agreed' }),
          change('b2', '2026-03-03T10:00:00Z', { status: 'Agreed' }, { status: 'On view' }),
        ),
        item: 'L-9',
      },
    ];
    expect(content('digest', 0, ...onView, back).headline).toBe('Loan agreements: 3 now On view, 1 back where it was');
    const moved = [4, 5].map((at) => [
      {
        ...telling(RULE, change(`m${at}`, '2026-03-03T09:12:00Z', { place: 'Dock 2' }, { place: `Dock ${at}` })),
        item: `L-${at}`,
      },
    ]);
    expect(content('digest', 0, ...moved, ...onView).headline).toBe(
      'Loan agreements: 3 now On view, 2 changed in Place',
    );
    const opened = [6, 7].map((at) => [
      { ...telling(RULE, { ...change(`o${at}`, '2026-03-03T09:12:00Z', {}, {}), kind: 'opened' }), item: `L-${at}` },
    ]);
    expect(content('digest', 0, ...opened)).toMatchObject({
      headline: 'Loan agreements: 2 opened',
      lead: '2 looks at 2 items.',
    });
    expect(content('digest', 0, ...onView, ...opened)).toMatchObject({
      headline: 'Loan agreements: 3 now On view, 2 opened',
      lead: '3 changes and 2 looks at 5 items.',
    });
    expect(makeContent('digest', [...onView, back], 0, { ...READER, locale: 'es' }, WORLD)).toMatchObject({
      headline: 'Loan agreements: 3 ahora On view, 1 como antes',
      lead: '5 cambios en 4 elementos. Tidal Loom vuelve a estar como antes.',
    });
  });
});

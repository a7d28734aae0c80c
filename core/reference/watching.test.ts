import fc from 'fast-check';
import { describe, expect, inject, it } from 'vitest';
import { change, rule as anyRule, SOURCE } from './generate.ts';
import { sameValue, type Source } from '../values/index.ts';
import { compileRule, isCaught, type Occurrence, occurrencesOf, openRule, type Rule, watches } from '../rules/index.ts';

const LOANS: Source = {
  id: 'loans',
  kind: 'records',
  name: 'Loans',
  titleField: 'title',
  fields: [
    { id: 'title', name: 'Title', type: 'text' },
    { id: 'status', name: 'Status', type: 'choice', options: ['Agreed', 'On view'] },
    { id: 'due', name: 'Due', type: 'date' },
    { id: 'value', name: 'Value', type: 'money' },
  ],
};
const rule = (part: Partial<Rule>): Rule => ({ ...openRule('r', 'R', 'ines', ['loans']), ...part });
const when = (condition: object, kinds: string[] = []) =>
  ({ when: { kinds, if: condition, burst: null } }) as Partial<Rule>;
const onView = { became: { field: 'status', op: 'is', value: 'On view' } };

describe('what a rule waits for', () => {
  it.each<[string, Partial<Rule>, Occurrence, string]>([
    ['anything', {}, { what: 'kind', kind: 'commented' }, 'always'],
    ['anything', {}, { what: 'field', field: 'value' }, 'always'],
    ['its own kinds alone', when({ all: [] }, ['created']), { what: 'field', field: 'value' }, 'never'],
    ['an option', when(onView), { what: 'option', field: 'status', option: 'On view' }, 'always'],
    ['an option', when(onView), { what: 'option', field: 'status', option: 'Agreed' }, 'never'],
    ['an option', when(onView), { what: 'field', field: 'status' }, 'sometimes'],
    ['an option', when(onView), { what: 'field', field: 'value' }, 'never'],
    ['an item that comes so', when(onView), { what: 'kind', kind: 'created' }, 'sometimes'],
    ['an item that goes', when(onView), { what: 'kind', kind: 'deleted' }, 'never'],
    ['one of two', when({ any: [onView, { changed: 'value' }] }), { what: 'field', field: 'value' }, 'always'],
    ['both of two', when({ all: [onView, { changed: 'value' }] }), { what: 'field', field: 'value' }, 'sometimes'],
    ['none of two', when({ all: [onView, { changed: 'value' }] }), { what: 'field', field: 'due' }, 'never'],
    [
      'a state beside it',
      when({ all: [onView, { field: 'value', op: 'filled' }] }),
      { what: 'field', field: 'value' },
      'never',
    ],
    ['a rise', when({ rose: { field: 'value' } }), { what: 'field', field: 'value' }, 'sometimes'],
    [
      'somewhere only',
      {
        ...when({ changed: '*' }),
        scope: { sources: ['loans'], under: [], items: ['L-1'], linked: false, where: { all: [] } },
      },
      { what: 'field', field: 'value' },
      'sometimes',
    ],
    [
      'a date',
      { when: null, due: { field: 'due', offset: '-P14D', at: null, if: { all: [] }, repeat: null, late: 'now' } },
      { what: 'date', field: 'due' },
      'always',
    ],
    [
      'a date',
      { when: null, due: { field: 'due', offset: '-P14D', at: null, if: { all: [] }, repeat: null, late: 'now' } },
      { what: 'standstill' },
      'never',
    ],
  ])('%s', (_name, part, occurrence, expected) => expect(watches(rule(part), LOANS, occurrence)).toBe(expected));

  it('is never said to be nothing where the rule does catch such a change', () => {
    fc.assert(
      fc.property(anyRule, change, (one, happened) => {
        const compiled = compileRule(one, new Map([[SOURCE.id, SOURCE]]));
        const world = {
          people: new Map(),
          groups: new Map(),
          sources: new Map([[SOURCE.id, SOURCE]]),
          folders: new Map(),
          access: [],
          item: () => undefined,
        };
        fc.pre(['created', 'changed', 'deleted'].includes(happened.kind) && isCaught(compiled, happened, world));
        const differing = SOURCE.fields.filter(
          (field) => !sameValue(field.type, happened.before?.[field.id], happened.after?.[field.id]),
        );
        const occurrences: Occurrence[] =
          happened.kind !== 'changed'
            ? [{ what: 'kind', kind: happened.kind }]
            : differing.map((field) => ({ what: 'field', field: field.id }));
        fc.pre(occurrences.length > 0);
        expect(occurrences.some((occurrence) => watches(one, SOURCE, occurrence) !== 'never')).toBe(true);
      }),
      { numRuns: 500 * inject('twins'), seed: 3 },
    );
  });

  it('can be asked of everything that can happen', () => {
    const asked = occurrencesOf(LOANS);
    expect(asked).toContainEqual({ what: 'option', field: 'status', option: 'On view' });
    expect(asked.filter((one) => one.what === 'date')).toHaveLength(1);
    expect(asked.at(-1)).toEqual({ what: 'standstill' });
  });
});

import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { World } from '../people/index.ts';
import { instantOf } from '../time/index.ts';
import { asChange, type Change, type Fields, type Source } from '../values/index.ts';
import { checkRule, type Condition, compileRule, isCaught, openRule, operatorsOf, type Rule } from './index.ts';

const LOANS: Source = {
  id: 'loans',
  kind: 'records',
  name: 'Loans',
  titleField: 'ref',
  fields: [
    { id: 'ref', name: 'Reference', type: 'text' },
    { id: 'status', name: 'Status', type: 'choice', options: ['Agreed', 'On view'] },
    { id: 'insured', name: 'Insured', type: 'money' },
    { id: 'humidity', name: 'Humidity', type: 'number' },
    { id: 'due', name: 'Due', type: 'date' },
    { id: 'opens', name: 'Opens', type: 'dateTime' },
    { id: 'tags', name: 'Tags', type: 'choices', options: ['glass', 'wool'] },
    { id: 'fragile', name: 'Fragile', type: 'boolean' },
  ],
};
const WORLD: World = {
  people: new Map(),
  groups: new Map(),
  sources: new Map([['loans', LOANS]]),
  folders: new Map(),
  access: [],
  item: () => undefined,
};
const AT = instantOf('2026-03-04T12:00:00Z');

const ruleOf = (condition: unknown, more: Partial<Rule> = {}): Rule => ({
  ...openRule('r', 'R', 'ines', ['loans']),
  when: { kinds: [], if: condition as Condition, burst: null },
  to: [{ person: 'ines' }],
  zone: 'Europe/Madrid',
  ...more,
});
const changeOf = (before: Fields | null, after: Fields | null, kind: Change['kind'] = 'changed'): Change => ({
  ...asChange(
    { id: 'L-1', source: 'loans', folder: null, fields: {}, createdBy: null, lastBy: null, lastAt: null },
    AT,
  ),
  id: 'c',
  actor: 'wren',
  kind,
  before,
  after,
});
const holds = (condition: unknown, before: Fields | null, after: Fields | null, kind: Change['kind'] = 'changed') =>
  isCaught(compileRule(ruleOf(condition), WORLD.sources), changeOf(before, after, kind), WORLD);

const onView = { field: 'status', op: 'is', value: 'On view' };

describe('conditions', () => {
  it.each<[string, unknown, Fields | null, Fields | null, boolean]>([
    ['an item created already so does become so', { became: onView }, null, { status: 'On view' }, true],
    ['a deleted one ceases to be what it was', { ceased: onView }, { status: 'On view' }, null, true],
    [
      'of what does not exist no state holds, not even none',
      { was: { none: [onView] } },
      null,
      { status: 'Agreed' },
      false,
    ],
    ['was looks before', { was: onView }, { status: 'On view' }, { status: 'Agreed' }, true],
    ['an empty all holds', { all: [] }, {}, {}, true],
    ['an empty any does not', { any: [] }, {}, {}, false],
    ['an empty none holds', { none: [] }, {}, {}, true],
    ['a bare state looks after', onView, { status: 'Agreed' }, { status: 'On view' }, true],
    ['a bare state of a deleted item looks before', onView, { status: 'On view' }, null, true],
    ['isNot holds of what is empty', { field: 'status', op: 'isNot', value: 'On view' }, {}, {}, true],
    ['is does not', onView, {}, {}, false],
    ['any field', { changed: '*' }, { ref: 'a' }, { ref: 'b' }, true],
    ['changed sees case', { changed: 'ref' }, { ref: 'a' }, { ref: 'A' }, true],
    ['is does not see case', { field: 'ref', op: 'is', value: 'tidal loom' }, {}, { ref: 'Tidal LOOM' }, true],
    [
      'is sees case where told',
      { field: 'ref', op: 'is', value: 'tidal loom', matchCase: true },
      {},
      { ref: 'Tidal LOOM' },
      false,
    ],
    [
      'a rise from zero is any share',
      { rose: { field: 'humidity', percent: 900 } },
      { humidity: 0 },
      { humidity: 1 },
      true,
    ],
    [
      'a rise counts from exactly so much on',
      { rose: { field: 'humidity', by: '0.1' } },
      { humidity: 0.2 },
      { humidity: 0.3 },
      true,
    ],
    [
      'a fall of a negative is measured by its absolute',
      { fell: { field: 'humidity', percent: 50 } },
      { humidity: -10 },
      { humidity: -15 },
      true,
    ],
    ['a rise needs both sides', { rose: { field: 'humidity' } }, {}, { humidity: 3 }, false],
    [
      'a date rises by a duration',
      { rose: { field: 'due', by: 'P7D' } },
      { due: '2026-03-01' },
      { due: '2026-03-08' },
      true,
    ],
    ['and not by less', { rose: { field: 'due', by: 'P7D' } }, { due: '2026-03-01' }, { due: '2026-03-07' }, false],
    [
      'a set gains',
      { gained: { field: 'tags', any: ['glass'] } },
      { tags: ['wool'] },
      { tags: ['wool', 'glass'] },
      true,
    ],
    ['a deleted one loses what it had', { lost: { field: 'tags' } }, { tags: ['wool'] }, null, true],
    [
      'money in another currency is never above',
      { field: 'insured', op: 'above', value: { amount: '1', currency: 'EUR' } },
      {},
      { insured: { amount: '5', currency: 'GBP' } },
      false,
    ],
    [
      'within the next three days counts the third',
      { field: 'due', op: 'withinNext', value: 'P3D' },
      {},
      { due: '2026-03-07' },
      true,
    ],
    ['and not the fourth', { field: 'due', op: 'withinNext', value: 'P3D' }, {}, { due: '2026-03-08' }, false],
    [
      'a date beside an instant is its midnight in the rule’s zone',
      { field: 'opens', op: 'before', value: '2026-03-05' },
      {},
      { opens: '2026-03-04T22:59:00Z' },
      true,
    ],
    [
      'and not later',
      { field: 'opens', op: 'before', value: '2026-03-05' },
      {},
      { opens: '2026-03-04T23:00:00Z' },
      false,
    ],
    [
      'all wants every part',
      { all: [onView, { field: 'ref', op: 'is', value: 'a' }, { changed: 'status' }] },
      { status: 'Agreed' },
      { status: 'On view', ref: 'b' },
      false,
    ],
    [
      'and holds with them',
      { all: [onView, { field: 'ref', op: 'is', value: 'a' }, { changed: 'status' }] },
      { status: 'Agreed' },
      { status: 'On view', ref: 'a' },
      true,
    ],
    [
      'any wants one of several',
      { any: [{ field: 'ref', op: 'is', value: 'a' }, { changed: 'tags' }, onView] },
      {},
      { status: 'On view' },
      true,
    ],
    [
      'and fails without',
      { any: [{ field: 'ref', op: 'is', value: 'a' }, { changed: 'tags' }] },
      {},
      { status: 'On view' },
      false,
    ],
    [
      'none fails with the last of several',
      { none: [{ changed: 'tags' }, { changed: 'status' }] },
      {},
      { status: 'On view' },
      false,
    ],
    [
      'none holds where none does',
      { none: [{ changed: 'tags' }, { changed: 'ref' }] },
      {},
      { status: 'On view' },
      true,
    ],
    [
      'an inner any of states',
      { was: { any: [{ field: 'ref', op: 'is', value: 'a' }, onView] } },
      { status: 'On view' },
      {},
      true,
    ],
    [
      'an inner all of states',
      { was: { all: [{ field: 'ref', op: 'is', value: 'a' }, onView] } },
      { status: 'On view' },
      {},
      false,
    ],
    [
      'one field alone is watched',
      { changed: 'status' },
      { ref: 'a', status: 'Agreed' },
      { ref: 'b', status: 'Agreed' },
      false,
    ],
    ['a created one changes what it fills', { changed: 'status' }, null, { status: 'Agreed' }, true],
    ['a deleted one changes what it had', { changed: 'status' }, { status: 'Agreed' }, null, true],
    ['and nothing that was empty', { changed: 'ref' }, { status: 'Agreed' }, null, false],
    ['what is created rises from nothing', { rose: { field: 'humidity' } }, null, { humidity: 3 }, false],
    ['what is deleted falls to nothing', { fell: { field: 'humidity' } }, { humidity: 3 }, null, false],
    ['to stay is not to rise', { rose: { field: 'humidity' } }, { humidity: 3 }, { humidity: 3 }, false],
    ['to fall is not to rise', { rose: { field: 'humidity' } }, { humidity: 3 }, { humidity: 2 }, false],
    [
      'money rises within its currency',
      { rose: { field: 'insured', by: 5 } },
      { insured: { amount: '10', currency: 'EUR' } },
      { insured: { amount: '15', currency: 'EUR' } },
      true,
    ],
    [
      'and not across currencies',
      { rose: { field: 'insured' } },
      { insured: { amount: '10', currency: 'EUR' } },
      { insured: { amount: '15', currency: 'GBP' } },
      false,
    ],
    [
      'both a step and a share are asked',
      { rose: { field: 'humidity', by: 5, percent: 50 } },
      { humidity: 20 },
      { humidity: 26 },
      false,
    ],
    [
      'a share is reached exactly',
      { rose: { field: 'humidity', percent: 50 } },
      { humidity: 20 },
      { humidity: 30 },
      true,
    ],
    ['a date falls', { fell: { field: 'due' } }, { due: '2026-03-08' }, { due: '2026-03-01' }, true],
    [
      'by at least a duration',
      { fell: { field: 'due', by: 'P7D' } },
      { due: '2026-03-08' },
      { due: '2026-03-01' },
      true,
    ],
    [
      'and not by less than it',
      { fell: { field: 'due', by: 'P7D' } },
      { due: '2026-03-08' },
      { due: '2026-03-02' },
      false,
    ],
    [
      'a date that stays does not fall',
      { fell: { field: 'due' } },
      { due: '2026-03-08' },
      { due: '2026-03-08' },
      false,
    ],
    [
      'a moment rises by hours',
      { rose: { field: 'opens', by: 'PT2H' } },
      { opens: '2026-03-04T10:00:00Z' },
      { opens: '2026-03-04T13:00:00+01:00' },
      true,
    ],
    [
      'and not by less',
      { rose: { field: 'opens', by: 'PT2H' } },
      { opens: '2026-03-04T10:00:00Z' },
      { opens: '2026-03-04T11:59:00Z' },
      false,
    ],
    [
      'a moment falls by days of the calendar',
      { fell: { field: 'opens', by: 'P1D' } },
      { opens: '2026-03-04T10:00:00Z' },
      { opens: '2026-03-03T10:00:00Z' },
      true,
    ],
    [
      'and does not where it stays',
      { fell: { field: 'opens' } },
      { opens: '2026-03-04T10:00:00Z' },
      { opens: '2026-03-04T11:00:00+01:00' },
      false,
    ],
    [
      'a moment at all later rises',
      { rose: { field: 'opens' } },
      { opens: '2026-03-04T10:00:00Z' },
      { opens: '2026-03-04T10:00:01Z' },
      true,
    ],
    ['to gain is not to lose', { lost: { field: 'tags' } }, { tags: ['wool'] }, { tags: ['wool', 'glass'] }, false],
    ['to lose is not to gain', { gained: { field: 'tags' } }, { tags: ['wool', 'glass'] }, { tags: ['wool'] }, false],
    [
      'what is lost is one of those asked',
      { lost: { field: 'tags', any: ['wool'] } },
      { tags: ['wool', 'glass'] },
      { tags: ['wool'] },
      false,
    ],
    ['a created one gains what it has', { gained: { field: 'tags', any: ['wool'] } }, null, { tags: ['wool'] }, true],
    [
      'a new order gains nothing',
      { gained: { field: 'tags' } },
      { tags: ['wool', 'glass'] },
      { tags: ['glass', 'wool'] },
      false,
    ],
    ['includesAll', { field: 'tags', op: 'includesAll', value: ['glass', 'wool'] }, {}, { tags: ['wool'] }, false],
  ])('%s', (_name, condition, before, after, held) => expect(holds(condition, before, after)).toBe(held));

  it('becomes is: holds now, and was not so before', () => {
    const state = fc.option(
      fc.record({
        status: fc.constantFrom('Agreed', 'On view', ''),
        humidity: fc.option(fc.integer({ min: 0, max: 4 })),
      }),
      { nil: null },
    );
    const test = fc.constantFrom<unknown>(
      onView,
      { field: 'humidity', op: 'above', value: 2 },
      { any: [onView, { field: 'humidity', op: 'empty' }] },
      { none: [onView] },
    );
    fc.assert(
      fc.property(test, state, state, (one, before, after) => {
        if (before === null && after === null) return;
        const is = after !== null && holds(one, after, after);
        const was = before !== null && holds(one, before, before);
        expect(holds({ became: one }, before, after)).toBe(is && !was);
        expect(holds({ ceased: one }, before, after)).toBe(was && !is);
        expect(holds({ was: one }, before, after)).toBe(was);
      }),
      { numRuns: 500, seed: 3 },
    );
  });
});

describe('checking a rule', () => {
  const codes = (condition: unknown, more: Partial<Rule> = {}) =>
    checkRule(ruleOf(condition, more), WORLD).map(({ path, code }) => `${path} ${code}`);

  it.each<[unknown, string[]]>([
    [{ field: 'colour', op: 'is', value: 'red' }, ['when.if.field unknownField']],
    [{ all: [{ became: { field: 'status', op: 'above', value: 'x' } }] }, ['when.if.all.0.became.op unknownOperator']],
    [{ field: 'status', op: 'is', value: 'Lost' }, ['when.if.value unknownOption']],
    [{ field: 'humidity', op: 'between', value: [1] }, ['when.if.value needsRange']],
    [{ field: 'status', op: 'oneOf', value: 'Agreed' }, ['when.if.value needsList']],
    [{ field: 'insured', op: 'above', value: '5' }, ['when.if.value needsMoney']],
    [{ field: 'due', op: 'before', value: '2026-03-04T00:00:00Z' }, ['when.if.value needsDate']],
    [{ rose: { field: 'status' } }, ['when.if.rose.field cannotRise']],
    [{ gained: { field: 'status' } }, ['when.if.gained.field needsSetField']],
    [{ any: [onView, { changed: ['status', 'insured'] }] }, []],
  ])('%j', (condition, wanted) => expect(codes(condition)).toEqual(wanted));

  it('names every fault at once, with what would be allowed', () => {
    const faults = checkRule(
      ruleOf(
        { field: 'status', op: 'is', value: 'Lost' },
        {
          scope: { sources: ['loans', 'gone'], under: ['f'], items: [], linked: false, where: { all: [] } },
          to: [{ field: 'status' }],
          zone: 'Madrid',
        },
      ),
      WORLD,
    );
    expect(faults.map((fault) => fault.code)).toEqual([
      'unknownSource',
      'unknownZone',
      'unknownOption',
      'underNeedsFolders',
      'unknownFolder',
      'notAPersonField',
    ]);
    expect(faults.find((fault) => fault.code === 'unknownOption')?.params.allowed).toEqual(['Agreed', 'On view']);
  });

  it('lets through whatever the operators of a type allow, and compiles it', () => {
    for (const field of LOANS.fields)
      for (const op of operatorsOf(field.type)) {
        const value = sampleFor(field.id, op);
        const condition = { field: field.id, op, ...(value === undefined ? {} : { value }) } as Condition;
        expect(codes(condition), `${field.id} ${op}`).toEqual([]);
        expect(() => holds(condition, {}, {})).not.toThrow();
      }
  });
});

function sampleFor(field: string, op: string): unknown {
  if (op === 'empty' || op === 'filled') return undefined;
  if (op.startsWith('within')) return 'P7D';
  const one = {
    ref: 'a',
    status: 'Agreed',
    insured: { amount: '1', currency: 'EUR' },
    humidity: 4,
    due: '2026-03-04',
    opens: '2026-03-04T00:00:00Z',
    tags: ['glass'],
    fragile: true,
  }[field];
  if (op === 'between') return [one, one];
  return op === 'oneOf' || op === 'noneOf' ? [one] : one;
}

import { describe, expect, it } from 'vitest';
import { rule } from '../testing/museum.ts';
import type { Source } from '../values/index.ts';
import { checkRule } from './check.ts';
import type { Condition } from './nodes.ts';
import type { Rule } from './rule.ts';
import { checkSense, isAddress } from './sense.ts';

const PAPERS: Source = {
  id: 'loans',
  kind: 'folders',
  name: 'Papers',
  titleField: 'title',
  fields: [
    { id: 'title', name: 'Title', type: 'text' },
    { id: 'status', name: 'Status', type: 'choice', options: ['Agreed', 'On view'] },
    { id: 'version', name: 'Version', type: 'number' },
    { id: 'size', name: 'Size', type: 'number' },
    { id: 'insured', name: 'Insured', type: 'money' },
    { id: 'due', name: 'Due', type: 'date' },
    { id: 'hazards', name: 'Hazards', type: 'choices', options: ['Glass', 'Salt'] },
  ],
};
const sources = new Map([[PAPERS.id, PAPERS]]);
const folders = new Map([
  ['press', { name: 'Press', source: 'loans' }],
  ['reports', { name: 'Reports', source: 'objects' }],
]);
const found = (more: Partial<Rule>) =>
  checkSense(rule(more), { sources, folders, today: '2026-03-04' }).map(({ code, path }) => [code, path]);
const ofCondition = (node: Condition) => found({ when: { kinds: [], if: node, burst: null } });
const euros = (amount: string, currency = 'EUR') => ({ amount, currency });

describe('a rule that cannot be meant', () => {
  it.each<[Condition, string, string]>([
    [{ rose: { field: 'size', by: -5 } }, 'needsMoreThanNothing', 'when.if.rose.by'],
    [{ fell: { field: 'insured', by: '0' } }, 'needsMoreThanNothing', 'when.if.fell.by'],
    [{ rose: { field: 'due', by: '-P1D' } }, 'needsMoreThanNothing', 'when.if.rose.by'],
    [{ rose: { field: 'due', by: 'PT0S' } }, 'needsMoreThanNothing', 'when.if.rose.by'],
    [{ rose: { field: 'size', percent: '-10' } }, 'needsMoreThanNothing', 'when.if.rose.percent'],
    [{ rose: { field: 'version', percent: 10 } }, 'noShareOf', 'when.if.rose.percent'],
    [{ gained: { field: 'hazards', any: [] } }, 'emptyList', 'when.if.gained.any'],
    [{ was: { field: 'status', op: 'oneOf', value: [] } }, 'emptyList', 'when.if.was.value'],
    [
      { all: [{ changed: '*' }, { became: { any: [{ field: 'hazards', op: 'includesAny', value: [] }] } }] },
      'emptyList',
      'when.if.all.1.became.any.0.value',
    ],
    [{ became: { field: 'size', op: 'between', value: ['9', '10'] } }, '', ''],
    [{ became: { field: 'size', op: 'between', value: ['10', '9'] } }, 'reversedRange', 'when.if.became.value'],
    [
      { became: { field: 'due', op: 'between', value: ['2026-03-05', '2026-03-04'] } },
      'reversedRange',
      'when.if.became.value',
    ],
    [
      { became: { field: 'insured', op: 'between', value: [euros('2'), euros('3', 'GBP')] } },
      'twoCurrencies',
      'when.if.became.value',
    ],
  ])('%j', (node, code, path) => {
    // The engine itself has nothing against it: it judges what it is given.
    const made = rule({ when: { kinds: [], if: node, burst: null } });
    expect(checkRule(made, { sources, folders: new Map() })).toEqual([]);
    expect(ofCondition(node)).toEqual(code === '' ? [] : [[code, path]]);
  });

  it('looks below a folder of a source that it does not look at', () =>
    expect(
      found({
        scope: { sources: ['loans'], under: ['press', 'reports'], items: [], linked: false, where: { all: [] } },
      }),
    ).toEqual([['folderElsewhere', 'scope.under.1']]));

  it('ends before it begins, or has ended', () => {
    const during = (from: string | null, until: string | null) => found({ during: { from, until, near: null } });
    expect(during('2026-03-05', '2026-03-04')).toEqual([['lastBeforeFirst', 'during.until']]);
    expect(during(null, '2026-03-03')).toEqual([['endInPast', 'during.until']]);
    expect(during('2026-03-04', '2026-03-04')).toEqual([]);
  });

  it('waits for no time at all', () => {
    expect(found({ when: { kinds: [], if: { all: [] }, burst: { count: 2, within: 'PT0M', per: 'item' } } })).toEqual([
      ['lastsNothing', 'when.burst.within'],
    ]);
    expect(found({ limit: { per: 'item', within: 'PT0S' } })).toEqual([['lastsNothing', 'limit.within']]);
  });

  it('says nothing, or is answered nowhere', () => {
    const message = { ...rule().message, subject: ' ', body: '', doNow: null, replyTo: 'ines' };
    expect(found({ message })).toEqual([
      ['empty', 'message.subject'],
      ['empty', 'message.body'],
      ['noAddress', 'message.replyTo'],
    ]);
  });
});

it.each([
  ['ines@marisma.example', true],
  ["o'neill+loans@mail.marisma.example", true],
  ['ines@marisma', false],
  ['ines@@marisma.example', false],
  ['Inés <ines@marisma.example>', false],
  ['a@b.example, c@d.example', false],
  ['ines@marisma.', false],
  ['', false],
])('%j is an address: %s', (text, is) => expect(isAddress(text)).toBe(is));

import { describe, expect, it } from 'vitest';
import { rule } from '../testing/museum.ts';
import type { Condition } from './nodes.ts';
import type { Rule } from './rule.ts';
import { twinsOf } from './twins.ts';

const when = (node: Condition): Pick<Rule, 'when'> => ({ when: { kinds: [], if: node, burst: null } });
const becomes = (value: string): Condition => ({ became: { field: 'status', op: 'is', value } });
const areTwins = (a: Partial<Rule>, b: Partial<Rule>) =>
  twinsOf([rule({ ...a, id: 'a' }), rule({ ...b, id: 'b' })]).size === 2;

describe('twins', () => {
  it.each<[string, Partial<Rule>, Partial<Rule>]>([
    [
      'name, urgency and pace',
      { name: 'A', pace: { kind: 'now' } },
      { name: 'B', urgency: 'critical', pace: { kind: 'settled', quiet: 'PT5M', most: 'PT1H' } },
    ],
    ['the order of people', { to: [{ person: 'a' }, { group: 'b' }] }, { to: [{ group: 'b' }, { person: 'a' }] }],
    [
      'the order of what is joined',
      when({ any: [becomes('A'), becomes('B')] }),
      when({ any: [becomes('B'), becomes('A')] }),
    ],
    ['a group of one', when({ all: [becomes('A')] }), when(becomes('A'))],
    [
      'the order of what it is one of',
      when({ was: { field: 's', op: 'oneOf', value: ['A', 'B'] } }),
      when({ was: { op: 'oneOf', field: 's', value: ['B', 'A'] } }),
    ],
  ])('are so whatever their %s', (_what, a, b) => expect(areTwins(a, b)).toBe(true));

  it.each<[string, Partial<Rule>, Partial<Rule>]>([
    ['value', when(becomes('A')), when(becomes('B'))],
    ['joiner', when({ any: [becomes('A'), becomes('B')] }), when({ all: [becomes('A'), becomes('B')] })],
    [
      'ends of a range',
      when({ became: { field: 'n', op: 'between', value: [1, 9] } }),
      when({ became: { field: 'n', op: 'between', value: [9, 1] } }),
    ],
    ['people', { to: [{ person: 'a' }] }, { to: [{ person: 'b' }] }],
    ['days', { during: { from: null, until: '2026-03-04', near: null } }, {}],
  ])('are none of another %s', (_what, a, b) => expect(areTwins(a, b)).toBe(false));
});

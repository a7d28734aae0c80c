import fc from 'fast-check';
import { expect, it } from 'vitest';
import type { Selector } from '../people/index.ts';
import { EYED, eyedAs, openRule, type Rule } from './index.ts';

const GROUP: Selector = { group: 'insurers' };
const CONTACT: Selector = { contact: 'ana' };
const ways = (to: Selector): Selector[] => [
  to,
  { tell: to, channels: ['email'] } as Selector,
  { cases: [{ if: { all: [] }, to: [to] }] } as Selector,
  { cases: [], else: [to] } as unknown as Selector,
];
const rule = (more: Partial<Rule>): Rule => ({ ...openRule('r', 'R', 'ines', ['loans']), ...more });
const escalated = (to: Selector): Partial<Rule> => ({
  to: [{ field: 'registrar' }],
  ack: { by: 'anyone', remind: null, escalate: [{ after: 'PT1H', to: [to] }], closeWhenCeased: true, allClear: false },
});

it('a rule is looked at for all that it tells: by itself, by ways of its own, by case, and once nobody answers', () => {
  for (const [to, kind] of [
    [GROUP, 'groups'],
    [CONTACT, 'outside'],
    [{ webhook: 'desk' }, 'outside'],
  ] as const) {
    for (const one of ways(to)) expect(eyedAs(rule({ to: [{ person: 'mei' }, one] }), [kind])).toEqual([kind]);
    expect(eyedAs(rule(escalated(to)), [kind])).toEqual([kind]);
  }
  expect(eyedAs(rule({ to: [{ field: 'registrar' }] }), ['groups', 'outside', 'critical'])).toEqual([]);
  expect(eyedAs(rule({ to: [{ field: 'registrar' }], urgency: 'critical' }), ['critical'])).toEqual(['critical']);
});

it('no sort is found that is not wanted, and wanting more never finds fewer', () => {
  const tells = fc.subarray<Selector>([GROUP, CONTACT, { person: 'ines' }, { person: 'mei' }, { field: 'registrar' }]);
  const sorts = fc.subarray([...EYED]);
  fc.assert(
    fc.property(tells, sorts, sorts, fc.constantFrom('routine', 'important', 'critical'), (to, some, more, urgency) => {
      const found = eyedAs(rule({ to, urgency }), some);
      expect(some).toEqual(expect.arrayContaining(found));
      expect(eyedAs(rule({ to, urgency }), [...some, ...more])).toEqual(expect.arrayContaining(found));
      if (JSON.stringify(to) === '[{"person":"ines"}]') expect(found).toEqual([]);
    }),
  );
});

it('an eye of one’s own that tells somebody else once nobody answers is no eye of one’s own', () => {
  const own = rule({ ...escalated(CONTACT), to: [{ person: 'ines' }] });
  expect(eyedAs(own, ['outside'])).toEqual(['outside']);
});

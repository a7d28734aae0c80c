import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { LESS_WAYS, type LessWay, type Plan, type Step, stepsFor, withLess } from './index.ts';
import { rule as ruleOf, person as personOf } from '../testing/museum.ts';

const PLAN: Plan = { quiet: [{ days: ['MO'], from: '19:00', to: '07:00' }], own: { other: [{ channel: 'email' }] } };
const NOW: Step[] = [{ channel: 'inApp' }, { channel: 'email', when: 'away' }];
const ON = { rule: 'r1', item: 'a', until: null, steps: NOW };
const asked = ruleOf({ channels: null });

describe('less of what a message told', () => {
  const take = (way: LessWay, more: Partial<Omit<typeof ON, 'until'>> & { until?: string } = {}) =>
    withLess({ plan: PLAN, mutes: [{ item: 'z' }] }, way, { ...ON, ...more });
  const stepsWith = (way: LessWay) => stepsFor(personOf('ines', { plan: take(way).plan }), asked);

  it('comes daily by the ways there are, or without email, by this rule alone', () => {
    const pace = { kind: 'digest', every: 'day', at: '08:30' };
    expect(take('daily').plan?.own?.r1).toEqual(NOW.map((step) => ({ ...step, pace })));
    expect(take('daily', { steps: [] }).plan?.own?.r1).toEqual([{ channel: 'inApp', pace }]);
    expect(stepsWith('noEmail')).toEqual([{ channel: 'inApp' }]);
    expect(take('daily').plan?.own).toMatchObject({ other: [{ channel: 'email' }] });
  });

  it('is no more of one’s own changes, of this item, of this rule, for good or until an instant', () => {
    expect(take('othersOnly').plan).toEqual({ ...PLAN, ownChanges: false });
    expect(take('notThisItem').mutes).toEqual([{ item: 'z' }, { item: 'a' }]);
    expect(take('notThisRule', { until: '2026-03-11' }).mutes).toEqual([
      { item: 'z' },
      { rule: 'r1', until: '2026-03-11' },
    ]);
  });

  it('of no item in particular mutes none', () =>
    expect(withLess({ plan: null, mutes: [] }, 'notThisItem', { ...ON, item: null })).toEqual({
      plan: null,
      mutes: [],
    }));

  it('keeps all else of the plan and all that was muted, whichever is taken, and changes nothing it was given', () => {
    fc.assert(
      fc.property(fc.constantFrom(...LESS_WAYS), fc.constantFrom(null, '2026-03-11'), (way, until) => {
        const before = JSON.stringify(PLAN);
        const { plan, mutes } = withLess({ plan: PLAN, mutes: [{ item: 'z' }] }, way, { ...ON, until });
        expect(plan).toMatchObject(PLAN);
        expect(mutes[0]).toEqual({ item: 'z' });
        expect(JSON.stringify(PLAN)).toBe(before);
      }),
      { seed: 2, numRuns: 30 },
    );
  });
});

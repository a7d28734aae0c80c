import type { Mute, Person } from './directory.ts';
import type { Plan, Step } from './plan.ts';

/** The ways to hear less of a rule or an item that are one's own to take, without touching the rule. */
export const LESS_WAYS = ['daily', 'othersOnly', 'noEmail', 'notThisItem', 'notThisRule'] as const;
/** A way to hear less of what a message told. */
export type LessWay = (typeof LESS_WAYS)[number];

const IN_OJO: Step = { channel: 'inApp' };

type DeliveryPreferences = Pick<Person, 'plan' | 'mutes'>;

/**
 * How somebody hears once they have taken a way to hear less: their plan and what they muted, everything else of
 * both kept. `until` ends a mute; without it, it stands for good. `steps` are those by which the rule reaches them now.
 */
export function withLess(
  { plan, mutes = [] }: DeliveryPreferences,
  way: LessWay,
  { rule, item, until, steps }: { rule: string; item: string | null; until: string | null; steps: readonly Step[] },
): Required<DeliveryPreferences> {
  const own = (steps: Step[]): Plan => ({ ...plan, own: { ...plan?.own, [rule]: steps } });
  const digest = { kind: 'digest', every: 'day', at: '08:30' } as const;
  const ends = until === null ? {} : { until };
  switch (way) {
    case 'daily':
      // By the ways that there are, only gathered: whoever hears by email goes on hearing by email.
      return { plan: own((steps.length > 0 ? steps : [IN_OJO]).map((step) => ({ ...step, pace: digest }))), mutes };
    case 'noEmail':
      return { plan: own([IN_OJO]), mutes };
    case 'othersOnly':
      return { plan: { ...plan, ownChanges: false }, mutes };
    case 'notThisItem':
      return { plan, mutes: item === null ? mutes : [...mutes, { item, ...ends } satisfies Mute] };
    case 'notThisRule':
      return { plan, mutes: [...mutes, { rule, ...ends } satisfies Mute] };
    default:
      return way satisfies never;
  }
}

import type { Rule } from './rule.ts';

/** What may bring an alert about, and which part of a rule says so: changes, a date, a standstill. */
const OCCASIONS = { change: 'when', due: 'due', idle: 'idle' } as const satisfies Record<string, keyof Rule>;
/** All that may bring an alert about. */
export const ALL_OCCASIONS = Object.keys(OCCASIONS) as (keyof typeof OCCASIONS)[];
/** What brought an alert about: a change, a date, a standstill. */
export type Occasion = keyof typeof OCCASIONS;

/** The occasions that a rule looks at: one, where the rule is sound. */
export const occasionsOf = (rule: Pick<Rule, 'when' | 'due' | 'idle'>): Occasion[] =>
  ALL_OCCASIONS.filter((occasion) => rule[OCCASIONS[occasion]] !== null);

/** Whether a rule looks at the calendar, so that it is judged by timers. */
export const isScheduled = (rule: Pick<Rule, 'when' | 'due' | 'idle'>): boolean =>
  occasionsOf(rule).some((occasion) => occasion !== 'change');

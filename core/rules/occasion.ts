import type { Rule } from './rule.ts';

/** What may bring an alert about, and which part of a rule says so: changes, a date, a standstill, a tally that passes its mark, the hour of a report. */
const OCCASIONS = {
  change: 'when',
  due: 'due',
  idle: 'idle',
  tally: 'tally',
  report: 'report',
} as const satisfies Record<string, keyof Rule>;
/** All that may bring an alert about. */
export const ALL_OCCASIONS = Object.keys(OCCASIONS) as (keyof typeof OCCASIONS)[];
/** What brought an alert about. */
export type Occasion = keyof typeof OCCASIONS;
/** The parts of a rule of which it has exactly one. */
export const OCCASION_PARTS = Object.values(OCCASIONS);
type Occasioned = Pick<Rule, (typeof OCCASION_PARTS)[number]>;

/** The occasions that a rule looks at: one, where the rule is sound. */
export const occasionsOf = (rule: Occasioned): Occasion[] =>
  ALL_OCCASIONS.filter((occasion) => rule[OCCASIONS[occasion]] !== null);

/** Whether a rule has a date or a standstill of each item, so that changes set its timers anew. */
export const isScheduled = (rule: Pick<Rule, 'due' | 'idle'>): boolean => rule.due !== null || rule.idle !== null;

/** Whether there is something to be done as a rule goes live: timers to set, or items to count. */
export const hasBeginning = (rule: Occasioned): boolean => rule.when === null;

/** Whether alerts of an occasion hold changes. */
export const hasChanges = (occasion: Occasion): boolean => occasion === 'change' || occasion === 'tally';

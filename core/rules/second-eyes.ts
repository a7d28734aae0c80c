import { kindOfSelector, laidOpen } from '../people/index.ts';
import { eyeOf, type Rule } from './rule.ts';

/** Which rules a house may want a second pair of eyes on, before they are live. */
export const EYED = ['critical', 'outside', 'groups', 'every'] as const;
/** A sort of rule that a second pair of eyes looks at: critical ones, those that tell addresses outside or whole groups, or every one. */
export type Eyed = (typeof EYED)[number];

/** For which of the sorts that the house wants looked at a rule has to be; none where it tells its owner alone. */
export function eyedAs(rule: Rule, wanted: readonly Eyed[]): Eyed[] {
  const later = (rule.ack?.escalate ?? []).flatMap(({ to }) => to);
  // Whoever is told alone may have others told once they do not answer.
  if (eyeOf(rule) !== null && later.length === 0) return [];
  const told = laidOpen([...rule.to, ...later]).map(kindOfSelector);
  const holds: Record<Eyed, boolean> = {
    critical: rule.urgency === 'critical',
    outside: told.some((kind) => kind === 'contact' || kind === 'webhook'),
    groups: told.includes('group'),
    every: true,
  };
  return EYED.filter((one) => wanted.includes(one) && holds[one]);
}

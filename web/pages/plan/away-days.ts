import type { Absence } from '../../../core/people/index.ts';
import { addDays, type CivilDate, weekday } from '../../../core/time/index.ts';

/**
 * Which days of the last week somebody is away on: of days that are over, just those; of days ahead, the weekdays that
 * they fall on, since the week that is drawn stands for the one that comes.
 */
export function awayOn({ from, until }: Pick<Absence, 'from' | 'until'>, days: readonly CivilDate[], today: CivilDate) {
  if (until < today) return days.filter((day) => from <= day && day <= until);
  const first = Array.from({ length: 7 }, (_, at) => addDays(from, at)).filter((day) => day <= until);
  const weekdays = new Set(first.map((day) => weekday(day)));
  return days.filter((day) => weekdays.has(weekday(day)));
}

/** What is drawn of days on which somebody else hears, or one hears for somebody else: who, by day. */
export interface DrawnAway {
  /** Days on which one is away, and who hears then, in words. */
  away: ReadonlyMap<CivilDate, string>;
  /** Days on which one hears in others' place, and in whose, in words. */
  also: ReadonlyMap<CivilDate, string>;
}

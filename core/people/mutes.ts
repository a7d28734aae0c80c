import { addDays, atLocal, type Instant, isCivilDate, MIDNIGHT, parseInstant } from '../time/index.ts';
import type { Mute, Person } from './directory.ts';

/** Whether a person muted the rule, the item or everything, and still does at that instant; a mute that names both needs both. */
export function isMuted(person: Person, rule: string, item: string, at: Instant): boolean {
  return (person.mutes ?? []).some(
    (mute) => (mute.rule ?? rule) === rule && (mute.item ?? item) === item && !isOver(mute, person.zone, at),
  );
}

/** A mute until a day lasts to that day's end where the person is; one until an instant ends at it. */
function isOver({ until }: Mute, zone: string, at: Instant): boolean {
  if (until === undefined) return false;
  if (isCivilDate(until)) return at >= atLocal(addDays(until, 1), MIDNIGHT, zone);
  const end = parseInstant(until);
  return end === null || at >= end;
}

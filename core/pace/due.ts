import { type Due, leadsOf, type Repeat } from '../rules/index.ts';
import {
  addDays,
  addDuration,
  atLocal,
  type CivilDate,
  dateIn,
  type Duration,
  type Instant,
  MIDNIGHT,
  moveLocal,
  parseInstant,
  timesDuration,
} from '../time/index.ts';
import type { Field, Value } from '../values/index.ts';

/** Nine in the morning, where a due rule names no time. */
const DEFAULT_TIME = '09:00';

/** An instant of a due rule; `day` is the civil day from which its repeats are counted, `null` where they are counted from the instant. */
export interface DueInstant {
  at: Instant;
  day: CivilDate | null;
}

/** The instant that a field's value sets for a lead time: the date plus it at the local time; a dateTime without `at` is moved exactly. */
export function dueInstant(
  due: Due,
  field: Field,
  value: Value,
  zone: string,
  lead: Duration = leadsOf(due)[0] ?? 'P0D',
): DueInstant | null {
  if (field.type === 'date') {
    const moved = moveLocal(String(value), due.at ?? DEFAULT_TIME, lead, zone);
    return { at: moved.at, day: moved.day };
  }
  const moment = parseInstant(String(value));
  if (moment === null) return null;
  if (due.at === null) return { at: addDuration(moment, lead, zone), day: null };
  const moved = moveLocal(dateIn(moment, zone), due.at, lead, zone);
  return { at: moved.at, day: moved.day };
}

/** Whether the date itself is past: a day once it is over in the zone, a dateTime once its instant is. */
export function isDatePast(field: Field, value: Value, at: Instant, zone: string): boolean {
  if (field.type === 'date') return at >= atLocal(addDays(String(value), 1), MIDNIGHT, zone);
  const moment = parseInstant(String(value));
  return moment === null || at > moment;
}

/** A value by which a due rule remembers what it fired for: one day or instant has one key, however it is written. */
export const dateKey = (field: Field, value: Value): string =>
  field.type === 'date' ? String(value) : String(parseInstant(String(value)) ?? value);

/**
 * The n-th repeat of what fired first, n from 1: n times `every` after it, so that months keep their day. What fired
 * on time repeats at the rule's local time; what fired late, and what has no local time, from the instant it fired.
 */
export function repeatOf(due: Due, repeat: Repeat, fired: DueInstant, n: number, zone: string): Instant {
  const every = timesDuration(repeat.every, n);
  if (fired.day === null) return addDuration(fired.at, every, zone);
  const time = due.at ?? DEFAULT_TIME;
  // The offset's hours stand between the local time and what fired.
  const ahead = fired.at - atLocal(fired.day, time, zone);
  return moveLocal(fired.day, time, every, zone).at + ahead;
}

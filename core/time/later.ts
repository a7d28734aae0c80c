import { addDays, atLocal, type CivilDate, dateIn } from './civil.ts';
import { HOUR_MS, type Instant } from './instant.ts';

/** When somebody can ask to be told again without naming a day. */
const LATER_CHOICES = ['hour', 'afternoon', 'tomorrow'] as const;
/** One of these: in an hour, this afternoon, tomorrow morning. */
export type LaterChoice = (typeof LATER_CHOICES)[number];

/** Four in the afternoon, and half past eight in the morning. */
const AFTERNOON = '16:00';
const MORNING = '08:30';

/** The instants of these choices in a zone, in order; this afternoon only while it is at least an hour ahead. */
export function laterChoices(now: Instant, zone: string): { choice: LaterChoice; at: Instant }[] {
  const today = dateIn(now, zone);
  const afternoon = atLocal(today, AFTERNOON, zone);
  return [
    { choice: 'hour', at: now + HOUR_MS },
    ...(afternoon > now + HOUR_MS ? [{ choice: 'afternoon' as const, at: afternoon }] : []),
    { choice: 'tomorrow', at: laterOn(addDays(today, 1), zone) },
  ];
}

/** The instant of a day on which somebody wants to be told again: its morning. */
export const laterOn = (day: CivilDate, zone: string): Instant => atLocal(day, MORNING, zone);

import { Temporal } from 'temporal-polyfill';
import { atLocal, type CivilDate, type CivilTime, dateIn, zoned } from './civil.ts';
import type { Instant } from './instant.ts';

/** An ISO 8601 duration such as `PT10M` (exact) or `P14D` (on the civil calendar). */
export type Duration = string;

const PATTERN = /^-?P(?=\d|T\d)(\d+M)?(\d+W)?(\d+D)?(T(?=\d)(\d+H)?(\d+M)?(\d+S)?)?$/;

/** Whether the text is a duration that Ojo understands: months, weeks, days, hours, minutes, seconds. */
export function isDuration(text: string): boolean {
  return PATTERN.test(text);
}

const parsed = (duration: Duration, sign: 1 | -1) => {
  const value = Temporal.Duration.from(duration);
  return sign === 1 ? value : value.negated();
};

/** An instant moved by a duration: its days on the calendar of the zone, its hours exactly. */
export function addDuration(instant: Instant, duration: Duration, zone: string, sign: 1 | -1 = 1): Instant {
  const step = parsed(duration, sign);
  const days = step.with({ hours: 0, minutes: 0, seconds: 0 });
  const moved = days.blank ? instant : zoned(instant, zone).add(days).epochMilliseconds;
  return moved + exactPart(step);
}

/** A day moved by a duration: days on the calendar; an exact part reaches to the day that instant lies on. */
export function addToDate(date: CivilDate, duration: Duration, at: Instant, zone: string, sign: 1 | -1 = 1): CivilDate {
  const step = parsed(duration, sign);
  if (exactPart(step) !== 0) return dateIn(addDuration(at, duration, zone, sign), zone);
  return Temporal.PlainDate.from(date).add(step).toString();
}

/**
 * A local time on a day, moved by a duration: its days on the calendar, so that the clock shows the same time,
 * then its hours exactly. Gives the day moved to as well, from which a next move can go on.
 */
export function moveLocal(date: CivilDate, time: CivilTime, duration: Duration, zone: string): { day: CivilDate; at: Instant } {
  const step = parsed(duration, 1);
  const day = Temporal.PlainDate.from(date).add(step.with({ hours: 0, minutes: 0, seconds: 0 })).toString();
  return { day, at: atLocal(day, time, zone) + exactPart(step) };
}

const exactPart = (step: Temporal.Duration) => ((step.hours * 60 + step.minutes) * 60 + step.seconds) * 1000;

import { Temporal } from 'temporal-polyfill';
import type { Instant } from './instant.ts';

/** A calendar day without a zone, `YYYY-MM-DD`. */
export type CivilDate = string;

/** A time of day without a zone, `HH:MM`. */
export type CivilTime = string;

/** The start of a civil day, as far as its zone has one. */
export const MIDNIGHT: CivilTime = '00:00';

/** Whether the text is a real day of the calendar, written `YYYY-MM-DD`. */
export function isCivilDate(text: string): boolean {
  if (!/^\d{4}-\d{2}-\d{2}$/.test(text)) return false;
  try {
    Temporal.PlainDate.from(text);
    return true;
  } catch {
    return false;
  }
}

/** Whether a text is a time of day as `HH:MM`, from 00:00 to 23:59. */
export const isCivilTime = (text: string): boolean => /^([01]\d|2[0-3]):[0-5]\d$/.test(text);

/** Whether the text names a zone of the IANA database that this machine knows. */
export function isZone(text: string): boolean {
  try {
    Temporal.Instant.fromEpochMilliseconds(0).toZonedDateTimeISO(text);
    return /^[A-Za-z]/.test(text);
  } catch {
    return false;
  }
}

/** The zones of the IANA database that this machine knows, by name. */
export const zoneNames = (): string[] => Intl.supportedValuesOf('timeZone');

/** The civil day that an instant falls on in a zone. */
export function dateIn(instant: Instant, zone: string): CivilDate {
  return zoned(instant, zone).toPlainDate().toString();
}

/** The civil time, to the minute, that an instant shows in a zone. */
export function timeIn(instant: Instant, zone: string): CivilTime {
  return zoned(instant, zone).toPlainTime().toString().slice(0, 5);
}

/**
 * The instant of a local time on a day in a zone. A time that a clock change skips is the first instant
 * after the gap; one that comes twice is the first of the two.
 */
export function atLocal(date: CivilDate, time: CivilTime, zone: string): Instant {
  return instantAt(Temporal.PlainDateTime.from(`${date}T${time}`), zone);
}

/** The same for a wall clock's reading to the millisecond. */
export function instantAt(local: Temporal.PlainDateTime, zone: string): Instant {
  const earlier = local.toZonedDateTime(zone, { disambiguation: 'earlier' });
  if (earlier.toPlainDateTime().equals(local)) return earlier.epochMilliseconds;
  // 'earlier' shows another wall clock only inside a gap: the gap's end is the next change of offset.
  const end = earlier.getTimeZoneTransition('next');
  return (end ?? earlier).epochMilliseconds;
}

/** A day so many days later (earlier where negative). */
export function addDays(date: CivilDate, days: number): CivilDate {
  return Temporal.PlainDate.from(date).add({ days }).toString();
}

/** ISO weekday of a day: 1 is Monday, 7 is Sunday. */
export function weekday(date: CivilDate): number {
  return Temporal.PlainDate.from(date).dayOfWeek;
}

/** The given day of that month, or the month's last where it is shorter. */
export function dayOfMonth(date: CivilDate, day: number): CivilDate {
  return Temporal.PlainDate.from(date).with({ day: 1 }).with({ day }).toString();
}

/** The first day of the month after the one the date lies in. */
export function nextMonth(date: CivilDate): CivilDate {
  return Temporal.PlainDate.from(date).with({ day: 1 }).add({ months: 1 }).toString();
}

/** An instant on the clocks of a zone (an IANA name); throws a RangeError for a zone that is none. */
export function zoned(instant: Instant, zone: string): Temporal.ZonedDateTime {
  return Temporal.Instant.fromEpochMilliseconds(instant).toZonedDateTimeISO(zone);
}

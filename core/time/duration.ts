import { Temporal } from 'temporal-polyfill';
import { atLocal, type CivilDate, type CivilTime, dateIn, instantAt, zoned } from './civil.ts';
import type { Instant } from './instant.ts';

/** An ISO 8601 duration such as `PT10M` (exact) or `P14D` (on the civil calendar). */
export type Duration = string;

const PATTERN = /^-?P(?=\d|T\d)(\d+M)?(\d+W)?(\d+D)?(T(?=\d)(\d+H)?(\d+M)?(\d+S)?)?$/;

/** No duration is longer, forwards or backwards: what is counted from any day of a calendar stays on it. */
export const LONGEST_YEARS = 10;
/** Seconds of each part in their order: months (a twelfth of a year of 365.25 days), weeks, days, hours, minutes, seconds. */
const SECONDS = [30.4375 * 86_400, 7 * 86_400, 86_400, 3600, 60, 1];

/** The units that a duration is said in, from the longest, each with where its count stands. */
const UNITS = [
  [/^-?P(\d+)M/, 'month'],
  [/(\d+)W/, 'week'],
  [/(\d+)D/, 'day'],
  [/T(?:.*?)(\d+)H/, 'hour'],
  [/T(?:\d+H)?(\d+)M/, 'minute'],
  [/(\d+)S/, 'second'],
] as const;

/** How many of each unit a duration has, from the longest, those of which there are none aside: `P1DT12H` is a day and 12 hours. */
export const partsOfDuration = (duration: Duration): { count: number; unit: (typeof UNITS)[number][1] }[] =>
  UNITS.flatMap(([pattern, unit]) => {
    const count = Number(pattern.exec(duration)?.[1] ?? 0);
    return count === 0 ? [] : [{ count, unit }];
  });

/** Whether the text is a duration that Ojo understands: months, weeks, days, hours, minutes, seconds, of ten years at most. */
export function isDuration(text: string): boolean {
  const [, months, weeks, days, , hours, minutes, seconds] = text.length > 60 ? [] : (PATTERN.exec(text) ?? []);
  if (text.length > 60 || !PATTERN.test(text)) return false;
  const length = [months, weeks, days, hours, minutes, seconds].reduce(
    (sum, part, at) => sum + Number.parseInt(part ?? '0', 10) * (SECONDS[at] ?? 0),
    0,
  );
  return length <= LONGEST_YEARS * 366 * 86_400;
}

const parsed = (duration: Duration, sign: 1 | -1) => {
  const value = Temporal.Duration.from(duration);
  return sign === 1 ? value : value.negated();
};

/** A duration so many times over, part by part: twice a month is two months, whatever their lengths. */
export function timesDuration(duration: Duration, times: number): Duration {
  const { months, weeks, days, hours, minutes, seconds } = Temporal.Duration.from(duration);
  return Temporal.Duration.from({
    months: months * times,
    weeks: weeks * times,
    days: days * times,
    hours: hours * times,
    minutes: minutes * times,
    seconds: seconds * times,
  }).toString();
}

/**
 * An instant moved by a duration: its days on the calendar of the zone, so that the clock shows the same time, its
 * hours exactly. A local time that a clock change skips is the first instant after the gap.
 */
export function addDuration(instant: Instant, duration: Duration, zone: string, sign: 1 | -1 = 1): Instant {
  const step = parsed(duration, sign);
  const days = step.with({ hours: 0, minutes: 0, seconds: 0 });
  const moved = days.blank ? instant : instantAt(zoned(instant, zone).toPlainDateTime().add(days), zone);
  return moved + exactPart(step);
}

/** A day moved by a duration's days, and the milliseconds of its exact part that are left. */
export function calendarPart(date: CivilDate, duration: Duration, sign: 1 | -1): { day: CivilDate; exactMs: number } {
  const step = parsed(duration, sign);
  return {
    day: Temporal.PlainDate.from(date)
      .add(step.with({ hours: 0, minutes: 0, seconds: 0 }))
      .toString(),
    exactMs: exactPart(step),
  };
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
export function moveLocal(
  date: CivilDate,
  time: CivilTime,
  duration: Duration,
  zone: string,
): { day: CivilDate; at: Instant } {
  const step = parsed(duration, 1);
  const day = Temporal.PlainDate.from(date)
    .add(step.with({ hours: 0, minutes: 0, seconds: 0 }))
    .toString();
  return { day, at: atLocal(day, time, zone) + exactPart(step) };
}

const exactPart = (step: Temporal.Duration) => ((step.hours * 60 + step.minutes) * 60 + step.seconds) * 1000;

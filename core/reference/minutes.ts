import type { QuietHours } from '../people/index.ts';
import { type CivilDate, DAY_MS, type Instant, MINUTE_MS, type Schedule, WEEKDAYS } from '../time/index.ts';

/** Days since 1970-01-01 of a day of the Gregorian calendar, counted by its leap years. */
function dayNumber(date: CivilDate): number {
  const [year = 0, month = 0, day = 0] = date.split('-').map(Number);
  const leaps = (y: number) => Math.floor(y / 4) - Math.floor(y / 100) + Math.floor(y / 400);
  const lengths = [31, isLeap(year) ? 29 : 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31];
  return (
    (year - 1970) * 365 +
    leaps(year - 1) -
    leaps(1969) +
    lengths.slice(0, month - 1).reduce((sum, one) => sum + one, 0) +
    day -
    1
  );
}

const isLeap = (year: number) => (year % 4 === 0 && year % 100 !== 0) || year % 400 === 0;

/** The same the other way, by looking. */
function dateOf(number: number): CivilDate {
  let year = 1970 + Math.floor(number / 366);
  while (dayNumber(`${year + 1}-01-01`) <= number) year++;
  let month = 1;
  while (month < 12 && dayNumber(`${year}-${two(month + 1)}-01`) <= number) month++;
  return `${year}-${two(month)}-${two(number - dayNumber(`${year}-${two(month)}-01`) + 1)}`;
}

const two = (value: number) => String(value).padStart(2, '0');

/**
 * The naive twin of all that goes by the clock on the wall: what that shows in a zone, asked minute by minute of the
 * platform's own formatting over a span of days, without any arithmetic of zones.
 */
export class Minutes {
  private readonly shown: string[] = [];

  constructor(
    zone: string,
    readonly from: Instant,
    readonly days: number,
  ) {
    const format = new Intl.DateTimeFormat('sv-SE', {
      timeZone: zone,
      year: 'numeric',
      month: '2-digit',
      day: '2-digit',
      hour: '2-digit',
      minute: '2-digit',
      hourCycle: 'h23',
    });
    for (let at = from; at < from + days * DAY_MS; at += MINUTE_MS)
      this.shown.push(format.format(at).replace(' ', 'T'));
  }

  /** What the wall shows at an instant: `2026-03-04T11:15`. */
  at = (instant: Instant): string => this.shown[Math.floor((instant - this.from) / MINUTE_MS)] ?? '';

  /** The first minute at which the wall has come to a time: where that comes twice the first, where it is skipped the one after the gap. */
  reaching(day: CivilDate, time: string): Instant {
    const wanted = `${day}T${time}`;
    const index = this.shown.findIndex((one) => one >= wanted);
    return index < 0 ? Number.POSITIVE_INFINITY : this.from + index * MINUTE_MS;
  }

  /** Days of the calendar around an instant's day, those that a zone left out too. */
  private around(instant: Instant, back: number, ahead: number): CivilDate[] {
    const today = dayNumber(this.at(instant).slice(0, 10));
    return Array.from({ length: back + ahead + 1 }, (_, at) => dateOf(today - back + at));
  }

  next(schedule: Schedule, after: Instant): Instant {
    if (schedule.every === 'hour') {
      const index = this.shown.findIndex(
        (one, at) => this.from + at * MINUTE_MS > after && one.slice(14) === schedule.at.slice(3),
      );
      return this.from + index * MINUTE_MS;
    }
    const instants = this.around(after, 2, 64)
      .filter((day) => isScheduled(schedule, day))
      .map((day) => this.reaching(day, schedule.at));
    return Math.min(...instants.filter((one) => one > after));
  }

  /** A day moved by whole days, then its local time. */
  moved = (day: CivilDate, days: number, time: string): Instant => this.reaching(dateOf(dayNumber(day) + days), time);

  /** When it stops being quiet; `null` where it is not. */
  quietEnd(windows: readonly QuietHours[], at: Instant): Instant | null {
    const spans = this.around(at, 2, 14).flatMap((day) =>
      windows
        .filter((one) => one.from !== one.to && one.days.includes(weekdayOf(day)))
        .map(({ from, to }) => ({
          from: this.reaching(day, from),
          to: this.reaching(to < from ? dateOf(dayNumber(day) + 1) : day, to),
        })),
    );
    const isQuiet = (instant: Instant) => spans.some((span) => span.from <= instant && instant < span.to);
    if (!isQuiet(at)) return null;
    for (let instant = Math.floor(at / MINUTE_MS) * MINUTE_MS; ; instant += MINUTE_MS)
      if (instant > at && !isQuiet(instant)) return instant;
  }
}

// 1970-01-01 was a Thursday.
const weekdayOf = (day: CivilDate) => WEEKDAYS[(dayNumber(day) + 3) % 7] as (typeof WEEKDAYS)[number];

function isScheduled({ every, on }: Schedule, day: CivilDate): boolean {
  if (every === 'day') return true;
  if (every === 'week') return (on ?? ['MO']).includes(weekdayOf(day));
  const isLast = dateOf(dayNumber(day) + 1).slice(8) === '01';
  const number = Number(day.slice(8));
  return (on ?? [1]).some((wanted) => wanted === number || (isLast && Number(wanted) > number));
}

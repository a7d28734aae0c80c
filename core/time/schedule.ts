import {
  addDays,
  atLocal,
  type CivilDate,
  type CivilTime,
  dateIn,
  dayOfMonth,
  nextMonth,
  timeIn,
  weekday,
} from './civil.ts';
import { HOUR_MS, type Instant } from './instant.ts';

/** Days of the week as iCalendar writes them (RFC 5545, section 3.3.10), from Monday. */
export const WEEKDAYS = ['MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU'] as const;
/** A day of the week as iCalendar writes it. */
export type Weekday = (typeof WEEKDAYS)[number];

/** When digests are due; `on` holds weekdays for `week`, days of the month for `month`. */
export interface Schedule {
  every: 'hour' | 'day' | 'week' | 'month';
  at: CivilTime;
  on?: (Weekday | number)[];
}

/**
 * The first instant of the schedule later than `after`, in the zone. Hourly, `at` gives the minute of every
 * real hour. A day of the month past the month's end means its last day.
 */
export function nextOf(schedule: Schedule, after: Instant, zone: string): Instant {
  // What is asked in order of time has the same answer until the instant has passed.
  const byZone = asked.get(schedule) ?? new Map<string, { after: Instant; next: Instant }>();
  asked.set(schedule, byZone);
  const last = byZone.get(zone);
  if (last && after >= last.after && after < last.next) return last.next;
  const next =
    schedule.every === 'hour'
      ? nextHourly(Number(schedule.at.slice(3)), after, zone)
      : nextDaily(schedule, after, zone);
  byZone.set(zone, { after, next });
  return next;
}

/** The last answer for each schedule and zone; schedules are never altered, only replaced. */
const asked = new WeakMap<Schedule, Map<string, { after: Instant; next: Instant }>>();

function nextDaily(schedule: Schedule, after: Instant, zone: string): Instant {
  let day = dateIn(after, zone);
  // A month has at least one scheduled day, so that two months hold the next; the bound is never reached.
  for (let tries = 0; tries < 64; tries++) {
    const next = scheduledDay(schedule, day);
    const instant = atLocal(next, schedule.at, zone);
    if (instant > after) return instant;
    day = addDays(next, 1);
  }
  throw new RangeError(`no instant of the schedule follows ${after}`);
}

function nextHourly(minute: number, after: Instant, zone: string): Instant {
  // Zones differ from UTC by whole minutes today; the wall clock's own minute decides.
  const shown = Number(timeIn(after, zone).slice(3));
  const start = Math.floor(after / 60_000) * 60_000 + (minute - shown) * 60_000;
  return start > after ? start : start + HOUR_MS;
}

/** The first scheduled day on or after the given one. */
function scheduledDay(schedule: Schedule, from: CivilDate): CivilDate {
  switch (schedule.every) {
    case 'day':
    case 'hour':
      return from;
    case 'week': {
      const days = (schedule.on ?? ['MO']).map((name) => WEEKDAYS.indexOf(name as Weekday) + 1);
      const waits = days.map((wanted) => (wanted - weekday(from) + 7) % 7);
      return addDays(from, Math.min(...waits));
    }
    case 'month': {
      const wanted = (schedule.on ?? [1]).map(Number);
      const inMonth = (month: CivilDate) => wanted.map((day) => dayOfMonth(month, day)).sort();
      return inMonth(from).find((day) => day >= from) ?? (inMonth(nextMonth(from))[0] as CivilDate);
    }
    default:
      return schedule.every satisfies never;
  }
}

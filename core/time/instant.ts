import { Temporal } from 'temporal-polyfill';

/** Milliseconds of elapsed time; civil days may be longer or shorter. */
export const MINUTE_MS = 60_000;
/** Milliseconds of an hour. */
export const HOUR_MS = 3_600_000;
/** Milliseconds of twenty-four hours. */
export const DAY_MS = 86_400_000;

/** A point in time: whole milliseconds since 1970-01-01T00:00:00Z. */
export type Instant = number;

const PATTERN = /^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}(:\d{2}(\.\d+)?)?(Z|[+-]\d{2}:?\d{2})$/i;

/** Reads an ISO 8601 instant with offset; `null` for anything else. Digits below a millisecond are cut. */
export function parseInstant(text: string): Instant | null {
  if (!PATTERN.test(text)) return null;
  try {
    return Temporal.Instant.from(text).epochMilliseconds;
  } catch {
    return null;
  }
}

/** ISO 8601 in UTC with `Z`, without an empty fraction: `2026-03-04T10:15:00Z`. */
export function printInstant(instant: Instant): string {
  const day = Math.floor(instant / DAY_MS);
  const ms = instant - day * DAY_MS;
  const two = (value: number) => String(Math.floor(value)).padStart(2, '0');
  const fraction =
    ms % 1000 === 0
      ? ''
      : `.${String(ms % 1000)
          .padStart(3, '0')
          .replace(/0+$/, '')}`;
  return `${printDay(day)}T${two(ms / HOUR_MS)}:${two((ms / MINUTE_MS) % 60)}:${two((ms / 1000) % 60)}${fraction}Z`;
}

let lastDay = Number.NaN;
let lastDayText = '';

/** Most instants in a row lie on one day, and the calendar is the dear part. */
function printDay(day: number): string {
  if (day !== lastDay) {
    lastDayText = Temporal.Instant.fromEpochMilliseconds(day * DAY_MS)
      .toString()
      .replace(/T.*/, '');
    lastDay = day;
  }
  return lastDayText;
}

/** Like {@link parseInstant} for text already checked; throws a RangeError otherwise. */
export function instantOf(text: string): Instant {
  const instant = parseInstant(text);
  if (instant === null) throw new RangeError(`not an ISO 8601 instant with offset: ${text}`);
  return instant;
}

import { Temporal } from 'temporal-polyfill';

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
  return Temporal.Instant.fromEpochMilliseconds(instant).toString();
}

/** Like {@link parseInstant} for text already checked; throws a RangeError otherwise. */
export function instantOf(text: string): Instant {
  const instant = parseInstant(text);
  if (instant === null) throw new RangeError(`not an ISO 8601 instant with offset: ${text}`);
  return instant;
}

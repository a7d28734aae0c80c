import type { QuietHours } from '../people/index.ts';
import { addDays, atLocal, dateIn, type Instant, WEEKDAYS, weekday } from '../time/index.ts';

/** Windows repeat by the week: what does not end within so many days never does. */
const HORIZON_DAYS = 9;

/**
 * When the quiet hours end in which an instant lies; `null` where it lies in none. Windows that touch are one.
 * Hours that never end are none: nothing would ever arrive.
 */
export function quietEnd(windows: readonly QuietHours[], at: Instant, zone: string): Instant | null {
  if (windows.length === 0) return null;
  const today = dateIn(at, zone);
  const spans = Array.from({ length: HORIZON_DAYS + 3 }, (_, day) => addDays(today, day - 2)).flatMap((day) =>
    windows.flatMap((window) => spanOn(window, day, zone)),
  );
  let end: Instant | null = null;
  for (;;) {
    const from: Instant = end ?? at;
    const later = spans.filter((span) => span.from <= from && span.to > from).map((span) => span.to);
    if (later.length === 0) break;
    end = Math.max(...later);
  }
  return end !== null && end >= atLocal(addDays(today, HORIZON_DAYS), '00:00', zone) ? null : end;
}

/** The window that begins on a day; none where it does not begin then, or begins as it ends. */
function spanOn({ days, from, to }: QuietHours, day: string, zone: string): { from: Instant; to: Instant }[] {
  if (from === to || !days.includes(WEEKDAYS[weekday(day) - 1] as QuietHours['days'][number])) return [];
  return [{ from: atLocal(day, from, zone), to: atLocal(to < from ? addDays(day, 1) : day, to, zone) }];
}

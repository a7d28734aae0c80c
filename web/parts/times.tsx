import { dateIn, DAY_MS, instantOf } from '../../core/time/index.ts';
import { formatInstant, formatTime } from '../../core/values/index.ts';
import { useViewer } from './viewer.tsx';

/** A time in the margin: the hour today, the weekday and hour this week, else the day. */
export function Time({ at, full = false }: { at: string; full?: boolean }) {
  const { me } = useViewer();
  const instant = instantOf(at);
  return (
    <time dateTime={at} title={formatInstant(instant, me)}>
      {full ? formatInstant(instant, me) : shortTime(instant, instantOf(me.now), me)}
    </time>
  );
}

/** Only the hour, for rows that stand under their day. */
export function Hour({ at }: { at: string }) {
  const { me } = useViewer();
  return (
    <time dateTime={at} title={formatInstant(instantOf(at), me)}>
      {formatTime(instantOf(at), me)}
    </time>
  );
}

export function shortTime(instant: number, now: number, reader: { zone: string; locale: string }): string {
  if (dateIn(instant, reader.zone) === dateIn(now, reader.zone)) return formatTime(instant, reader);
  const word = (options: Intl.DateTimeFormatOptions) =>
    new Intl.DateTimeFormat(reader.locale, { ...options, timeZone: reader.zone }).format(instant);
  if (Math.abs(now - instant) < 6 * DAY_MS) return `${word({ weekday: 'short' })} ${formatTime(instant, reader)}`;
  return word({
    day: 'numeric',
    month: 'short',
    ...(Math.abs(now - instant) > 300 * DAY_MS ? { year: '2-digit' } : {}),
  });
}

import { type CivilTime, isCivilTime } from '../../../core/time/index.ts';

/** The time of day that somebody wrote, as people write one (`8`, `8:30`, `20.30`, `0830`, `8 pm`), or `null` where it is none. */
export function readTime(text: string): CivilTime | null {
  const found = /^(\d{1,2})(?:\s*[:.,h]?\s*(\d{2}))?\s*h?\s*(?:([ap])\.?\s?m\.?)?$/i.exec(text.trim());
  if (!found) return null;
  const [, hours = '', minutes = '00', half] = found;
  const hour = Number(hours);
  if (half !== undefined && (hour < 1 || hour > 12)) return null;
  const later = half?.toLowerCase() === 'p' ? 12 : 0;
  const time = `${String(half === undefined ? hour : (hour % 12) + later).padStart(2, '0')}:${minutes}`;
  return isCivilTime(time) ? time : null;
}

/** Whether a time is written out, so that nothing more is to come. */
export const isTimeOut = (text: string): boolean => /^\d{1,2}[:.,h]\d{2}$/i.test(text.trim());

import type { Pace } from '../people/index.ts';
import { durationWords, listed } from './condition-words.ts';

const DAYS: Record<string, string> = { MO: 'Monday', TU: 'Tuesday', WE: 'Wednesday', TH: 'Thursday', FR: 'Friday', SA: 'Saturday', SU: 'Sunday' };

/** How soon, in a few words: *at once*, *daily digest, 08:30*. */
export function paceWords(pace: Pace): string {
  if (pace.kind === 'now') return 'at once';
  if (pace.kind === 'settled') return `once settled for ${durationWords(pace.quiet)}`;
  switch (pace.every) {
    case 'hour':
      return `hourly digest, at minute ${pace.at.slice(3)}`;
    case 'day':
      return `daily digest, ${pace.at}`;
    case 'week':
      return `digest on ${listed((pace.on ?? ['MO']).map((day) => DAYS[day] ?? String(day)), 'and')}, ${pace.at}`;
    case 'month':
      return `monthly digest, day ${listed((pace.on ?? [1]).map(String), 'and')}, ${pace.at}`;
    default:
      return pace.every satisfies never;
  }
}

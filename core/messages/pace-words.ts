import type { Pace } from '../people/index.ts';
import { durationWords } from './condition-words.ts';
import { PAGES_TONGUE } from './tongues/index.ts';

/** How soon, in a few words: *at once*, *daily digest, 08:30*. */
export function paceWords(pace: Pace, tongue = PAGES_TONGUE): string {
  if (pace.kind === 'now') return tongue.say('pace.now');
  if (pace.kind === 'settled') return tongue.say('pace.settled', { quiet: durationWords(pace.quiet, tongue) });
  const { at } = pace;
  switch (pace.every) {
    case 'hour':
      return tongue.say('pace.hour', { minute: at.slice(3) });
    case 'day':
      return tongue.say('pace.day', { at });
    case 'week':
      return tongue.say('pace.week', {
        at,
        days: tongue.and((pace.on ?? ['MO']).map((day) => tongue.say(`day.${day as 'MO'}`))),
      });
    case 'month':
      return tongue.say('pace.month', { at, days: tongue.and((pace.on ?? [1]).map(String)) });
    default:
      return pace.every satisfies never;
  }
}

import type { Pace } from '../people/index.ts';
import { durationWords } from './condition-words.ts';
import type { Terms } from './locales/index.ts';

/** How soon, in a few words: *at once*, *daily digest, 08:30*. */
export function paceWords(pace: Pace, phrases: Terms): string {
  if (pace.kind === 'now') return phrases.say('pace.now');
  if (pace.kind === 'settled') return phrases.say('pace.settled', { quiet: durationWords(pace.quiet, phrases) });
  const { at } = pace;
  switch (pace.every) {
    case 'hour':
      return phrases.say('pace.hour', { minute: at.slice(3) });
    case 'day':
      return phrases.say('pace.day', { at });
    case 'week':
      return phrases.say('pace.week', {
        at,
        days: phrases.and((pace.on ?? ['MO']).map((day) => phrases.say(`day.${day as 'MO'}`))),
      });
    case 'month':
      return phrases.say('pace.month', { at, days: phrases.and((pace.on ?? [1]).map(String)) });
    default:
      return pace.every satisfies never;
  }
}

import type { Rule } from '../rules/index.ts';
import { type ChangeKind, fieldOf, type Source } from '../values/index.ts';
import { durationWords } from './condition-words.ts';
import type { Terms } from './locales/index.ts';

/** What happened, after the item's name: *was added*. A sender's own kinds are said as they are named. */
export const kindWords = (kind: ChangeKind, phrases: Terms): string =>
  isOwnKind(kind) ? kind.slice(2).replaceAll('-', ' ') : phrases.say(`kind.${kind}`);

const isOwnKind = (kind: ChangeKind): kind is `x-${string}` => kind.startsWith('x-');

/** The date or standstill at which a rule tells: *14 days before Due back*; `null` for one that looks at changes. */
export function occasionWords(
  { due, idle }: Pick<Rule, 'due' | 'idle'>,
  source: Source,
  phrases: Terms,
): string | null {
  if (!due) return idle && phrases.say('occasion.idle', { duration: durationWords(idle.for, phrases) });
  const field = fieldOf(source, due.field)?.name ?? due.field;
  const isZero = /^-?P[T0A-Z]*$/.test(due.offset);
  if (isZero) return phrases.say('occasion.onTheDay', { field });
  const duration = durationWords(due.offset.replace(/^-/, ''), phrases);
  return due.offset.startsWith('-')
    ? phrases.say('occasion.before', { duration, field })
    : phrases.say('occasion.after', { duration, field });
}

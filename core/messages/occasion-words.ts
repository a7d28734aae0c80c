import { leadsOf, type Rule } from '../rules/index.ts';
import type { Duration } from '../time/index.ts';
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
  return phrases.and(leadsOf(due).map((lead) => leadWords(lead, field, phrases)));
}

function leadWords(lead: Duration, field: string, phrases: Terms): string {
  if (/^-?P[T0A-Z]*$/.test(lead)) return phrases.say('occasion.onTheDay', { field });
  const duration = durationWords(lead.replace(/^-/, ''), phrases);
  return lead.startsWith('-')
    ? phrases.say('occasion.before', { duration, field })
    : phrases.say('occasion.after', { duration, field });
}

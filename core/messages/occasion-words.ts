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
  const leads = leadsOf(due);
  const isOn = (lead: Duration) => /^-?P[T0A-Z]*$/.test(lead);
  const said = (lead: Duration) => durationWords(lead.replace(/^-/, ''), phrases);
  const before = leads.filter((lead) => !isOn(lead) && lead.startsWith('-')).map(said);
  const after = leads.filter((lead) => !isOn(lead) && !lead.startsWith('-')).map(said);
  // Those of one side stand together: *14 days and 2 days before Due back*.
  return phrases.and([
    ...(before.length > 0 ? [phrases.say('occasion.before', { duration: phrases.and(before), field })] : []),
    ...(leads.some(isOn) ? [phrases.say('occasion.onTheDay', { field })] : []),
    ...(after.length > 0 ? [phrases.say('occasion.after', { duration: phrases.and(after), field })] : []),
  ]);
}

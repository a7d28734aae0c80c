import type { Reason, World } from '../people/index.ts';
import type { Rule } from '../rules/index.ts';
import { type Fields, fieldOf, formatValue, type Source } from '../values/index.ts';
import { durationWords, heldWords, type Phrasing } from './condition-words.ts';
import type { Phrases } from './locales/index.ts';
import { occasionWords } from './occasion-words.ts';
import type { Telling, Words } from './content.ts';

/** What it takes to word a whole message, not its terms alone. */
type MessagePhrasing = Phrasing & { phrases: Phrases };

/** What a date or a standstill says of an item: *Due back is 18 March 2026*. */
export function noteWords(
  { occasion, rule }: Telling,
  fields: Fields,
  { source, reader, names, phrases }: MessagePhrasing,
): string[] {
  const field = rule.due && fieldOf(source, rule.due.field);
  if (occasion === 'due' && field)
    return [phrases.say('note.due', { field: field.name, value: formatValue(field, fields[field.id], reader, names) })];
  return occasion === 'idle' && rule.idle
    ? [phrases.say('note.idle', { duration: durationWords(rule.idle.for, phrases) })]
    : [];
}

/** Why the rule caught it, and why its reader hears, as whole sentences. */
export function whyWords(tellings: readonly Telling[], phrasing: MessagePhrasing, world: World): Words[] {
  const sentences = tellings.flatMap(({ rule, occasion, reasons }) => [
    ...(occasion === 'change' ? whyCaught(rule, phrasing) : [whyNow(rule, phrasing)]),
    ...reasons.map((reason) => reasonWords(reason, rule, phrasing, world)),
  ]);
  return [...new Map(sentences.map((words) => [JSON.stringify(words), words])).values()];
}

function whyCaught({ when }: Rule, phrasing: MessagePhrasing): Words[] {
  const { phrases } = phrasing;
  const held = when ? heldWords(when.if, phrasing) : [];
  return when?.burst
    ? [
        ...held,
        phrases.words('why.burst', { count: when.burst.count, duration: durationWords(when.burst.within, phrases) }),
      ]
    : held;
}

function whyNow(rule: Rule, { source, phrases }: MessagePhrasing): Words {
  const occasion = occasionWords(rule, source, phrases) ?? '';
  if (rule.tally) return phrases.words('why.tally', { occasion });
  return rule.due ? phrases.words('why.due', { occasion }) : phrases.words('why.idle', { occasion });
}

const nameOf = (source: Source | undefined, id: string): string => (source && fieldOf(source, id)?.name) ?? id;

/** Why a rule names somebody, as a sentence to them. */
export function reasonWords(reason: Reason, rule: Rule, { source, phrases }: MessagePhrasing, world: World): Words {
  switch (reason.kind) {
    case 'person':
      return phrases.words('why.person', { rule: rule.name });
    case 'group':
      return phrases.words('why.group', { group: world.groups.get(reason.group)?.name ?? reason.group });
    case 'field':
      return phrases.words('why.field', { field: nameOf(source, reason.field) });
    case 'linked': {
      const to = fieldOf(source, reason.linked)?.to;
      return phrases.words('why.linked', {
        field: nameOf(to === undefined ? undefined : world.sources.get(to), reason.field),
        linked: nameOf(source, reason.linked),
      });
    }
    case 'creator':
      return phrases.words('why.creator');
    case 'lastEditor':
      return phrases.words('why.lastEditor');
    case 'follower':
      return phrases.words('why.follower');
    case 'mentioned':
      return phrases.words('why.mentioned');
    case 'managerOf':
      return phrases.words('why.managerOf', { person: world.people.get(reason.person)?.name ?? reason.person });
    case 'address':
      return phrases.words('why.address', { rule: rule.name });
    case 'told':
      return phrases.words('why.told');
    case 'askedAgain':
      return phrases.words('why.askedAgain');
    case 'inPlaceOf':
      return phrases.words('why.inPlaceOf', { person: world.people.get(reason.person)?.name ?? reason.person });
    default:
      return reason satisfies never;
  }
}

import type { Reason, World } from '../people/index.ts';
import type { Rule } from '../rules/index.ts';
import { type Fields, fieldOf, formatValue, type Source } from '../values/index.ts';
import { durationWords, heldWords, type Phrasing } from './condition-words.ts';
import type { Telling, Words } from './content.ts';
import { PAGES_TONGUE } from './tongues/index.ts';

/** What a date or a standstill says of an item: *Due back is 18 March 2026*. */
export function noteWords(
  { occasion, rule }: Telling,
  fields: Fields,
  { source, reader, names, tongue = PAGES_TONGUE }: Phrasing,
): string[] {
  const field = rule.due && fieldOf(source, rule.due.field);
  if (occasion === 'due' && field)
    return [tongue.say('note.due', { field: field.name, value: formatValue(field, fields[field.id], reader, names) })];
  return occasion === 'idle' && rule.idle
    ? [tongue.say('note.idle', { duration: durationWords(rule.idle.for, tongue) })]
    : [];
}

/** Why the rule caught it, and why its reader hears, as whole sentences. */
export function whyWords(tellings: readonly Telling[], phrasing: Phrasing, world: World): Words[] {
  const sentences = tellings.flatMap(({ rule, occasion, reasons }) => [
    ...(occasion === 'change' ? whyCaught(rule, phrasing) : [whyNow(rule, phrasing)]),
    ...reasons.map((reason) => reasonWords(reason, rule, phrasing, world)),
  ]);
  return [...new Map(sentences.map((words) => [JSON.stringify(words), words])).values()];
}

function whyCaught({ when }: Rule, phrasing: Phrasing): Words[] {
  const { tongue = PAGES_TONGUE } = phrasing;
  const held = when ? heldWords(when.if, phrasing) : [];
  return when?.burst
    ? [
        ...held,
        tongue.words('why.burst', { count: when.burst.count, duration: durationWords(when.burst.within, tongue) }),
      ]
    : held;
}

function whyNow(rule: Rule, { source, tongue = PAGES_TONGUE }: Phrasing): Words {
  const occasion = occasionWords(rule, source, tongue) ?? '';
  return rule.due ? tongue.words('why.due', { occasion }) : tongue.words('why.idle', { occasion });
}

/** The date or standstill at which a rule tells: *14 days before Due back*; `null` for one that looks at changes. */
export function occasionWords(
  { due, idle }: Pick<Rule, 'due' | 'idle'>,
  source: Source,
  tongue = PAGES_TONGUE,
): string | null {
  if (!due) return idle && tongue.say('occasion.idle', { duration: durationWords(idle.for, tongue) });
  const field = nameOf(source, due.field);
  const isZero = /^-?P[T0A-Z]*$/.test(due.offset);
  if (isZero) return tongue.say('occasion.onTheDay', { field });
  const duration = durationWords(due.offset.replace(/^-/, ''), tongue);
  return due.offset.startsWith('-')
    ? tongue.say('occasion.before', { duration, field })
    : tongue.say('occasion.after', { duration, field });
}

const nameOf = (source: Source | undefined, id: string): string => (source && fieldOf(source, id)?.name) ?? id;

/** Why a rule names somebody, as a sentence to them. */
export function reasonWords(
  reason: Reason,
  rule: Rule,
  { source, tongue = PAGES_TONGUE }: Phrasing,
  world: World,
): Words {
  switch (reason.kind) {
    case 'person':
      return tongue.words('why.person', { rule: rule.name });
    case 'group':
      return tongue.words('why.group', { group: world.groups.get(reason.group)?.name ?? reason.group });
    case 'field':
      return tongue.words('why.field', { field: nameOf(source, reason.field) });
    case 'linked': {
      const to = fieldOf(source, reason.linked)?.to;
      return tongue.words('why.linked', {
        field: nameOf(to === undefined ? undefined : world.sources.get(to), reason.field),
        linked: nameOf(source, reason.linked),
      });
    }
    case 'creator':
      return tongue.words('why.creator');
    case 'lastEditor':
      return tongue.words('why.lastEditor');
    case 'follower':
      return tongue.words('why.follower');
    case 'mentioned':
      return tongue.words('why.mentioned');
    case 'managerOf':
      return tongue.words('why.managerOf', { person: world.people.get(reason.person)?.name ?? reason.person });
    case 'address':
      return tongue.words('why.address', { rule: rule.name });
    case 'told':
      return tongue.words('why.told');
    default:
      return reason satisfies never;
  }
}

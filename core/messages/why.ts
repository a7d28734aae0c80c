import type { Reason, World } from '../people/index.ts';
import type { Rule } from '../rules/index.ts';
import { type Fields, fieldOf, formatValue, type Source } from '../values/index.ts';
import { durationWords, heldWords, type Phrasing } from './condition-words.ts';
import type { Telling, Words } from './content.ts';

/** What a date or a standstill says of an item: *Due back is 18 March 2026*. */
export function noteWords({ occasion, rule }: Telling, fields: Fields, { source, reader, names }: Phrasing): string[] {
  const field = rule.due && fieldOf(source, rule.due.field);
  if (occasion === 'due' && field) return [`${field.name} is ${formatValue(field, fields[field.id], reader, names)}`];
  return occasion === 'idle' && rule.idle ? [`no change for ${durationWords(rule.idle.for)}`] : [];
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
  const held = when ? heldWords(when.if, phrasing) : [];
  return when?.burst ? [...held, ['It came about ', { strong: `${when.burst.count} times within ${durationWords(when.burst.within)}` }, '.']] : held;
}

const whyNow = (rule: Rule, { source }: Phrasing): Words => [rule.due ? 'It is ' : 'It had ', { strong: occasionWords(rule, source) ?? '' }, '.'];

/** The date or standstill at which a rule tells: *14 days before Due back*; `null` for one that looks at changes. */
export function occasionWords({ due, idle }: Pick<Rule, 'due' | 'idle'>, source: Source): string | null {
  if (!due) return idle && `no change for ${durationWords(idle.for)}`;
  const name = nameOf(source, due.field);
  const isZero = /^-?P[T0A-Z]*$/.test(due.offset);
  return isZero ? `the day of ${name}` : `${durationWords(due.offset.replace(/^-/, ''))} ${due.offset.startsWith('-') ? 'before' : 'after'} ${name}`;
}

const nameOf = (source: Source | undefined, id: string): string => (source && fieldOf(source, id)?.name) ?? id;

/** Why a rule names somebody, as a sentence to them. */
export function reasonWords(reason: Reason, rule: Rule, { source }: Phrasing, world: World): Words {
  switch (reason.kind) {
    case 'person':
      return ['The rule ', { strong: rule.name }, ' names you.'];
    case 'group':
      return ['You are in ', { strong: world.groups.get(reason.group)?.name ?? reason.group }, '.'];
    case 'field':
      return ['You are its ', { strong: nameOf(source, reason.field) }, '.'];
    case 'linked': {
      const to = fieldOf(source, reason.linked)?.to;
      return ['You are the ', { strong: nameOf(to === undefined ? undefined : world.sources.get(to), reason.field) }, ' of its ', { strong: nameOf(source, reason.linked) }, '.'];
    }
    case 'creator':
      return ['You ', { strong: 'made' }, ' it.'];
    case 'lastEditor':
      return ['You were the ', { strong: 'last to edit' }, ' it before.'];
    case 'follower':
      return ['You ', { strong: 'keep an eye' }, ' on it.'];
    case 'mentioned':
      return ['You are ', { strong: 'mentioned' }, '.'];
    case 'managerOf':
      return ['You are the manager of ', { strong: world.people.get(reason.person)?.name ?? reason.person }, '.'];
    case 'address':
      return ['The rule ', { strong: rule.name }, ' names this address.'];
    case 'told':
      return ['You were told of it before.'];
    default:
      return reason satisfies never;
  }
}

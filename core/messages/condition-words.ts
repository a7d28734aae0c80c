import {
  type Condition,
  type FieldTest,
  isKind,
  type Membership,
  type Movement,
  type Operand,
  ownFields,
  partsOf,
  type StateTest,
  stateOf,
  visitCondition,
  visitState,
} from '../rules/index.ts';
import { fieldOf, formatValue, type Names, type Reader, type Source, type Value } from '../values/index.ts';
import type { Words } from './content.ts';
import type { TermKey, Terms } from './locales/index.ts';

/** What it takes to word a condition: the source it is about, the reader's formats, names for ids, and the language. */
export interface Phrasing {
  source: Source;
  reader: Reader;
  names: Names;
  phrases: Terms;
}

const UNITS = [
  [/^-?P(\d+)M/, 'month'],
  [/(\d+)W/, 'week'],
  [/(\d+)D/, 'day'],
  [/T(?:.*?)(\d+)H/, 'hour'],
  [/T(?:\d+H)?(\d+)M/, 'minute'],
  [/(\d+)S/, 'second'],
] as const;

/** A duration as people say it: `P14D` is *14 days*. */
export function durationWords(duration: string, phrases: Terms): string {
  const parts = UNITS.flatMap(([pattern, unit]) => {
    const n = Number(pattern.exec(duration)?.[1] ?? 0);
    return n === 0 ? [] : [phrases.say(`duration.${unit}`, { n })];
  });
  return phrases.and(parts) || duration;
}

/** The value a test compares with, in words. */
function operandWords(test: FieldTest, phrasing: Phrasing): string {
  const phrases = phrasing.phrases;
  if (test.value === undefined || test.op === 'empty' || test.op === 'filled') return '';
  if (test.op === 'withinNext' || test.op === 'withinLast') return durationWords(String(test.value), phrases);
  const field = fieldOf(phrasing.source, test.field);
  const say = (value: Operand) =>
    field ? formatValue(field, value as Value, phrasing.reader, phrasing.names) || String(value) : String(value);
  const values = Array.isArray(test.value) ? (test.value as Value[]).map(say) : [say(test.value)];
  return test.op === 'between' || test.op === 'includesAll' ? phrases.and(values) : phrases.or(values);
}

const labelOf = (id: string, { source }: Phrasing) => fieldOf(source, id)?.name ?? id;
const labelsOf = (ids: string | string[], phrasing: Phrasing) =>
  phrasing.phrases.or([ids].flat().map((id) => labelOf(id, phrasing)));

type Tense = 'is' | 'was' | 'becomes';

/** How an operator reads after the field's name: *is above*, *was above*, *goes above*. */
export const operatorWords = (op: FieldTest['op'], tense: Tense, phrases: Terms): string =>
  phrases.say(`op.${op}.${tense}`);

function stateWords(test: StateTest, tense: Tense, phrasing: Phrasing): Words {
  const phrases = phrasing.phrases;
  const parts = (tests: StateTest[]) => tests.map((part) => stateWords(part, tense, phrasing));
  return visitState<Words>(test, {
    test: (one) => {
      const verb = operatorWords(one.op, tense, phrases);
      const operand = operandWords(one, phrasing);
      return [`${labelOf(one.field, phrasing)} `, { strong: operand ? `${verb} ${operand}` : verb }];
    },
    all: ({ all }) => joinWords(parts(all), phrases.say('condition.and')),
    any: ({ any }) => joinWords(parts(any), phrases.say('condition.or')),
    none: ({ none }) => [phrases.say('condition.none'), ...joinWords(parts(none), ', ')],
  });
}

function joinWords(parts: Words[], joiner: string): Words {
  return parts.flatMap((part, at) => (at === 0 ? part : [joiner, ...part]));
}

/** A rule's condition as a sentence part: *Status **becomes On view***. Empty where it is open to everything. */
export function conditionWords(node: Condition, phrasing: Phrasing): Words {
  const phrases = phrasing.phrases;
  const parts = (nodes: Condition[]) => nodes.map((part) => conditionWords(part, phrasing));
  return visitCondition<Words>(node, {
    test: (test) => stateWords(test, 'is', phrasing),
    all: ({ all }) => joinWords(parts(all), phrases.say('condition.and')),
    any: ({ any }) => joinWords(parts(any), phrases.say('condition.or')),
    none: ({ none }) => [phrases.say('condition.none'), ...joinWords(parts(none), ', ')],
    was: ({ was }) => stateWords(was, 'was', phrasing),
    became: ({ became }) => stateWords(became, 'becomes', phrasing),
    ceased: ({ ceased }) => [phrases.say('condition.ceased'), ...stateWords(ceased, 'is', phrasing)],
    changed: ({ changed }) =>
      changed === '*'
        ? phrases.words('condition.anyField')
        : phrases.words('condition.changed', { fields: labelsOf(changed, phrasing) }),
    rose: ({ rose }) => movementWords(['condition.rises', 'condition.risesBy'], rose, phrasing),
    fell: ({ fell }) => movementWords(['condition.falls', 'condition.fallsBy'], fell, phrasing),
    gained: ({ gained }) => membershipWords(['condition.gains', 'condition.gainsAny'], gained, phrasing),
    lost: ({ lost }) => membershipWords(['condition.loses', 'condition.losesAny'], lost, phrasing),
  });
}

function membershipWords([bare, some]: [TermKey, TermKey], { field: id, any }: Membership, phrasing: Phrasing): Words {
  const phrases = phrasing.phrases;
  const field = labelOf(id, phrasing);
  return any ? phrases.words(some, { field, members: phrases.or(any) }) : phrases.words(bare, { field });
}

function movementWords(
  [bare, least]: [TermKey, TermKey],
  { field: id, by, percent }: Movement,
  phrasing: Phrasing,
): Words {
  const phrases = phrasing.phrases;
  const field = labelOf(id, phrasing);
  const share = percent === undefined ? [] : [`${percent} %`];
  const amount = by === undefined ? [] : [/^P/.test(String(by)) ? durationWords(String(by), phrases) : String(by)];
  const parts = [...amount, ...share];
  return parts.length > 0 ? phrases.words(least, { field, least: phrases.and(parts) }) : phrases.words(bare, { field });
}

/** Why the condition held of a change, as whole sentences: *Status was not On view and now is.* */
export function heldWords(node: Condition, phrasing: Phrasing): Words[] {
  const phrases = phrasing.phrases;
  const asItStands = (): Words[] => {
    const words = conditionWords(node, phrasing);
    return words.length === 0 ? [] : [[...words, '.']];
  };
  return visitCondition<Words[]>(node, {
    test: asItStands,
    all: ({ all }) => all.flatMap((part) => heldWords(part, phrasing)),
    any: ({ any: [only, ...others] }) => (only && others.length === 0 ? heldWords(only, phrasing) : asItStands()),
    none: () => [],
    was: asItStands,
    became: ({ became }) => {
      if (!isKind(became, 'test') || became.op !== 'is') return asItStands();
      const put = { field: labelOf(became.field, phrasing), value: operandWords(became, phrasing) };
      return [phrases.words('why.becameIs', put)];
    },
    ceased: asItStands,
    changed: ({ changed }) => [
      changed === '*'
        ? phrases.words('why.anyChanged')
        : phrases.words('why.changed', { fields: labelsOf(changed, phrasing) }),
    ],
    rose: ({ rose }) => [movementWords(['condition.rose', 'condition.roseBy'], rose, phrasing)],
    fell: ({ fell }) => [movementWords(['condition.fell', 'condition.fellBy'], fell, phrasing)],
    gained: asItStands,
    lost: asItStands,
  });
}

/** Ids of the fields a condition names, in its order; one that names any names none. */
export function fieldsNamed(node: Condition): string[] {
  const state = stateOf(node);
  const own = ownFields(node).filter((id) => id !== '*');
  return [...own, ...(state ? [state] : partsOf(node)).flatMap(fieldsNamed)];
}

/** Words without their emphasis. */
export const plainWords = (words: Words): string =>
  words.map((part) => (typeof part === 'string' ? part : part.strong)).join('');

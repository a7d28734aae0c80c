import type { Condition, FieldTest, Movement, Operand, StateTest } from '../rules/index.ts';
import { fieldOf, formatValue, type Names, type Reader, type Source, type Value } from '../values/index.ts';
import type { Words } from './content.ts';
import { PAGES_PHRASES, type TextKey, type Phrases } from './locales/index.ts';

/** What it takes to word a condition: the source it is about, the reader's formats, names for ids, and the language, that of the pages where none is given. */
export interface Phrasing {
  source: Source;
  reader: Reader;
  names: Names;
  phrases?: Phrases;
}

const tongueFor = ({ phrases }: Phrasing): Phrases => phrases ?? PAGES_PHRASES;

const UNITS = [
  [/^-?P(\d+)M/, 'month'],
  [/(\d+)W/, 'week'],
  [/(\d+)D/, 'day'],
  [/T(?:.*?)(\d+)H/, 'hour'],
  [/T(?:\d+H)?(\d+)M/, 'minute'],
  [/(\d+)S/, 'second'],
] as const;

/** A duration as people say it: `P14D` is *14 days*. */
export function durationWords(duration: string, phrases = PAGES_PHRASES): string {
  const parts = UNITS.flatMap(([pattern, unit]) => {
    const n = Number(pattern.exec(duration)?.[1] ?? 0);
    return n === 0 ? [] : [phrases.say(`duration.${unit}`, { n })];
  });
  return phrases.and(parts) || duration;
}

/** The value a test compares with, in words. */
function operandWords(test: FieldTest, phrasing: Phrasing): string {
  const phrases = tongueFor(phrasing);
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
  tongueFor(phrasing).or([ids].flat().map((id) => labelOf(id, phrasing)));

type Tense = 'is' | 'was' | 'becomes';

/** How an operator reads after the field's name: *is above*, *was above*, *goes above*. */
export const operatorWords = (op: FieldTest['op'], tense: Tense, phrases = PAGES_PHRASES): string =>
  phrases.say(`op.${op}.${tense}`);

function stateWords(test: StateTest, tense: Tense, phrasing: Phrasing): Words {
  const phrases = tongueFor(phrasing);
  if ('op' in test) {
    const verb = operatorWords(test.op, tense, phrases);
    const operand = operandWords(test, phrasing);
    return [`${labelOf(test.field, phrasing)} `, { strong: operand ? `${verb} ${operand}` : verb }];
  }
  if ('all' in test)
    return joinWords(
      test.all.map((part) => stateWords(part, tense, phrasing)),
      phrases.say('condition.and'),
    );
  if ('any' in test)
    return joinWords(
      test.any.map((part) => stateWords(part, tense, phrasing)),
      phrases.say('condition.or'),
    );
  return [
    phrases.say('condition.none'),
    ...joinWords(
      test.none.map((part) => stateWords(part, tense, phrasing)),
      ', ',
    ),
  ];
}

function joinWords(parts: Words[], joiner: string): Words {
  return parts.flatMap((part, at) => (at === 0 ? part : [joiner, ...part]));
}

/** A rule's condition as a sentence part: *Status **becomes On view***. Empty where it is open to everything. */
export function conditionWords(node: Condition, phrasing: Phrasing): Words {
  const phrases = tongueFor(phrasing);
  if ('op' in node) return stateWords(node, 'is', phrasing);
  if ('all' in node)
    return joinWords(
      node.all.map((part) => conditionWords(part, phrasing)),
      phrases.say('condition.and'),
    );
  if ('any' in node)
    return joinWords(
      node.any.map((part) => conditionWords(part, phrasing)),
      phrases.say('condition.or'),
    );
  if ('none' in node)
    return [
      phrases.say('condition.none'),
      ...joinWords(
        node.none.map((part) => conditionWords(part, phrasing)),
        ', ',
      ),
    ];
  if ('was' in node) return stateWords(node.was, 'was', phrasing);
  if ('became' in node) return stateWords(node.became, 'becomes', phrasing);
  if ('ceased' in node) return [phrases.say('condition.ceased'), ...stateWords(node.ceased, 'is', phrasing)];
  if ('changed' in node)
    return node.changed === '*'
      ? phrases.words('condition.anyField')
      : phrases.words('condition.changed', { fields: labelsOf(node.changed, phrasing) });
  if ('rose' in node) return movementWords(['condition.rises', 'condition.risesBy'], node.rose, phrasing);
  if ('fell' in node) return movementWords(['condition.falls', 'condition.fallsBy'], node.fell, phrasing);
  const [bare, some, membership] =
    'gained' in node
      ? (['condition.gains', 'condition.gainsAny', node.gained] as const)
      : (['condition.loses', 'condition.losesAny', node.lost] as const);
  const field = labelOf(membership.field, phrasing);
  return membership.any
    ? phrases.words(some, { field, members: phrases.or(membership.any) })
    : phrases.words(bare, { field });
}

function movementWords(
  [bare, least]: [TextKey, TextKey],
  { field: id, by, percent }: Movement,
  phrasing: Phrasing,
): Words {
  const phrases = tongueFor(phrasing);
  const field = labelOf(id, phrasing);
  const share = percent === undefined ? [] : [`${percent} %`];
  const amount = by === undefined ? [] : [/^P/.test(String(by)) ? durationWords(String(by), phrases) : String(by)];
  const parts = [...amount, ...share];
  return parts.length > 0 ? phrases.words(least, { field, least: phrases.and(parts) }) : phrases.words(bare, { field });
}

/** Why the condition held of a change, as whole sentences: *Status was not On view and now is.* */
export function heldWords(node: Condition, phrasing: Phrasing): Words[] {
  const phrases = tongueFor(phrasing);
  if ('all' in node) return node.all.flatMap((part) => heldWords(part, phrasing));
  if ('any' in node && node.any.length === 1) return heldWords(node.any[0] as Condition, phrasing);
  if ('became' in node && 'op' in node.became && node.became.op === 'is') {
    return [
      phrases.words('why.becameIs', {
        field: labelOf(node.became.field, phrasing),
        value: operandWords(node.became, phrasing),
      }),
    ];
  }
  if ('none' in node) return [];
  if ('changed' in node)
    return [
      node.changed === '*'
        ? phrases.words('why.anyChanged')
        : phrases.words('why.changed', { fields: labelsOf(node.changed, phrasing) }),
    ];
  if ('rose' in node) return [movementWords(['condition.rose', 'condition.roseBy'], node.rose, phrasing)];
  if ('fell' in node) return [movementWords(['condition.fell', 'condition.fellBy'], node.fell, phrasing)];
  const words = conditionWords(node, phrasing);
  return words.length === 0 ? [] : [[...words, '.']];
}

/** Ids of the fields a condition names, in its order. */
export function fieldsNamed(node: Condition | StateTest): string[] {
  if ('op' in node) return [node.field];
  if ('changed' in node) return [node.changed].flat().filter((id) => id !== '*');
  const inner = Object.values(node).flat() as (Condition | { field: string })[];
  return inner.flatMap((part) => ('field' in part && !('op' in part) ? [part.field] : fieldsNamed(part as Condition)));
}

/** Words without their emphasis. */
export const plainWords = (words: Words): string =>
  words.map((part) => (typeof part === 'string' ? part : part.strong)).join('');

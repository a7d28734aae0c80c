import type { Condition, FieldTest, Movement, Operand, OPERATORS, StateTest } from '../rules/index.ts';
import { fieldOf, formatValue, type Names, type Reader, type Source, type Value } from '../values/index.ts';
import type { Words } from './content.ts';

/** What it takes to word a condition: the source it is about, the reader's formats, names for ids. */
export interface Phrasing {
  source: Source;
  reader: Reader;
  names: Names;
}

type Op = (typeof OPERATORS)[number];

/** How each operator reads after *is* or *was*, and after *becomes*. */
export const OPERATOR_WORDS: Record<Op, { is: string; was: string; becomes: string }> = {
  empty: { is: 'is empty', was: 'was empty', becomes: 'becomes empty' },
  filled: { is: 'is filled', was: 'was filled', becomes: 'is filled in' },
  is: { is: 'is', was: 'was', becomes: 'becomes' },
  isNot: { is: 'is not', was: 'was not', becomes: 'is no longer' },
  oneOf: { is: 'is any of', was: 'was any of', becomes: 'becomes any of' },
  noneOf: { is: 'is none of', was: 'was none of', becomes: 'becomes none of' },
  contains: { is: 'contains', was: 'contained', becomes: 'comes to contain' },
  lacks: { is: 'lacks', was: 'lacked', becomes: 'comes to lack' },
  startsWith: { is: 'starts with', was: 'started with', becomes: 'comes to start with' },
  endsWith: { is: 'ends with', was: 'ended with', becomes: 'comes to end with' },
  above: { is: 'is above', was: 'was above', becomes: 'goes above' },
  atLeast: { is: 'is at least', was: 'was at least', becomes: 'reaches' },
  below: { is: 'is below', was: 'was below', becomes: 'goes below' },
  atMost: { is: 'is at most', was: 'was at most', becomes: 'falls to' },
  between: { is: 'is between', was: 'was between', becomes: 'comes between' },
  before: { is: 'is before', was: 'was before', becomes: 'comes before' },
  after: { is: 'is after', was: 'was after', becomes: 'comes after' },
  withinNext: { is: 'is within the next', was: 'was within the next', becomes: 'comes within the next' },
  withinLast: { is: 'is within the last', was: 'was within the last', becomes: 'comes within the last' },
  includesAny: { is: 'includes any of', was: 'included any of', becomes: 'comes to include any of' },
  includesAll: { is: 'includes all of', was: 'included all of', becomes: 'comes to include all of' },
};

/** Parts of a list in words. */
export const listed = (parts: string[], joiner: string) =>
  parts.length < 2 ? parts.join('') : `${parts.slice(0, -1).join(', ')} ${joiner} ${parts.at(-1)}`;

/** A duration as people say it: `P14D` is *14 days*. */
export function durationWords(duration: string): string {
  const names: [RegExp, string][] = [[/^-?P(\d+)M/, 'month'], [/(\d+)W/, 'week'], [/(\d+)D/, 'day'], [/T(?:.*?)(\d+)H/, 'hour'], [/T(?:\d+H)?(\d+)M/, 'minute'], [/(\d+)S/, 'second']];
  const parts = names.flatMap(([pattern, name]) => {
    const count = Number(pattern.exec(duration)?.[1] ?? 0);
    return count === 0 ? [] : [`${count} ${name}${count === 1 ? '' : 's'}`];
  });
  return listed(parts, 'and') || duration;
}

/** The value a test compares with, in words. */
function operandWords(test: FieldTest, phrasing: Phrasing): string {
  if (test.value === undefined || test.op === 'empty' || test.op === 'filled') return '';
  if (test.op === 'withinNext' || test.op === 'withinLast') return durationWords(String(test.value));
  const field = fieldOf(phrasing.source, test.field);
  const say = (value: Operand) => (field ? formatValue(field, value as Value, phrasing.reader, phrasing.names) || String(value) : String(value));
  const values = Array.isArray(test.value) ? (test.value as Value[]).map(say) : [say(test.value)];
  return listed(values, test.op === 'between' || test.op === 'includesAll' ? 'and' : 'or');
}

const labelOf = (id: string, { source }: Phrasing) => fieldOf(source, id)?.name ?? id;

function stateWords(test: StateTest, tense: 'is' | 'was' | 'becomes', phrasing: Phrasing): Words {
  if ('op' in test) {
    const verb = OPERATOR_WORDS[test.op][tense];
    const operand = operandWords(test, phrasing);
    return [`${labelOf(test.field, phrasing)} `, { strong: operand ? `${verb} ${operand}` : verb }];
  }
  if ('all' in test) return joinWords(test.all.map((part) => stateWords(part, tense, phrasing)), ' and ');
  if ('any' in test) return joinWords(test.any.map((part) => stateWords(part, tense, phrasing)), ' or ');
  return ['none of: ', ...joinWords(test.none.map((part) => stateWords(part, tense, phrasing)), ', ')];
}

function joinWords(parts: Words[], joiner: string): Words {
  return parts.flatMap((part, at) => (at === 0 ? part : [joiner, ...part]));
}

/** A rule's condition as a sentence part: *Status **becomes On view***. Empty where it is open to everything. */
export function conditionWords(node: Condition, phrasing: Phrasing): Words {
  if ('op' in node) return stateWords(node, 'is', phrasing);
  if ('all' in node) return joinWords(node.all.map((part) => conditionWords(part, phrasing)), ' and ');
  if ('any' in node) return joinWords(node.any.map((part) => conditionWords(part, phrasing)), ' or ');
  if ('none' in node) return ['none of: ', ...joinWords(node.none.map((part) => conditionWords(part, phrasing)), ', ')];
  if ('was' in node) return stateWords(node.was, 'was', phrasing);
  if ('became' in node) return stateWords(node.became, 'becomes', phrasing);
  if ('ceased' in node) return ['no longer: ', ...stateWords(node.ceased, 'is', phrasing)];
  if ('changed' in node) {
    return node.changed === '*' ? [{ strong: 'any field changes' }] : [`${listed([node.changed].flat().map((id) => labelOf(id, phrasing)), 'or')} `, { strong: 'changes' }];
  }
  if ('rose' in node) return movementWords('rises', node.rose, phrasing);
  if ('fell' in node) return movementWords('falls', node.fell, phrasing);
  const [verb, membership] = 'gained' in node ? ['gains', node.gained] as const : ['loses', node.lost] as const;
  return [`${labelOf(membership.field, phrasing)} `, { strong: membership.any ? `${verb} any of ${listed(membership.any, 'or')}` : `${verb} a member` }];
}

function movementWords(verb: string, { field, by, percent }: Movement, phrasing: Phrasing): Words {
  const share = percent === undefined ? null : `${percent} %`;
  const amount = by === undefined ? null : /^P/.test(String(by)) ? durationWords(String(by)) : String(by);
  const least = [amount, share].filter((one) => one !== null).join(' and ');
  return [`${labelOf(field, phrasing)} `, { strong: least ? `${verb} by ${least} or more` : verb }];
}

/** Why the condition held of a change, as whole sentences: *Status was not On view and now is.* */
export function heldWords(node: Condition, phrasing: Phrasing): Words[] {
  if ('all' in node) return node.all.flatMap((part) => heldWords(part, phrasing));
  if ('any' in node && node.any.length === 1) return heldWords(node.any[0] as Condition, phrasing);
  if ('became' in node && 'op' in node.became && node.became.op === 'is') {
    return [[`${labelOf(node.became.field, phrasing)} was not `, { strong: operandWords(node.became, phrasing) }, ' and now is.']];
  }
  if ('none' in node) return [];
  if ('changed' in node) return [[node.changed === '*' ? 'It ' : `${listed([node.changed].flat().map((id) => labelOf(id, phrasing)), 'or')} `, { strong: 'changed' }, '.']];
  if ('rose' in node || 'fell' in node) {
    const [verb, movement] = 'rose' in node ? (['rose', node.rose] as const) : (['fell', node.fell] as const);
    return [[...movementWords(verb, movement, phrasing), '.']];
  }
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
export const plainWords = (words: Words): string => words.map((part) => (typeof part === 'string' ? part : part.strong)).join('');

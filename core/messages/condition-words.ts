import {
  type Condition,
  type FieldTest,
  fromTo,
  isKind,
  isOpen,
  type LinkedTest,
  type Membership,
  type Movement,
  type Operand,
  otherField,
  ownFields,
  partsOf,
  type StateTest,
  stateOf,
  stateParts,
  visitCondition,
  visitState,
} from '../rules/index.ts';
import { isCivilDate, partsOfDuration } from '../time/index.ts';
import {
  fieldOf,
  formatDay,
  formatValue,
  isTextType,
  type Names,
  type Reader,
  type Source,
  type Value,
} from '../values/index.ts';
import type { Words } from './content.ts';
import type { TermKey, Terms } from './locales/index.ts';

/** What it takes to word a condition: the source it is about and those that links lead to, the reader's formats, names for ids, and the language. */
export interface Phrasing {
  source: Source;
  sources: ReadonlyMap<string, Source>;
  reader: Reader;
  names: Names;
  phrases: Terms;
}

/** A duration as people say it: `P14D` is *14 days*. */
export function durationWords(duration: string, phrases: Terms): string {
  const parts = partsOfDuration(duration).map(({ count: n, unit }) => phrases.say(`duration.${unit}`, { n }));
  return phrases.and(parts) || duration;
}

/** The value a test compares with, in words; text in quotes, so that what is written tells itself from what is said. */
function operandWords(test: FieldTest, phrasing: Phrasing): string {
  const phrases = phrasing.phrases;
  if (test.value === undefined || test.op === 'empty' || test.op === 'filled') return '';
  const other = otherField(test);
  if (other !== null) return labelOf(other, phrasing);
  if (test.op === 'withinNext' || test.op === 'withinLast') return durationWords(String(test.value), phrases);
  const say = (value: Operand) => valueWords(test.field, value as Value, phrasing);
  const values = Array.isArray(test.value) ? (test.value as Value[]).map(say) : [say(test.value)];
  const words = test.op === 'between' || test.op === 'includesAll' ? phrases.and(values) : phrases.or(values);
  return test.matchCase ? phrases.say('condition.matchCase', { words }) : words;
}

function valueWords(id: string, value: Value, { source, reader, names, phrases }: Phrasing): string {
  const field = fieldOf(source, id);
  if (!field) return String(value);
  if (isTextType(field.type)) return phrases.say('condition.quoted', { text: String(value) });
  if (field.type === 'dateTime' && isCivilDate(String(value))) return formatDay(String(value), reader.locale);
  return formatValue(field, value, reader, names) || String(value);
}

const labelOf = (id: string, { source }: Phrasing) => fieldOf(source, id)?.name ?? id;
const labelsOf = (ids: string | string[], phrasing: Phrasing) =>
  phrasing.phrases.or([ids].flat().map((id) => labelOf(id, phrasing)));

type Tense = 'is' | 'was' | 'becomes';

/** How an operator reads after the field's name: *is above*, *was above*, *goes above*. */
export const operatorWords = (op: FieldTest['op'], tense: Tense, phrases: Terms): string =>
  phrases.say(`op.${op}.${tense}`);

/** What joins the parts of a group. */
type Joining = 'all' | 'any' | 'none';

/** The parts of a group, told apart by brackets where it stands within one that joins otherwise. */
function joined<N>(kind: Joining, nodes: readonly N[], around: Joining | null, phrases: Terms, say: Say<N>): Words {
  const [first, ...others] = nodes;
  if (first === undefined) return [phrases.say(kind === 'any' ? 'condition.never' : 'condition.always')];
  if (others.length === 0 && kind !== 'none') return say(first, around);
  const joiner = kind === 'none' ? ', ' : phrases.say(kind === 'all' ? 'condition.and' : 'condition.or');
  const parts = nodes.map((node) => say(node, kind)).flatMap((part, at) => (at === 0 ? part : [joiner, ...part]));
  const words = kind === 'none' ? [phrases.say('condition.none'), ...parts] : parts;
  const isWhole = around === null || (around === kind && kind !== 'none');
  return isWhole ? words : ['(', ...words, ')'];
}
type Say<N> = (node: N, around: Joining | null) => Words;

function stateWords(test: StateTest, tense: Tense, phrasing: Phrasing, around: Joining | null = null): Words {
  const phrases = phrasing.phrases;
  const say: Say<StateTest> = (node, within) => stateWords(node, tense, phrasing, within);
  return visitState<Words>(test, {
    test: (one) => {
      const verb = operatorWords(one.op, tense, phrases);
      const operand = operandWords(one, phrasing);
      return [`${labelOf(one.field, phrasing)} `, { strong: operand ? `${verb} ${operand}` : verb }];
    },
    through: (one) => throughWords(one, tense, phrasing),
    all: ({ all }) => joined('all', all, around, phrases, say),
    any: ({ any }) => joined('any', any, around, phrases, say),
    none: ({ none }) => joined('none', none, around, phrases, say),
  });
}

/** *Lender **is one whose** Rating **is On hold***: what is so of linked items, of several of some or of every one. */
function throughWords({ through, holds, every }: LinkedTest, tense: Tense, phrasing: Phrasing): Words {
  const { source, sources, phrases } = phrasing;
  const field = fieldOf(source, through);
  const target = sources.get(field?.to ?? '') ?? source;
  const several = every ? 'every' : 'some';
  const number = field?.type === 'links' ? several : 'one';
  return [
    ...phrases.words(`through.${number}.${tense}`, { field: labelOf(through, phrasing) }),
    ' ',
    ...stateWords(holds, 'is', { ...phrasing, source: target }, 'none'),
  ];
}

/** One test, however many groups of one part stand around it; `null` where there is more to it. */
function onlyTest(state: StateTest): FieldTest | null {
  if (isKind(state, 'test')) return state;
  const [only, ...others] = stateParts(state);
  return only && others.length === 0 && !isKind(state, 'none') ? onlyTest(only) : null;
}

/** A rule's condition as a sentence part: *Status **becomes On view***. Empty where it is open to everything. */
export const conditionWords = (node: Condition, phrasing: Phrasing): Words =>
  isOpen(node) ? [] : nodeWords(node, phrasing, null);

/** *Status **goes from Requested or Agreed to On view***: two tests of one field that read as one. */
function fromToWords(node: Condition, phrasing: Phrasing): Words | null {
  const turn = fromTo(node);
  if (!turn) return null;
  const field = labelOf(turn.was.field, phrasing);
  const put = { field, from: operandWords(turn.was, phrasing), to: operandWords(turn.became, phrasing) };
  return phrasing.phrases.words('condition.fromTo', put);
}

function nodeWords(node: Condition, phrasing: Phrasing, around: Joining | null): Words {
  const phrases = phrasing.phrases;
  const say: Say<Condition> = (part, within) => nodeWords(part, phrasing, within);
  /** A state judged as a whole: of several tests only all together come about, or cease, not each for itself. */
  const turned = (state: StateTest, key: 'condition.before' | 'condition.cameTrue' | 'condition.ceased') => [
    phrases.say(key),
    ...stateWords(state, 'is', phrasing, onlyTest(state) ? null : 'none'),
  ];
  return visitCondition<Words>(node, {
    test: (test) => stateWords(test, 'is', phrasing),
    through: (test) => stateWords(test, 'is', phrasing),
    all: ({ all }) => fromToWords(node, phrasing) ?? joined('all', all, around, phrases, say),
    any: ({ any }) => joined('any', any, around, phrases, say),
    none: ({ none }) => joined('none', none, around, phrases, say),
    was: ({ was }) => (onlyTest(was) ? stateWords(was, 'was', phrasing) : turned(was, 'condition.before')),
    became: ({ became }) =>
      onlyTest(became) ? stateWords(became, 'becomes', phrasing) : turned(became, 'condition.cameTrue'),
    ceased: ({ ceased }) => turned(ceased, 'condition.ceased'),
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
  if (!any) return phrases.words(bare, { field });
  return phrases.words(some, { field, members: phrases.or(any.map((one) => valueWords(id, one, phrasing))) });
}

function movementWords(
  [bare, least]: [TermKey, TermKey],
  { field: id, by, percent }: Movement,
  phrasing: Phrasing,
): Words {
  const phrases = phrasing.phrases;
  const field = labelOf(id, phrasing);
  const figure = (value: number | string) =>
    formatValue({ id, name: field, type: 'number' }, String(value), phrasing.reader, phrasing.names);
  const share = percent === undefined ? [] : [phrases.say('condition.percent', { share: figure(percent) })];
  const amount = by === undefined ? [] : [/^P/.test(String(by)) ? durationWords(String(by), phrases) : figure(by)];
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
    through: asItStands,
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

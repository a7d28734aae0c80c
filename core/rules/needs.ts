import { asKind } from '../people/index.ts';
import {
  type Field,
  fieldOf,
  foldCase,
  isFigureType,
  isMoney,
  isSetType,
  isTextType,
  membersOf,
  type Source,
  type Value,
} from '../values/index.ts';
import { keyOfValue } from './keys.ts';
import {
  type Condition,
  type ConditionVisitor,
  type FieldTest,
  HOLDS_EMPTY,
  isKind,
  type Membership,
  otherField,
  type StateTest,
  type StateVisitor,
  visitCondition,
  visitState,
} from './nodes.ts';
import type { Rule } from './rule.ts';

/** Something of a change that can be looked up: a field on one side, or one of its own properties. */
export interface ValuePlace {
  side: 'after' | 'before' | 'kind' | 'item' | 'actor' | 'folder';
  field: string;
}

/** What must be so for a rule to catch a change, as far as an index can know it. */
export interface Needs {
  /** One of these values stands at the place. */
  equal: { place: ValuePlace; values: string[] }[];
  /** The field differs between the two sides. */
  differs: string[];
  /** A threshold on a number, or on money of one currency, lies between the two sides, passed upwards or downwards. */
  crosses: { field: string; currency: string; way: 'up' | 'down'; at: number }[][];
  /** A text after the change holds this one, both in folded case. */
  holds: { field: string; text: string; isNew: boolean }[];
  /** Nothing more is needed: wherever all of this is so, and the item still is, the rule catches the change. */
  isAll: boolean;
}

/** Alternatives, of which one must be so; `null` where nothing can be known. */
export type Alternatives = Needs[] | null;

const none = (): Needs => ({ equal: [], differs: [], crosses: [], holds: [], isAll: true });
const butMore = (needs: Needs): Needs => ({ ...needs, isAll: false });

/** More alternatives than this are not worth their entries. */
const MOST = 12;

/**
 * What a rule needs of a change of one source. A rule that gathers until things settle also looks at changes that
 * do not match: only its scope and kinds count.
 */
export function needsOf(rule: Rule, source: Source): Needs[] {
  const base = none();
  if (rule.scope.items.length > 0 && !rule.scope.linked)
    base.equal.push({ place: { side: 'item', field: '' }, values: rule.scope.items });
  if (rule.scope.under.length > 0) base.equal.push({ place: { side: 'folder', field: '' }, values: rule.scope.under });
  if (rule.when && rule.when.kinds.length > 0)
    base.equal.push({ place: { side: 'kind', field: '' }, values: rule.when.kinds });
  const parts: Alternatives[] = [[base], ofState(rule.scope.where, source, 'after')];
  if (rule.when && rule.pace.kind !== 'settled') {
    const actors = actorsOf(rule);
    if (actors) base.equal.push({ place: { side: 'actor', field: '' }, values: actors });
    parts.push(ofCondition(rule.when.if, source));
  }
  const isWhole =
    rule.when !== null &&
    rule.pace.kind !== 'settled' &&
    !(rule.scope.linked && rule.scope.items.length > 0) &&
    rule.by.except.length === 0 &&
    (rule.by.only.length === 0 || actorsOf(rule) !== null) &&
    !rule.during.from &&
    !rule.during.until &&
    !rule.during.near;
  const found = both(parts) ?? [base];
  return isWhole ? found : found.map(butMore);
}

/** The only actors whose changes a rule looks at, where they are named one by one. */
function actorsOf({ by: { only } }: Rule): string[] | null {
  const ids = only.flatMap((one) => {
    const system = asKind(one, 'system')?.system;
    if (system !== undefined) return system === '*' ? [] : [`system:${system}`];
    return asKind(one, 'person')?.person ?? [];
  });
  return only.length > 0 && ids.length === only.length ? ids : null;
}

/** All of the parts hold: their needs come together. */
function both(parts: readonly Alternatives[]): Alternatives {
  let found: Needs[] = [none()];
  let isAll = true;
  for (const part of parts) {
    // Two lists of alternatives: the product if it stays small, else the shorter one, which is needed all the same.
    if (part && found.length * part.length <= MOST)
      found = found.flatMap((one) => part.map((other) => joined(one, other)));
    else {
      isAll = false;
      if (part && part.length < found.length) found = part;
    }
  }
  return isAll ? found : found.map(butMore);
}

const joined = (a: Needs, b: Needs): Needs => ({
  equal: [...a.equal, ...b.equal],
  differs: [...new Set([...a.differs, ...b.differs])],
  crosses: [...a.crosses, ...b.crosses],
  holds: [...a.holds, ...b.holds],
  isAll: a.isAll && b.isAll,
});

/** One of the parts holds: its needs are one alternative; a part of which nothing is known leaves nothing known. */
function either(parts: readonly Alternatives[]): Alternatives {
  const found: Needs[] = [];
  for (const part of parts) {
    if (!part) return null;
    found.push(...part);
  }
  return found.length > 0 && found.length <= MOST ? found : null;
}

const ofConditions = (nodes: Condition[], source: Source): Alternatives[] =>
  nodes.map((part) => ofCondition(part, source));

/** What becoming so, or ceasing to be, needs of the side on which it is so. */
function turnOf(state: StateTest, source: Source, side: 'after' | 'before'): Alternatives {
  // Linked items are asked as they stand, on both sides: only other links make a difference.
  if (isKind(state, 'through')) return differing(state.through);
  return isKind(state, 'test') ? ofTurn(state, source, side) : ofTree(state, source, side);
}
const differing = (field: string): Alternatives => [butMore({ ...none(), differs: [field] })];
const memberOf = ({ field, any = [] }: Membership, side: 'after' | 'before'): Alternatives => [
  butMore({ ...none(), differs: [field], equal: any.length > 0 ? [{ place: { side, field }, values: any }] : [] }),
];

const CONDITION: ConditionVisitor<Alternatives, Source> = {
  test: (test, source) => ofTest(test, source, 'after'),
  through: () => null,
  all: ({ all }, source) => both(ofConditions(all, source)),
  any: ({ any }, source) => either(ofConditions(any, source)),
  none: () => null,
  was: ({ was }, source) => (isKind(was, 'test') ? ofTest(was, source, 'before') : ofTree(was, source, 'before')),
  became: ({ became }, source) => turnOf(became, source, 'after'),
  ceased: ({ ceased }, source) => turnOf(ceased, source, 'before'),
  changed: ({ changed }) =>
    changed === '*' ? null : either([changed].flat().map((field) => [{ ...none(), differs: [field] }])),
  rose: ({ rose }) => differing(rose.field),
  fell: ({ fell }) => differing(fell.field),
  gained: ({ gained }) => memberOf(gained, 'after'),
  lost: ({ lost }) => memberOf(lost, 'before'),
};
const ofCondition = (node: Condition, source: Source): Alternatives => visitCondition(node, CONDITION, source);

/** A whole state on one side: that there is an item at all, or was, is more than its parts say. */
const ofTree = (test: StateTest, source: Source, side: 'after' | 'before'): Alternatives =>
  ofState(test, source, side)?.map(butMore) ?? null;

interface OnSide {
  source: Source;
  side: 'after' | 'before';
}
const STATE: StateVisitor<Alternatives, OnSide> = {
  test: (test, { source, side }) => ofTest(test, source, side),
  through: () => null,
  all: ({ all }, on) => both(all.map((part) => visitState(part, STATE, on))),
  any: ({ any }, on) => either(any.map((part) => visitState(part, STATE, on))),
  none: () => null,
};
const ofState = (test: StateTest, source: Source, side: 'after' | 'before'): Alternatives =>
  visitState(test, STATE, { source, side });

/** Tests that hold of an empty field: of a new item they may turn true while the field stays empty. */
const holdsEmpty = ({ op }: FieldTest): boolean => op === 'empty' || HOLDS_EMPTY.has(op);

/** A state that turned true (false) with this change: its field differs. */
function ofTurn(test: FieldTest, source: Source, side: 'after' | 'before'): Alternatives {
  if (holdsEmpty(test)) return null;
  const other = otherField(test);
  // Whichever of the two moved.
  if (other !== null) return [test.field, other].map((one) => butMore({ ...none(), differs: [one] }));
  const field = fieldOf(source, test.field);
  const known = ofTest(test, source, side)?.[0] ?? butMore(none());
  const crosses = field && side === 'after' ? crossingsOf(test, field) : null;
  // Of one value that compares exactly, to differ and to be it is to have become it; of others more has to be asked.
  const isExact =
    known.isAll &&
    known.equal.length === 1 &&
    known.equal[0]?.values.length === 1 &&
    field !== undefined &&
    !isTextType(field.type) &&
    !isSetType(field.type);
  const isNewText = known.isAll && known.equal.length === 0 && known.holds.length === 1;
  return [
    {
      ...known,
      differs: [test.field],
      crosses: crosses ? [crosses] : [],
      holds: known.holds.map((one) => ({ ...one, isNew: true })),
      isAll: isExact || isNewText || crosses?.length === 1,
    },
  ];
}

function crossingsOf({ op, value }: FieldTest, field: Field): Needs['crosses'][number] | null {
  if (!isFigureType(field.type)) return null;
  const [low, high] = (Array.isArray(value) ? value : [value, value]).map((one) => numberOf(one as Value));
  if (low === undefined || high === undefined || Number.isNaN(low) || Number.isNaN(high)) return null;
  const one = (Array.isArray(value) ? value[0] : value) as Value;
  const currency = isMoney(one) ? one.currency : '';
  const up = { field: field.id, currency, way: 'up', at: low } as const;
  const down = { field: field.id, currency, way: 'down', at: high } as const;
  if (op === 'above' || op === 'atLeast') return [up];
  if (op === 'below' || op === 'atMost') return [down];
  return op === 'between' ? [up, down] : null;
}

/** An amount as a floating-point number: near enough for a first look, since rounding keeps the order. */
export function numberOf(value: Value | undefined): number {
  if (typeof value === 'number') return value;
  if (typeof value === 'string') return Number(value);
  return isMoney(value) ? Number(value.amount) : Number.NaN;
}

function ofTest(test: FieldTest, source: Source, side: 'after' | 'before'): Alternatives {
  const field = fieldOf(source, test.field);
  if (!field || otherField(test) !== null) return null;
  const equal = valuesOf(test, field);
  if (equal)
    return [
      { ...none(), equal: [{ place: { side, field: field.id }, values: equal }], isAll: isWhole(test, field, equal) },
    ];
  const isPart = test.op === 'contains' || test.op === 'startsWith' || test.op === 'endsWith';
  // Where case counts, folding both may part what belongs together (a capital W with a ring has no sign of its own, a small one has).
  if (!isPart || !isTextType(field.type) || side === 'before' || test.matchCase) return null;
  const text = foldCase(String(test.value));
  return text.length < 3
    ? null
    : [{ ...none(), holds: [{ field: field.id, text, isNew: false }], isAll: test.op === 'contains' }];
}

/** Whether standing there by its key is all that a test asks of a field. */
function isWhole({ op, matchCase, value }: FieldTest, field: Field, keys: string[]): boolean {
  if (isTextType(field.type)) return !matchCase;
  if (isSetType(field.type)) return op === 'includesAny' || (op !== 'is' && membersOf(value as Value).length === 1);
  return field.type !== 'dateTime' && keys.every((key) => key !== '');
}

/** The keys of which one must stand in the field for the test to hold; `null` where the test is not of that sort. */
function valuesOf({ op, value }: FieldTest, field: Field): string[] | null {
  if (isSetType(field.type)) {
    const members = membersOf(value as Value);
    if (members.length === 0) return null;
    if (op === 'includesAny') return members;
    return op === 'contains' || op === 'includesAll' || op === 'is' ? [members[0] as string] : null;
  }
  if (op === 'oneOf') return (value as Value[]).map((one) => keyOfValue(field, one));
  return op === 'is' ? [keyOfValue(field, value as Value)] : null;
}

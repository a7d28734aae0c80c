import type { Value } from '../values/index.ts';

/** By what a field is compared (the engine's specification, section 3); which of them a type takes says `operatorsOf`. */
export const OPERATORS = [
  'empty',
  'filled',
  'is',
  'isNot',
  'oneOf',
  'noneOf',
  'contains',
  'lacks',
  'startsWith',
  'endsWith',
  'above',
  'atLeast',
  'below',
  'atMost',
  'between',
  'before',
  'after',
  'withinNext',
  'withinLast',
  'includesAny',
  'includesAll',
] as const;
/** By what a field is compared. */
export type Operator = (typeof OPERATORS)[number];

/** Operators that hold of an empty field too, since what they deny does not stand there. */
export const HOLDS_EMPTY: ReadonlySet<Operator> = new Set<Operator>(['isNot', 'noneOf', 'lacks']);

/** Another field of the item that is tested, in the same state, with which a field is compared. */
export interface OtherField {
  field: string;
}
/** What a state test compares with: one value, a list, the two ends of a range, or another field. */
export type Operand = Value | Value[] | OtherField;

/** Operators by which two fields can be compared (section 9 of the specification). */
export const COMPARES_FIELDS: ReadonlySet<Operator> = new Set<Operator>([
  'is',
  'isNot',
  'above',
  'atLeast',
  'below',
  'atMost',
  'before',
  'after',
]);

/** The field with which a test compares its own; `null` where it compares with values. */
export const otherField = ({ value }: Pick<FieldTest, 'value'>): string | null =>
  typeof value === 'object' && value !== null && !Array.isArray(value) && 'field' in value ? value.field : null;

/** A test of one field's value, before or after a change. */
export interface FieldTest {
  field: string;
  op: Operator;
  value?: Operand;
  matchCase?: boolean;
}

/** How far an amount or number has to go: by how much, or by how many percent of what it was. */
export interface Movement {
  field: string;
  by?: number | string;
  percent?: number | string;
}

/** Which members have to come into a set, or leave it. */
export interface Membership {
  field: string;
  any?: string[];
}

/** A test of the items that a link field names, as they stand: some of them are so, or, where it asks for every one, at least one is named and all are (section 9). */
export interface LinkedTest {
  through: string;
  /** In the fields of the source that the link leads to. */
  holds: StateTest;
  every?: boolean;
}

/** The kinds of nodes that test one state of an item, sections 2 and 9. */
export interface StateNodes {
  test: FieldTest;
  through: LinkedTest;
  all: { all: StateTest[] };
  any: { any: StateTest[] };
  none: { none: StateTest[] };
}
/** A test of one state of an item. */
export type StateTest = StateNodes[keyof StateNodes];

/** The kinds of nodes of a condition: those of a state, over conditions, and those that ask what the change did. */
export interface ConditionNodes {
  test: FieldTest;
  through: LinkedTest;
  all: { all: Condition[] };
  any: { any: Condition[] };
  none: { none: Condition[] };
  was: { was: StateTest };
  became: { became: StateTest };
  ceased: { ceased: StateTest };
  changed: { changed: string | string[] };
  rose: { rose: Movement };
  fell: { fell: Movement };
  gained: { gained: Membership };
  lost: { lost: Membership };
}
/** What kinds of condition node there are. */
export type NodeKind = keyof ConditionNodes;
/** A rule's condition, section 2. */
export type Condition = ConditionNodes[NodeKind];

/** How a kind of node is built: the key that tells it, the conditions in it, the state it asks about, the fields it names itself. */
interface Anatomy<N> {
  key: string;
  parts(node: N): Condition[];
  state(node: N): StateTest | null;
  fields(node: N): string[];
}
const LEAF = { parts: (): Condition[] => [], state: (): StateTest | null => null, fields: (): string[] => [] };

const ANATOMY: { [K in NodeKind]: Anatomy<ConditionNodes[K]> } = {
  test: { ...LEAF, key: 'op', fields: (test) => [test.field, ...[otherField(test) ?? []].flat()] },
  // What it holds is in another source's fields: whoever asks after this source's is not shown it.
  through: { ...LEAF, key: 'through', fields: ({ through }) => [through] },
  all: { ...LEAF, key: 'all', parts: ({ all }) => all },
  any: { ...LEAF, key: 'any', parts: ({ any }) => any },
  none: { ...LEAF, key: 'none', parts: ({ none }) => none },
  was: { ...LEAF, key: 'was', state: ({ was }) => was },
  became: { ...LEAF, key: 'became', state: ({ became }) => became },
  ceased: { ...LEAF, key: 'ceased', state: ({ ceased }) => ceased },
  changed: { ...LEAF, key: 'changed', fields: ({ changed }) => [changed].flat() },
  rose: { ...LEAF, key: 'rose', fields: ({ rose }) => [rose.field] },
  fell: { ...LEAF, key: 'fell', fields: ({ fell }) => [fell.field] },
  gained: { ...LEAF, key: 'gained', fields: ({ gained }) => [gained.field] },
  lost: { ...LEAF, key: 'lost', fields: ({ lost }) => [lost.field] },
};
const KINDS = Object.keys(ANATOMY) as NodeKind[];

/** Which kind of node it is. */
export function kindOf(node: Condition): NodeKind {
  for (const kind of KINDS) if (ANATOMY[kind].key in node) return kind;
  throw new RangeError(`no node of a condition: ${Object.keys(node).join(', ')}`);
}

const anatomyOf = (node: Condition) => ANATOMY[kindOf(node)] as Anatomy<Condition>;
/** The conditions within a node, in their order. */
export const partsOf = (node: Condition): Condition[] => anatomyOf(node).parts(node);
/** The state that a node asks about on one side of a change, or on both; `null` of nodes that ask about none. */
export const stateOf = (node: Condition): StateTest | null => anatomyOf(node).state(node);
/** The fields that a node itself names; `*` of one that names any. */
export const ownFields = (node: Condition): string[] => anatomyOf(node).fields(node);

/** *From any of … to …*: a test of what a field was and one of what it becomes, which read as one; `null` for all else. */
export function fromTo(node: Condition): { was: FieldTest; became: FieldTest } | null {
  if (!isKind(node, 'all') || node.all.length !== 2) return null;
  const [first, second] = node.all as [Condition, Condition];
  const was = isKind(first, 'was') && isKind(first.was, 'test') ? first.was : null;
  const became = isKind(second, 'became') && isKind(second.became, 'test') ? second.became : null;
  const isOne = was?.op === 'oneOf' && became?.op === 'is' && was.field === became.field;
  return isOne && was && became ? { was, became } : null;
}

/** What is done with a node of each kind: a new kind has to have its answer in every one. */
export type ConditionVisitor<R, C = void> = { [K in NodeKind]: (node: ConditionNodes[K], context: C) => R };
/** What is done to each kind of node that a state can be asked. */
export type StateVisitor<R, C = void> = { [K in keyof StateNodes]: (node: StateNodes[K], context: C) => R };

/**
 * Does what a visitor has for the node's kind. A visitor that is asked often stands beside its function, and is handed
 * what it needs as the context: one made anew at each node costs more than what it does.
 */
export function visitCondition<R>(node: Condition, visitor: ConditionVisitor<R>): R;
export function visitCondition<R, C>(node: Condition, visitor: ConditionVisitor<R, C>, context: C): R;
export function visitCondition<R, C>(node: Condition, visitor: ConditionVisitor<R, C>, context?: C): R {
  const visit = visitor[kindOf(node)] as (node: Condition, context?: C) => R;
  return visit(node, context);
}
/** Does to a state's node what its kind is done to; a kind without an answer does not compile. */
export function visitState<R>(node: StateTest, visitor: StateVisitor<R>): R;
export function visitState<R, C>(node: StateTest, visitor: StateVisitor<R, C>, context: C): R;
export function visitState<R, C>(node: StateTest, visitor: StateVisitor<R, C>, context?: C): R {
  const visit = visitor[kindOf(node) as keyof StateNodes] as (node: StateTest, context?: C) => R;
  return visit(node, context);
}

/** The state tests of the same item within a state test, in their order. */
export const stateParts = (test: StateTest): StateTest[] => visitState(test, STATE_PARTS);
const STATE_PARTS: StateVisitor<StateTest[]> = {
  test: () => [],
  through: () => [],
  all: ({ all }) => all,
  any: ({ any }) => any,
  none: ({ none }) => none,
};

/** Whether a node is of one kind. */
export const isKind = <K extends NodeKind>(node: Condition, kind: K): node is ConditionNodes[K] & Condition =>
  ANATOMY[kind].key in node;

/** Whether a node asks for nothing, so that everything fits. */
export const isOpen = (node: Condition): boolean => isKind(node, 'all') && node.all.length === 0;

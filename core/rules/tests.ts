import { addDuration, addToDate, atLocal, dateIn, type Instant, MIDNIGHT, parseInstant } from '../time/index.ts';
import {
  compareValues,
  type Field,
  type Fields,
  foldCase,
  isEmpty,
  isFigureType,
  isTemporalType,
  isTextType,
  type ItemState,
  membersOf,
  sameValue,
  type Value,
} from '../values/index.ts';
import { type FieldTest, type Operand, type Operator, otherField } from './nodes.ts';

/** The items that links lead to, as they stand when a state is judged; `undefined` where there is none, or none any more. */
export interface Linked {
  item(id: string): Pick<ItemState, 'source' | 'fields'> | undefined;
}

/** Judges one state of an item at the change's instant. */
export type Predicate = (fields: Fields, at: Instant, linked: Linked) => boolean;

/** Operators that hold of an empty field; all others (but `filled`) do not. */
const HOLD_WHEN_EMPTY = new Set<Operator>(['empty', 'isNot', 'noneOf', 'lacks']);

const NEGATED: Partial<Record<Operator, Operator>> = { isNot: 'is', noneOf: 'oneOf', lacks: 'contains' };

/** Compiles a state test of one field; the test has been checked against the source before. */
export function compileTest(test: FieldTest, field: Field, zone: string): Predicate {
  const { op } = test;
  const other = otherField(test);
  if (other !== null) return compileComparison(test, field, other);
  if (op === 'empty') return (fields) => isEmpty(fields[field.id]);
  if (op === 'filled') return (fields) => !isEmpty(fields[field.id]);
  const positive = NEGATED[op];
  const judge = compileFilled({ ...test, op: positive ?? op }, field, zone);
  const whenEmpty = HOLD_WHEN_EMPTY.has(op);
  return (fields, at) => {
    const value = fields[field.id];
    if (isEmpty(value)) return whenEmpty;
    return judge(value as Value, at) !== (positive !== undefined);
  };
}

/** Compiles a comparison of two fields of one type; where either is empty, only that they are not the same holds. */
function compileComparison({ op, matchCase }: FieldTest, { id, type }: Field, other: string): Predicate {
  const order: (value: Value, to: Value) => number | null =
    type === 'dateTime' ? betweenInstants : (value, to) => compareValues(type, value, to);
  const isOrdered = isFigureType(type) || isTemporalType(type);
  const fold = foldFor(matchCase);
  const isSame = (value: Value, to: Value): boolean => {
    if (isTextType(type)) return fold(String(value)) === fold(String(to));
    return isOrdered ? order(value, to) === 0 : sameValue(type, value, to);
  };
  const holds = ORDERS[op];
  return (fields) => {
    const [value, to] = [fields[id], fields[other]];
    if (isEmpty(value) || isEmpty(to)) return op === 'isNot';
    if (!holds) return isSame(value as Value, to as Value) === (op === 'is');
    const found = order(value as Value, to as Value);
    return found !== null && holds(found);
  };
}

const ORDERS: Partial<Record<Operator, (order: number) => boolean>> = {
  above: (order) => order > 0,
  after: (order) => order > 0,
  atLeast: (order) => order >= 0,
  below: (order) => order < 0,
  before: (order) => order < 0,
  atMost: (order) => order <= 0,
};

function betweenInstants(value: Value, to: Value): number | null {
  const [left, right] = [parseInstant(String(value)), parseInstant(String(to))];
  return left === null || right === null ? null : left - right;
}

type Judge = (value: Value, at: Instant) => boolean;

function compileFilled(test: FieldTest, field: Field, zone: string): Judge {
  const operand = test.value as Operand;
  if (isTextType(field.type)) return compileText(test, operand);
  switch (field.type) {
    case 'choices':
    case 'people':
    case 'links':
      return compileSet(test.op, field, operand);
    case 'number':
    case 'money':
      return compileOrdered(test.op, operand, (value, other) => compareValues(field.type, value, other));
    case 'date':
    case 'dateTime':
      return compileTemporal(test.op, field, operand, zone);
    default: {
      // Ids, choices and yes or no compare exactly.
      if (test.op !== 'oneOf') return (value) => value === operand;
      const wanted = new Set(operand as Value[]);
      return (value) => wanted.has(value);
    }
  }
}

/** Many tests look at the same few texts in a row: the last two, folded. */
const lately: [Folded, Folded] = [
  { text: '', folded: '' },
  { text: '', folded: '' },
];
interface Folded {
  text: string;
  folded: string;
}
let turn: 0 | 1 = 0;

function folded(text: string): string {
  for (const one of lately) if (one.text === text) return one.folded;
  const slot = lately[turn];
  turn = turn === 0 ? 1 : 0;
  slot.text = text;
  slot.folded = foldCase(text);
  return slot.folded;
}

/** How texts are made alike before they are compared. */
const foldFor = (matchCase = false): ((text: string) => string) =>
  matchCase ? (text) => text.normalize('NFC') : folded;

function compileText(test: FieldTest, operand: Operand): Judge {
  const fold = foldFor(test.matchCase);
  const wanted = (Array.isArray(operand) ? operand : [operand]).map((one) => fold(String(one)));
  const first = wanted[0] ?? '';
  switch (test.op) {
    case 'contains':
      return (value) => fold(String(value)).includes(first);
    case 'startsWith':
      return (value) => fold(String(value)).startsWith(first);
    case 'endsWith':
      return (value) => fold(String(value)).endsWith(first);
    default:
      return (value) => wanted.includes(fold(String(value)));
  }
}

function compileSet(op: Operator, field: Field, operand: Operand): Judge {
  const wanted = membersOf(operand as Value);
  switch (op) {
    case 'is':
      return (value) => sameValue(field.type, value, wanted);
    case 'includesAny':
      return (value) => membersOf(value).some((member) => wanted.includes(member));
    default: {
      return (value) => {
        const members = new Set(membersOf(value));
        return wanted.every((member) => members.has(member));
      };
    }
  }
}

function compileOrdered(op: Operator, operand: Operand, compare: (value: Value, other: Value) => number | null): Judge {
  const [low, high] = (Array.isArray(operand) ? operand : [operand, operand]) as [Value, Value];
  const judged = (value: Value, other: Value, holds: (order: number) => boolean) => {
    const order = compare(value, other);
    return order !== null && holds(order);
  };
  if (op === 'between')
    return (value) => judged(value, low, (order) => order >= 0) && judged(value, high, (order) => order <= 0);
  const holds = ORDERS[op] ?? isEqual;
  return (value) => judged(value, low, holds);
}

const isEqual = (order: number) => order === 0;

function compileTemporal(op: Operator, field: Field, operand: Operand, zone: string): Judge {
  if (op === 'withinNext' || op === 'withinLast') return compileWindow(op, field, String(operand), zone);
  if (field.type === 'date') return compileOrdered(op, operand, (value, other) => compareValues('date', value, other));
  return compileOrdered(op, operand, (value, other) => {
    const left = parseInstant(String(value));
    return left === null ? null : left - momentOf(String(other), zone);
  });
}

/** Beside a dateTime a date stands for its midnight in the rule's zone. */
export const momentOf = (text: string, zone: string): Instant => parseInstant(text) ?? atLocal(text, MIDNIGHT, zone);

function compileWindow(op: 'withinNext' | 'withinLast', field: Field, duration: string, zone: string): Judge {
  const sign = op === 'withinNext' ? 1 : -1;
  if (field.type === 'date') {
    return (value, at) => {
      const today = dateIn(at, zone);
      const end = addToDate(today, duration, at, zone, sign);
      const date = String(value);
      return sign === 1 ? date >= today && date <= end : date <= today && date >= end;
    };
  }
  return (value, at) => {
    const moment = parseInstant(String(value));
    const end = addDuration(at, duration, zone, sign);
    return moment !== null && moment >= Math.min(at, end) && moment <= Math.max(at, end);
  };
}

import { addDuration, atLocal, calendarPart, MIDNIGHT, parseInstant } from '../time/index.ts';
import {
  type Change,
  decimalOf,
  type Field,
  type Fields,
  fieldOf,
  isEmpty,
  isMoney,
  isTemporalType,
  judgedFields,
  membersOf,
  type Source,
  sameValue,
} from '../values/index.ts';
import {
  type Condition,
  type ConditionVisitor,
  type LinkedTest,
  type Membership,
  type Movement,
  type StateTest,
  type StateVisitor,
  visitCondition,
  visitState,
} from './nodes.ts';
import { compileTest, type Linked, type Predicate } from './tests.ts';

/** Judges a whole change. */
export type ChangePredicate = (change: Change, linked: Linked) => boolean;

/** What a condition is compiled for: its tests read fields of this source, in this zone; links lead to the others. */
export interface Compiling {
  source: Source;
  zone: string;
  sources: ReadonlyMap<string, Source>;
}

const statesOf = (tests: StateTest[], to: Compiling): Predicate[] => tests.map((part) => compileState(part, to));

const STATE: StateVisitor<Predicate, Compiling> = {
  test: (test, { source, zone }) => compileTest(test, fieldFor(source, test.field), zone),
  through: compileThrough,
  all: ({ all }, to) => allOf(statesOf(all, to)),
  any: ({ any }, to) => anyOf(statesOf(any, to)),
  none: ({ none }, to) => {
    const some = anyOf(statesOf(none, to));
    return (fields, at, linked) => !some(fields, at, linked);
  },
};

/** Asks the items that a link names, as they stand: whether some are so, or every one. */
function compileThrough(
  { through, holds, every = false }: LinkedTest,
  { source, zone, sources }: Compiling,
): Predicate {
  const { id, to } = fieldFor(source, through);
  const target = to === undefined ? undefined : sources.get(to);
  if (!target) throw new RangeError(`${source.id}.${id} leads to no source; check the rule before compiling it`);
  const isSo = compileState(holds, { source: target, zone, sources });
  return (fields, at, linked) => {
    const ids = membersOf(fields[id]);
    const satisfies = (one: string) => {
      const item = linked.item(one);
      return item?.source === target.id && isSo(item.fields, at, linked);
    };
    return every ? ids.length > 0 && ids.every(satisfies) : ids.some(satisfies);
  };
}

/** Compiles a state test of any depth. Of an item that does not exist no state holds: the caller asks that first. */
export const compileState = (test: StateTest, to: Compiling): Predicate => visitState(test, STATE, to);

// Conditions are asked millions of times: plain loops, and none at all around a single part.
function allOf<A extends unknown[]>(parts: ((...words: A) => boolean)[]): (...words: A) => boolean {
  const [first] = parts;
  if (parts.length === 1 && first) return first;
  return (...words) => {
    for (const part of parts) if (!part(...words)) return false;
    return true;
  };
}

function anyOf<A extends unknown[]>(parts: ((...words: A) => boolean)[]): (...words: A) => boolean {
  const [first] = parts;
  if (parts.length === 1 && first) return first;
  return (...words) => {
    for (const part of parts) if (part(...words)) return true;
    return false;
  };
}

const partsOf = (nodes: Condition[], to: Compiling): ChangePredicate[] =>
  nodes.map((part) => compileCondition(part, to));

const CONDITION: ConditionVisitor<ChangePredicate, Compiling> = {
  test: (test, { source, zone }) => {
    const holds = compileTest(test, fieldFor(source, test.field), zone);
    return (change, linked) => holds(judgedFields(change), change.at, linked);
  },
  through: (test, to) => {
    const holds = compileThrough(test, to);
    return (change, linked) => holds(judgedFields(change), change.at, linked);
  },
  all: ({ all }, to) => allOf(partsOf(all, to)),
  any: ({ any }, to) => anyOf(partsOf(any, to)),
  none: ({ none }, to) => {
    const some = anyOf(partsOf(none, to));
    return (change, linked) => !some(change, linked);
  },
  was: ({ was }, to) => heldBefore(visitState(was, STATE, to)),
  became: ({ became }, to) => {
    const holds = visitState(became, STATE, to);
    const held = heldBefore(holds);
    return (change, linked) => change.after !== null && holds(change.after, change.at, linked) && !held(change, linked);
  },
  ceased: ({ ceased }, to) => {
    const holds = visitState(ceased, STATE, to);
    const held = heldBefore(holds);
    return (change, linked) =>
      held(change, linked) && (change.after === null || !holds(change.after, change.at, linked));
  },
  changed: ({ changed }, { source }) => compileChanged(changed, source),
  rose: ({ rose }, { source, zone }) => compileMovement(rose, source, zone, 1),
  fell: ({ fell }, { source, zone }) => compileMovement(fell, source, zone, -1),
  gained: ({ gained }, { source }) => compileMembership(gained, source, 'gained'),
  lost: ({ lost }, { source }) => compileMembership(lost, source, 'lost'),
};

/** Compiles a rule's condition for one source; section 2 of the specification, node by node. */
export const compileCondition = (node: Condition, to: Compiling): ChangePredicate =>
  visitCondition(node, CONDITION, to);

const heldBefore =
  (holds: Predicate): ChangePredicate =>
  (change, linked) =>
    change.before !== null && holds(change.before, change.at, linked);

/** The fields that differ between two states, in the source's order. */
export function differingFields(source: Source, before: Fields | null, after: Fields | null): Field[] {
  return source.fields.filter((field) => !sameValue(field.type, before?.[field.id], after?.[field.id]));
}

function compileChanged(changed: string | string[], source: Source): ChangePredicate {
  const watched =
    changed === '*' ? source.fields : (Array.isArray(changed) ? changed : [changed]).map((id) => fieldFor(source, id));
  return ({ before, after }) => watched.some((field) => !sameValue(field.type, before?.[field.id], after?.[field.id]));
}

function compileMovement(movement: Movement, source: Source, zone: string, sign: 1 | -1): ChangePredicate {
  const field = fieldFor(source, movement.field);
  const moved = isTemporalType(field.type) ? movedInTime(field, movement, zone, sign) : movedByAmount(movement, sign);
  return ({ before, after }) => {
    const from = before?.[field.id];
    const to = after?.[field.id];
    return !isEmpty(from) && !isEmpty(to) && moved(from, to);
  };
}

type Moved = (from: Fields[string] | undefined, to: Fields[string] | undefined) => boolean;

function movedByAmount({ by, percent }: Movement, sign: 1 | -1): Moved {
  const least = by === undefined ? null : decimalOf(by);
  const share = percent === undefined ? null : decimalOf(percent);
  return (from, to) => {
    if (isMoney(from) && isMoney(to) && from.currency !== to.currency) return false;
    const old = decimalOf(from);
    const step = old && decimalOf(to)?.minus(old).times(sign);
    if (!old || !step?.greaterThan(0)) return false;
    if (least && step.lessThan(least)) return false;
    return !share || step.times(100).greaterThanOrEqualTo(share.times(old.abs()));
  };
}

function movedInTime(field: Field, { by }: Movement, zone: string, sign: 1 | -1): Moved {
  return (from, to) => {
    if (field.type === 'date') {
      const hasMoved = sign === 1 ? String(to) > String(from) : String(to) < String(from);
      if (!hasMoved || by === undefined) return hasMoved;
      // Days are counted on the calendar; hours from midnight to midnight.
      const { day, exactMs } = calendarPart(String(from), String(by), sign);
      if (exactMs === 0) return sign === 1 ? String(to) >= day : String(to) <= day;
      return (atLocal(String(to), MIDNIGHT, zone) - (atLocal(day, MIDNIGHT, zone) + exactMs)) * sign >= 0;
    }
    const start = parseInstant(String(from));
    const end = parseInstant(String(to));
    if (start === null || end === null || (end - start) * sign <= 0) return false;
    return by === undefined || (end - addDuration(start, String(by), zone, sign)) * sign >= 0;
  };
}

function compileMembership({ field: id, any }: Membership, source: Source, side: 'gained' | 'lost'): ChangePredicate {
  const field = fieldFor(source, id);
  return ({ before, after }) => {
    const old = membersOf(before?.[field.id]);
    const now = membersOf(after?.[field.id]);
    const [from, to] = side === 'gained' ? [old, now] : [now, old];
    return to.some((member) => !from.includes(member) && (!any || any.includes(member)));
  };
}

function fieldFor(source: Source, id: string): Field {
  const field = fieldOf(source, id);
  if (!field) throw new RangeError(`${source.id} has no field ${id}; check the rule before compiling it`);
  return field;
}

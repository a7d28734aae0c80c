import { addDuration, addToDate, parseInstant } from '../time/index.ts';
import { type Change, decimalOf, type Field, type Fields, fieldOf, isEmpty, isMoney, judgedFields, membersOf, type Source, sameValue } from '../values/index.ts';
import type { Condition, FieldTest, Membership, Movement, StateTest } from './rule.ts';
import { compileTest, type Predicate } from './tests.ts';

/** Judges a whole change. */
export type ChangePredicate = (change: Change) => boolean;

const isFieldTest = (node: object): node is FieldTest => 'op' in node;

/** Compiles a state test of any depth. Of an item that does not exist no state holds: the caller asks that first. */
export function compileState(test: StateTest, source: Source, zone: string): Predicate {
  if (isFieldTest(test)) return compileTest(test, fieldFor(source, test.field), zone);
  if ('all' in test) return joined(test.all, 'every', source, zone);
  if ('any' in test) return joined(test.any, 'some', source, zone);
  const some = joined(test.none, 'some', source, zone);
  return (fields, at) => !some(fields, at);
}

function joined(tests: StateTest[], how: 'every' | 'some', source: Source, zone: string): Predicate {
  const parts = tests.map((test) => compileState(test, source, zone));
  return (fields, at) => parts[how]((part) => part(fields, at));
}

/** Compiles a rule's condition for one source; section 2 of the specification, node by node. */
export function compileCondition(node: Condition, source: Source, zone: string): ChangePredicate {
  if (isFieldTest(node)) {
    const holds = compileTest(node, fieldFor(source, node.field), zone);
    return (change) => holds(judgedFields(change), change.at);
  }
  if ('all' in node) {
    const parts = node.all.map((part) => compileCondition(part, source, zone));
    return (change) => parts.every((part) => part(change));
  }
  if ('any' in node) {
    const parts = node.any.map((part) => compileCondition(part, source, zone));
    return (change) => parts.some((part) => part(change));
  }
  if ('none' in node) {
    const parts = node.none.map((part) => compileCondition(part, source, zone));
    return (change) => !parts.some((part) => part(change));
  }
  if ('was' in node) return compileTransition(node.was, source, zone, (before) => before);
  if ('became' in node) return compileTransition(node.became, source, zone, (before, after) => after && !before);
  if ('ceased' in node) return compileTransition(node.ceased, source, zone, (before, after) => before && !after);
  if ('changed' in node) return compileChanged(node.changed, source);
  if ('rose' in node) return compileMovement(node.rose, source, zone, 1);
  if ('fell' in node) return compileMovement(node.fell, source, zone, -1);
  if ('gained' in node) return compileMembership(node.gained, source, 'gained');
  if ('lost' in node) return compileMembership(node.lost, source, 'lost');
  return node satisfies never;
}

function compileTransition(test: StateTest, source: Source, zone: string, judge: (before: boolean, after: boolean) => boolean): ChangePredicate {
  const holds = compileState(test, source, zone);
  return ({ before, after, at }) => judge(before !== null && holds(before, at), after !== null && holds(after, at));
}

/** The fields that differ between two states, in the source's order. */
export function differingFields(source: Source, before: Fields | null, after: Fields | null): Field[] {
  return source.fields.filter((field) => !sameValue(field.type, before?.[field.id], after?.[field.id]));
}

function compileChanged(changed: string | string[], source: Source): ChangePredicate {
  const watched = changed === '*' ? source.fields : (Array.isArray(changed) ? changed : [changed]).map((id) => fieldFor(source, id));
  return ({ before, after }) => watched.some((field) => !sameValue(field.type, before?.[field.id], after?.[field.id]));
}

function compileMovement(movement: Movement, source: Source, zone: string, sign: 1 | -1): ChangePredicate {
  const field = fieldFor(source, movement.field);
  const moved = field.type === 'date' || field.type === 'dateTime' ? movedInTime(field, movement, zone, sign) : movedByAmount(movement, sign);
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
      const least = by === undefined ? String(from) : addToDate(String(from), String(by), 0, zone, sign);
      const moved = sign === 1 ? String(to) > String(from) : String(to) < String(from);
      return moved && (sign === 1 ? String(to) >= least : String(to) <= least);
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

import { isFaultySelector, type Selector, type World } from '../people/index.ts';
import { isCivilDate, isDuration, isZone, parseInstant } from '../time/index.ts';
import {
  decimalOf,
  type Field,
  type FieldType,
  fieldOf,
  isMoney,
  isSetType,
  isTextType,
  type Source,
  type Value,
} from '../values/index.ts';
import type { Condition, FieldTest, Membership, Movement, Operator, Rule, StateTest } from './rule.ts';

/** A fault in a document: a code, where it stands, and what the words for it need. */
export interface Fault {
  code: string;
  path: string;
  params: Record<string, string | string[]>;
}

const ORDERED: Operator[] = ['is', 'isNot', 'above', 'atLeast', 'below', 'atMost', 'between'];
const TEMPORAL: Operator[] = ['is', 'isNot', 'before', 'after', 'between', 'withinNext', 'withinLast'];

/** The operators that a field type has, in the order in which they are offered. */
export function operatorsOf(type: FieldType): Operator[] {
  return [...ownOperators(type), 'empty', 'filled'];
}

function ownOperators(type: FieldType): Operator[] {
  if (isTextType(type)) return ['is', 'isNot', 'oneOf', 'noneOf', 'contains', 'lacks', 'startsWith', 'endsWith'];
  if (isSetType(type)) return ['is', 'isNot', 'contains', 'lacks', 'includesAny', 'includesAll'];
  if (type === 'number' || type === 'money') return ORDERED;
  if (type === 'date' || type === 'dateTime') return TEMPORAL;
  return type === 'boolean' ? ['is', 'isNot'] : ['is', 'isNot', 'oneOf', 'noneOf'];
}

type Report = (code: string, path: string, params?: Fault['params']) => void;

/** All that keeps a rule from being saved, with the path and what would be allowed. Empty where there is nothing. */
export function checkRule(rule: Rule, world: Pick<World, 'sources' | 'folders'>): Fault[] {
  const faults: Fault[] = [];
  const report: Report = (code, path, params = {}) => faults.push({ code, path, params });
  const sources = rule.scope.sources.flatMap((id, at) => {
    const source = world.sources.get(id);
    if (!source) report('unknownSource', `scope.sources.${at}`, { source: id, allowed: [...world.sources.keys()] });
    return source ? [source] : [];
  });
  if (!isZone(rule.zone)) report('unknownZone', 'zone', { zone: rule.zone });
  if (rule.pace.kind === 'digest' && rule.pace.zone && !isZone(rule.pace.zone))
    report('unknownZone', 'pace.zone', { zone: rule.pace.zone });
  checkParts(rule, report);
  for (const source of sources) checkFor(source, rule, report);
  checkOneType(rule, sources, report);
  for (const [at, id] of rule.scope.under.entries())
    if (!world.folders.has(id)) report('unknownFolder', `scope.under.${at}`, { folder: id });
  if (rule.to.length === 0) report('nobodyHears', 'to');
  const lists: [string, Selector[], boolean][] = [
    ['to', rule.to, false],
    ['except', rule.except, false],
    ...(rule.ack?.escalate ?? []).map(({ to }, at): [string, Selector[], boolean] => [
      `ack.escalate.${at}.to`,
      to,
      true,
    ]),
  ];
  for (const [path, list, mayTold] of lists)
    for (const [at, selector] of list.entries())
      checkSelector(selector, `${path}.${at}`, sources, world, mayTold, report);
  for (const part of ['only', 'except'] as const)
    for (const [at, selector] of rule.by[part].entries()) checkActor(selector, `by.${part}.${at}`, report);
  return once(faults);
}

/** A fault that shows at several sources in the same words is told once. */
const once = (faults: Fault[]): Fault[] => [...new Map(faults.map((fault) => [JSON.stringify(fault), fault])).values()];

/** What may not stand together, whatever the sources are. */
function checkParts(rule: Rule, report: Report): void {
  const occasions = (['when', 'due', 'idle'] as const).filter((part) => rule[part] !== null);
  if (occasions.length !== 1) report('oneOccasion', occasions[1] ?? 'when', { found: occasions });
  const byDate = rule.due ? 'due' : rule.idle ? 'idle' : null;
  if (rule.pace.kind === 'settled') {
    if (rule.when?.burst) report('burstNeverSettles', 'when.burst');
    if (byDate) report('dateNeverSettles', 'pace', { part: byDate });
  }
  if (byDate && (rule.by.only.length > 0 || rule.by.except.length > 0)) report('nobodyDidIt', 'by', { part: byDate });
  if (rule.ack && rule.pace.kind === 'digest') report('ackNeedsHaste', 'ack');
}

/** What the rule says about the fields, folders and states of one source. */
function checkFor(source: Source, rule: Rule, report: Report): void {
  checkState(rule.scope.where, 'scope.where', source, report);
  if (rule.when) checkCondition(rule.when.if, 'when.if', source, report);
  if (rule.due) {
    checkDateField(rule.due.field, 'due.field', source, report);
    checkState(rule.due.if, 'due.if', source, report);
  }
  if (rule.idle) checkState(rule.idle.if, 'idle.if', source, report);
  for (const [at, id] of rule.message.show.entries()) fieldIn(source, id, `message.show.${at}`, report);
  if (rule.during.near) checkDateField(rule.during.near.field, 'during.near.field', source, report);
  if (rule.scope.under.length > 0 && source.kind !== 'folders')
    report('underNeedsFolders', 'scope.under', { source: source.name });
}

/** A rule over several sources names only fields that are of one type in all of them. */
function checkOneType(rule: Rule, sources: Source[], report: Report): void {
  const [first, ...others] = sources;
  if (!first || others.length === 0) return;
  for (const { field: id, path } of fieldsAt(rule)) {
    const type = fieldOf(first, id)?.type;
    const other = others.find((source) => fieldOf(source, id) && fieldOf(source, id)?.type !== type);
    if (type && other)
      report('differentTypes', path, {
        field: id,
        source: first.name,
        type,
        other: other.name,
        otherType: String(fieldOf(other, id)?.type),
      });
  }
}

function fieldsAt(rule: Rule): { field: string; path: string }[] {
  const found: { field: string; path: string }[] = [];
  const walk = (node: unknown, path: string): void => {
    if (Array.isArray(node))
      node.forEach((part, at) => {
        walk(part, `${path}.${at}`);
      });
    else if (node !== null && typeof node === 'object') {
      for (const [key, part] of Object.entries(node)) {
        if (key === 'field' && !('linked' in node)) found.push({ field: String(part), path: `${path}.field` });
        else if (key === 'changed')
          for (const id of [part].flat()) found.push({ field: String(id), path: `${path}.changed` });
        else if (key !== 'value') walk(part, `${path}.${key}`);
      }
    }
  };
  for (const part of ['scope', 'when', 'due', 'idle', 'during', 'to', 'except', 'ack'] as const) walk(rule[part], part);
  for (const [at, field] of rule.message.show.entries()) found.push({ field, path: `message.show.${at}` });
  return found;
}

function checkSelector(
  selector: Selector,
  path: string,
  sources: Source[],
  world: Pick<World, 'sources'>,
  mayTold: boolean,
  report: Report,
): void {
  for (const source of sources) {
    const fault = isFaultySelector(selector, source, world.sources, mayTold);
    if (fault) report(fault.code, path, fault.params);
  }
}

function checkActor(selector: Selector, path: string, report: Report): void {
  if (selector === '*' || 'person' in selector || 'group' in selector || 'system' in selector) return;
  report('notAnActor', path, { selector: JSON.stringify(selector), allowed: ['person', 'group', 'system', '*'] });
}

function checkDateField(id: string, path: string, source: Source, report: Report): void {
  const field = fieldIn(source, id, path, report);
  const dates = source.fields.filter((one) => one.type === 'date' || one.type === 'dateTime');
  if (field && !dates.includes(field))
    report('needsDateField', path, { field: field.name, allowed: dates.map((one) => one.id) });
}

function fieldIn(source: Source, id: string, path: string, report: Report): Field | null {
  const field = fieldOf(source, id);
  if (!field)
    report('unknownField', path, { field: id, source: source.name, allowed: source.fields.map((one) => one.id) });
  return field ?? null;
}

function checkState(test: StateTest, path: string, source: Source, report: Report): void {
  if ('op' in test) checkTest(test, path, source, report);
  else
    for (const key of ['all', 'any', 'none'] as const) {
      const parts = (test as Record<string, StateTest[] | undefined>)[key];
      parts?.forEach((part, at) => {
        checkState(part, `${path}.${key}.${at}`, source, report);
      });
    }
}

function checkCondition(node: Condition, path: string, source: Source, report: Report): void {
  if ('op' in node) return checkTest(node, path, source, report);
  if ('was' in node) return checkState(node.was, `${path}.was`, source, report);
  if ('became' in node) return checkState(node.became, `${path}.became`, source, report);
  if ('ceased' in node) return checkState(node.ceased, `${path}.ceased`, source, report);
  if ('changed' in node) {
    for (const id of [node.changed].flat()) if (id !== '*') fieldIn(source, id, `${path}.changed`, report);
    return;
  }
  if ('rose' in node) return checkMovement(node.rose, `${path}.rose`, source, report);
  if ('fell' in node) return checkMovement(node.fell, `${path}.fell`, source, report);
  if ('gained' in node) return checkMembership(node.gained, `${path}.gained`, source, report);
  if ('lost' in node) return checkMembership(node.lost, `${path}.lost`, source, report);
  const [key, parts] =
    'all' in node
      ? (['all', node.all] as const)
      : 'any' in node
        ? (['any', node.any] as const)
        : (['none', node.none] as const);
  parts.forEach((part, at) => {
    checkCondition(part, `${path}.${key}.${at}`, source, report);
  });
}

function checkMovement({ field: id, by, percent }: Movement, path: string, source: Source, report: Report): void {
  const field = fieldIn(source, id, `${path}.field`, report);
  if (!field) return;
  const temporal = field.type === 'date' || field.type === 'dateTime';
  if (!temporal && field.type !== 'number' && field.type !== 'money')
    return report('cannotRise', `${path}.field`, { field: field.name });
  if (by !== undefined && (temporal ? !isDuration(String(by)) : decimalOf(by) === null))
    report(temporal ? 'needsDuration' : 'needsNumber', `${path}.by`, { field: field.name });
  if (percent !== undefined && (temporal || decimalOf(percent) === null))
    report('needsNumber', `${path}.percent`, { field: field.name });
}

function checkMembership({ field: id, any }: Membership, path: string, source: Source, report: Report): void {
  const field = fieldIn(source, id, `${path}.field`, report);
  if (!field) return;
  if (!isSetType(field.type)) return report('needsSetField', `${path}.field`, { field: field.name });
  for (const option of any ?? []) checkOption(field, option, `${path}.any`, report);
}

function checkTest(test: FieldTest, path: string, source: Source, report: Report): void {
  const field = fieldIn(source, test.field, `${path}.field`, report);
  if (!field) return;
  const allowed = operatorsOf(field.type);
  if (!allowed.includes(test.op))
    return report('unknownOperator', `${path}.op`, { field: field.name, op: test.op, allowed });
  if (test.op === 'empty' || test.op === 'filled') return;
  const isRange = test.op === 'between';
  const isList = test.op === 'oneOf' || test.op === 'noneOf' || isSetType(field.type);
  const values = Array.isArray(test.value) ? test.value : isList && isSetType(field.type) ? [test.value ?? null] : null;
  if (isRange && values?.length !== 2) return report('needsRange', `${path}.value`, { field: field.name });
  if ((isRange || isList) !== (values !== null))
    return report(isList ? 'needsList' : 'needsOneValue', `${path}.value`, { field: field.name });
  for (const value of values ?? [test.value ?? null])
    checkOperand(test.op, field, value as Value, `${path}.value`, report);
}

function checkOperand(op: Operator, field: Field, value: Value, path: string, report: Report): void {
  const name = { field: field.name };
  if (op === 'withinNext' || op === 'withinLast') {
    if (typeof value !== 'string' || !isDuration(value)) report('needsDuration', path, name);
    return;
  }
  switch (field.type) {
    case 'number':
      if (isMoney(value) || decimalOf(value) === null) report('needsNumber', path, name);
      return;
    case 'money':
      if (!isMoney(value) || decimalOf(value) === null) report('needsMoney', path, name);
      return;
    case 'boolean':
      if (typeof value !== 'boolean') report('needsYesOrNo', path, name);
      return;
    case 'date':
      if (typeof value !== 'string' || !isCivilDate(value)) report('needsDate', path, name);
      return;
    case 'dateTime':
      if (typeof value !== 'string' || (!isCivilDate(value) && parseInstant(value) === null))
        report('needsDateOrInstant', path, name);
      return;
    case 'choice':
    case 'choices':
      return checkOption(field, value, path, report);
    default:
      if (typeof value !== 'string' || value === '') report('needsText', path, name);
  }
}

function checkOption(field: Field, option: Value, path: string, report: Report): void {
  if (field.options && !field.options.includes(String(option)))
    report('unknownOption', path, { field: field.name, option: String(option), allowed: field.options });
}

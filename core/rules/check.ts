import { isFaultySelector, type Selector, type World } from '../people/index.ts';
import { isCivilDate, isDuration, isZone, parseInstant } from '../time/index.ts';
import { decimalOf, type Field, type FieldType, fieldOf, isMoney, isSetType, isTextType, type Source, type Value } from '../values/index.ts';
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
export function checkRule(rule: Rule, world: World): Fault[] {
  const faults: Fault[] = [];
  const report: Report = (code, path, params = {}) => faults.push({ code, path, params });
  const sources = rule.scope.sources.flatMap((id, at) => {
    const source = world.sources.get(id);
    if (!source) report('unknownSource', `scope.sources.${at}`, { source: id, allowed: [...world.sources.keys()] });
    return source ? [source] : [];
  });
  if (!isZone(rule.zone)) report('unknownZone', 'zone', { zone: rule.zone });
  for (const source of sources) {
    checkState(rule.scope.where, 'scope.where', source, report);
    checkCondition(rule.when.if, 'when.if', source, report);
    for (const id of rule.message.show) fieldIn(source, id, 'message.show', report);
    if (rule.during.near) checkNear(rule.during.near.field, source, report);
    if (rule.scope.under.length > 0 && source.kind !== 'folders') report('underNeedsFolders', 'scope.under', { source: source.name });
  }
  for (const [at, id] of rule.scope.under.entries()) if (!world.folders.has(id)) report('unknownFolder', `scope.under.${at}`, { folder: id });
  if (rule.to.length === 0) report('nobodyHears', 'to');
  for (const part of ['to', 'except'] as const) {
    for (const [at, selector] of rule[part].entries()) checkSelector(selector, `${part}.${at}`, sources, report);
  }
  return faults;
}

function checkSelector(selector: Selector, path: string, sources: Source[], report: Report): void {
  for (const source of sources) {
    const fault = isFaultySelector(selector, source);
    if (fault) report(fault.code, path, fault.params);
  }
}

function checkNear(id: string, source: Source, report: Report): void {
  const field = fieldIn(source, id, 'during.near.field', report);
  if (field && field.type !== 'date' && field.type !== 'dateTime') report('needsDateField', 'during.near.field', { field: field.name });
}

function fieldIn(source: Source, id: string, path: string, report: Report): Field | null {
  const field = fieldOf(source, id);
  if (!field) report('unknownField', path, { field: id, source: source.name, allowed: source.fields.map((one) => one.id) });
  return field ?? null;
}

function checkState(test: StateTest, path: string, source: Source, report: Report): void {
  if ('op' in test) checkTest(test, path, source, report);
  else for (const key of ['all', 'any', 'none'] as const) {
    const parts = (test as Record<string, StateTest[] | undefined>)[key];
    parts?.forEach((part, at) => { checkState(part, `${path}.${key}.${at}`, source, report); });
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
  const [key, parts] = 'all' in node ? ['all', node.all] as const : 'any' in node ? ['any', node.any] as const : ['none', node.none] as const;
  parts.forEach((part, at) => { checkCondition(part, `${path}.${key}.${at}`, source, report); });
}

function checkMovement({ field: id, by, percent }: Movement, path: string, source: Source, report: Report): void {
  const field = fieldIn(source, id, `${path}.field`, report);
  if (!field) return;
  const temporal = field.type === 'date' || field.type === 'dateTime';
  if (!temporal && field.type !== 'number' && field.type !== 'money') return report('cannotRise', `${path}.field`, { field: field.name });
  if (by !== undefined && (temporal ? !isDuration(String(by)) : decimalOf(by) === null)) report(temporal ? 'needsDuration' : 'needsNumber', `${path}.by`, { field: field.name });
  if (percent !== undefined && (temporal || decimalOf(percent) === null)) report('needsNumber', `${path}.percent`, { field: field.name });
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
  if (!allowed.includes(test.op)) return report('unknownOperator', `${path}.op`, { field: field.name, op: test.op, allowed });
  if (test.op === 'empty' || test.op === 'filled') return;
  const isRange = test.op === 'between';
  const isList = test.op === 'oneOf' || test.op === 'noneOf' || isSetType(field.type);
  const values = Array.isArray(test.value) ? test.value : isList && isSetType(field.type) ? [test.value ?? null] : null;
  if (isRange && values?.length !== 2) return report('needsRange', `${path}.value`, { field: field.name });
  if ((isRange || isList) !== (values !== null)) return report(isList ? 'needsList' : 'needsOneValue', `${path}.value`, { field: field.name });
  for (const value of values ?? [test.value ?? null]) checkOperand(test.op, field, value as Value, `${path}.value`, report);
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
      if (typeof value !== 'string' || (!isCivilDate(value) && parseInstant(value) === null)) report('needsDateOrInstant', path, name);
      return;
    case 'choice':
    case 'choices':
      return checkOption(field, value, path, report);
    default:
      if (typeof value !== 'string' || value === '') report('needsText', path, name);
  }
}

function checkOption(field: Field, option: Value, path: string, report: Report): void {
  if (field.options && !field.options.includes(String(option))) report('unknownOption', path, { field: field.name, option: String(option), allowed: field.options });
}

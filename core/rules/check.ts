import {
  asKind,
  isFaultySelector,
  kindOfSelector,
  type Selector,
  type SelectorKind,
  type SelectorPlace,
  type World,
} from '../people/index.ts';
import { isCivilDate, isDuration, isZone, parseInstant, type Weekday } from '../time/index.ts';
import {
  decimalOf,
  type Field,
  type FieldType,
  fieldOf,
  isMoney,
  isFigureType,
  isLinkType,
  isSetType,
  isTemporalType,
  type Source,
  type Value,
} from '../values/index.ts';
import {
  COMPARES_FIELDS,
  type Condition,
  type FieldTest,
  isKind,
  kindOf,
  type LinkedTest,
  type Membership,
  type Movement,
  type Operator,
  otherField,
  type StateTest,
  stateParts,
  visitCondition,
} from './nodes.ts';
import { OCCASION_PARTS } from './occasion.ts';
import { leadsOf, type Report as RuleReport, type Rule, type Tally } from './rule.ts';

/** A fault in a document: a code, where it stands, and what the words for it need. */
export interface Fault {
  code: string;
  path: string;
  params: Record<string, string | string[]>;
}

const TEXT: Operator[] = ['is', 'isNot', 'oneOf', 'noneOf', 'contains', 'lacks', 'startsWith', 'endsWith'];
const SET: Operator[] = ['is', 'isNot', 'contains', 'lacks', 'includesAny', 'includesAll'];
const ORDERED: Operator[] = ['is', 'isNot', 'above', 'atLeast', 'below', 'atMost', 'between'];
const TEMPORAL: Operator[] = ['is', 'isNot', 'before', 'after', 'between', 'withinNext', 'withinLast'];
const ID: Operator[] = ['is', 'isNot', 'oneOf', 'noneOf'];

const OWN_OPERATORS = {
  text: TEXT,
  longText: TEXT,
  number: ORDERED,
  money: ORDERED,
  boolean: ['is', 'isNot'],
  date: TEMPORAL,
  dateTime: TEMPORAL,
  choice: ID,
  choices: SET,
  person: ID,
  people: SET,
  link: ID,
  links: SET,
  url: TEXT,
  email: TEXT,
} satisfies Record<FieldType, Operator[]>;

/** The operators that a field type has, in the order in which they are offered. */
export const operatorsOf = (type: FieldType): Operator[] => [...OWN_OPERATORS[type], 'empty', 'filled'];

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
  for (const source of sources) checkFor(rule, { source, sources: world.sources, report });
  checkOneType(rule, sources, report);
  for (const [at, id] of rule.scope.under.entries())
    if (!world.folders.has(id)) report('unknownFolder', `scope.under.${at}`, { folder: id });
  if (rule.to.length === 0) report('nobodyHears', 'to');
  const naming = { sources, world, report };
  checkSelectors(rule.to, 'to', ['cases', 'tell'], naming);
  checkSelectors(rule.except, 'except', ['cases'], naming);
  for (const [at, { to }] of (rule.ack?.escalate ?? []).entries())
    checkSelectors(to, `ack.escalate.${at}.to`, ['told', 'cases'], naming);
  for (const part of ['only', 'except'] as const)
    for (const [at, selector] of rule.by[part].entries()) checkActor(selector, `by.${part}.${at}`, report);
  return once(faults);
}

/** A fault that shows at several sources in the same words is told once. */
const once = (faults: Fault[]): Fault[] => [...new Map(faults.map((fault) => [JSON.stringify(fault), fault])).values()];

/** What may not stand together, whatever the sources are. */
function checkParts(rule: Rule, report: Report): void {
  const occasions = OCCASION_PARTS.filter((part) => rule[part] !== null);
  if (occasions.length !== 1) report('oneOccasion', occasions[1] ?? 'when', { found: occasions });
  const standing = (['tally', 'report'] as const).find((part) => rule[part] !== null);
  if (standing && rule.pace.kind === 'settled') report('dateNeverSettles', 'pace', { part: standing });
  if (rule.report) checkReport(rule, report);
  const byDate = (['due', 'idle'] as const).find((part) => rule[part] !== null) ?? null;
  if (rule.pace.kind === 'settled') {
    if (rule.when?.burst) report('burstNeverSettles', 'when.burst');
    if (byDate) report('dateNeverSettles', 'pace', { part: byDate });
  }
  if (byDate && (rule.by.only.length > 0 || rule.by.except.length > 0)) report('nobodyDidIt', 'by', { part: byDate });
  if (rule.ack && rule.pace.kind === 'digest') report('ackNeedsHaste', 'ack');
}

/** A report tells of what stands: at once, of nobody's doing, and nobody takes it on. */
function checkReport({ pace, by, limit, ack, during, about, report: told }: Rule, report: Report): void {
  if (pace.kind === 'digest') report('reportComesAtOnce', 'pace');
  if (by.only.length > 0 || by.except.length > 0) report('nobodyDidIt', 'by', { part: 'report' });
  if (limit) report('notOfReports', 'limit');
  if (ack) report('notOfReports', 'ack');
  if (during.near) report('notOfReports', 'during.near');
  if (about !== 'any') report('notOfReports', 'about');
  if (told?.on) checkDays(told, report);
}

/** Days of the week of a weekly report, of the month of a monthly one; a daily one has none of its own. */
function checkDays({ every, on = [] }: RuleReport, report: Report): void {
  const isRight = (day: Weekday | number) =>
    every === 'week' ? typeof day === 'string' : every === 'month' && typeof day === 'number';
  if (!on.every(isRight)) report('otherDays', 'report.on', { every });
}

/** What a tally adds up, by what it is parted, and the mark, for one source. */
function checkTally({ of, per, becomes: { value } }: Tally, { source, report }: Checking): void {
  const summed = of === 'items' ? null : fieldIn(source, of.sum, 'tally.of.sum', report);
  const figures = source.fields.filter((field) => isFigureType(field.type));
  if (summed && !isFigureType(summed.type))
    report('notAFigure', 'tally.of.sum', { field: summed.name, allowed: figures.map(({ id }) => id) });
  const type = summed && isFigureType(summed.type) ? summed.type : 'number';
  const code = OPERANDS[type](value);
  if (code) report(code, 'tally.becomes.value', { field: summed?.name ?? 'items' });
  const field = per === null ? null : fieldIn(source, per, 'tally.per', report);
  const parting = source.fields.filter((one) => PARTS.has(one.type));
  if (field && !parting.includes(field))
    report('cannotPart', 'tally.per', { field: field.name, allowed: parting.map(({ id }) => id) });
}
/** The types by whose values a tally can be parted. */
const PARTS: ReadonlySet<FieldType> = new Set(['choice', 'person', 'link']);

/** What the rule says about the fields, folders and states of one source. */
function checkFor(rule: Rule, on: Checking): void {
  const { source, report } = on;
  checkState(rule.scope.where, 'scope.where', { ...on, ...(rule.scope.linked ? { noLinks: 'throughInLinked' } : {}) });
  if (rule.when) checkCondition(rule.when.if, 'when.if', on);
  if (rule.due) {
    checkLeads(leadsOf(rule.due), report);
    checkDateField(rule.due.field, 'due.field', source, report);
    checkState(rule.due.if, 'due.if', on);
  }
  if (rule.idle) checkState(rule.idle.if, 'idle.if', on);
  if (rule.report) checkState(rule.report.if, 'report.if', on);
  if (rule.tally) checkTally(rule.tally, on);
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

/** Every field that a rule names, with where it does; of a selector across a link the field is another source's. */
function fieldsAt(rule: Rule): { field: string; path: string }[] {
  const parts = ['scope', 'when', 'due', 'idle', 'tally', 'report', 'during', 'to', 'except', 'ack'] as const;
  return [
    ...parts.flatMap((part) => fieldsBelow(rule[part], part)),
    ...rule.message.show.map((field, at) => ({ field, path: `message.show.${at}` })),
  ];
}

function fieldsBelow(node: unknown, path: string): { field: string; path: string }[] {
  if (node === null || typeof node !== 'object') return [];
  return Object.entries(node).flatMap(([key, part]) => {
    const at = `${path}.${key}`;
    if (key === 'field' && !('linked' in node)) return [{ field: String(part), path: at }];
    if (key === 'per' || key === 'sum') return part === null ? [] : [{ field: String(part), path: at }];
    if (key === 'changed') return [part].flat().map((id) => ({ field: String(id), path: at }));
    if (key === 'through') return [{ field: String(part), path: at }];
    // What holds of linked items is in the fields of where the link leads.
    return key === 'holds' && 'through' in node ? [] : fieldsBelow(part, at);
  });
}

/** Against what the recipients of a rule are checked. */
interface Naming {
  sources: readonly Source[];
  world: Pick<World, 'sources'>;
  report: Report;
}

function checkSelectors(selectors: readonly Selector[], path: string, place: SelectorPlace, on: Naming): void {
  for (const [at, selector] of selectors.entries()) checkSelector(selector, `${path}.${at}`, place, on);
}

function checkSelector(selector: Selector, path: string, place: SelectorPlace, on: Naming): void {
  const { sources, world, report } = on;
  for (const source of sources) {
    const fault = isFaultySelector(selector, source, world.sources, place);
    if (fault) report(fault.code, path, fault.params);
  }
  const tell = asKind(selector, 'tell');
  if (tell)
    checkSelector(
      tell.tell,
      `${path}.tell`,
      place.filter((one) => one !== 'tell'),
      on,
    );
  const cases = asKind(selector, 'cases');
  if (!cases) return;
  const within = place.filter((one) => one === 'told');
  for (const [at, one] of cases.cases.entries()) {
    for (const source of sources)
      checkState(one.if as StateTest, `${path}.cases.${at}.if`, { source, sources: world.sources, report });
    checkSelectors(one.to, `${path}.cases.${at}.to`, within, on);
  }
  checkSelectors(cases.else ?? [], `${path}.else`, within, on);
}

/** The kinds of selectors that name whoever did something. */
const ACTORS: readonly SelectorKind[] = ['person', 'group', 'system', 'anybody'];

function checkActor(selector: Selector, path: string, report: Report): void {
  if (!ACTORS.includes(kindOfSelector(selector)))
    report('notAnActor', path, { selector: JSON.stringify(selector), allowed: ['person', 'group', 'system', '*'] });
}

/** Lead times of one date are different ones. */
function checkLeads(leads: readonly string[], report: Report): void {
  for (const [at, lead] of leads.entries())
    if (leads.indexOf(lead) < at) report('sameLead', `due.offset.${at}`, { lead });
}

function checkDateField(id: string, path: string, source: Source, report: Report): void {
  const field = fieldIn(source, id, path, report);
  const dates = source.fields.filter((one) => isTemporalType(one.type));
  if (field && !dates.includes(field))
    report('needsDateField', path, { field: field.name, allowed: dates.map((one) => one.id) });
}

function fieldIn(source: Source, id: string, path: string, report: Report): Field | null {
  const field = fieldOf(source, id);
  if (!field)
    report('unknownField', path, { field: id, source: source.name, allowed: source.fields.map((one) => one.id) });
  return field ?? null;
}

/** What a condition is checked against: the source whose fields it names, and the others, which links lead to. */
interface Checking {
  source: Source;
  sources: ReadonlyMap<string, Source>;
  report: Report;
  /** Why no link may be followed here, as a code. */
  noLinks?: string;
}

function checkState(test: StateTest, path: string, on: Checking): void {
  if (isKind(test, 'test')) return checkTest(test, path, on.source, on.report);
  if (isKind(test, 'through')) return checkThrough(test, path, on);
  for (const [at, part] of stateParts(test).entries()) checkState(part, `${path}.${kindOf(test)}.${at}`, on);
}

/** A link is followed once, to a source that there is. */
function checkThrough({ through, holds }: LinkedTest, path: string, on: Checking): void {
  const { source, sources, report, noLinks } = on;
  if (noLinks) return report(noLinks, `${path}.through`);
  const field = fieldIn(source, through, `${path}.through`, report);
  if (!field) return;
  if (!isLinkType(field.type)) {
    const allowed = source.fields.filter((one) => isLinkType(one.type)).map((one) => one.id);
    return report('notALinkField', `${path}.through`, { field: field.name, source: source.name, allowed });
  }
  const target = sources.get(field.to ?? '');
  if (!target)
    return report('unknownSource', `${path}.through`, { source: field.to ?? '', allowed: [...sources.keys()] });
  checkState(holds, `${path}.holds`, { source: target, sources, report, noLinks: 'throughTwice' });
}

function checkCondition(node: Condition, path: string, on: Checking): void {
  const { source, report } = on;
  const within = `${path}.${kindOf(node)}`;
  const ofState = (state: StateTest) => checkState(state, within, on);
  const ofParts = (parts: Condition[]) => {
    for (const [at, part] of parts.entries()) checkCondition(part, `${within}.${at}`, on);
  };
  visitCondition<void>(node, {
    test: (test) => checkTest(test, path, source, report),
    through: (test) => checkThrough(test, path, on),
    all: ({ all }) => ofParts(all),
    any: ({ any }) => ofParts(any),
    none: ({ none }) => ofParts(none),
    was: ({ was }) => ofState(was),
    became: ({ became }) => ofState(became),
    ceased: ({ ceased }) => ofState(ceased),
    changed: ({ changed }) => {
      for (const id of [changed].flat()) if (id !== '*') fieldIn(source, id, within, report);
    },
    rose: ({ rose }) => checkMovement(rose, within, source, report),
    fell: ({ fell }) => checkMovement(fell, within, source, report),
    gained: ({ gained }) => checkMembership(gained, within, source, report),
    lost: ({ lost }) => checkMembership(lost, within, source, report),
  });
}

function checkMovement({ field: id, by, percent }: Movement, path: string, source: Source, report: Report): void {
  const field = fieldIn(source, id, `${path}.field`, report);
  if (!field) return;
  const temporal = isTemporalType(field.type);
  if (!temporal && !isFigureType(field.type)) return report('cannotRise', `${path}.field`, { field: field.name });
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
  const other = otherField(test);
  if (other !== null) return checkComparison(test.op, field, other, `${path}.value`, source, report);
  const isRange = test.op === 'between';
  const isList = test.op === 'oneOf' || test.op === 'noneOf' || isSetType(field.type);
  const values = operandsOf(test, field);
  if (isRange && values?.length !== 2) return report('needsRange', `${path}.value`, { field: field.name });
  if ((isRange || isList) !== (values !== null))
    return report(isList ? 'needsList' : 'needsOneValue', `${path}.value`, { field: field.name });
  for (const value of values ?? [test.value ?? null])
    checkOperand(test.op, field, value as Value, `${path}.value`, report);
}

/** Two fields are compared that are of one type, and by what compares single values. */
function checkComparison(op: Operator, field: Field, id: string, path: string, source: Source, report: Report): void {
  if (!COMPARES_FIELDS.has(op)) {
    const allowed = operatorsOf(field.type).filter((one) => COMPARES_FIELDS.has(one));
    return report('comparesNoFields', path, { field: field.name, op, allowed });
  }
  const other = fieldIn(source, id, `${path}.field`, report);
  if (other && other.type !== field.type)
    report('otherType', `${path}.field`, {
      field: field.name,
      other: other.name,
      allowed: source.fields.filter((one) => one.type === field.type && one !== field).map((one) => one.id),
    });
}

/** The values of a test that takes several; `null` of one that takes one. A set is tested with one as with several. */
function operandsOf({ value }: FieldTest, field: Field): Value[] | null {
  if (Array.isArray(value)) return value;
  return isSetType(field.type) ? [(value ?? null) as Value] : null;
}

function checkOperand(op: Operator, field: Field, value: Value, path: string, report: Report): void {
  const name = { field: field.name };
  if (op === 'withinNext' || op === 'withinLast') {
    if (typeof value !== 'string' || !isDuration(value)) report('needsDuration', path, name);
    return;
  }
  const code = OPERANDS[field.type](value);
  if (code === 'unknownOption') checkOption(field, value, path, report);
  else if (code) report(code, path, name);
}

type OperandCheck = (value: Value) => string | null;
const needsText: OperandCheck = (value) => (typeof value !== 'string' || value === '' ? 'needsText' : null);
/** Whether it is among the options is for the field to say. */
const needsOption: OperandCheck = () => 'unknownOption';
const isDay = (value: Value): boolean => typeof value === 'string' && isCivilDate(value);

/** What keeps a value from standing in a test of each type, as a code; `null` where nothing does. */
const OPERANDS = {
  text: needsText,
  longText: needsText,
  number: (value) => (isMoney(value) || decimalOf(value) === null ? 'needsNumber' : null),
  money: (value) => (!isMoney(value) || decimalOf(value) === null ? 'needsMoney' : null),
  boolean: (value) => (typeof value === 'boolean' ? null : 'needsYesOrNo'),
  date: (value) => (isDay(value) ? null : 'needsDate'),
  dateTime: (value) =>
    isDay(value) || (typeof value === 'string' && parseInstant(value) !== null) ? null : 'needsDateOrInstant',
  choice: needsOption,
  choices: needsOption,
  person: needsText,
  people: needsText,
  link: needsText,
  links: needsText,
  url: needsText,
  email: needsText,
} satisfies Record<FieldType, OperandCheck>;

function checkOption(field: Field, option: Value, path: string, report: Report): void {
  if (field.options && !field.options.includes(String(option)))
    report('unknownOption', path, { field: field.name, option: String(option), allowed: field.options });
}

import type { Selector } from '../people/index.ts';
import { asKind } from '../people/index.ts';
import {
  type Condition,
  type FieldTest,
  fromTo,
  isKind,
  type LinkedTest,
  type Movement,
  type Operand,
  type Rule,
  type StateTest,
} from '../rules/index.ts';
import { type Field, fieldOf, isMoney, isSetType, type Source, type Value } from '../values/index.ts';
import { plainNumber } from './plain.ts';

/** The source whose fields are meant, and all others, which links lead to. */
interface Place {
  source: Source | undefined;
  sources: ReadonlyMap<string, Source>;
}

/**
 * A rule as a sentence says it: the same rule, without what makes no difference. Groups of one part are that part, groups
 * in a group of their kind are one, a set is asked of one member as a value, durations and numbers are in their plain form.
 */
export function tidyRule(rule: Rule, sources: ReadonlyMap<string, Source>): Rule {
  const place = { source: sources.get(rule.scope.sources[0] ?? ''), sources };
  const state = (test: StateTest): StateTest => tidyCondition(test, place) as StateTest;
  const people = (selectors: readonly Selector[]) => selectors.map((one) => tidySelector(one, place));
  const { when, due, idle, report, tally, ack, during, pace, limit } = rule;
  return {
    ...rule,
    scope: { ...rule.scope, where: state(rule.scope.where) },
    when: when && { ...when, if: tidyCondition(when.if, place), burst: when.burst && spans(when.burst, ['within']) },
    due: due && {
      ...due,
      offset: tidyLeads(due.offset),
      if: state(due.if),
      repeat: due.repeat && spans(due.repeat, ['every']),
    },
    idle: idle && { ...spans(idle, ['for']), if: state(idle.if), repeat: idle.repeat && spans(idle.repeat, ['every']) },
    report: report && { ...report, if: state(report.if) },
    tally: tally && { ...tally, becomes: { ...tally.becomes, value: tidyFigure(tally.becomes.value) } },
    to: people(rule.to),
    except: people(rule.except),
    pace: pace.kind === 'settled' ? spans(pace, ['quiet', 'most']) : tidyPace(pace),
    limit: limit && spans(limit, ['within']),
    during: { ...during, near: during.near && spans(during.near, ['ahead', 'behind']) },
    ack: ack && {
      ...ack,
      remind: ack.remind && spans(ack.remind, ['after']),
      escalate: ack.escalate.map((one) => ({ ...spans(one, ['after']), to: people(one.to) })),
    },
    message: tidyMessage(rule.message),
  };
}

function tidyMessage({ attach = [], ...message }: Rule['message']): Rule['message'] {
  return attach.length > 0 ? { ...message, attach: [...new Set(attach)] } : message;
}

function tidyPace(pace: Rule['pace']): Rule['pace'] {
  if (pace.kind !== 'digest') return pace;
  const { zone, ...rest } = pace;
  return zone ? { ...rest, zone } : rest;
}

const tidyFigure = <V extends Value>(value: V): V =>
  (isMoney(value) || typeof value === 'boolean' ? value : plainNumber(String(value))) as V;

const spans = <T extends object>(part: T, keys: (keyof T)[]): T => ({
  ...part,
  ...Object.fromEntries(keys.map((key) => [key, plainSpan(String(part[key]))])),
});

function tidyLeads(offset: string | string[]): string | string[] {
  const leads = [offset].flat().map(plainSpan);
  return leads.length === 1 ? (leads[0] as string) : leads;
}

/** A duration without parts of nothing, and without leading zeros: `P03D` is `P3D`. */
export function plainSpan(duration: string): string {
  const [, sign = '', date = '', time = ''] = /^(-?)P([^T]*)(?:T(.*))?$/.exec(duration) ?? [];
  const parts = (text: string) =>
    [...text.matchAll(/(\d+)([A-Z])/g)]
      .map(([, count, unit]) => ({ count: Number(count), unit }))
      .filter(({ count }) => count > 0)
      .map(({ count, unit }) => `${count}${unit}`)
      .join('');
  const [civil, exact] = [parts(date), parts(time)];
  if (civil === '' && exact === '') return 'PT0S';
  return `${sign}P${civil}${exact === '' ? '' : `T${exact}`}`;
}

function tidySelector(selector: Selector, place: Place): Selector {
  const cases = asKind(selector, 'cases');
  const tell = asKind(selector, 'tell');
  if (tell) return { ...tell, tell: tidySelector(tell.tell, place) };
  if (!cases) return selector;
  const others = cases.else?.map((one) => tidySelector(one, place));
  return {
    cases: cases.cases.map((one) => ({
      if: tidyCondition(one.if as StateTest, place) as StateTest,
      to: one.to.map((each) => tidySelector(each, place)),
    })),
    ...(others ? { else: others } : {}),
  };
}

/** A condition without groups that make no difference. */
export function tidyCondition(node: Condition, place: Place): Condition {
  const within = (part: Condition) => tidyCondition(part, place);
  if (isKind(node, 'test')) return tidyTest(node, place);
  if (isKind(node, 'through')) return tidyLinked(node, place);
  if (isKind(node, 'all')) {
    const parts = node.all.map(within);
    if (parts.length === 1) return parts[0] as Condition;
    const turn = { all: parts };
    return fromTo(turn) ? turn : { all: flat(parts, 'all') };
  }
  if (isKind(node, 'any')) {
    const parts = node.any.map(within);
    return parts.length === 1 ? (parts[0] as Condition) : { any: flat(parts, 'any') };
  }
  if (isKind(node, 'none')) return { none: node.none.map(within) };
  if (isKind(node, 'was')) return { was: within(node.was) as StateTest };
  if (isKind(node, 'became')) return { became: within(node.became) as StateTest };
  if (isKind(node, 'ceased')) return { ceased: within(node.ceased) as StateTest };
  if (isKind(node, 'changed')) {
    const fields = [node.changed].flat();
    return { changed: fields.length === 1 ? (fields[0] as string) : fields };
  }
  if (isKind(node, 'rose')) return { rose: tidyMovement(node.rose) };
  return isKind(node, 'fell') ? { fell: tidyMovement(node.fell) } : node;
}

/** Parts of a group, those of groups of its own kind among them; what reads as one, *from … to …*, stays one. */
function flat(parts: Condition[], kind: 'all' | 'any'): Condition[] {
  return parts.flatMap((part) => {
    if (kind === 'all') return isKind(part, 'all') && !fromTo(part) && part.all.length > 0 ? part.all : [part];
    return isKind(part, 'any') && part.any.length > 0 ? part.any : [part];
  });
}

const tidyMovement = ({ field, by, percent }: Movement): Movement => ({
  field,
  ...(by === undefined ? {} : { by: /^-?P/.test(String(by)) ? plainSpan(String(by)) : plainNumber(by) }),
  ...(percent === undefined ? {} : { percent: plainNumber(percent) }),
});

function tidyLinked({ through, holds, every }: LinkedTest, { source, sources }: Place): LinkedTest {
  const target = sources.get((source && fieldOf(source, through)?.to) ?? '');
  const test = tidyCondition(holds, { source: target, sources }) as StateTest;
  return { through, holds: test, ...(every ? { every } : {}) };
}

function tidyTest({ field: id, op, value, matchCase }: FieldTest, { source }: Place): FieldTest {
  const field = source && fieldOf(source, id);
  const hasValue = op !== 'empty' && op !== 'filled' && value !== undefined;
  return {
    field: id,
    op,
    ...(hasValue ? { value: tidyOperand(value, op, field) } : {}),
    ...(matchCase ? { matchCase } : {}),
  };
}

function tidyOperand(value: Operand, op: FieldTest['op'], field: Field | undefined): Operand {
  if (op === 'withinNext' || op === 'withinLast') return plainSpan(String(value));
  if (field?.type === 'number' && !isOther(value))
    return (
      Array.isArray(value) ? value.map((one) => tidyFigure(one as Value)) : tidyFigure(value as Value)
    ) as Operand;
  const isOne = field && isSetType(field.type) && Array.isArray(value) && value.length === 1;
  return isOne ? ((value as Value[])[0] as Operand) : value;
}

const isOther = (value: Operand): boolean =>
  typeof value === 'object' && value !== null && !Array.isArray(value) && 'field' in value;

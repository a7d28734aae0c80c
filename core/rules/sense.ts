import type { Folder } from '../people/index.ts';
import type { CivilDate, Duration } from '../time/index.ts';
import {
  compareValues,
  decimalOf,
  fieldOf,
  isMoney,
  isTemporalType,
  type Source,
  type Value,
} from '../values/index.ts';
import type { Fault } from './check.ts';
import type { FieldTest, LinkedTest, Membership, Movement } from './nodes.ts';
import type { Rule } from './rule.ts';

type Report = (code: string, path: string, params?: Fault['params']) => void;

/** What a rule is checked against: the sources and folders it may speak of, and the day it is in the rule's own zone. */
export interface SenseOf {
  sources: ReadonlyMap<string, Source>;
  folders: ReadonlyMap<string, Pick<Folder, 'name' | 'source'>>;
  today: CivilDate;
}

/**
 * What a rule says that can be judged and yet cannot be meant: it would never hold, or say nothing. The engine judges
 * such a rule as it stands; nobody can save one. Paths as `checkRule` gives them; empty where there is nothing.
 */
export function checkSense(rule: Rule, { sources, folders, today }: SenseOf): Fault[] {
  const faults: Fault[] = [];
  const report: Report = (code, path, params = {}) => faults.push({ code, path, params });
  const own = rule.scope.sources.flatMap((id) => sources.get(id) ?? []);
  for (const part of ['scope', 'when', 'due', 'idle', 'report'] as const)
    checkNodes(rule[part], part, { own, sources }, report);
  for (const [at, id] of rule.scope.under.entries()) {
    const folder = folders.get(id);
    if (folder && !rule.scope.sources.includes(folder.source))
      report('folderElsewhere', `scope.under.${at}`, {
        folder: folder.name,
        source: own.map(({ name }) => name).join(', '),
      });
  }
  checkTimes(rule, today, report);
  checkWords(rule, report);
  return faults;
}

/** In whose fields tests are written, and where links lead. */
interface Among {
  own: Source[];
  sources: ReadonlyMap<string, Source>;
}

/** Looks at every test and movement of a condition, however deep it stands. */
function checkNodes(node: unknown, path: string, among: Among, report: Report): void {
  if (node === null || typeof node !== 'object') return;
  const { own, sources } = among;
  if ('op' in node) return checkTest(node as FieldTest, path, own, report);
  for (const [key, part] of Object.entries(node)) {
    const at = `${path}.${key}`;
    if (key === 'rose' || key === 'fell') checkMovement(part as Movement, at, own, report);
    else if (key === 'gained' || key === 'lost') checkMembers(part as Membership, at, own, report);
    else if (key === 'holds') {
      const targets = own.flatMap(
        (source) => sources.get(fieldOf(source, (node as LinkedTest).through)?.to ?? '') ?? [],
      );
      checkNodes(part, at, { own: targets, sources }, report);
    } else checkNodes(part, at, among, report);
  }
}

const fieldIn = (id: string, sources: Source[]) => sources.flatMap((source) => fieldOf(source, id) ?? [])[0];

function checkTest({ field: id, op, value }: FieldTest, path: string, sources: Source[], report: Report): void {
  const field = fieldIn(id, sources);
  if (!field) return;
  const at = `${path}.value`;
  if (Array.isArray(value) && value.length === 0) report('emptyList', at, { field: field.name });
  if (op !== 'between' || !Array.isArray(value) || value.length !== 2) return;
  const [low, high] = value as [Value, Value];
  if (isMoney(low) && isMoney(high) && low.currency !== high.currency)
    report('twoCurrencies', at, { field: field.name, low: low.currency, high: high.currency });
  else if ((compareValues(field.type, low, high) ?? 0) > 0) report('reversedRange', at, { field: field.name });
}

function checkMovement({ field: id, by, percent }: Movement, path: string, sources: Source[], report: Report): void {
  const field = fieldIn(id, sources);
  if (!field) return;
  const isNothing = (amount: number | string) => {
    if (isTemporalType(field.type)) return !lasts(String(amount));
    return decimalOf(amount)?.lte(0) ?? false;
  };
  if (by !== undefined && isNothing(by)) report('needsMoreThanNothing', `${path}.by`, { field: field.name });
  if (percent === undefined) return;
  if (isNothing(percent)) report('needsMoreThanNothing', `${path}.percent`, { field: field.name });
  if (isCounting(id, sources)) report('noShareOf', `${path}.percent`, { field: field.name });
}

/** Whether a figure only counts what was there before, as the version of a document does: a share of it says nothing. */
export const isCounting = (field: string, sources: readonly Pick<Source, 'kind'>[]): boolean =>
  field === 'version' && sources.some(({ kind }) => kind === 'folders');

function checkMembers({ field: id, any }: Membership, path: string, sources: Source[], report: Report): void {
  const field = fieldIn(id, sources);
  if (field && any?.length === 0) report('emptyList', `${path}.any`, { field: field.name });
}

/** Whether a span of time is longer than nothing. */
const lasts = (duration: Duration): boolean => !duration.startsWith('-') && /[1-9]/.test(duration);

/** The spans of a rule, each with its path, that have to last for anything to come of them. */
const spansOf = ({ when, due, idle, limit, ack }: Rule): [path: string, span: Duration | undefined][] => [
  ['when.burst.within', when?.burst?.within],
  ['due.repeat.every', due?.repeat?.every],
  ['idle.for', idle?.for],
  ['idle.repeat.every', idle?.repeat?.every],
  ['limit.within', limit?.within],
  ['ack.remind.after', ack?.remind?.after],
  ...(ack?.escalate ?? []).map(({ after }, at): [string, Duration] => [`ack.escalate.${at}.after`, after]),
];

/** Whether a rule's last day has passed on a day of its own zone: it tells nobody any more, though nobody has ended it. */
export const hasRunOut = ({ during: { until } }: Pick<Rule, 'during'>, today: CivilDate): boolean =>
  until !== null && until < today;

function checkTimes(rule: Rule, today: CivilDate, report: Report): void {
  const { from, until } = rule.during;
  if (until !== null && from !== null && until < from) report('lastBeforeFirst', 'during.until');
  else if (hasRunOut(rule, today)) report('endInPast', 'during.until');
  for (const [path, span] of spansOf(rule)) if (span !== undefined && !lasts(span)) report('lastsNothing', path);
}

const isBlank = (text: string | null): boolean => text !== null && text.trim() === '';

/** An address that can be written to: what HTML's `email` allows, with a dot in its host (RFC 5321 in daily use). */
export const isAddress = (text: string): boolean => /^[^\s@,;<>"()]+@[^\s@.,;<>"()]+(\.[^\s@.,;<>"()]+)+$/.test(text);

function checkWords({ message }: Rule, report: Report): void {
  for (const part of ['subject', 'body', 'doNow'] as const)
    if (isBlank(message[part])) report('empty', `message.${part}`);
  if (message.replyTo !== null && !isAddress(message.replyTo)) report('noAddress', 'message.replyTo');
}

import type { RuleRow } from '../../contract/api.ts';
import { nestingFault, ruleSchema, schemaFaults, shapeFault } from '../../contract/documents/index.ts';
import { type FaultAt, Refusal } from '../../contract/problems.ts';
import { checkMessage } from '../../core/messages/index.ts';
import { mayReadAll, mayReadSome } from '../../core/people/index.ts';
import { checkRule, type Rule } from '../../core/rules/index.ts';
import {
  type Directory,
  type Profile,
  type RuleFigures,
  type StoredRule,
  type StoredTrouble,
  worldOf,
} from '../store/index.ts';
import { type Caller, when, whenOrNull } from './context.ts';

export function ruleRow(
  rule: StoredRule,
  figures: RuleFigures | undefined,
  { me, directory }: Caller,
  troubles: readonly StoredTrouble[] = [],
): RuleRow {
  return {
    id: rule.id,
    state: rule.state,
    version: rule.version,
    owner: rule.owner,
    live: rule.live,
    liveFrom: whenOrNull(rule.liveFrom),
    liveUntil: whenOrNull(rule.liveUntil),
    isPaused: rule.isPaused,
    kept: figures?.kept ?? 0,
    draft: rule.draft,
    draftRevision: rule.draftRevision,
    draftBy: rule.draftBy,
    draftAt: whenOrNull(rule.draftAt),
    alerts: figures?.alerts ?? 0,
    told: figures?.told ?? 0,
    read: figures?.seen ?? 0,
    withheld: figures?.withheld ?? 0,
    failed: figures?.failed ?? 0,
    waits: figures?.waits ?? 0,
    acknowledged: figures?.acknowledged ?? 0,
    lastAt: whenOrNull(figures?.lastAt ?? null),
    caught: (figures?.caught ?? []).map(when),
    mayEdit: mayEdit(rule, me, directory),
    faults: [
      ...faultsNow(rule, directory),
      ...troubles
        .filter((one) => one.rule === rule.id)
        .map(({ code, to, reason, times }) => ({
          code,
          params: { to: directory.people.get(to)?.name ?? to, reason, times: String(times) },
        })),
    ],
  };
}

/** What is wrong with a live rule as the world now stands: a field or a folder that is gone, an owner who has left. */
function faultsNow(rule: StoredRule, directory: Directory): RuleRow['faults'] {
  if (rule.state !== 'live' || !rule.live) return [];
  const gone = checkRule(rule.live, directory).map(({ code, params }) => ({ code, params }));
  const people = [...rule.live.to, ...rule.live.except].flatMap((selector) =>
    typeof selector === 'object' && 'person' in selector && directory.people.get(selector.person)?.active === false
      ? [{ code: 'hasLeft', params: { person: selector.person } }]
      : [],
  );
  const owner = directory.people.get(rule.owner)?.active ? [] : [{ code: 'ownerless', params: { person: rule.owner } }];
  return [...gone, ...people, ...owner];
}

/** Whether somebody looks after all of these sources: stewards do, and coordinators of each, or of none that has its own. */
export function coordinates(me: Profile, sources: readonly string[], directory: Directory): boolean {
  if (me.role === 'steward') return true;
  return (
    me.role === 'coordinator' && sources.every((source) => directory.coordinators.get(source)?.includes(me.id) ?? true)
  );
}

export const mayEdit = (rule: StoredRule, me: Profile, directory: Directory): boolean =>
  rule.owner === me.id || coordinates(me, (rule.live ?? rule.draft)?.scope.sources ?? [], directory);

/** A rule is seen by those who may read something of each source it looks at; a draft by those who may edit it. */
export function maySee(rule: StoredRule, { me, directory }: Caller): boolean {
  const sources = (rule.live ?? rule.draft)?.scope.sources ?? [];
  return (
    (rule.state !== 'draft' || mayEdit(rule, me, directory)) && sources.every((id) => mayReadSome(me.id, id, directory))
  );
}

/** Reads a rule's document, or refuses it with all that is wrong with it: its shape first, then its sense. */
export function readRule(document: Record<string, unknown>, asking: Caller, allowed: string[] = []): Rule {
  const fault = shapeFault(document) ?? nestingFault(document);
  if (fault) throw new Refusal('badRule', { faults: [fault] });
  const parsed = ruleSchema.safeParse(document);
  if (!parsed.success) throw new Refusal('badRule', { faults: schemaFaults(parsed.error, ruleSchema) });
  const rule = parsed.data;
  const world = worldOf(readableWorld(asking), new Map());
  const faults: FaultAt[] = [
    ...checkRule(rule, world),
    ...checkMessage(rule, world.sources, new Set(world.wordings.keys())),
    ...rightsFaults(rule, asking),
  ];
  const counted = faults.filter((fault) => !allowed.includes(fault.code));
  if (counted.length > 0) throw new Refusal('badRule', { faults: counted });
  return rule;
}

/** The directory with only what the caller may read: a rule must not tell what its maker may not see. */
function readableWorld({ me, directory }: Caller): Directory {
  return { ...directory, sources: new Map([...directory.sources].filter(([id]) => mayReadSome(me.id, id, directory))) };
}

/**
 * Whether somebody would make a rule of another's tell outside what they may not read themselves: outsiders are told
 * what the rule's owner may read, so that only who may read as much may send it there in the owner's name.
 */
export function reachesFarther(rule: Rule, owner: string, { me, directory }: Caller): boolean {
  const selectors = [...rule.to, ...(rule.ack?.escalate ?? []).flatMap(({ to }) => to)];
  const isAddress = (source: string, id: string) =>
    directory.sources.get(source)?.fields.some((field) => field.id === id && field.type === 'email') ?? false;
  const isOutside = selectors.some(
    (one) =>
      typeof one === 'object' &&
      ('contact' in one ||
        'webhook' in one ||
        'linked' in one ||
        ('field' in one && rule.scope.sources.some((source) => isAddress(source, one.field)))),
  );
  return owner !== me.id && isOutside && !rule.scope.sources.every((source) => mayReadAll(me.id, source, directory));
}

/** Everybody makes rules for themselves; coordinators for others too, within what they coordinate. */
function rightsFaults(rule: Rule, asking: Caller): FaultAt[] {
  const { me, directory } = asking;
  if (reachesFarther(rule, rule.owner, asking)) return [{ code: 'notYoursToTell', path: 'to', params: {} }];
  if (coordinates(me, rule.scope.sources, directory)) return [];
  const lists: [path: string, selectors: Rule['to']][] = [
    ['to', rule.to],
    ...(rule.ack?.escalate ?? []).map(({ to }, at): [string, Rule['to']] => [`ack.escalate.${at}.to`, to]),
  ];
  const isMe = (selector: Rule['to'][number]) =>
    typeof selector === 'object' && 'person' in selector && selector.person === me.id;
  const code = me.role === 'member' ? 'onlyYourself' : 'notYours';
  return lists.flatMap(([path, selectors]) =>
    selectors.flatMap((selector, at) => (isMe(selector) ? [] : [{ code, path: `${path}.${at}`, params: {} }])),
  );
}

import {
  contactAt,
  type EntryWays,
  hasLeft,
  type HeardOf,
  hearsOwn,
  isAbsent,
  isMuted,
  mayRead,
  namesPerson,
  type Person,
  type Reached,
  type Reason,
  type Recipient,
  reach,
  type Selector,
  type Step,
  stepsFor,
  type Subject,
  type World,
} from '../../people/index.ts';
import { caseJudge, type CompiledRule, type Rule } from '../../rules/index.ts';
import type { Instant } from '../../time/index.ts';
import { asChange, type Change, type ItemState, judgedFields, type Source } from '../../values/index.ts';
import type { Raised } from './raise.ts';
import type { Part, Portion, Withheld, WithheldReason } from './types.ts';

/** One item of an alert, as its recipients are judged on it. */
export interface Caught {
  item: string;
  subject: Subject;
  /** In their order; none of due and idle. */
  changes: readonly Change[];
  at: Instant;
  /** The rule's limit keeps this item back. */
  isCooled?: boolean;
}

/** Readers are judged on the item as it stands: its latest editor is whoever changed it last, and nobody is mentioned. */
function asItStands(subject: Subject, world: World): Subject {
  const standing = subject.id === undefined ? undefined : (world.item(subject.id) ?? world.lastState?.(subject.id));
  return { ...subject, mentions: [], ...(standing ? { lastBy: standing.lastBy } : {}) };
}

/** What becomes of one recipient whom a rule reached for one item of an alert. */
export interface RecipientVerdict {
  key: string;
  to: Reached;
  item: string;
  /** The changes told; empty where all is withheld, and of due and idle. */
  told: readonly Change[];
  reason: WithheldReason | null;
  /** By which a person is told; empty of outsiders. */
  steps: readonly Step[];
}

/** The item of an alert as it stands, or stood last, with what the alert's changes say of who edited it before and who is mentioned. */
export function subjectOf(item: string, source: string, changes: readonly Change[], world: World): Subject {
  const standing = world.item(item) ?? world.lastState?.(item);
  const first = changes[0];
  const last = changes.at(-1);
  return {
    id: item,
    source,
    folder: standing?.folder ?? last?.folder ?? null,
    fields: standing?.fields ?? (last ? judgedFields(last) : {}),
    createdBy: standing?.createdBy ?? first?.previous?.createdBy ?? null,
    lastBy: first ? (first.previous?.by ?? null) : (standing?.lastBy ?? null),
    mentions: changes.flatMap((change) => (change.kind === 'commented' ? (change.detail.mentions ?? []) : [])),
  };
}

/** Somebody reached for one item, as far as that item alone tells of them. */
interface Candidate {
  key: string;
  to: Reached;
  caught: Caught;
  person: Person | undefined;
  /** The changes that are not their own, or all where they hear of these too. */
  others: readonly Change[];
  /** The first reason not to tell them, of those that come before their own changes; of an outsider, of all. */
  reason: WithheldReason | null;
}

/**
 * For each recipient reached by the items of an alert, item by item: told, or withheld for the first reason that
 * applies. Whether it is all their own doing is judged over the whole alert; of several changes those of others are
 * told, and items that hold nothing but one's own are passed over without a word. Of what reached somebody who is
 * away their deputy is judged as if it had reached them (section 9).
 */
export function judgeRecipients(rule: Rule, alert: readonly Caught[], world: World): RecipientVerdict[] {
  const candidates = alert.flatMap((caught) => candidatesFor(rule, caught, world));
  const verdicts = verdictsOf(rule, candidates);
  if (!verdicts.some(({ reason }) => reason === 'absent')) return verdicts;
  return verdictsOf(rule, withDeputies(rule, candidates, verdicts, world));
}

function verdictsOf(rule: Rule, candidates: readonly Candidate[]): RecipientVerdict[] {
  const withOthers = new Set(
    candidates
      .filter(({ reason, caught, others }) => reason === null && (caught.changes.length === 0 || others.length > 0))
      .map(({ key }) => key),
  );
  // Nearly all items of an alert are alike to somebody: the same steps are the same list.
  const stepsOf = new Map<string, Step[]>();
  const stepsTo = (person: Person, of: HeardOf) => {
    const key = `${person.id} ${of.source} ${of.kind} ${of.ways ? JSON.stringify(of.ways) : ''}`;
    const steps = stepsOf.get(key) ?? stepsFor(person, rule, of);
    stepsOf.set(key, steps);
    return steps;
  };
  return candidates.flatMap((candidate): RecipientVerdict[] => {
    const { key, to, caught, person, others } = candidate;
    const isOwn = person !== undefined && caught.changes.length > 0 && others.length === 0;
    if (candidate.reason === null && isOwn && withOthers.has(key)) return [];
    const steps = person ? stepsTo(person, heardOf(to, caught)) : [];
    const reason =
      candidate.reason ?? (isOwn ? 'ownChange' : person && laterReason(person, rule, caught, steps)) ?? null;
    return [{ key, to, item: caught.item, told: reason === null ? others : [], reason, steps }];
  });
}

/** What an item is to somebody, for their plan: its source, the alert's last change of it, the entries that reached them. */
function heardOf({ ways }: Reached, { subject, changes }: Caught): HeardOf {
  const last = changes.at(-1);
  return { source: subject.source, ways, ...(last ? { kind: last.kind } : {}) };
}

function candidatesFor(rule: Rule, caught: Caught, world: World): Candidate[] {
  const excluded = excludedFrom(rule, caught, world);
  const standing = asItStands(caught.subject, world);
  return [...reach(rule.to, caught.subject, world, { isSo: caseJudge(rule, caught.at, world) })].map(([key, to]) => {
    const judged =
      to.kind === 'person'
        ? earlierReason(to.id, rule, caught, standing, world)
        : reasonForOutsider(to, rule, caught, world);
    return candidateOf(key, to, caught, rule, excluded.has(key) ? 'excluded' : judged, world);
  });
}

const NOBODY: ReadonlyMap<string, Reached> = new Map();
const excludedFrom = (rule: Rule, caught: Caught, world: World): ReadonlyMap<string, Reached> =>
  rule.except.length === 0
    ? NOBODY
    : reach(rule.except, caught.subject, world, { isSo: caseJudge(rule, caught.at, world) });

function candidateOf(
  key: string,
  to: Reached,
  caught: Caught,
  rule: Rule,
  reason: WithheldReason | null,
  world: World,
): Candidate {
  const person = to.kind === 'person' ? world.people.get(to.id) : undefined;
  const others =
    person && !hearsOwn(person, rule.ownChanges)
      ? caught.changes.filter((change) => change.actor !== to.id)
      : caught.changes;
  return { key, to, caught, person, others, reason };
}

/**
 * The candidates with the deputies of those who are away, each for what reached the one they stand in for. One who was
 * reached already hears once, of all of it; about whom the rule is, is not asked of who stands in.
 */
function withDeputies(
  rule: Rule,
  candidates: readonly Candidate[],
  verdicts: readonly RecipientVerdict[],
  world: World,
): Candidate[] {
  const caughtOf = new Map(candidates.map(({ caught }) => [caught.item, caught]));
  const all = [...candidates];
  for (const { to: away, item, reason } of verdicts) {
    const deputy = reason === 'absent' ? world.people.get(away.id)?.plan?.absent?.deputy : null;
    const caught = caughtOf.get(item);
    if (!deputy || !caught || !world.people.has(deputy)) continue;
    const at = all.findIndex((one) => one.key === deputy && one.caught.item === item);
    const to = standingIn(deputy, away, all[at]?.to);
    const isExcluded = excludedFrom(rule, caught, world).has(deputy);
    const judged = isExcluded
      ? 'excluded'
      : earlierReason(deputy, { ...rule, about: 'any' }, caught, asItStands(caught.subject, world), world);
    const candidate = candidateOf(deputy, to, caught, rule, judged, world);
    if (at >= 0) all[at] = candidate;
    else all.push(candidate);
  }
  return all;
}

/** A deputy as the entries reach them that reached who is away, and those that reached them in their own right. */
function standingIn(id: string, away: Reached, own: Reached | undefined): Reached {
  const reasons: Reason[] = [...(own?.reasons ?? []), { kind: 'inPlaceOf', person: away.id }];
  if (!own) return { kind: 'person', id, reasons, ...(away.ways ? { ways: away.ways } : {}) };
  if (!away.ways && !own.ways) return { ...own, reasons };
  const of = (ways: EntryWays = { channels: [], isPlain: true }) => ways;
  const [left, right] = [of(own.ways), of(away.ways)];
  const channels = [...new Set([...left.channels, ...right.channels])];
  return { ...own, reasons, ways: { channels, isPlain: left.isPlain || right.isPlain } };
}

/** Reasons that come before those of one's own changes. */
function earlierReason(
  id: string,
  rule: Rule,
  { subject }: Caught,
  standing: Subject,
  world: World,
): WithheldReason | null {
  if (!world.people.get(id)?.active) return 'inactive';
  if (!mayRead(id, standing, world)) return 'noAccess';
  return isTheirs(id, rule.about, subject, world) ? null : 'notTheirs';
}

/** Reasons that come after. */
function laterReason(
  person: Person,
  rule: Rule,
  { item, at, isCooled }: Caught,
  steps: readonly Step[],
): WithheldReason | null {
  if (isMuted(person, rule.id, item, at)) return 'muted';
  if (isAbsent(person, at)) return 'absent';
  if (isCooled) return 'coolDown';
  return steps.length === 0 ? 'noChannel' : null;
}

/** A contact or webhook hears at the owner's word: it may be told what the rule's owner may read. */
function reasonForOutsider(
  to: Reached,
  rule: Rule,
  { subject, isCooled }: Caught,
  world: World,
): WithheldReason | null {
  if (!mayRead(rule.owner, asItStands(subject, world), world)) return 'noAccess';
  if (rule.about !== 'any') return 'notTheirs';
  const left = reasonOfAddress(to, rule.id);
  if (left) return left;
  if (isCooled) return 'coolDown';
  return to.kind === 'contact' && !to.contact?.email?.trim() ? 'noChannel' : null;
}

function reasonOfAddress({ kind, contact }: Reached, rule: string): WithheldReason | null {
  if (kind !== 'contact') return null;
  if (!contact?.confirmed) return 'unconfirmed';
  return hasLeft(contact, rule) ? 'unsubscribed' : null;
}

function isTheirs(person: string, about: Rule['about'], subject: Subject, world: World): boolean {
  switch (about) {
    case 'any':
      return true;
    case 'createdByRecipient':
      return subject.createdBy === person;
    case 'lastEditedByRecipient':
      return subject.lastBy === person;
    case 'namesRecipient':
      return namesPerson(world.sources.get(subject.source) as Source, subject.fields, person);
    default:
      return about satisfies never;
  }
}

/** Of an escalation: who was told of the alert and who has taken it on, and by which steps somebody is told. */
export interface Escalating {
  told: readonly string[];
  acknowledged: readonly string[];
  stepsOf(person: Person): readonly Step[];
}

/**
 * Whom an escalation reaches for one item, and who of them is withheld for what; those who have acknowledged are left
 * out. The deputies of those who are away are judged in their place.
 */
export function judgeEscalated(
  selectors: readonly Selector[],
  rule: Rule,
  caught: Caught,
  { told, acknowledged, stepsOf }: Escalating,
  world: World,
): RecipientVerdict[] {
  const verdictOf = (key: string, to: Reached): RecipientVerdict => {
    const person = to.kind === 'person' ? world.people.get(to.id) : undefined;
    const steps = person ? stepsOf(person) : [];
    const reason = person
      ? reasonForEscalated(person, rule, caught, steps, world)
      : reasonForOutsider(to, { ...rule, about: 'any' }, caught, world);
    return { key, to, item: caught.item, told: reason === null ? caught.changes : [], reason, steps };
  };
  const reached = reach(selectors, caught.subject, world, { told, isSo: caseJudge(rule, caught.at, world) });
  const isLeftOut = ({ kind, id }: Recipient) => kind === 'person' && acknowledged.includes(id);
  const found = new Map(
    [...reached].filter(([, to]) => !isLeftOut(to)).map(([key, to]) => [key, verdictOf(key, to)] as const),
  );
  for (const { to: away, reason } of [...found.values()]) {
    const deputy = reason === 'absent' ? world.people.get(away.id)?.plan?.absent?.deputy : null;
    if (deputy && world.people.has(deputy) && !acknowledged.includes(deputy))
      found.set(deputy, verdictOf(deputy, standingIn(deputy, away, found.get(deputy)?.to)));
  }
  return [...found.values()];
}

function reasonForEscalated(
  person: Person,
  rule: Rule,
  { item, subject, at }: Caught,
  steps: readonly Step[],
  world: World,
): WithheldReason | null {
  if (!person.active) return 'inactive';
  if (!mayRead(person.id, asItStands(subject, world), world)) return 'noAccess';
  if (isMuted(person, rule.id, item, at)) return 'muted';
  if (isAbsent(person, at)) return 'absent';
  return steps.length === 0 ? 'noChannel' : null;
}

/** What is judged again for every message as it goes out: reading, muting, having left. */
export function judgeAgain(
  to: { kind: 'person' | 'contact' | 'webhook'; id: string },
  rule: Rule,
  item: string,
  subject: Subject,
  at: Instant,
  world: World,
): WithheldReason | null {
  if (to.kind === 'person') {
    const person = world.people.get(to.id);
    if (!mayRead(to.id, asItStands(subject, world), world)) return 'noAccess';
    return person && isMuted(person, rule.id, item, at) ? 'muted' : null;
  }
  if (!mayRead(rule.owner, asItStands(subject, world), world)) return 'noAccess';
  const contact = to.kind === 'contact' ? contactAt(to.id, world) : undefined;
  return contact && hasLeft(contact, rule.id) ? 'unsubscribed' : null;
}

/** Somebody told of an alert, with what of. */
export interface Told {
  /** The recipient's key. */
  key: string;
  to: Recipient;
  portions: Portion[];
  /** The steps by which a person is told of each portion, in the same order. */
  steps: (readonly Step[])[];
}

/** Who is told what of an alert, and who is withheld what, each in the order of its items. */
export function judge(
  { compiled: { rule, version }, id, occasion, arising, items, tally }: Raised,
  at: Instant,
  world: World,
): { told: Told[]; withheld: Withheld[] } {
  const caught = items.map(({ part, changes, isCooled }): Caught => {
    const { item, source } = part;
    return { item, subject: subjectOf(item, source, changes, world), changes, at, isCooled };
  });
  const partOf = new Map(items.map(({ part }) => [part.item, part]));
  const told = new Map<string, Told>();
  const withheld: Withheld[] = [];
  for (const { key, to, item, told: tell, reason, steps } of judgeRecipients(rule, caught, world)) {
    const { source, changes } = partOf.get(item) as Part;
    // Written out: a report makes these by the tens of thousands.
    if (reason !== null) {
      withheld.push({ at, alert: id, rule: rule.id, version, source, item, changes, person: to.id, reason });
      continue;
    }
    let one = told.get(key);
    if (!one) {
      one = { key, to: { kind: to.kind, id: to.id }, portions: [], steps: [] };
      told.set(key, one);
    }
    const portion: Portion = {
      alert: id,
      rule: rule.id,
      version,
      occasion,
      at,
      arising,
      source,
      item,
      changes: tell.map((change) => change.id),
      reasons: to.reasons,
    };
    if (tally) portion.tally = tally;
    one.portions.push(portion);
    one.steps.push(steps);
  }
  return { told: [...told.values()], withheld };
}

/** Who would hear of an item as it stands, if the rule caught somebody else's change of it now. */
export function previewRecipients(
  { rule }: CompiledRule,
  item: ItemState,
  at: Instant,
  world: World,
): RecipientVerdict[] {
  const change = asChange(item, at);
  return judgeRecipients(
    rule,
    [{ item: item.id, subject: { ...item, lastBy: item.lastBy }, changes: [change], at }],
    world,
  );
}

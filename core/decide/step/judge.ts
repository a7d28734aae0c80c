import {
  contactAt,
  hasLeft,
  hearsOwn,
  isMuted,
  mayRead,
  namesPerson,
  type Person,
  type Reached,
  type Recipient,
  reach,
  type Selector,
  stepsFor,
  type Subject,
  type ReachContext,
  type World,
} from '../../people/index.ts';
import type { CompiledRule, Rule } from '../../rules/index.ts';
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
 * told, and items that hold nothing but one's own are passed over without a word.
 */
export function judgeRecipients(rule: Rule, alert: readonly Caught[], world: World): RecipientVerdict[] {
  const candidates = alert.flatMap((caught) => candidatesFor(rule, caught, world));
  const withOthers = new Set(
    candidates
      .filter(({ reason, caught, others }) => reason === null && (caught.changes.length === 0 || others.length > 0))
      .map(({ key }) => key),
  );
  return candidates.flatMap((candidate): RecipientVerdict[] => {
    const { key, to, caught, person, others } = candidate;
    const isOwn = person !== undefined && caught.changes.length > 0 && others.length === 0;
    if (candidate.reason === null && isOwn && withOthers.has(key)) return [];
    const reason = candidate.reason ?? (isOwn ? 'ownChange' : person && laterReason(person, rule, caught)) ?? null;
    return [{ key, to, item: caught.item, told: reason === null ? others : [], reason }];
  });
}

function candidatesFor(rule: Rule, caught: Caught, world: World): Candidate[] {
  const excluded = reach(rule.except, caught.subject, world);
  return [...reach(rule.to, caught.subject, world)].map(([key, to]): Candidate => {
    const person = to.kind === 'person' ? world.people.get(to.id) : undefined;
    const others =
      person && !hearsOwn(person, rule.ownChanges)
        ? caught.changes.filter((change) => change.actor !== to.id)
        : caught.changes;
    const judged = person ? earlierReason(person, rule, caught, world) : reasonForOutsider(to, rule, caught, world);
    return { key, to, caught, person, others, reason: excluded.has(key) ? 'excluded' : judged };
  });
}

/** Reasons that come before those of one's own changes. */
function earlierReason(person: Person, rule: Rule, { subject }: Caught, world: World): WithheldReason | null {
  if (!person.active) return 'inactive';
  if (!mayRead(person.id, asItStands(subject, world), world)) return 'noAccess';
  return isTheirs(person.id, rule.about, subject, world) ? null : 'notTheirs';
}

/** Reasons that come after. */
function laterReason(person: Person, rule: Rule, { item, at, isCooled }: Caught): WithheldReason | null {
  if (isMuted(person, rule.id, item, at)) return 'muted';
  if (isCooled) return 'coolDown';
  return stepsFor(person, rule).length === 0 ? 'noChannel' : null;
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

/** Whom an escalation reaches for one item, and who of them is withheld for what; those who have acknowledged are left out. */
export function judgeEscalated(
  selectors: readonly Selector[],
  rule: Rule,
  caught: Caught,
  telling: ReachContext,
  hasSteps: (person: Person) => boolean,
  world: World,
): RecipientVerdict[] {
  return [...reach(selectors, caught.subject, world, telling)].map(([key, to]): RecipientVerdict => {
    const person = to.kind === 'person' ? world.people.get(to.id) : undefined;
    const reason = person
      ? reasonForEscalated(person, rule, caught, hasSteps, world)
      : reasonForOutsider(to, { ...rule, about: 'any' }, caught, world);
    return { key, to, item: caught.item, told: reason === null ? caught.changes : [], reason };
  });
}

function reasonForEscalated(
  person: Person,
  rule: Rule,
  { item, subject, at }: Caught,
  hasSteps: (person: Person) => boolean,
  world: World,
): WithheldReason | null {
  if (!person.active) return 'inactive';
  if (!mayRead(person.id, asItStands(subject, world), world)) return 'noAccess';
  if (isMuted(person, rule.id, item, at)) return 'muted';
  return hasSteps(person) ? null : 'noChannel';
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
}

/** Who is told what of an alert, and who is withheld what, each in the order of its items. */
export function judge(
  { compiled: { rule, version }, id, occasion, arising, items }: Raised,
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
  for (const { key, to, item, told: tell, reason } of judgeRecipients(rule, caught, world)) {
    const { source, changes } = partOf.get(item) as Part;
    const of = { at, alert: id, rule: rule.id, version, source, item };
    if (reason !== null) {
      withheld.push({ ...of, changes, person: to.id, reason });
      continue;
    }
    const portion: Portion = { ...of, occasion, arising, changes: tell.map((one) => one.id), reasons: to.reasons };
    const known = told.get(key);
    if (known) known.portions.push(portion);
    else told.set(key, { key, to: { kind: to.kind, id: to.id }, portions: [portion] });
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

import { contactAt, hasLeft, hearsOwn, isMuted, mayRead, namesPerson, type Person, type Reached, reach, type Selector, stepsFor, type Subject, type Telling, type World } from '../people/index.ts';
import type { CompiledRule, Rule } from '../rules/index.ts';
import type { Instant } from '../time/index.ts';
import { asChange, type Change, type ItemState, judgedFields, type Source } from '../values/index.ts';
import type { WithheldReason } from './types.ts';

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

/** Readers are judged on the item as it stands: its latest editor is whoever changed it last, not before the alert. */
function asItStands(subject: Subject, world: World): Subject {
  const standing = subject.id === undefined ? undefined : (world.item(subject.id) ?? world.lastState?.(subject.id));
  return standing ? { ...subject, lastBy: standing.lastBy } : subject;
}

/** What becomes of one recipient whom a rule reached for one item. */
export interface Heard {
  key: string;
  to: Reached;
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
    id: item, source,
    folder: standing?.folder ?? last?.folder ?? null,
    fields: standing?.fields ?? (last ? judgedFields(last) : {}),
    createdBy: standing?.createdBy ?? first?.previous?.createdBy ?? null,
    lastBy: first ? (first.previous?.by ?? null) : (standing?.lastBy ?? null),
    mentions: changes.flatMap((change) => (change.kind === 'commented' ? (change.detail.mentions ?? []) : [])),
  };
}

/** For each recipient reached by one item of an alert: told, or withheld for the first reason that applies. */
export function hearings(rule: Rule, caught: Caught, world: World): Heard[] {
  const excluded = reach(rule.except, caught.subject, world);
  return [...reach(rule.to, caught.subject, world)].map(([key, to]): Heard => {
    const person = to.kind === 'person' ? world.people.get(to.id) : undefined;
    const others = person && !hearsOwn(person, rule.ownChanges) ? caught.changes.filter((change) => change.actor !== to.id) : caught.changes;
    const reason = excluded.has(key) ? 'excluded' : person ? reasonForPerson(person, rule, caught, others, world) : reasonForOutsider(to, rule, caught, world);
    return { key, to, told: reason === null ? others : [], reason };
  });
}

function reasonForPerson(person: Person, rule: Rule, { item, subject, changes, at, isCooled }: Caught, others: readonly Change[], world: World): WithheldReason | null {
  if (!person.active) return 'inactive';
  if (!mayRead(person.id, asItStands(subject, world), world)) return 'noAccess';
  if (!isTheirs(person.id, rule.about, subject, world)) return 'notTheirs';
  if (changes.length > 0 && others.length === 0) return 'ownChange';
  if (isMuted(person, rule.id, item, at)) return 'muted';
  if (isCooled) return 'coolDown';
  return stepsFor(person, rule).length === 0 ? 'noChannel' : null;
}

/** A contact or webhook hears at the owner's word: it may be told what the rule's owner may read. */
function reasonForOutsider(to: Reached, rule: Rule, { subject, isCooled }: Caught, world: World): WithheldReason | null {
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
export function escalated(selectors: readonly Selector[], rule: Rule, caught: Caught, telling: Telling, hasSteps: (person: Person) => boolean, world: World): Heard[] {
  return [...reach(selectors, caught.subject, world, telling)].map(([key, to]): Heard => {
    const person = to.kind === 'person' ? world.people.get(to.id) : undefined;
    const reason = person ? reasonForEscalated(person, rule, caught, hasSteps, world) : reasonForOutsider(to, { ...rule, about: 'any' }, caught, world);
    return { key, to, told: reason === null ? caught.changes : [], reason };
  });
}

function reasonForEscalated(person: Person, rule: Rule, { item, subject, at }: Caught, hasSteps: (person: Person) => boolean, world: World): WithheldReason | null {
  if (!person.active) return 'inactive';
  if (!mayRead(person.id, asItStands(subject, world), world)) return 'noAccess';
  if (isMuted(person, rule.id, item, at)) return 'muted';
  return hasSteps(person) ? null : 'noChannel';
}

/** What is judged again for every message as it goes out: reading, muting, having left. */
export function reasonNow(to: { kind: 'person' | 'contact' | 'webhook'; id: string }, rule: Rule, item: string, subject: Subject, at: Instant, world: World): WithheldReason | null {
  if (to.kind === 'person') {
    const person = world.people.get(to.id);
    if (!mayRead(to.id, asItStands(subject, world), world)) return 'noAccess';
    return person && isMuted(person, rule.id, item, at) ? 'muted' : null;
  }
  if (!mayRead(rule.owner, asItStands(subject, world), world)) return 'noAccess';
  const contact = to.kind === 'contact' ? contactAt(to.id, world) : undefined;
  return contact && hasLeft(contact, rule.id) ? 'unsubscribed' : null;
}

/** Who would hear of an item as it stands, if the rule caught somebody else's change of it now. */
export function wouldHear({ rule }: CompiledRule, item: ItemState, at: Instant, world: World): Heard[] {
  const change = asChange(item, at);
  return hearings(rule, { item: item.id, subject: { ...item, lastBy: item.lastBy }, changes: [change], at }, world);
}

import {
  type Field,
  type Fields,
  fieldOf,
  isLinkType,
  isPersonType,
  type ItemState,
  LONGEST_ADDRESS,
  membersOf,
  namesSomebody,
  type Source,
} from '../values/index.ts';
import { contactAt, peopleAt, sameAddress, strangerAt } from './contacts.ts';
import { type Contact, membersOfGroup, type Subject, type World } from './directory.ts';
import type { Channel } from './plan.ts';
import { type CaseTest, type Selector, type SelectorVisitor, visitSelector } from './selector-kinds.ts';

/** Why somebody is to hear: what named them. */
export type Reason =
  | { kind: 'person' }
  | { kind: 'group'; group: string }
  | { kind: 'field'; field: string }
  | { kind: 'linked'; linked: string; field: string }
  | { kind: 'creator' }
  | { kind: 'lastEditor' }
  | { kind: 'follower' }
  | { kind: 'mentioned' }
  | { kind: 'managerOf'; person: string }
  | { kind: 'address' }
  | { kind: 'told' }
  | { kind: 'inPlaceOf'; person: string }
  | { kind: 'askedAgain' };

/** Somebody whom selectors reached: a person, an outside contact or a webhook, by id. */
export interface Recipient {
  kind: 'person' | 'contact' | 'webhook';
  id: string;
}

/** By what the entries of a rule tell somebody of an item: channels that go with some, and whether some go with none. */
export interface EntryWays {
  channels: Channel[];
  isPlain: boolean;
}

/** Somebody whom selectors reach, with every reason why. */
export interface Reached extends Recipient {
  reasons: Reason[];
  /** Where entries with channels of their own are among those that named them. */
  ways?: EntryWays;
  /** Of a contact: who that is. */
  contact?: Contact;
}

/** A recipient's key: people go by their ids, others by what they are too. */
export const recipientKey = ({ kind, id }: Recipient): string => (kind === 'person' ? id : `${kind}:${id}`);

/** The recipient of a key, as `recipientKey` makes it. */
export function recipientOf(key: string): Recipient {
  const [, kind, id] = /^(contact|webhook):(.*)$/s.exec(key) ?? [];
  return id === undefined ? { kind: 'person', id: key } : { kind: kind as Recipient['kind'], id };
}

/** What reaching needs besides the world: those told of the alert, where a selector names them; what judges cases, which hold of nothing without. */
export interface ReachContext {
  told?: readonly string[];
  isSo?: (test: CaseTest, subject: Subject) => boolean;
}

/** Each recipient whom the selectors reach for an item, once, with every reason, in the selectors' order. Unknown ids reach nobody. */
export function reach(
  selectors: readonly Selector[],
  subject: Subject,
  world: World,
  telling: ReachContext = {},
): Map<string, Reached> {
  const reaching = new Reaching(subject, world, telling);
  for (const selector of selectors) reaching.visit(selector);
  return reaching.reached;
}

/** Whom selectors have reached so far for an item, and how more are added. */
class Reaching {
  readonly reached = new Map<string, Reached>();
  /** The channels of the entry that is just looked at, where it has some. */
  private channels: readonly Channel[] = [];

  constructor(
    readonly subject: Subject,
    readonly world: World,
    readonly telling: ReachContext,
  ) {}

  add(recipient: Recipient, reason: Reason, contact?: Contact): void {
    const key = recipientKey(recipient);
    const known = this.reached.get(key);
    const ways = this.waysBeside(known);
    if (known) known.reasons.push(reason);
    const reached = known ?? { ...recipient, reasons: [reason], ...(contact ? { contact } : {}) };
    this.reached.set(key, ways ? { ...reached, ways } : reached);
  }

  private waysBeside(known: Reached | undefined): EntryWays | null {
    const { channels } = this;
    if (channels.length === 0) return known?.ways ? { ...known.ways, isPlain: true } : null;
    const before = known ? (known.ways ?? { channels: [], isPlain: true }) : { channels: [], isPlain: false };
    return { ...before, channels: [...new Set([...before.channels, ...channels])] };
  }

  visit(selector: Selector): void {
    visitSelector(selector, REACH, this);
  }

  /** Whomever it reaches hears by these channels. */
  visitBy(channels: readonly Channel[], selector: Selector): void {
    this.channels = channels;
    this.visit(selector);
    this.channels = [];
  }

  addPerson(id: string | null | undefined, reason: Reason): void {
    if (id && this.world.people.has(id)) this.add({ kind: 'person', id }, reason);
  }

  addFieldOf(holders: Pick<Subject, 'source' | 'fields'>[], id: string, reason: Reason): void {
    for (const { source: at, fields } of holders) {
      const source = this.world.sources.get(at);
      const field = source && fieldOf(source, id);
      if (field?.type === 'email') for (const address of membersOf(fields[id])) this.addAddress(address, reason);
      else if (field && isPersonType(field.type))
        for (const person of membersOf(fields[id])) this.addPerson(person, reason);
    }
  }

  /** An address means the people who have it, else the contact, else a contact nobody has confirmed. */
  private addAddress(address: string, reason: Reason): void {
    // What is longer than any address is none.
    if (address.trim().length > LONGEST_ADDRESS) return;
    const people = peopleAt(address, this.world);
    for (const person of people) this.addPerson(person.id, reason);
    if (people.length > 0) return;
    const contact = contactAt(address, this.world) ?? this.stranger(address) ?? strangerAt(address);
    this.add({ kind: 'contact', id: contact.id }, reason, contact);
  }

  /** Somebody whom nobody knows, reached by the same address before. */
  private stranger(address: string): Contact | undefined {
    const isSame = ({ contact }: Reached) =>
      contact && sameAddress(contact.email ?? contact.id) === sameAddress(address);
    return [...this.reached.values()].find(isSame)?.contact;
  }
}

const REACH: SelectorVisitor<void, Reaching> = {
  person: ({ person }, to) => to.addPerson(person, { kind: 'person' }),
  group: ({ group }, to) => {
    for (const member of membersOfGroup(group, to.world)) to.addPerson(member, { kind: 'group', group });
  },
  field: ({ field }, to) => to.addFieldOf([to.subject], field, { kind: 'field', field }),
  linked: ({ linked, field }, to) =>
    to.addFieldOf(linkedItems(linked, to.subject, to.world), field, { kind: 'linked', linked, field }),
  creator: (_, to) => to.addPerson(to.subject.createdBy, { kind: 'creator' }),
  lastEditor: (_, to) => to.addPerson(to.subject.lastBy, { kind: 'lastEditor' }),
  followers: (_, to) => {
    for (const person of (to.subject.id && to.world.followersOf?.(to.subject.id)) || [])
      to.addPerson(person, { kind: 'follower' });
  },
  mentioned: (_, to) => {
    for (const person of new Set(to.subject.mentions)) to.addPerson(person, { kind: 'mentioned' });
  },
  managerOf: ({ managerOf }, to) => {
    for (const { kind, id } of reach([managerOf], to.subject, to.world, to.telling).values())
      if (kind === 'person') to.addPerson(to.world.people.get(id)?.manager, { kind: 'managerOf', person: id });
  },
  contact: ({ contact: id }, to) => {
    const contact = to.world.contacts?.get(id);
    if (contact) to.add({ kind: 'contact', id }, { kind: 'address' }, contact);
  },
  webhook: ({ webhook }, to) => to.add({ kind: 'webhook', id: webhook }, { kind: 'address' }),
  told: (_, to) => {
    for (const person of to.telling.told ?? []) to.addPerson(person, { kind: 'told' });
  },
  cases: ({ cases, else: others = [] }, to) => {
    const first = cases.find((one) => to.telling.isSo?.(one.if, to.subject));
    for (const selector of first?.to ?? others) to.visit(selector);
  },
  tell: ({ tell, channels }, to) => to.visitBy(channels, tell),
  // Actors are nobody who could hear.
  system: () => undefined,
  anybody: () => undefined,
};

/** The items that a link field of the subject names, as they stand; of deleted ones the last state. */
const linkedItems = (field: string, subject: Subject, world: World): ItemState[] =>
  membersOf(subject.fields[field]).flatMap((id) => world.item(id) ?? world.lastState?.(id) ?? []);

const NOBODY = () => false;

/** Whether a selector names this actor: a person's id, or `system:NAME`; the system `*` is any. */
export const isNamed = (selector: Selector, actor: string, world: World): boolean =>
  visitSelector(selector, IS_NAMED, { actor, world });
const IS_NAMED: SelectorVisitor<boolean, { actor: string; world: World }> = {
  person: ({ person }, { actor }) => person === actor,
  group: ({ group }, { actor, world }) => membersOfGroup(group, world).has(actor),
  system: ({ system }, { actor }) => (system === '*' ? actor.startsWith('system:') : actor === `system:${system}`),
  anybody: () => true,
  field: NOBODY,
  linked: NOBODY,
  creator: NOBODY,
  lastEditor: NOBODY,
  followers: NOBODY,
  mentioned: NOBODY,
  managerOf: NOBODY,
  contact: NOBODY,
  webhook: NOBODY,
  told: NOBODY,
  cases: NOBODY,
  tell: NOBODY,
};

/** Whether a person or people field of the item holds the person. */
export const namesPerson = (source: Source, fields: Fields, person: string): boolean =>
  source.fields.some((field) => isPersonType(field.type) && membersOf(fields[field.id]).includes(person));

/** What is wrong with a selector: a code, what it is wrong with, and where in the document. */
export interface SelectorFault {
  code: string;
  params: Record<string, string | string[]>;
}

const isPersonField = ({ type }: Field) => namesSomebody(type);
const isLinkField = ({ type }: Field) => isLinkType(type);

/** What may stand at a place besides those who can stand everywhere: those told, cases, entries with channels of their own. */
export type SelectorPlace = readonly ('told' | 'cases' | 'tell')[];

/** What is wrong with a selector of recipients for one source; `null` where nothing is. What is within cases, or behind channels, is for whoever asks to look into. */
export function isFaultySelector(
  selector: Selector,
  source: Source,
  sources: ReadonlyMap<string, Source> = new Map(),
  place: SelectorPlace = [],
): SelectorFault | null {
  const notARecipient: SelectorFault = { code: 'notARecipient', params: { selector: JSON.stringify(selector) } };
  const sound = () => null;
  const only = (kind: SelectorPlace[number], code: string) => () =>
    place.includes(kind) ? null : { ...notARecipient, code };
  return visitSelector<SelectorFault | null>(selector, {
    field: ({ field }) => faultOfField(field, source),
    linked: (linked) => faultOfLinked(linked, source, sources),
    managerOf: ({ managerOf }) => isFaultySelector(managerOf, source, sources, place.includes('told') ? ['told'] : []),
    told: only('told', 'notARecipient'),
    cases: only('cases', 'noCasesHere'),
    tell: only('tell', 'noWaysHere'),
    system: () => notARecipient,
    anybody: () => notARecipient,
    person: sound,
    group: sound,
    creator: sound,
    lastEditor: sound,
    followers: sound,
    mentioned: sound,
    contact: sound,
    webhook: sound,
  });
}

function faultOfField(field: string, source: Source): SelectorFault | null {
  const allowed = source.fields.filter(isPersonField).map(({ id }) => id);
  return allowed.includes(field) ? null : { code: 'notAPersonField', params: { field, source: source.name, allowed } };
}

function faultOfLinked(
  { linked, field }: { linked: string; field: string },
  source: Source,
  sources: ReadonlyMap<string, Source>,
): SelectorFault | null {
  const links = source.fields.filter(isLinkField);
  const link = links.find((one) => one.id === linked);
  if (!link)
    return {
      code: 'notALinkField',
      params: { field: linked, source: source.name, allowed: links.map((one) => one.id) },
    };
  const target = link.to === undefined ? undefined : sources.get(link.to);
  if (!target) return null;
  return faultOfField(field, target);
}

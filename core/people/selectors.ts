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
import { type Selector, type SelectorVisitor, visitSelector } from './selector-kinds.ts';

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
  | { kind: 'told' };

/** Somebody whom selectors reached: a person, an outside contact or a webhook, by id. */
export interface Recipient {
  kind: 'person' | 'contact' | 'webhook';
  id: string;
}

/** Somebody whom selectors reach, with every reason why. */
export interface Reached extends Recipient {
  reasons: Reason[];
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

/** What reaching needs besides the world: those told of the alert, where a selector names them. */
export interface ReachContext {
  told?: readonly string[];
}

/** Each recipient whom the selectors reach for an item, once, with every reason, in the selectors' order. Unknown ids reach nobody. */
export function reach(
  selectors: readonly Selector[],
  subject: Subject,
  world: World,
  telling: ReachContext = {},
): Map<string, Reached> {
  const reached = new Map<string, Reached>();
  const add = (recipient: Recipient, reason: Reason, contact?: Contact) => {
    const key = recipientKey(recipient);
    const known = reached.get(key);
    if (known) known.reasons.push(reason);
    else reached.set(key, { ...recipient, reasons: [reason], ...(contact ? { contact } : {}) });
  };
  const addPerson = (id: string | null | undefined, reason: Reason) => {
    if (id && world.people.has(id)) add({ kind: 'person', id }, reason);
  };
  const visitor: SelectorVisitor<void> = {
    person: ({ person }) => addPerson(person, { kind: 'person' }),
    group: ({ group }) => {
      for (const member of membersOfGroup(group, world)) addPerson(member, { kind: 'group', group });
    },
    field: ({ field }) => addFieldOf([subject], field, { kind: 'field', field }),
    linked: ({ linked, field }) =>
      addFieldOf(linkedItems(linked, subject, world), field, { kind: 'linked', linked, field }),
    creator: () => addPerson(subject.createdBy, { kind: 'creator' }),
    lastEditor: () => addPerson(subject.lastBy, { kind: 'lastEditor' }),
    followers: () => {
      for (const person of (subject.id && world.followersOf?.(subject.id)) || [])
        addPerson(person, { kind: 'follower' });
    },
    mentioned: () => {
      for (const person of new Set(subject.mentions)) addPerson(person, { kind: 'mentioned' });
    },
    managerOf: ({ managerOf }) => {
      for (const { kind, id } of reach([managerOf], subject, world, telling).values())
        if (kind === 'person') addPerson(world.people.get(id)?.manager, { kind: 'managerOf', person: id });
    },
    contact: ({ contact: id }) => {
      const contact = world.contacts?.get(id);
      if (contact) add({ kind: 'contact', id }, { kind: 'address' }, contact);
    },
    webhook: ({ webhook }) => add({ kind: 'webhook', id: webhook }, { kind: 'address' }),
    told: () => {
      for (const person of telling.told ?? []) addPerson(person, { kind: 'told' });
    },
    // Actors are nobody who could hear.
    system: () => undefined,
    anybody: () => undefined,
  };
  for (const selector of selectors) visitSelector(selector, visitor);
  return reached;

  function addFieldOf(holders: Pick<Subject, 'source' | 'fields'>[], id: string, reason: Reason): void {
    for (const { source, fields } of holders) {
      const field = world.sources.get(source) && fieldOf(world.sources.get(source) as Source, id);
      if (field?.type === 'email') for (const address of membersOf(fields[id])) addAddress(address, reason);
      else if (field && isPersonType(field.type)) for (const person of membersOf(fields[id])) addPerson(person, reason);
    }
  }

  /** An address means the people who have it, else the contact, else a contact nobody has confirmed. */
  function addAddress(address: string, reason: Reason): void {
    // What is longer than any address is none.
    if (address.trim().length > LONGEST_ADDRESS) return;
    const people = peopleAt(address, world);
    for (const person of people) addPerson(person.id, reason);
    if (people.length > 0) return;
    const stranger = () =>
      [...reached.values()].find(
        ({ contact }) => contact && sameAddress(contact.email ?? contact.id) === sameAddress(address),
      )?.contact;
    const contact = contactAt(address, world) ?? stranger() ?? strangerAt(address);
    add({ kind: 'contact', id: contact.id }, reason, contact);
  }
}

/** The items that a link field of the subject names, as they stand; of deleted ones the last state. */
const linkedItems = (field: string, subject: Subject, world: World): ItemState[] =>
  membersOf(subject.fields[field]).flatMap((id) => world.item(id) ?? world.lastState?.(id) ?? []);

const NOBODY = () => false;

/** Whether a selector names this actor: a person's id, or `system:NAME`; the system `*` is any. */
export const isNamed = (selector: Selector, actor: string, world: World): boolean =>
  visitSelector<boolean>(selector, {
    person: ({ person }) => person === actor,
    group: ({ group }) => membersOfGroup(group, world).has(actor),
    system: ({ system }) => (system === '*' ? actor.startsWith('system:') : actor === `system:${system}`),
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
  });

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

/** What is wrong with a selector of recipients for one source; `null` where nothing is. `mayTold` where those told can be named. */
export function isFaultySelector(
  selector: Selector,
  source: Source,
  sources: ReadonlyMap<string, Source> = new Map(),
  mayTold = false,
): SelectorFault | null {
  const notARecipient: SelectorFault = { code: 'notARecipient', params: { selector: JSON.stringify(selector) } };
  const sound = () => null;
  return visitSelector<SelectorFault | null>(selector, {
    field: ({ field }) => faultOfField(field, source),
    linked: (linked) => faultOfLinked(linked, source, sources),
    managerOf: ({ managerOf }) => isFaultySelector(managerOf, source, sources, mayTold),
    told: () => (mayTold ? null : notARecipient),
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

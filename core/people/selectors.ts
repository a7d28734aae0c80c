import { type Fields, fieldOf, type ItemState, LONGEST_ADDRESS, membersOf, type Source } from '../values/index.ts';
import { contactAt, peopleAt, sameAddress, strangerAt } from './contacts.ts';
import { type Contact, membersOfGroup, type Selector, type Subject, type World } from './directory.ts';

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

export interface Reached extends Recipient {
  reasons: Reason[];
  /** Of a contact: who that is. */
  contact?: Contact;
}

/** A recipient's key: people go by their ids, others by what they are too. */
export const recipientKey = ({ kind, id }: Recipient): string => (kind === 'person' ? id : `${kind}:${id}`);

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
  for (const selector of selectors) {
    if (selector === '*' || 'system' in selector) continue;
    if ('person' in selector) addPerson(selector.person, { kind: 'person' });
    else if ('group' in selector)
      for (const member of membersOfGroup(selector.group, world))
        addPerson(member, { kind: 'group', group: selector.group });
    else if ('linked' in selector)
      addFieldOf(linkedItems(selector.linked, subject, world), selector.field, {
        kind: 'linked',
        linked: selector.linked,
        field: selector.field,
      });
    else if ('field' in selector) addFieldOf([subject], selector.field, { kind: 'field', field: selector.field });
    else if ('creator' in selector) addPerson(subject.createdBy, { kind: 'creator' });
    else if ('lastEditor' in selector) addPerson(subject.lastBy, { kind: 'lastEditor' });
    else if ('followers' in selector)
      for (const person of (subject.id && world.followersOf?.(subject.id)) || [])
        addPerson(person, { kind: 'follower' });
    else if ('mentioned' in selector)
      for (const person of new Set(subject.mentions)) addPerson(person, { kind: 'mentioned' });
    else if ('managerOf' in selector) {
      for (const { kind, id } of reach([selector.managerOf], subject, world, telling).values())
        if (kind === 'person') addPerson(world.people.get(id)?.manager, { kind: 'managerOf', person: id });
    } else if ('contact' in selector) {
      const contact = world.contacts?.get(selector.contact);
      if (contact) add({ kind: 'contact', id: contact.id }, { kind: 'address' }, contact);
    } else if ('webhook' in selector) add({ kind: 'webhook', id: selector.webhook }, { kind: 'address' });
    else if ('told' in selector) for (const person of telling.told ?? []) addPerson(person, { kind: 'told' });
    else selector satisfies never;
  }
  return reached;

  function addFieldOf(holders: Pick<Subject, 'source' | 'fields'>[], id: string, reason: Reason): void {
    for (const { source, fields } of holders) {
      const field = world.sources.get(source) && fieldOf(world.sources.get(source) as Source, id);
      if (field?.type === 'email') for (const address of membersOf(fields[id])) addAddress(address, reason);
      else if (field?.type === 'person' || field?.type === 'people')
        for (const person of membersOf(fields[id])) addPerson(person, reason);
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

/** Whether a selector names this actor: a person's id, or `system:NAME`; the system `*` is any. */
export function isNamed(selector: Selector, actor: string, world: World): boolean {
  if (selector === '*') return true;
  if ('person' in selector) return selector.person === actor;
  if ('group' in selector) return membersOfGroup(selector.group, world).has(actor);
  return (
    'system' in selector &&
    (selector.system === '*' ? actor.startsWith('system:') : actor === `system:${selector.system}`)
  );
}

/** Whether a person or people field of the item holds the person. */
export const namesPerson = (source: Source, fields: Fields, person: string): boolean =>
  source.fields.some(
    (field) => (field.type === 'person' || field.type === 'people') && membersOf(fields[field.id]).includes(person),
  );

export interface SelectorFault {
  code: string;
  params: Record<string, string | string[]>;
}

const isPersonField = (field: Source['fields'][number]) =>
  field.type === 'person' || field.type === 'people' || field.type === 'email';
const isLinkField = (field: Source['fields'][number]) => field.type === 'link' || field.type === 'links';

/** What is wrong with a selector of recipients for one source; `null` where nothing is. `mayTold` where those told can be named. */
export function isFaultySelector(
  selector: Selector,
  source: Source,
  sources: ReadonlyMap<string, Source> = new Map(),
  mayTold = false,
): SelectorFault | null {
  const notARecipient: SelectorFault = { code: 'notARecipient', params: { selector: JSON.stringify(selector) } };
  if (selector === '*' || 'system' in selector) return notARecipient;
  if ('told' in selector) return mayTold ? null : notARecipient;
  if ('managerOf' in selector) return isFaultySelector(selector.managerOf, source, sources, mayTold);
  if ('linked' in selector) return faultOfLinked(selector, source, sources);
  if (!('field' in selector)) return null;
  const fits = source.fields.filter(isPersonField);
  if (fits.some((field) => field.id === selector.field)) return null;
  return {
    code: 'notAPersonField',
    params: { field: selector.field, source: source.name, allowed: fits.map((field) => field.id) },
  };
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
  const fits = target.fields.filter(isPersonField);
  return fits.some((one) => one.id === field)
    ? null
    : { code: 'notAPersonField', params: { field, source: target.name, allowed: fits.map((one) => one.id) } };
}

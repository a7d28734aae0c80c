import { foldCase } from '../values/index.ts';
import type { Contact, Person, World } from './directory.ts';

/** Addresses compare ignoring case and spaces at the ends. */
export const sameAddress = (address: string): string => foldCase(address.trim());

type Addresses = Pick<World, 'people' | 'contacts'>;

/** The people who have an address. */
export const peopleAt = (address: string, world: Addresses): Person[] => {
  const wanted = sameAddress(address);
  return [...world.people.values()].filter((person) => person.email && sameAddress(person.email) === wanted);
};

/** The contact who goes by an id or has an address; `undefined` where nobody does. */
export function contactAt(idOrAddress: string, world: Addresses): Contact | undefined {
  const known = world.contacts?.get(idOrAddress);
  if (known || !world.contacts) return known;
  const wanted = sameAddress(idOrAddress);
  return [...world.contacts.values()].find((contact) => sameAddress(contact.email ?? contact.id) === wanted);
}

/** The contact that an address stands for while nobody has it: unconfirmed, by the address itself. */
export const strangerAt = (address: string): Contact => {
  const email = address.trim();
  return { id: email, name: email, email, confirmed: false, unsubscribed: [] };
};

/** Whether a contact left a rule, or everything. */
export const hasLeft = (contact: Contact, rule: string): boolean =>
  contact.unsubscribed === true || contact.unsubscribed.includes(rule);

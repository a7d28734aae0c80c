import { type Fields, fieldOf, foldCase, membersOf, type Source } from '../values/index.ts';
import { membersOfGroup, type Selector, type World } from './directory.ts';

/** Why somebody is to hear: what named them. */
export type Reason = { kind: 'person' } | { kind: 'group'; group: string } | { kind: 'field'; field: string };

/** Each person whom the selectors reach for this item state, with every reason, in the selectors' order. Unknown ids reach nobody. */
export function reach(selectors: readonly Selector[], fields: Fields, source: Source, world: World): Map<string, Reason[]> {
  const reached = new Map<string, Reason[]>();
  const add = (person: string, reason: Reason) => {
    if (world.people.has(person)) reached.set(person, [...(reached.get(person) ?? []), reason]);
  };
  for (const selector of selectors) {
    if (selector === '*' || 'system' in selector) continue;
    if ('person' in selector) add(selector.person, { kind: 'person' });
    else if ('group' in selector) for (const member of membersOfGroup(selector.group, world)) add(member, { kind: 'group', group: selector.group });
    else for (const person of peopleInField(selector.field, fields, source, world)) add(person, { kind: 'field', field: selector.field });
  }
  return reached;
}

function peopleInField(id: string, fields: Fields, source: Source, world: World): string[] {
  const field = fieldOf(source, id);
  const values = membersOf(fields[id]);
  if (field?.type !== 'email') return values;
  const wanted = new Set(values.map(sameAddress));
  return [...world.people.values()].filter((person) => person.email && wanted.has(sameAddress(person.email))).map((person) => person.id);
}

/** Addresses compare ignoring case and spaces at the ends. */
const sameAddress = (address: string) => foldCase(address.trim());

/** Whether a selector names this actor: a person's id, or `system:NAME`. */
export function isNamed(selector: Selector, actor: string, world: World): boolean {
  if (selector === '*') return true;
  if ('person' in selector) return selector.person === actor;
  if ('group' in selector) return membersOfGroup(selector.group, world).has(actor);
  return 'system' in selector && actor === `system:${selector.system}`;
}

/** What is wrong with a selector of recipients for one source; `null` where nothing is. */
export function isFaultySelector(selector: Selector, source: Source): { code: string; params: Record<string, string | string[]> } | null {
  if (selector === '*' || 'system' in selector) return { code: 'notARecipient', params: { selector: JSON.stringify(selector) } };
  if (!('field' in selector)) return null;
  const fits = source.fields.filter((field) => field.type === 'person' || field.type === 'people' || field.type === 'email');
  if (fits.some((field) => field.id === selector.field)) return null;
  return { code: 'notAPersonField', params: { field: selector.field, source: source.name, allowed: fits.map((field) => field.id) } };
}

import type { ItemState, Source } from '../values/index.ts';
import type { Plan } from './plan.ts';

export interface Person {
  id: string;
  name: string;
  email: string | null;
  phone: string | null;
  zone: string;
  locale: string;
  manager: string | null;
  active: boolean;
  /** What is left out, urgency by urgency, has the default plan's value. */
  plan: Plan | null;
}

export interface Group {
  id: string;
  name: string;
  members: string[];
  groups: string[];
}

export interface Folder {
  id: string;
  source: string;
  name: string;
  parent: string | null;
}

/** Names people: one by id, all of a group, or whoever stands in a field of the item; `system` and `*` name actors. */
export type Selector = { person: string } | { group: string } | { field: string } | { system: string } | '*';

/** Who may read a source, or a folder that breaks from it. */
export interface AccessEntry {
  source?: string;
  folder?: string;
  readers: Selector[];
}

/** What deciding looks up: all of it as it stands at the instant that is decided. */
export interface World {
  people: ReadonlyMap<string, Person>;
  groups: ReadonlyMap<string, Group>;
  sources: ReadonlyMap<string, Source>;
  folders: ReadonlyMap<string, Folder>;
  access: readonly AccessEntry[];
  /** The item as it stands; `undefined` where there is none. */
  item(id: string): ItemState | undefined;
}

/** All people of a group and of the groups within it; a group that holds itself ends there. */
export function membersOfGroup(id: string, world: Pick<World, 'groups'>): ReadonlySet<string> {
  const known = memberships.get(world.groups) ?? new Map<string, ReadonlySet<string>>();
  memberships.set(world.groups, known);
  const members = known.get(id) ?? collectMembers(id, world);
  known.set(id, members);
  return members;
}

/** Groups are asked for again and again while one world stands. */
const memberships = new WeakMap<World['groups'], Map<string, ReadonlySet<string>>>();

function collectMembers(id: string, world: Pick<World, 'groups'>): ReadonlySet<string> {
  const found = new Set<string>();
  const seen = new Set<string>();
  const open = [id];
  for (let next = open.pop(); next !== undefined; next = open.pop()) {
    const group = world.groups.get(next);
    if (!group || seen.has(next)) continue;
    seen.add(next);
    for (const member of group.members) found.add(member);
    open.push(...group.groups);
  }
  return found;
}

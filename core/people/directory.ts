import type { Duration } from '../time/index.ts';
import type { ItemState, Source } from '../values/index.ts';
import type { Plan } from './plan.ts';
import type { Selector } from './selector-kinds.ts';

/** Somebody with an account, as far as rules and messages ask of them. */
export interface Person {
  id: string;
  name: string;
  email: string | null;
  /** Where their email goes instead, once they have confirmed it. */
  mailTo?: string | null;
  /** Further addresses that they have confirmed, which their plan may name. */
  further?: readonly string[];
  /** Addresses of theirs that mail came back from for good: none to send to. */
  suspended?: readonly string[];
  phone: string | null;
  zone: string;
  locale: string;
  manager: string | null;
  active: boolean;
  /** What is left out, urgency by urgency, has the default plan's value. */
  plan: Plan | null;
  mutes?: readonly Mute[];
}

/** What somebody does not want to hear of; with neither rule nor item, anything. `until` is a day, counted to its end in their zone, or an instant. */
export interface Mute {
  rule?: string;
  item?: string;
  until?: string;
}

/** A group of people; its members may be groups again, to any depth. */
export interface Group {
  id: string;
  name: string;
  members: string[];
  groups: string[];
}

/** Somebody outside, without an account: told by email once they have confirmed their address. */
export interface Contact {
  id: string;
  name: string;
  email: string | null;
  confirmed: boolean;
  /** Left everything, or the rules named. */
  unsubscribed: true | readonly string[];
}

/** A folder of a source; folders stand in folders. */
export interface Folder {
  id: string;
  source: string;
  name: string;
  parent: string | null;
}

/** Somebody who keeps an eye on an item. */
export interface Follower {
  item: string;
  person: string;
}

/** Who may read a source, or a folder that breaks from it, and who may add and edit there. */
export interface AccessEntry {
  source?: string;
  folder?: string;
  /** `null` for everybody with an account. */
  readers: Selector[] | null;
  /** Left out or `null`, for everybody who reads there. */
  adders?: Selector[] | null;
  editors?: Selector[] | null;
}

/** What deciding looks up: all of it as it stands at the instant that is decided. */
export interface World {
  people: ReadonlyMap<string, Person>;
  groups: ReadonlyMap<string, Group>;
  contacts?: ReadonlyMap<string, Contact>;
  sources: ReadonlyMap<string, Source>;
  folders: ReadonlyMap<string, Folder>;
  access: readonly AccessEntry[];
  /** The item as it stands; `undefined` where there is none, or none any more. */
  item(id: string): ItemState | undefined;
  /** The last state of an item that was deleted. */
  lastState?(id: string): ItemState | undefined;
  followersOf?(item: string): readonly string[];
}

/** What selectors are judged on: an item, as it stands or stood, and what an alert tells of it. */
export interface Subject {
  source: string;
  folder: string | null;
  fields: ItemState['fields'];
  id?: string;
  createdBy?: string | null;
  /** The actor before the alert's first change of the item; as it stands, of its latest change. */
  lastBy?: string | null;
  /** Ids that its comments mention. */
  mentions?: readonly string[];
}

/** Reminders, escalations and how an alert closes. */
export interface Acknowledging {
  by: 'anyone' | 'everyone';
  remind: { after: Duration; times: number } | null;
  escalate: { after: Duration; to: Selector[] }[];
  closeWhenCeased: boolean;
  allClear: boolean;
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

import type { Person } from './directory.ts';
import { type Channel, DEFAULT_REACH, type Pace, type Step, type Urgency } from './plan.ts';

/** What of a rule decides by which steps it reaches somebody. */
export interface Reaching {
  urgency: Urgency;
  channels: Channel[] | null;
  pace: Pace;
}

/** The steps by which a rule reaches a person, without those switched off or without an address. Empty: there is no channel. */
export function stepsFor(person: Person, rule: Reaching): Step[] {
  const steps = rule.channels?.map((channel): Step => ({ channel })) ?? person.plan?.reach?.[rule.urgency] ?? DEFAULT_REACH[rule.urgency];
  const off = new Set<Channel>(person.plan?.off);
  return steps.filter(({ channel }) => addressOf(person, channel) !== null && (channel === 'inApp' || !off.has(channel)));
}

/** Where a channel reaches a person; `null` where they have no address for it. */
export function addressOf(person: Person, channel: Channel): string | null {
  switch (channel) {
    case 'inApp':
      return person.id;
    case 'email':
      return person.email?.trim() || null;
    case 'text':
      return person.phone?.trim() || null;
    default:
      return channel satisfies never;
  }
}

/** Whether a person hears of their own changes: their plan's word goes before the rule's. */
export const hearsOwn = (person: Person, ruleSays: boolean): boolean => person.plan?.ownChanges ?? ruleSays;

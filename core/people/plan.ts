import type { CivilTime, Duration, Weekday } from '../time/index.ts';
import type { Person } from './directory.ts';

export type Urgency = 'routine' | 'important' | 'critical';
export const URGENCIES: readonly Urgency[] = ['routine', 'important', 'critical'];

export type Channel = 'inApp' | 'email' | 'text';
/** In the order in which what comes about at one instant is listed. */
export const CHANNELS: readonly Channel[] = ['inApp', 'email', 'text'];

export type DigestPace = { kind: 'digest'; every: 'hour' | 'day' | 'week' | 'month'; at: CivilTime; on?: (Weekday | number)[]; zone?: string | null };
export type Pace = { kind: 'now' } | DigestPace;

/** One way to reach a person: by a channel, after a while if still unread, gathered where it has a digest pace. */
export interface Step {
  channel: Channel;
  after?: Duration;
  pace?: Pace;
}

/** How a person wants to be reached. */
export interface Plan {
  reach?: Partial<Record<Urgency, Step[]>>;
  off?: Channel[];
  ownChanges?: boolean | null;
  emailFormat?: 'html' | 'text';
}

export const DEFAULT_REACH: Record<Urgency, Step[]> = {
  routine: [{ channel: 'inApp' }, { channel: 'email', pace: { kind: 'digest', every: 'day', at: '08:30' } }],
  important: [{ channel: 'inApp' }, { channel: 'email', after: 'PT15M' }],
  critical: [{ channel: 'inApp' }, { channel: 'email' }, { channel: 'text', after: 'PT5M' }],
};

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

import type { CivilTime, Duration, Weekday } from '../time/index.ts';

export type Urgency = 'routine' | 'important' | 'critical';

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

import type { CivilDate, CivilTime, Duration, Weekday } from '../time/index.ts';
import type { ChangeKind } from '../values/index.ts';

/** How urgent a rule says its messages are; a plan has steps for each. */
export type Urgency = 'routine' | 'important' | 'critical';

/** By what a message goes. */
export type Channel = 'inApp' | 'email' | 'text' | 'webhook';
/** In the order in which what comes about at one instant is listed. */
export const CHANNELS: readonly Channel[] = ['inApp', 'email', 'text', 'webhook'];

/** With the next digest: when it is due, in the reader's zone. */
export type DigestPace = {
  kind: 'digest';
  every: 'hour' | 'day' | 'week' | 'month';
  at: CivilTime;
  on?: (Weekday | number)[];
  zone?: string | null;
};
/** Gathers until `quiet` has passed since the last change, at most `most` since the first. */
export type SettledPace = { kind: 'settled'; quiet: Duration; most: Duration };
/** How soon: at once, once it has settled, or with a digest. */
export type Pace = { kind: 'now' } | SettledPace | DigestPace;

/** One way to reach a person: by a channel, after a while if still unread, only while they are away, gathered where it has a digest pace. */
export interface Step {
  channel: Channel;
  after?: Duration;
  when?: 'away' | 'always';
  pace?: Pace;
}

/** Hours in which email and text wait; `to` earlier than `from` runs into the next day. */
export interface QuietHours {
  days: Weekday[];
  from: CivilTime;
  to: CivilTime;
}

/** Steps for what comes of these sources, or as these kinds of change; what is left out fits all. */
export interface Ways {
  sources?: string[];
  kinds?: ChangeKind[];
  steps: Step[];
}

/** From which day to which somebody is away, and who hears in their place; `null`: nobody. */
export interface Absence {
  from: CivilDate;
  until: CivilDate;
  deputy: string | null;
}

/** How a person wants to be reached. */
export interface Plan {
  reach?: Partial<Record<Urgency, Step[]>>;
  quiet?: QuietHours[];
  /** Own steps for single rules, by rule id. */
  own?: Record<string, Step[]>;
  off?: Channel[];
  ownChanges?: boolean | null;
  emailFormat?: 'html' | 'text';
  /** Steps for what comes of some sources, or as some kinds of change; the first entry that fits counts. */
  ways?: Ways[];
  /** Days on which somebody else hears in their place, both included, in the person's zone. */
  absent?: Absence;
  /** Further addresses of theirs for email of single rules and sources, by id; that of the rule goes before that of the source. */
  emailTo?: { rules?: Record<string, string>; sources?: Record<string, string> };
}

/** A plan with another beneath it: what it leaves out, urgency by urgency, is as the one beneath has it. Nobody is away but by their own word. */
export function planUpon(own: Plan | null, beneath: Plan | null): Plan | null {
  if (beneath === null) return own;
  const { absent: _, ...usual } = beneath;
  if (own === null) return usual;
  return { ...usual, ...own, reach: { ...beneath.reach, ...own.reach } };
}

/** The plan that somebody starts with: of the first that is theirs; a group is theirs with those within it. */
export const startOf = (
  person: { id: string; role: string },
  plans: readonly StartingPlan[],
  isIn: (person: string, group: string) => boolean,
): Plan | null =>
  plans.find(
    ({ kind, named }) =>
      kind === 'everybody' ||
      (kind === 'role' && named === person.role) ||
      (kind === 'group' && isIn(person.id, named)),
  )?.plan ?? null;

/** A plan that people start with: those of a group, of a role, or everybody. */
export interface StartingPlan {
  kind: 'everybody' | 'role' | 'group';
  /** The role, or the group's id; empty for everybody. */
  named: string;
  plan: Plan;
}

/** The steps of whoever has chosen none, for each urgency. */
export const DEFAULT_REACH: Record<Urgency, Step[]> = {
  routine: [{ channel: 'inApp' }, { channel: 'email', pace: { kind: 'digest', every: 'day', at: '08:30' } }],
  important: [{ channel: 'inApp' }, { channel: 'email', after: 'PT15M' }],
  critical: [{ channel: 'inApp' }, { channel: 'email' }, { channel: 'text', after: 'PT5M' }],
};

import { dateIn, type Instant } from '../time/index.ts';
import { sameAddress } from './contacts.ts';
import type { Person } from './directory.ts';
import { type Channel, DEFAULT_REACH, type Pace, type Step, type Urgency } from './plan.ts';
import type { EntryWays } from './selectors.ts';

/** What of a rule decides by which steps it reaches somebody. */
export interface Reaching {
  id?: string;
  urgency: Urgency;
  channels: Channel[] | null;
  pace: Pace;
}

/** What an item of an alert is, as far as it decides by which steps somebody hears of it. */
export interface HeardOf {
  source?: string;
  /** The kind of the alert's last change of it; left out where there is none. */
  kind?: string;
  ways?: EntryWays | undefined;
}

/**
 * The steps by which a rule reaches a person, without those switched off or without an address: their own for
 * this rule, else the rule's channels at once, else their plan's. Of a critical rule with channels, own steps
 * only add channels. Empty: there is no channel.
 * @param of the item that they hear of: entries of the rule may have channels of their own, and plans ways for what it is
 */
export function stepsFor(person: Person, rule: Reaching, of: HeardOf = {}): Step[] {
  const { channels, isPlain } = of.ways ?? { channels: [], isPlain: true };
  if (channels.length === 0) return usable(person, chosenSteps(person, rule, of));
  const told = chosenSteps(person, { ...rule, channels }, of);
  const others = isPlain ? chosenSteps(person, rule, of) : [];
  return usable(person, [
    ...told,
    ...others.filter((step) => !channels.includes(step.channel) && !told.includes(step)),
  ]);
}

function chosenSteps(person: Person, rule: Reaching, of: HeardOf): Step[] {
  const own = rule.id === undefined ? undefined : ownSteps(person, rule.id);
  const channels = rule.channels?.map((channel): Step => ({ channel }));
  if (own && channels && rule.urgency === 'critical')
    return [...channels, ...own.filter((step) => !rule.channels?.includes(step.channel))];
  return own ?? channels ?? waysFor(person, rule.urgency, of);
}

/** The plan's steps, or in their place the ways that it has for what the item is; of what is critical those only add channels. */
function waysFor(person: Person, urgency: Urgency, { source, kind }: HeardOf): Step[] {
  const steps = planned(person, urgency);
  const fits = (named: readonly string[] | undefined, one: string | undefined) =>
    named === undefined || (one !== undefined && named.includes(one));
  const ways = person.plan?.ways?.find(({ sources, kinds }) => fits(sources, source) && fits(kinds, kind));
  if (!ways) return steps;
  const channels = new Set(steps.map(({ channel }) => channel));
  return urgency === 'critical'
    ? [...steps, ...ways.steps.filter(({ channel }) => !channels.has(channel))]
    : ways.steps;
}

/** Whether somebody is away at an instant: on the days that their plan names, in their zone. */
export function isAbsent({ plan, zone }: Person, at: Instant): boolean {
  if (!plan?.absent) return false;
  const day = dateIn(at, zone);
  return day >= plan.absent.from && day <= plan.absent.until;
}

/** The steps of reminders and escalations: the plan's critical ones, without their paces. */
export const urgentSteps = (person: Person): Step[] =>
  usable(
    person,
    planned(person, 'critical').map(({ pace: _, ...step }) => step),
  );

function ownSteps(person: Person, rule: string): Step[] | undefined {
  const own = person.plan?.own;
  return own && Object.hasOwn(own, rule) ? own[rule] : undefined;
}

const planned = (person: Person, urgency: Urgency): Step[] => person.plan?.reach?.[urgency] ?? DEFAULT_REACH[urgency];

function usable(person: Person, steps: Step[]): Step[] {
  const off = new Set<Channel>(person.plan?.off);
  return steps.filter(
    ({ channel }) => addressOf(person, channel) !== null && (channel === 'inApp' || !off.has(channel)),
  );
}

/** Where a channel reaches a person; `null` where they have no address for it. */
export function addressOf(person: Person, channel: Channel): string | null {
  switch (channel) {
    case 'inApp':
      return person.id;
    case 'email':
      return stillThere(person, person.mailTo?.trim() || person.email?.trim() || null);
    case 'text':
      return person.phone?.trim() || null;
    case 'webhook':
      return null;
    default:
      return channel satisfies never;
  }
}

/** An address, unless mail to it came back for good. */
const stillThere = ({ suspended = [] }: Person, address: string | null): string | null =>
  address !== null && suspended.some((one) => sameAddress(one) === sameAddress(address)) ? null : address;

/**
 * Where email about all of this reaches a person: a further address of theirs that their plan names for each of the
 * rules, or for the source; where it names several, or not for all, the usual one.
 */
export function emailFor(person: Person, about: readonly { rule: string; source: string }[]): string | null {
  const { rules = {}, sources = {} } = person.plan?.emailTo ?? {};
  const named = (of: Record<string, string>, id: string) => (Object.hasOwn(of, id) ? of[id] : undefined);
  const wanted = new Set(about.map(({ rule, source }) => named(rules, rule) ?? named(sources, source)));
  const [only] = wanted;
  const isOne = wanted.size === 1 && only !== undefined && person.further?.includes(only) === true;
  return (isOne && stillThere(person, only)) || addressOf(person, 'email');
}

/** Whether a person hears of their own changes: their plan's word goes before the rule's. */
export const hearsOwn = (person: Person, ruleSays: boolean): boolean => person.plan?.ownChanges ?? ruleSays;

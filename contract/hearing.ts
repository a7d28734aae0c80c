import type { Content } from '../core/messages/index.ts';
import type { Channel, LessWay, Mute, Plan, Urgency } from '../core/people/index.ts';
import type { Rule } from '../core/rules/index.ts';
import type { When } from './when.ts';

export interface PlanPage {
  /** What is left out of a plan has the standard value; `null` is the standard plan. */
  plan: Plan | null;
  mutes: Mute[];
  email: string | null;
  /** Where their email goes instead, once confirmed. */
  mailTo: string | null;
  phone: string | null;
  /** Their number, which has answered STOP. */
  silenced: string | null;
  /** Addresses that wait to be confirmed. */
  asks: { channel: 'email' | 'text'; address: string; askedAt: When }[];
  titles: Record<string, string>;
}

/** Somebody outside: whether they may be written to, what they left, how often they were asked, and what was withheld meanwhile. */
export interface ContactRow {
  id: string;
  name: string;
  email: string | null;
  isConfirmed: boolean;
  left: 'all' | string[];
  askedAt: When | null;
  times: number;
  withheld: number;
}

export interface PassCheck {
  may: string[];
  mayNot: string[];
}

export interface PassDone {
  talk: string;
  told: string[];
  mayNot: string[];
}

/** What those say to whom something was passed on. */
export interface TalkPage {
  id: string;
  item: { id: string; title: string; source: string };
  beganBy: string;
  at: When;
  people: string[];
  words: { person: string; at: When; words: string }[];
}

/** A message as it would have reached somebody, and when what is in it happened. */
export interface HeardRow {
  at: When;
  channel: Channel;
  form: Content['form'];
  urgency: Urgency;
  subject: string;
  rules: string[];
  arose: When[];
}

export interface WeekPage {
  from: When;
  /** Under the plan that is kept, and under the one that was asked about. */
  present: HeardRow[];
  planned: HeardRow[];
}

export type AnyLessWay = LessWay | 'becomes';

/** The ways to hear less of a rule, with what each would have left of the last days. */
export interface LessPage {
  rule: { id: string; name: string } | null;
  item: { id: string; title: string } | null;
  days: number;
  before: number;
  ways: { way: AnyLessWay; after: number }[];
}

/** How it was before a way to hear less was taken; with the rule, where it was the rule that was changed. */
export interface LessTaken {
  plan: Plan | null;
  mutes: Mute[];
  rule: Rule | null;
}

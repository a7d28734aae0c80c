import type { z } from 'zod';
import type { Explanation, FunnelStep, Suggestion, WithheldReason } from '../core/decide/index.ts';
import type { Content, Segments } from '../core/messages/index.ts';
import type { Channel, Folder, Group, Reason, Urgency } from '../core/people/index.ts';
import type { Rule } from '../core/rules/index.ts';
import type { ChangeKind, Fields, Source, Value } from '../core/values/index.ts';
import type { viewSchema } from './requests.ts';
import type { When } from './when.ts';

export * from './hearing.ts';
export * from './requests.ts';
export type { When } from './when.ts';

export interface Me {
  id: string;
  name: string;
  title: string;
  role: 'member' | 'coordinator' | 'steward';
  zone: string;
  locale: string;
  unread: number;
  isDemo: boolean;
  /** Of the server's clock, which every shown time goes by. */
  now: When;
}

export interface DemoPerson {
  id: string;
  name: string;
  title: string;
  role: Me['role'];
}
export interface Demo {
  password: string;
  people: DemoPerson[];
}

/** What pages need to name and to offer: people, groups, sources, addresses outside. */
export interface Directory {
  people: { id: string; name: string; title: string; isActive: boolean }[];
  groups: Group[];
  sources: (Source & { about: string })[];
  folders: Folder[];
  contacts: { id: string; name: string; isConfirmed: boolean }[];
  webhooks: string[];
  /** What acts on a source without being a person. */
  systems: { source: string; name: string }[];
  wordings: { id: string; name: string; subject: string | null; body: string | null }[];
  /** Sources for which the reader makes rules for others. */
  coordinates: string[];
}

export interface SourceRow {
  id: string;
  items: number;
  lastAt: When | null;
  byFolder: Record<string, number>;
  rules: number;
}

/** One thing that happened, as a page shows it. */
export interface TrailRow {
  id: string;
  at: When;
  kind: ChangeKind;
  actor: string;
  version: number;
  fields: { field: string; before: Value; after: Value }[];
  folder: string | null;
  folderBefore: string | null;
  text: string | null;
  caughtBy: string[];
}

export interface ItemRow {
  id: string;
  source: string;
  folder: string | null;
  title: string;
  fields: Fields;
  version: number;
  isDeleted: boolean;
  lastAt: When;
  lastBy: string;
  last: TrailRow | null;
}

/** Somebody whom a rule reaches for an item: told, or withheld for a reason. */
export interface HearingRow {
  rule: string;
  ruleName: string;
  urgency: Urgency;
  soon: Rule['pace'];
  person: string;
  reasons: Reason[];
  withheld: WithheldReason | null;
}

export interface PersonRow {
  id: string;
  name: string;
  title: string;
  role: Me['role'];
  isActive: boolean;
  manager: string | null;
  groups: string[];
  /** They have Ojo open just now, at whatever server. */
  isHere: boolean;
  /** Messages in Ojo in 30 days, and those that were read. */
  told: number;
  read: number;
}

/** Everything somebody hears: each live rule that tells them, why, and how much of it they read. */
export interface HearsPage {
  person: string;
  days: number;
  hears: { rule: Rule; isPaused: boolean; reasons: Reason[]; told: number; read: number; mayEdit: boolean }[];
}

/** Somebody who keeps an eye on something: by a rule of their own. */
export interface EyeRow {
  person: string;
  rule: Rule;
  mayEdit: boolean;
}

export interface View {
  id: string;
  name: string;
  owner: string;
  asked: z.output<typeof viewSchema>['asked'];
}

/** One thing of the trail; of a batch one stands for all. */
export interface TrailEntry extends Sample {
  batch: { id: string; count: number } | null;
}
export interface TrailPage {
  entries: TrailEntry[];
  names: Record<string, string>;
  next: string | null;
}

export interface ItemPage {
  item: ItemRow;
  names: Record<string, string>;
  trail: TrailRow[];
  hears: HearingRow[];
  eyes: EyeRow[];
  file: { name: string; mediaType: string } | null;
  mayEdit: boolean;
}

export interface RuleRow {
  id: string;
  state: 'draft' | 'live' | 'ended';
  version: number;
  owner: string;
  /** What is live, or was last. */
  live: Rule | null;
  liveFrom: When | null;
  liveUntil: When | null;
  isPaused: boolean;
  /** Matches kept while it is paused. */
  kept: number;
  draft: Rule | null;
  draftRevision: number;
  draftBy: string | null;
  draftAt: When | null;
  alerts: number;
  told: number;
  read: number;
  withheld: number;
  failed: number;
  /** Alerts that somebody still has to acknowledge, and those that somebody did. */
  waits: number;
  acknowledged: number;
  lastAt: When | null;
  /** Instants of the last 30 days at which it caught something. */
  caught: When[];
  mayEdit: boolean;
  /** What is wrong with it as the world now stands. */
  faults: { code: string; params: Record<string, unknown> }[];
}

export interface RuleVersion {
  version: number;
  document: Rule;
  from: When;
  until: When | null;
  by: string;
  why: string | null;
}

/** A past change as an example of something. */
export interface Sample {
  source: string;
  item: string;
  title: string;
  row: TrailRow;
}

/** What a rule would have done with the changes of the last days. */
export interface Cost {
  days: number;
  steps: { step: FunnelStep; left: number; dropped: Sample[] }[];
  messages: number;
  withheld: number;
  /** Every change looked at, and every alert. */
  all: When[];
  caught: When[];
  people: { person: string; messages: number; digests: number }[];
}

/** A way to make a rule cheaper, with what it would then come to. */
export interface CountedMend {
  code: Suggestion['code'];
  params: Suggestion['params'];
  document: Rule;
  alerts: number;
  messages: number;
}

/** What a rule makes of one past change, or of an item as it stands. */
export interface TryPage {
  sample: Sample | null;
  item: { id: string; title: string; source: string } | null;
  examples: (Sample & { isCaught: boolean })[];
  explanation: Explanation | null;
  /** The change is not caught, or not alone: what would go out is shown as if it were. */
  isAsIf: boolean;
  messages: { to: string; channel: Channel; at: When; form: Content['form'] }[];
  withheld: { person: string; reason: WithheldReason }[];
  preview: {
    to: string;
    content: Content;
    subject: string;
    html: string;
    plain: string;
    text: string;
    segments: Segments;
  } | null;
}

export interface MessageRow {
  id: string;
  at: When;
  form: Content['form'];
  urgency: Urgency;
  subject: string;
  content: Content;
  readAt: When | null;
}
/** Something that could not be decided, and stands aside until somebody tries it again. */
export interface AsideRow {
  id: number;
  kind: 'change' | 'act' | 'timer';
  at: When;
  since: When;
  /** Of a change: its item, if the reader may read it. */
  item: { id: string; title: string } | null;
}
export interface InboxPage {
  messages: MessageRow[];
  unread: number;
  next: string | null;
}
/** The first page: what waits for its reader, what happened in what they keep an eye on since an instant, and what gathers for them. */
export interface TodayPage {
  since: When;
  /** How many things they keep an eye on. */
  eyes: number;
  /** What waits for them to take it on, with what follows while nobody does. */
  waiting: (MessageRow & Pick<MessagePage, 'next'>)[];
  changes: Sample[];
  isCut: boolean;
  digests: { channel: Channel; at: When; items: number }[];
}
export interface MessagePage extends MessageRow {
  /** The reader is asked to acknowledge it, and has not yet. */
  waits: boolean;
  /** Who has acknowledged it so far. */
  answered: string[];
  /** What follows while nobody does, in order: reminders, and who hears next. */
  next: { what: 'remind' | 'escalate'; at: When; to: string[] }[];
  others: { person: string; channels: { channel: Channel; at: When; fate: Fate }[]; readAt: When | null }[];
  /** Of whoever looks after the rule; nobody else is told why somebody did not hear. */
  withheld: { person: string; reason: WithheldReason }[];
  /** What happened to its items after what it tells, oldest first; `isBack` where they are as they were before it. */
  since: { item: string; isBack: boolean; rows: TrailRow[] }[];
  /** The readings around the figures that its rule compares them with. */
  reading: { item: string; field: string; lines: number[]; points: { at: When; value: number }[] } | null;
}

export type Fate = 'waiting' | 'sending' | 'delivered' | 'failed' | 'withheld';
export interface OutboxRow {
  id: string;
  at: When;
  person: string;
  channel: Channel | null;
  address: string | null;
  form: string | null;
  subject: string;
  fate: Fate | 'gathering';
  fateAt: When | null;
  reply: string | null;
  tries: number;
  retryAt: When | null;
  readAt: When | null;
  rules: { id: string; name: string }[];
  items: string[];
  reason: WithheldReason | null;
}

export interface Found {
  items: { id: string; title: string; source: string }[];
  rules: { id: string; name: string }[];
  sources: { id: string; name: string }[];
}

export interface Mailbox {
  address: string;
  mails: number;
  lastAt: When;
}
export interface MailRow {
  id: number;
  sender: string;
  subject: string;
  receivedAt: When;
}
export interface Mail extends MailRow {
  address: string;
  html: string | null;
  text: string;
  source: string;
}
export interface Phone {
  number: string;
  texts: number;
  lastAt: When;
}
export interface TextRow {
  id: number;
  body: string;
  /** It was sent from that telephone. */
  isAnswer: boolean;
  receivedAt: When;
}

/** What an open page is told the moment it is committed. */
export type PageEvent =
  | { event: 'message'; message: MessageRow }
  | { event: 'item'; source: string; item: string }
  | { event: 'rules' }
  | { event: 'outbox' }
  /** Somebody took on what these people were told of. */
  | { event: 'answered' };

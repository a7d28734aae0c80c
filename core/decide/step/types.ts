import type { Content, Form, TallyMove } from '../../messages/index.ts';
import type { Channel, DigestPace, Reason, Recipient, Urgency } from '../../people/index.ts';
import type { Occasion } from '../../rules/index.ts';
import type { Instant } from '../../time/index.ts';

/** What an alert holds of one item: the changes, in their order; none of due and idle. */
export interface Part {
  source: string;
  item: string;
  changes: string[];
}

/**
 * Where an alert stands among those of its instant: those of single changes and of acts come first, as these came;
 * then those of batches, then those of timers, each by rule id, then as they began.
 */
export interface Arising {
  rank: 0 | 1 | 2;
  /** The place in the log of what it began with; 0 where it began with no change. */
  seq: number;
  /** Which of its step's alerts it is, from 0. */
  nth: number;
}

/** A rule that caught something. The id is the same however often the same is decided. */
export interface Alert {
  id: string;
  rule: string;
  version: number;
  at: Instant;
  occasion: Occasion;
  /** By the first of their changes; of due and idle by item id. */
  parts: Part[];
  /** The ids of all its changes, as they came. */
  changes: string[];
  /** How many alerts of the same key the rule's limit kept back since the last one. */
  suppressed: number;
}

/** Why somebody whom a rule reached did not hear, in the order in which the reasons are asked. */
export const WITHHELD_REASONS = [
  'excluded',
  'inactive',
  'noAccess',
  'notTheirs',
  'ownChange',
  'muted',
  'absent',
  'unconfirmed',
  'unsubscribed',
  'coolDown',
  'noChannel',
] as const;
/** Why somebody whom a rule reached did not hear. */
export type WithheldReason = (typeof WITHHELD_REASONS)[number];

/** Somebody whom a rule reached and who is not told of an item, and why. */
export interface Withheld {
  at: Instant;
  alert: string;
  rule: string;
  version: number;
  source: string;
  item: string;
  changes: string[];
  person: string;
  reason: WithheldReason;
}

/** A match that came to nothing: put back before it settled, or skipped on resuming. */
export interface Dropped {
  at: Instant;
  rule: string;
  source: string;
  item: string;
  changes: string[];
  reason: 'undone' | 'skipped';
}

/** What one recipient is told of one item of an alert; kept by keys alone until it goes out. */
export interface Portion extends Part {
  alert: string;
  rule: string;
  version: number;
  occasion: Occasion;
  /** When the alert arose, and where it stands among those of that instant. */
  at: Instant;
  arising: Arising;
  reasons: Reason[];
  /** It comes by a step with a delay: where quiet hours hold it, it is dropped if it was read by their end. */
  isDelayed?: boolean;
  /** Of a tally: the part that passed its mark, and what it came to. */
  tally?: TallyMove;
  /** Of a report: how the item stands to the last one. What is gone from it is no item of the alert. */
  mark?: 'new' | 'changed' | 'gone';
}

/** Stands for the item of a report with nothing in it. */
export const NO_ITEM = '';

/** What a rule could not do, all others going on: it could not be judged, or its own words could not be put together and the default stood for them. */
export interface Trouble {
  at: Instant;
  rule: string;
  version: number;
  /** For whom alone; the empty string where it is the rule as a whole. */
  to: string;
  code: 'cannotBeJudged' | 'wordsTooDear';
  /** What was wrong, in technical words; nothing that anybody wrote. */
  reason: string;
}

/** A message to one recipient by one channel, in its words. */
export interface Message {
  /** The same for the same message however often it is decided. */
  key: string;
  to: string;
  toKind: Recipient['kind'];
  channel: Channel;
  address: string;
  at: Instant;
  form: Form;
  urgency: Urgency;
  alerts: { alert: string; rule: string; items: string[] }[];
  subject: string;
  content: Content;
}

/** What the step says should happen; its driver does it and records it. */
export type Effect =
  | { effect: 'alert'; alert: Alert }
  | { effect: 'withheld'; withheld: Withheld }
  | { effect: 'dropped'; dropped: Dropped }
  | { effect: 'trouble'; trouble: Trouble }
  | { effect: 'message'; message: Message };

/** Everything that waits for an instant. At one instant timers run by rank, rule, item, person, then kind; `key` is one timer's own. */
export interface Timer {
  key: string;
  due: Instant;
  rank: 0 | 1 | 2 | 3;
  rule: string;
  item: string;
  person: string;
  task: TimerTask;
}

/** What a timer does once its instant has come. */
export type TimerTask =
  | { task: 'batch'; rule: string; version: number; group: string }
  | { task: 'tally'; rule: string; version: number; group: string }
  | { task: 'settle' | 'due' | 'idle'; rule: string; group: string }
  | { task: 'report'; rule: string; version: number }
  | { task: 'again'; alert: string; person: string }
  | { task: 'later'; later: LaterStep }
  | { task: 'remind' | 'escalate'; alert: string; round: number }
  | { task: 'digest'; to: string; channel: Channel }
  | { task: 'quietEnd'; person: string };

/** A later step of a plan, taken if the alert is still unread and not acknowledged then. */
export interface LaterStep {
  person: string;
  channel: Channel;
  /** The step's place in the plan, so that two steps of one channel are two timers. */
  step: number;
  onlyAway: boolean;
  /** The digest that the step joins once it is taken; `null`: at once. */
  digest: DigestPace | null;
  form: Form;
  /** Which reminder or escalation; 0 for the alert itself. */
  round: number;
  portions: Portion[];
}

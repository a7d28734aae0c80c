import type { Content } from '../messages/index.ts';
import type { Channel, DigestPace, Reason, Urgency, World } from '../people/index.ts';
import type { CompiledRule } from '../rules/index.ts';
import type { Instant } from '../time/index.ts';
import type { Change } from '../values/index.ts';

/** A rule that caught one or more changes. The id is the same however often the same change is decided. */
export interface Alert {
  id: string;
  rule: string;
  version: number;
  at: Instant;
  items: string[];
  changes: string[];
  suppressed: number;
}

/** Why somebody whom a rule reached did not hear, in the order in which the reasons are asked. */
export type WithheldReason = 'excluded' | 'inactive' | 'noAccess' | 'ownChange' | 'noChannel';

export interface Withheld {
  at: Instant;
  alert: string;
  rule: string;
  version: number;
  item: string;
  changes: string[];
  person: string;
  reason: WithheldReason;
}

/** What one person is told of one item of an alert; kept by keys alone until it goes out. */
export interface Portion {
  alert: string;
  rule: string;
  version: number;
  /** The source and the ids of the changes told. */
  source: string;
  item: string;
  changes: string[];
  reasons: Reason[];
}

/** A portion that waits for a digest. */
export interface Waiting extends Portion {
  person: string;
  channel: Channel;
  due: Instant;
}

/** A later step of a plan, taken if the alert is still unread then. */
export interface LaterStep {
  person: string;
  channel: Channel;
  due: Instant;
  /** The step's place in the plan, so that two steps of one channel are two timers. */
  step: number;
  /** The digest that the step joins once it is taken; `null`: at once. */
  digest: DigestPace | null;
  alertAt: Instant;
  portions: Portion[];
}

export interface Message {
  /** The same for the same message however often it is decided. */
  key: string;
  to: string;
  channel: Channel;
  address: string;
  at: Instant;
  form: Content['form'];
  urgency: Urgency;
  alerts: { alert: string; rule: string; items: string[] }[];
  subject: string;
  content: Content;
}

/** What the step says should happen; its driver does it and records it. */
export type Effect =
  | { effect: 'alert'; alert: Alert }
  | { effect: 'withheld'; withheld: Withheld }
  | { effect: 'message'; message: Message }
  | { effect: 'wait'; waiting: Waiting }
  | { effect: 'later'; later: LaterStep };

/** What the step is asked to decide. */
export type Input =
  | { input: 'change'; change: Change }
  | { input: 'digest'; person: string; channel: Channel; at: Instant }
  | { input: 'later'; later: LaterStep };

/** All that the step reads: the world as it stands and what earlier steps left waiting. Its driver keeps it. */
export interface State extends World {
  /** Versions live at the instant whose scope names the source, in order of rule id. */
  liveRules(source: string, at: Instant): readonly CompiledRule[];
  rule(id: string, version: number): CompiledRule | undefined;
  change(source: string, id: string): Change | undefined;
  waiting(person: string, channel: Channel, due: Instant): readonly Waiting[];
  isUnread(alert: string, person: string): boolean;
}

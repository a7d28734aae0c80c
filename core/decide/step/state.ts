import type { Wordings } from '../../messages/index.ts';
import type { World } from '../../people/index.ts';
import type { CompiledRule, Rule } from '../../rules/index.ts';
import type { Instant } from '../../time/index.ts';
import type { Change, ItemState } from '../../values/index.ts';
import type { Put, Rows, Shelf } from './rows.ts';
import type { Effect, Part, Portion, Timer } from './types.ts';

/** What becomes of what a rule caught while it was paused: told each, in one summary, or skipped. */
export type CatchUp = 'each' | 'summary' | 'skip';

/** What the step is asked to decide. Acts that alter the world alone (mutes, access, presence) are its driver's to do. */
export type Input =
  | { input: 'change'; change: Change }
  | { input: 'read'; at: Instant; person: string /** Only these; left out: all told of by then. */; alerts?: string[] }
  | { input: 'acknowledge'; at: Instant; person: string; rule: string; item?: string; alert?: string }
  | {
      input: 'again';
      at: Instant;
      person: string;
      rule: string;
      item?: string /** This one; left out: the newest. */;
      alert?: string;
      when: Instant;
    }
  | { input: 'goLive'; at: Instant; rule: string }
  | {
      input: 'resume';
      at: Instant;
      rule: string;
      catchUp: CatchUp /** Its place among the inputs of its instant. */;
      seq?: number;
    }
  | { input: 'timer'; timer: Timer };

/** How a rule stands from one instant to the next: each pause, resuming and new version begins another. */
export interface Phase<C extends { rule: Rule; version: number } = CompiledRule> {
  compiled: C;
  /** Gatherings of one phase take no changes of another. */
  epoch: number;
  isPaused: boolean;
  /** The versions since which the same burst, and the same schedule of dates or standstill, are in force. */
  burstSince: number;
  scheduleSince: number;
  /** The `scheduleSince` before this one, where it began with this version; what fired then stays fired. */
  scheduleBefore: number | null;
}

/** All that the step reads: the world as it stands at the input, and the rows that earlier steps left. Its driver keeps it. */
export interface State extends World, Wordings {
  /** Whose messages are worded; where this is left out, everybody's. Whoever only counts words none, which is most of the work. */
  isWorded?(to: string): boolean;
  /** When keeping began: items without a last change stand still since then. */
  start: Instant;
  /** Phases live at the change's instant whose rules catch it, or may gather it, in order of rule id; `null` where asking a rule failed. */
  phasesFor(change: Change): readonly { phase: Phase; isCaught: boolean | null }[];
  /** Live phases of due and idle rules that look at a source. */
  schedulesOf(source: string, at: Instant): readonly Phase[];
  /** Live phases of due and idle rules whose scope holds what is linked with this item. */
  schedulesNaming(item: string, at: Instant): readonly Phase[];
  /** Live phases of rules that keep a tally over a source, in order of rule id. */
  talliesOf(source: string, at: Instant): readonly Phase[];
  /** The newest alert of a rule of which a message went to somebody by now, and where an item is named one that told of it, or the very alert that is named. */
  lastTold(
    person: string,
    rule: string,
    of: { item?: string | undefined; alert?: string | undefined },
  ): ToldBefore | undefined;
  /** Versions, live or not, whose alerts close when a state of the source's items has ceased. */
  closing(source: string): readonly CompiledRule[];
  phase(rule: string, at: Instant): Phase | undefined;
  version(rule: string, version: number): CompiledRule | undefined;
  change(source: string, id: string): Change | undefined;
  itemsOf(source: string): Iterable<ItemState>;
  /** Whether a person is in Ojo at this instant. */
  isHere(person: string): boolean;
  row<S extends Shelf>(shelf: S, key: string): Rows[S] | undefined;
  /** All rows of one group of a shelf, in the order in which they were first put there. */
  group<S extends Shelf>(shelf: S, group: string): readonly Rows[S][];
}

/** The changes of a part, or of what somebody is told of one, in their order; those that are known no more are left out. */
export const changesOf = (
  state: Pick<State, 'change'>,
  { source, changes }: Pick<Part, 'source' | 'changes'>,
): Change[] => changes.flatMap((id) => state.change(source, id) ?? []);

/** An alert that somebody had a message of, with the items that they were told of. */
export interface ToldBefore {
  alert: string;
  version: number;
  at: Instant;
  occasion: Portion['occasion'];
  /** All that the alert holds, told to them or not. */
  items: string[];
  parts: Part[];
}

/** A text for messages that several rules share. */
export interface Wording {
  id: string;
  name: string;
  subject: string | null;
  body: string | null;
}

/** What follows from an input: the rows that are otherwise now, the timers set, and what is to be done, in its order. */
export interface Outcome {
  state: Put[];
  timers: Timer[];
  effects: Effect[];
}

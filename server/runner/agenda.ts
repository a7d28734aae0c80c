import { compareTimers, type Input, type Timer } from '../../core/decide/index.ts';
import type { Instant } from '../../core/time/index.ts';
import type { QueuedAct, StoredChange } from '../store/index.ts';

/** One input on its turn, with what it is taken from. */
export type Entry =
  | { kind: 'change'; at: Instant; input: Input; change: StoredChange }
  | { kind: 'act'; at: Instant; input: Input; id: number }
  | { kind: 'timer'; at: Instant; input: Input; timer: Timer };

/** What was read of each queue, and whether there may be more of it. */
interface Queues {
  changes: StoredChange[];
  acts: { id: number; act: QueuedAct }[];
  timers: Timer[];
  limit: number;
}

/**
 * The one order in which changes, acts and timers are decided: by instant, what people do before what was due at
 * the same one. A timer runs once nothing earlier can come, or something later has.
 */
export class Agenda {
  /** Timers that inputs have set and that were not run yet. */
  private readonly set = new Map<string, Timer>();
  /** Stored timers that were run. */
  readonly timersDone: Timer[] = [];
  private readonly isCut: Record<'changes' | 'acts' | 'timers', boolean>;

  constructor(private readonly queues: Queues, private readonly timersUntil: Instant) {
    const { changes, acts, timers, limit } = queues;
    this.isCut = { changes: changes.length >= limit, acts: acts.length >= limit, timers: timers.length >= limit };
  }

  /** Timers to be stored: set, and not run. */
  get timersSet(): Timer[] {
    return [...this.set.values()];
  }

  /** Timers that an input has set; one that waits already goes on waiting. */
  add(timers: readonly Timer[]): void {
    for (const timer of timers) {
      if (this.set.has(timer.key) || this.queues.timers.some((one) => one.key === timer.key)) continue;
      this.set.set(timer.key, timer);
    }
  }

  next(): Entry | null {
    const input = this.nextInput();
    const timer = this.nextTimer();
    if (timer && timer.due < (input?.at ?? Number.POSITIVE_INFINITY) && (input !== null || timer.due <= this.timersUntil)) return this.takeTimer(timer);
    if (!input) return null;
    if (input.kind === 'change') this.queues.changes.shift();
    else this.queues.acts.shift();
    return input;
  }

  /** Of a queue that was cut off and is through, what comes next is not known: the turn ends there. */
  private nextInput(): Exclude<Entry, { kind: 'timer' }> | null {
    const [change] = this.queues.changes;
    const [act] = this.queues.acts;
    if ((!change && this.isCut.changes) || (!act && this.isCut.acts)) return null;
    if (this.queues.timers.length === 0 && this.isCut.timers) return null;
    if (act && (!change || act.act.at < change.at)) return { kind: 'act', at: act.act.at, input: act.act, id: act.id };
    return change ? { kind: 'change', at: change.at, input: { input: 'change', change }, change } : null;
  }

  private nextTimer(): Timer | null {
    const ends = (!this.queues.changes[0] && this.isCut.changes) || (!this.queues.acts[0] && this.isCut.acts) || (this.queues.timers.length === 0 && this.isCut.timers);
    if (ends) return null;
    let [first] = this.queues.timers;
    for (const timer of this.set.values()) if (!first || compareTimers(timer, first) < 0) first = timer;
    return first ?? null;
  }

  private takeTimer(timer: Timer): Entry {
    if (this.queues.timers[0] === timer) {
      this.queues.timers.shift();
      this.timersDone.push(timer);
    } else this.set.delete(timer.key);
    return { kind: 'timer', at: timer.due, input: { input: 'timer', timer }, timer };
  }
}

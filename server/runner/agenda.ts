import { compareTimers, type Input, type Timer } from '../../core/decide/index.ts';
import type { Instant } from '../../core/time/index.ts';
import { isAfter, type OrderPlace, type QueuedAct, type Rank, type StoredChange } from '../store/index.ts';

/** One input on its turn, with what it is taken from. */
export type Entry =
  | {
      kind: 'change';
      at: Instant;
      input: Input;
      change: StoredChange /** It was made at an earlier instant than the one it is decided as of. */;
      isMoved: boolean;
    }
  | { kind: 'act'; at: Instant; input: Input; id: number; act: QueuedAct }
  | { kind: 'timer'; at: Instant; input: Input; timer: Timer };

/** What was read of each queue, and whether there may be more of it. */
export interface Queues {
  changes: StoredChange[];
  acts: { id: number; act: QueuedAct }[];
  timers: Timer[];
  limit: number;
}

/** Rules' acts come before the changes of their instant, what people do after them. */
const rankOf = (act: QueuedAct): Rank => (act.input === 'goLive' || act.input === 'resume' ? 0 : 2);

/** Where an entry stands in the order of deciding. */
export function placeOf(entry: Entry): OrderPlace {
  switch (entry.kind) {
    case 'change':
      return { at: entry.at, rank: 1, seq: entry.change.seq };
    case 'act':
      return { at: entry.at, rank: rankOf(entry.act), seq: 0 };
    case 'timer':
      return { at: entry.at, rank: 3, seq: 0 };
    default:
      return entry satisfies never;
  }
}

/**
 * The one order in which changes, acts and timers are decided: by instant, what people do before what was due at
 * the same one. A timer runs once nothing earlier can come, or something later has. What was committed only after
 * something later had been decided is decided as of the instant after that: instants never run backwards.
 */
export class Agenda {
  /** Timers that inputs have set and that were not run yet. */
  private readonly set = new Map<string, Timer>();
  /** Stored timers that were run. */
  readonly timersDone: Timer[] = [];
  private readonly isCut: Record<'changes' | 'acts' | 'timers', boolean>;

  private readonly moved = new Set<StoredChange>();
  private readonly queues: Queues;

  /** @param decided how far deciding has come */
  constructor(
    queues: Queues,
    private readonly timersUntil: Instant,
    decided: OrderPlace,
  ) {
    const { changes, acts, timers, limit } = queues;
    this.isCut = { changes: changes.length >= limit, acts: acts.length >= limit, timers: timers.length >= limit };
    const after = (place: OrderPlace): Instant => (isAfter(place, decided) ? place.at : decided.at + 1);
    const inOrder = changes.map((change): StoredChange => {
      const at = after({ at: change.at, rank: 1, seq: change.seq });
      if (at === change.at) return change;
      const next = { ...change, at };
      this.moved.add(next);
      return next;
    });
    const actsInOrder = acts.map(({ id, act }) => ({
      id,
      act: { ...act, at: after({ at: act.at, rank: rankOf(act), seq: 0 }) },
    }));
    this.queues = {
      timers,
      limit,
      changes: inOrder.sort((a, b) => a.at - b.at || a.seq - b.seq),
      acts: actsInOrder.sort((a, b) => a.act.at - b.act.at || a.id - b.id),
    };
  }

  /** What is likely to come: everything that was read, in no order. */
  get expected(): Input[] {
    const { changes, acts, timers } = this.queues;
    return [
      ...changes.map((change): Input => ({ input: 'change', change })),
      ...acts.map(({ act }): Input => act),
      ...timers.filter(({ due }) => due <= this.timersUntil).map((timer): Input => ({ input: 'timer', timer })),
    ];
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
    if (
      timer &&
      timer.due < (input?.at ?? Number.POSITIVE_INFINITY) &&
      (input !== null || timer.due <= this.timersUntil)
    )
      return this.takeTimer(timer);
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
    const isActFirst =
      act && (!change || act.act.at < change.at || (act.act.at === change.at && rankOf(act.act) === 0));
    if (isActFirst) return { kind: 'act', at: act.act.at, input: act.act, id: act.id, act: act.act };
    return change
      ? { kind: 'change', at: change.at, input: { input: 'change', change }, change, isMoved: this.moved.has(change) }
      : null;
  }

  private nextTimer(): Timer | null {
    const ends =
      (!this.queues.changes[0] && this.isCut.changes) ||
      (!this.queues.acts[0] && this.isCut.acts) ||
      (this.queues.timers.length === 0 && this.isCut.timers);
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

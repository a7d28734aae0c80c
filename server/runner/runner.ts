import type { Pool } from 'mysql2/promise';
import type { Logger } from 'pino';
import type { Effect, Message } from '../../core/decide/index.ts';
import type { Site } from '../../core/messages/index.ts';
import type { Instant } from '../../core/time/index.ts';
import {
  type Connection,
  type Directory,
  type DirectoryCache,
  inOneTrip,
  inShortTransaction,
  inTransaction,
  isUnavailable,
  one,
  type OrderPlace,
  OutcomeUnknown,
  type Query,
  run,
  runAll,
  several,
  type StoredChange,
  type Undecided,
  type Statement,
  store,
  writtenOut,
} from '../store/index.ts';
import type { Entry } from './agenda.ts';
import { backOff, type Clock, Complaints, factsOf, Loop } from '../kit/index.ts';
import { StateLoader } from './state-loader.ts';
import { type Ahead, decideTurn, GRACE_MS, headsAfter, stillFits, type Turn, type TurnParts } from './turn.ts';

export interface RunnerParts {
  pool: Pool;
  directory: DirectoryCache;
  site: Site;
  clock: Clock;
  log: Logger;
  /** In-app messages that have just been committed. */
  onArrivals(messages: Message[]): void;
  /** There may be something to send. */
  onOutgoing(): void;
  /** Changes that have just been decided. */
  onDecided(changes: StoredChange[]): void;
}

/** What follows from a change in the world of a version. */
interface Foreseen {
  version: number;
  effects: Effect[];
  queries: Statement[];
}

const placeOfChange = ({ at, seq }: StoredChange): OrderPlace => ({ at, rank: 1, seq });

const BATCH = 100;
/** What cannot be decided is set aside after so many tries, some minutes of growing pauses. */
const MOST_TRIES = 8;

/** Claims changes and timers, decides them, and writes what follows in the transaction that claimed them. */
export class Runner {
  private readonly loop: Loop;
  private readonly complaints: Complaints;
  private readonly fresh: StoredChange[] = [];
  private readonly foreseen = new WeakMap<StoredChange, Foreseen>();
  /** The last turn took as much as a turn may. */
  private isMore = false;
  /** The turn after the last one, decided while that was written. */
  private ahead: Promise<Ahead | null> | null = null;

  constructor(private readonly parts: RunnerParts) {
    this.complaints = new Complaints(parts.log);
    this.loop = new Loop('runner', () => this.turn(), 500, this.complaints);
  }

  start = () => this.loop.start();
  /** Ends once nothing is under way any more. */
  stop = async (): Promise<void> => {
    await this.loop.stop();
    await this.ahead;
  };

  /**
   * Works out what will follow from a change whose commit is on its way, by what is at hand. Nothing shows of it:
   * it is written, after the commit, only if the world is still the same and the change is the next to be decided.
   */
  foresee = (change: StoredChange): void => {
    const { clock, directory: cache, site } = this.parts;
    const directory = cache.atHand();
    if (!directory || this.foreseen.has(change)) return;
    try {
      const outcome = new StateLoader(directory, clock.now()).decideAtHand({ input: 'change', change });
      if (!outcome) return;
      const { effects, state, timers } = outcome;
      const queries = [
        store.turns.take(),
        store.turns.decidedTo(placeOfChange(change)),
        ...store.decisions.save(effects, clock.now(), site, true),
        ...store.engine.putRows(state),
        ...store.timers.set(timers),
        store.changes.decided([change.seq]),
      ];
      this.foreseen.set(change, { version: directory.version, effects, queries });
    } catch (error) {
      // It will stand in the queue, where a change that cannot be decided is put off properly.
      this.complaints.tell('a change could not be foreseen and is left to the queue', error);
    }
  };

  /** There is something to decide; a change that has just been committed here may be handed over whole. */
  wake = (fresh?: StoredChange): void => {
    if (fresh) this.fresh.push(fresh);
    this.loop.wake();
  };

  /** Decides everything that is due now; returns when nothing is left. */
  async drain(): Promise<void> {
    while (await this.turn()) {
      /* the turn did something */
    }
  }

  /** One round; whether it found anything to do. */
  private async turn(): Promise<boolean> {
    for (let fresh = this.fresh.shift(); fresh; fresh = this.fresh.shift()) await this.decideFresh(fresh);
    return (await this.decideNext(BATCH)) > 0;
  }

  /**
   * Claims a change that has just been committed here and writes what was foreseen of it, in one trip. Where
   * anything is otherwise by then, nothing is kept, and it is decided like every other.
   */
  private async decideFresh(change: StoredChange): Promise<void> {
    this.foresee(change);
    const foreseen = this.foreseen.get(change);
    if (!foreseen) return;
    const guards = [
      { into: 'world', select: store.world.versionInto('world'), expected: foreseen.version },
      { into: 'ordered', select: store.turns.isNextInto('ordered', placeOfChange(change)), expected: 1 },
      { into: 'claimed', select: store.changes.nextInto('claimed', change), expected: change.seq },
    ];
    if (!(await inOneTrip(this.parts.pool, guards, foreseen.queries))) return;
    this.announce(foreseen.effects);
    this.parts.onDecided([change]);
  }

  /** Decides the next inputs in order, and writes what follows in one transaction; how many they were. */
  private async decideNext(limit: number): Promise<number> {
    const { pool } = this.parts;
    // A look first, so that servers with nothing to do do not wait for one another's turns; not where there was more than fits a turn.
    if (!this.isMore && (await this.isNothingDue())) return 0;
    const taken: Entry[] = [];
    this.isMore = false;
    try {
      const done = await inShortTransaction(
        pool,
        [store.turns.take()],
        [store.turns.place(), ...this.queues(limit)],
        async (on, [[found], changes, acts, timers]) => {
          if (!found) throw new Error('the world has no version');
          taken.length = 0;
          const heads = { changes, acts, timers, limit };
          const directory = await this.parts.directory.at(on, found.version);
          const { turn, ending } = await this.turnOf(on, { ...found, heads, directory, taken });
          if (taken.length === 0) return null;
          return {
            last: ending,
            result: turn.effects,
            meanwhile: () => this.lookAhead(turn, { directory, number: found.number + 1, limit }),
          };
        },
      );
      if (!done) return 0;
      this.isMore = taken.length === limit;
      this.announce(done);
      const decided = taken.flatMap((entry) => (entry.kind === 'change' ? [entry.change] : []));
      if (decided.length > 0) this.parts.onDecided(decided);
      return taken.length;
    } catch (error) {
      // One bad input must not hold up the others: each is tried alone, and the bad one later again.
      const [first] = taken;
      // It is no input's fault that the database is away.
      if (!first || isUnavailable(error) || error instanceof OutcomeUnknown) throw error;
      if (limit > 1) return this.decideOneByOne(taken.length);
      await this.putOff(first, error);
      return 1;
    }
  }

  /** What comes next: as it was decided while the turn before was written, where that still fits, else decided now. */
  private async turnOf(
    on: Connection,
    {
      version,
      number,
      decided,
      heads,
      directory,
      taken,
    }: Omit<TurnParts, 'now'> & {
      version: number;
      number: number;
      taken: Entry[];
    },
  ): Promise<{ turn: Turn; ending: Statement[] }> {
    const ahead = await this.ahead;
    this.ahead = null;
    if (ahead && stillFits(ahead, { version, number }, heads)) {
      taken.push(...ahead.turn.taken);
      return ahead;
    }
    const turn = await decideTurn(on, { directory, now: this.parts.clock.now(), heads, decided, taken });
    return { turn, ending: this.endingOf(turn) };
  }

  /** Begins to decide the turn after this one, which is just being written, where more waits than it took. */
  private lookAhead(turn: Turn, next: { directory: Directory; number: number; limit: number }): void {
    const isMore = turn.taken.length === next.limit;
    // What cannot be decided ahead is decided on its turn, where a failure is told.
    this.ahead = isMore ? this.decideAhead(turn, next).catch(() => null) : null;
  }

  private async decideAhead(
    turn: Turn,
    { directory, number, limit }: { directory: Directory; number: number; limit: number },
  ): Promise<Ahead | null> {
    const { pool, clock } = this.parts;
    const [changes, acts, timers] = await several(pool, this.queues(2 * limit));
    const heads = headsAfter(turn, { changes, acts, timers, limit });
    if (!heads || heads.changes.length + heads.acts.length < limit) return null;
    const { version } = directory;
    const { last: decided, loader } = turn;
    const next = await decideTurn(pool, { directory, now: clock.now(), heads, decided, before: loader.left });
    // Its statements are made now, too, while the turn before is written: what is left for its own time is to send them.
    return { version, number, heads, turn: next, ending: this.endingOf(next).map(writtenOut) };
  }

  private async isNothingDue(): Promise<boolean> {
    const heads = await several(this.parts.pool, this.queues(1, this.parts.clock.now() - GRACE_MS));
    return heads.every((found) => found.length === 0);
  }

  /**
   * The heads of the three queues. Timers whenever they are due, where nothing else is said: a turn is waited for, and by
   * the time it comes a change may have come that is later than what was due meanwhile.
   */
  private queues(limit: number, timersUntil: Instant | null = null) {
    const now = this.parts.clock.now();
    return [
      store.changes.next(now, limit),
      store.acts.next(now, limit),
      store.timers.next(timersUntil, now, limit),
    ] as const;
  }

  private endingOf({ taken, effects, loader, agenda, last }: Turn): Statement[] {
    const { clock, site } = this.parts;
    const seqs = taken.flatMap((entry) => (entry.kind === 'change' ? [entry.change.seq] : []));
    const acts = taken.flatMap((entry) => (entry.kind === 'act' ? [entry] : []));
    const moved = taken.flatMap((entry) =>
      entry.kind === 'change' && entry.isMoved ? store.changes.restamp(entry.change, entry.at) : [],
    );
    return [
      store.turns.decidedTo(last),
      ...moved,
      ...store.decisions.save(effects, clock.now(), site),
      ...store.engine.putRows(loader.written),
      ...store.timers.done(agenda.timersDone),
      ...store.timers.set(agenda.timersSet),
      ...(seqs.length > 0 ? [store.changes.decided(seqs)] : []),
      ...store.acts.keep(acts.map(({ act }) => act)),
      ...store.acts.done(acts.map(({ id }) => id)),
    ];
  }

  private async decideOneByOne(count: number): Promise<number> {
    let done = 0;
    while (done < count && (await this.decideNext(1)) > 0) done++;
    return done;
  }

  private async putOff(entry: Entry, error: unknown): Promise<void> {
    const { pool, clock } = this.parts;
    const tries = (await one(pool, triesQuery(entry))) ?? 0;
    const now = clock.now();
    const { code } = factsOf(error);
    if (tries + 1 >= MOST_TRIES) {
      this.complaints.tell(`a ${entry.kind} could not be decided after ${MOST_TRIES} tries and is set aside`, error);
      await inTransaction(pool, (on) => runAll(on, store.aside.put(undecided(entry), now, code)));
      return;
    }
    this.complaints.tell(`a ${entry.kind} could not be decided and is tried again later`, error);
    await run(pool, putOffEntryQuery(entry, backOff(tries, now), code));
  }

  private announce(effects: Effect[]): void {
    const messages = effects.flatMap((effect) => (effect.effect === 'message' ? [effect.message] : []));
    const arrivals = messages.filter((message) => message.channel === 'inApp');
    if (arrivals.length > 0) this.parts.onArrivals(arrivals);
    if (messages.length > arrivals.length) this.parts.onOutgoing();
  }
}

const triesQuery = (entry: Entry): Query<number> => {
  switch (entry.kind) {
    case 'change':
      return store.changes.tries(entry.change.seq);
    case 'act':
      return store.acts.tries(entry.id);
    case 'timer':
      return store.timers.tries(entry.timer);
    default:
      return entry satisfies never;
  }
};

const putOffEntryQuery = (entry: Entry, until: Instant, code: string): Statement => {
  switch (entry.kind) {
    case 'change':
      return store.changes.putOff(entry.change.seq, until, code);
    case 'act':
      return store.acts.putOff(entry.id, until, code);
    case 'timer':
      return store.timers.putOff(entry.timer, until, code);
    default:
      return entry satisfies never;
  }
};

function undecided(entry: Entry): Undecided {
  switch (entry.kind) {
    case 'change':
      return { kind: 'change', at: entry.at, seq: entry.change.seq };
    case 'act':
      return { kind: 'act', at: entry.at, id: entry.id, act: entry.act };
    case 'timer':
      return { kind: 'timer', at: entry.at, timer: entry.timer };
    default:
      return entry satisfies never;
  }
}

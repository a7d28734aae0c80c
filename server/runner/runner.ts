import type { Pool, PoolConnection } from 'mysql2/promise';
import type { Logger } from 'pino';
import { decide, type Effect, type Input, type Message } from '../../core/decide/index.ts';
import type { Site } from '../../core/messages/index.ts';
import type { Instant } from '../../core/time/index.ts';
import {
  claimChangeIntoQuery, claimChangesQuery, claimTimersQuery, decidedQuery, type DirectoryCache, effectQueries, fromJson, inOneTrip, inShortTransaction, isUndecidedQuery, one,
  putOffQuery, putOffTimerQuery, query, type Query, run, type StoredChange, timersDoneQuery, toChange, waitingDoneQuery, worldVersionIntoQuery, worldVersionQuery,
} from '../store/index.ts';
import { backOff, type Clock } from './clock.ts';
import { Loop } from './loop.ts';
import { readState, stateAtHand } from './state.ts';

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
  queries: Query[];
}

const BATCH = 50;
/** A door's transaction may end a moment after the instant it bears; timers wait that long for it. */
const GRACE_MS = 250;

/** Claims changes and timers, decides them, and writes what follows in the transaction that claimed them. */
export class Runner {
  private readonly loop: Loop;
  private readonly fresh: StoredChange[] = [];
  private readonly foreseen = new WeakMap<StoredChange, Foreseen>();

  constructor(private readonly parts: RunnerParts) {
    this.loop = new Loop('runner', () => this.turn(), 500, parts.log);
  }

  start = () => this.loop.start();
  stop = () => this.loop.stop();

  /**
   * Works out what will follow from a change whose commit is on its way, by what is at hand. Nothing shows of it:
   * it is written, after the commit, only if the world is still the same and nobody else has decided the change.
   */
  foresee = (change: StoredChange): void => {
    const directory = this.parts.directory.atHand();
    const state = directory && !this.foreseen.has(change) && stateAtHand(directory, change);
    if (!state) return;
    try {
      const effects = decide(state, { input: 'change', change });
      const queries = [...effectQueries(effects, this.parts.clock.now(), this.parts.site, true), decidedQuery([change.seq])];
      this.foreseen.set(change, { version: directory.version, effects, queries });
    } catch (error) {
      // It will stand in the queue, where a change that cannot be decided is put off properly.
      this.parts.log.warn({ err: error, change: change.id }, 'a change is left to the queue');
    }
  };

  /** There is something to decide; a change that has just been committed here may be handed over whole. */
  wake = (fresh?: StoredChange): void => {
    if (fresh) this.fresh.push(fresh);
    this.loop.wake();
  };

  /** Decides everything that is due now; returns when nothing is left. */
  async drain(): Promise<void> {
    while (await this.turn()) { /* the turn did something */ }
  }

  /** One round; whether it found anything to do. */
  private async turn(): Promise<boolean> {
    for (let fresh = this.fresh.shift(); fresh; fresh = this.fresh.shift()) await this.decideFresh(fresh);
    if ((await this.decideChanges()) > 0) return true;
    return (await this.runTimers()) > 0;
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
      { into: 'world', select: worldVersionIntoQuery('world'), expected: foreseen.version },
      { into: 'claimed', select: claimChangeIntoQuery('claimed', change.seq), expected: change.seq },
    ];
    if (!(await inOneTrip(this.parts.pool, guards, foreseen.queries))) return;
    this.announce(foreseen.effects);
    this.parts.onDecided([change]);
  }

  private async decideChanges(limit = BATCH): Promise<number> {
    const { pool, clock, site } = this.parts;
    let claimed: number[] = [];
    try {
      const done = await inShortTransaction(pool, [worldVersionQuery(true), claimChangesQuery(clock.now(), limit)], async (on, [world, queue]) => {
        const changes = (queue ?? []).map(toChange);
        claimed = changes.map((change) => change.seq);
        if (claimed.length === 0) return null;
        const inputs = changes.map((change): Input => ({ input: 'change', change }));
        const effects = await this.decideAll(on, Number(world?.[0]?.version), inputs);
        return { last: [...effectQueries(effects, clock.now(), site), decidedQuery(claimed)], result: { changes, effects } };
      });
      if (!done) return 0;
      this.announce(done.effects);
      this.parts.onDecided(done.changes);
      return done.changes.length;
    } catch (error) {
      // One bad change must not hold up the others: each is tried alone, and the bad one later again.
      if (claimed.length === 0) throw error;
      if (claimed.length > 1) return this.decideOneByOne();
      await this.putOff(claimed[0] as number, error);
      return 1;
    }
  }

  private async decideOneByOne(): Promise<number> {
    let count = 0;
    for (let tries = 0; tries < BATCH && (await this.decideChanges(1)) > 0; tries++) count++;
    return count;
  }

  private async putOff(seq: number, error: unknown): Promise<void> {
    this.parts.log.error({ err: error, seq }, 'a change could not be decided and is tried again later');
    const tries = (await one<{ tries: number }>(this.parts.pool, query('SELECT tries FROM change_queue WHERE change_seq = ?', seq)))?.tries ?? 0;
    await run(this.parts.pool, putOffQuery(seq, backOff(tries, this.parts.clock.now()), String(error)));
  }

  /** Runs timers of one instant together; they do not touch one another's rows. */
  private async runTimers(limit = BATCH): Promise<number> {
    const { pool, clock, site } = this.parts;
    let claimed: string[] = [];
    try {
      const effects = await inShortTransaction(pool, [worldVersionQuery(true), claimTimersQuery(clock.now() - GRACE_MS, limit)], async (on, [world, queue]) => {
        const due = queue as { id: string; due_at: Instant; payload: string }[];
        const at = due[0]?.due_at;
        claimed = [];
        // What happened before the timers' instant comes first; its rows may still be on their way.
        if (at === undefined || (await one(on, isUndecidedQuery(at)))) return null;
        const timers = due.filter((row) => row.due_at === at);
        claimed = timers.map((row) => row.id);
        const inputs = timers.map((row) => fromJson<Input>(row.payload));
        const told = inputs.flatMap((input) => (input.input === 'digest' ? [waitingDoneQuery(input.person, input.channel, input.at)] : []));
        const result = await this.decideAll(on, Number(world?.[0]?.version), inputs);
        return { last: [...effectQueries(result, clock.now(), site), timersDoneQuery(claimed), ...told], result };
      });
      if (!effects) return 0;
      this.announce(effects);
      return claimed.length;
    } catch (error) {
      const [first] = claimed;
      if (first === undefined) throw error;
      if (claimed.length > 1) return this.runTimers(1);
      this.parts.log.error({ err: error, timer: first }, 'a timer could not be run and is tried again later');
      await run(pool, putOffTimerQuery(first, backOff(1, clock.now()), String(error)));
      return 1;
    }
  }

  private async decideAll(on: PoolConnection, version: number, inputs: Input[]): Promise<Effect[]> {
    const directory = await this.parts.directory.at(on, version);
    const state = await readState(on, directory, inputs);
    return inputs.flatMap((input) => decide(state, input));
  }

  private announce(effects: Effect[]): void {
    const messages = effects.flatMap((effect) => (effect.effect === 'message' ? [effect.message] : []));
    const arrivals = messages.filter((message) => message.channel === 'inApp');
    if (arrivals.length > 0) this.parts.onArrivals(arrivals);
    if (messages.length > arrivals.length) this.parts.onOutgoing();
  }
}

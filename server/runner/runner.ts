import type { Pool, PoolConnection } from 'mysql2/promise';
import type { Logger } from 'pino';
import { decide, type Effect, type Input } from '../../core/decide/index.ts';
import type { Site } from '../../core/messages/index.ts';
import type { Instant } from '../../core/time/index.ts';
import {
  changesBySeqQuery, claimChangesQuery, claimTimersQuery, decidedQuery, type DirectoryCache, effectQueries, fromJson, inTransaction, isUndecidedQuery, messageId, one,
  putOffQuery, putOffTimerQuery, query, type Query, rows, run, runAll, type StoredChange, timersDoneQuery, toChange, waitingDoneQuery,
} from '../store/index.ts';
import { backOff, type Clock } from './clock.ts';
import { Loop } from './loop.ts';
import { readState } from './state.ts';

/** Told after the commit that made it so. */
export interface Arrival {
  message: string;
  person: string;
}

export interface RunnerParts {
  pool: Pool;
  directory: DirectoryCache;
  site: Site;
  clock: Clock;
  log: Logger;
  /** In-app messages that have just been committed. */
  onArrivals(arrivals: Arrival[]): void;
  /** There may be something to send. */
  onOutgoing(): void;
  /** Changes that have just been decided. */
  onDecided(changes: StoredChange[]): void;
}

const BATCH = 50;
/** A door's transaction may end a moment after the instant it bears; timers wait that long for it. */
const GRACE_MS = 250;

/** Claims changes and timers, decides them, and writes what follows in the transaction that claimed them. */
export class Runner {
  private readonly loop: Loop;

  constructor(private readonly parts: RunnerParts) {
    this.loop = new Loop('runner', () => this.turn(), 500, parts.log);
  }

  start = () => this.loop.start();
  stop = () => this.loop.stop();
  wake = () => this.loop.wake();

  /** Decides everything that is due now; returns when nothing is left. */
  async drain(): Promise<void> {
    while (await this.turn()) { /* the turn did something */ }
  }

  /** One round; whether it found anything to do. */
  private async turn(): Promise<boolean> {
    if ((await this.decideChanges()) > 0) return true;
    return (await this.runTimers()) > 0;
  }

  private async decideChanges(limit = BATCH): Promise<number> {
    const claimed: number[] = [];
    try {
      const done = await inTransaction(this.parts.pool, async (on) => {
        claimed.length = 0;
        const seqs = (await rows<{ change_seq: number }>(on, claimChangesQuery(this.parts.clock.now(), limit))).map((row) => row.change_seq);
        if (seqs.length === 0) return null;
        claimed.push(...seqs);
        const changes = (await rows(on, changesBySeqQuery(seqs))).map(toChange);
        const effects = await this.decideAll(on, changes.map((change) => ({ input: 'change', change })), [decidedQuery(seqs)]);
        return { changes, effects };
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
    const now = this.parts.clock.now() - GRACE_MS;
    const claimed: string[] = [];
    try {
      const effects = await inTransaction(this.parts.pool, async (on) => {
        claimed.length = 0;
        const due = await rows<{ id: string; due_at: Instant; payload: string }>(on, claimTimersQuery(now, limit));
        const at = due[0]?.due_at;
        // What happened before the timers' instant comes first; its rows may still be on their way.
        if (at === undefined || (await one(on, isUndecidedQuery(at)))) return null;
        const timers = due.filter((row) => row.due_at === at);
        claimed.push(...timers.map((row) => row.id));
        const inputs = timers.map((row) => fromJson<Input>(row.payload));
        const told = inputs.flatMap((input) => (input.input === 'digest' ? [waitingDoneQuery(input.person, input.channel, input.at)] : []));
        return this.decideAll(on, inputs, [timersDoneQuery(claimed), ...told]);
      });
      if (!effects) return 0;
      this.announce(effects);
      return claimed.length;
    } catch (error) {
      const [first] = claimed;
      if (first === undefined) throw error;
      if (claimed.length > 1) return this.runTimers(1);
      this.parts.log.error({ err: error, timer: first }, 'a timer could not be run and is tried again later');
      await run(this.parts.pool, putOffTimerQuery(first, backOff(1, this.parts.clock.now()), String(error)));
      return 1;
    }
  }

  private async decideAll(on: PoolConnection, inputs: Input[], done: Query[]): Promise<Effect[]> {
    const directory = await this.parts.directory.current(on, true);
    const state = await readState(on, directory, this.parts.site, inputs);
    const effects = inputs.flatMap((input) => decide(state, input));
    await runAll(on, [...effectQueries(effects, this.parts.clock.now()), ...done]);
    return effects;
  }

  private announce(effects: Effect[]): void {
    const messages = effects.flatMap((effect) => (effect.effect === 'message' ? [effect.message] : []));
    const arrivals = messages.filter((message) => message.channel === 'inApp').map((message) => ({ message: messageId(message), person: message.to }));
    if (arrivals.length > 0) this.parts.onArrivals(arrivals);
    if (messages.length > arrivals.length) this.parts.onOutgoing();
  }
}

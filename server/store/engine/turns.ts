import type { Instant } from '../../../core/time/index.ts';
import {
  type Decoder,
  instant,
  number,
  type Query,
  query,
  record,
  select,
  sqlTime,
  type Statement,
} from '../database/query.ts';

/** Takes the turn to decide, which every other server waits for. */
export const take = (): Statement => query('UPDATE world_version SET turn = turn + 1 WHERE id = 1');

/** What of one instant is decided first: rules' acts, then changes as they came, then what people did, then timers. */
export type Rank = 0 | 1 | 2 | 3;

/** A place in the one order in which everything is decided; `seq` tells changes of one instant apart. */
export interface OrderPlace {
  at: Instant;
  rank: Rank;
  seq: number;
}

/** Whether one place comes after another. What people did may share one, and so may timers: those come as they were written. */
export const isAfter = (one: OrderPlace, other: OrderPlace): boolean =>
  one.at > other.at ||
  (one.at === other.at &&
    (one.rank > other.rank || (one.rank === other.rank && (one.rank !== 1 || one.seq > other.seq))));

/** The world's version, the number of the turn, and where deciding stands. */
export const place = (): Query<{ version: number; number: number; decided: OrderPlace }> =>
  select(
    record({
      version: number('version'),
      number: number('turn'),
      decided: record<OrderPlace>({
        at: instant('decided_at'),
        rank: number('decided_rank') as Decoder<Rank>,
        seq: number('decided_seq'),
      }),
    }),
    'SELECT version, turn, decided_at, decided_rank, decided_seq FROM world_version WHERE id = 1',
  );
/** Writes down how far deciding has come. */
export const decidedTo = ({ at, rank, seq }: OrderPlace): Statement =>
  query(
    'UPDATE world_version SET decided_at = ?, decided_rank = ?, decided_seq = ? WHERE id = 1',
    sqlTime(at),
    rank,
    seq,
  );
/** Whether a place comes after all that is decided, as 1 or 0 into a variable; for transactions in one trip. */
export const isNextInto = (variable: string, { at, rank, seq }: OrderPlace): Statement =>
  query(
    `SELECT decided_at < ? OR (decided_at = ? AND (decided_rank < ? OR (decided_rank = ? AND decided_seq < ?))) INTO ${variable}
      FROM world_version
      WHERE id = 1`,
    sqlTime(at),
    sqlTime(at),
    rank,
    rank,
    seq,
  );

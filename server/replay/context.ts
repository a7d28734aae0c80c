import type { Pool } from 'mysql2/promise';
import type { Clock } from '../kit/index.ts';
import type { Counter } from './counter.ts';

/** What running over the past works with. */
export interface ReplayContext {
  pool: Pool;
  clock: Clock;
  counter: Counter;
}

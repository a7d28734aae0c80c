import type { TablePlan } from '../../core/tables/index.ts';
import { type Planning, plannedHere } from './planned.ts';
import { apart } from './working.ts';

/** From so many rows on a thread of its own is worth its beginning. */
const MANY = 2000;

/** What a table would come to: a long one in a thread of its own, so that nobody else waits for it. */
export const planApart = async (planning: Planning): Promise<TablePlan> =>
  planning.grid.rows.length < MANY ? plannedHere(planning) : apart<TablePlan>({ work: 'plan', planning });

import { number, type Query, query, select, type Statement } from '../database/query.ts';

/** The number of the world: raised whenever people, sources, access or rules change. */
export const version = (): Query<number> => select(number('version'), 'SELECT version FROM world_version WHERE id = 1');
/** The number into a variable, for a transaction in one trip; it takes the turn to decide. */
export const versionInto = (variable: string): Statement =>
  query(`SELECT version INTO ${variable} FROM world_version WHERE id = 1 FOR UPDATE`);
/** The number, held until the transaction is over: whoever raises it waits. */
export const versionLocked = (): Query<number> =>
  select(number('version'), 'SELECT version FROM world_version WHERE id = 1 FOR UPDATE');
/** Says to all processes that the directory is otherwise now. */
export const raise = (): Statement => query('UPDATE world_version SET version = version + 1 WHERE id = 1');

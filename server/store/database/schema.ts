import { number, nullable, type Query, query, record, select, type Statement, text } from './query.ts';

/** The tables of a database, by name. */
export const tables = (database: string): Query<string> =>
  select(
    text('name'),
    `SELECT table_name AS name
      FROM information_schema.tables
      WHERE table_schema = ? AND table_type = 'BASE TABLE'
      ORDER BY table_name`,
    database,
  );
/** The mark by which data says that it is a demo. */
export const demoMark = (database: string): Query<string> =>
  select(text('name'), `SELECT name FROM \`${database}\`.marks WHERE name = 'demo'`);
/** Waits its turn under a name, for some seconds: 1 where it has it. */
export const lock = (name: string, seconds: number): Query<number | null> =>
  select(nullable(number)('answer'), 'SELECT GET_LOCK(?, ?) AS answer', name, seconds);
/** Gives a named lock of this connection back. */
export const unlock = (name: string): Statement => query('DO RELEASE_LOCK(?)', name);
/** Makes a database, where there is none of the name. */
export const create = (database: string): Statement =>
  query(`CREATE DATABASE IF NOT EXISTS \`${database}\` CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci`);
/** Drops a database with all that is in it; whoever asks has made sure that it may. */
export const drop = (database: string): Statement => query(`DROP DATABASE IF EXISTS \`${database}\``);
/** Takes the tables of one database over into another, all at one instant. */
export const moveTables = (from: string, to: string, names: readonly string[]): Statement =>
  query(`RENAME TABLE ${names.map((name) => `\`${from}\`.\`${name}\` TO \`${to}\`.\`${name}\``).join(', ')}`);
/** How much there is in the database that a connection uses. */
export const size = (): Query<{ items: number; changes: number; messages: number }> =>
  select(
    record({ items: number('items'), changes: number('changes'), messages: number('messages') }),
    'SELECT (SELECT COUNT(*) FROM items) AS items, (SELECT COUNT(*) FROM changes) AS changes, (SELECT COUNT(*) FROM messages) AS messages',
  );
/** Puts what a backup has of a house's audit trail (in the table `entries` of the database in use) where it belongs, unless there is some of it already. */
export const takeAudit = (house: string): Statement =>
  query(
    `INSERT INTO audit_ojo.entries (house, at, kind, actor, origin, about)
     SELECT ?, at, kind, actor, origin, about FROM entries
     WHERE NOT EXISTS (SELECT 1 FROM (SELECT 1 FROM audit_ojo.entries WHERE house = ? LIMIT 1) known) ORDER BY seq`,
    house,
    house,
  );
/** Drops a table of the database in use. */
export const dropTable = (name: string): Statement => query(`DROP TABLE IF EXISTS \`${name}\``);

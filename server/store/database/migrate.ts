import { readdirSync, readFileSync } from 'node:fs';
import type { Pool } from 'mysql2/promise';
import { one, patient, rows, run } from './connection.ts';
import { number, nullable, query, select } from './query.ts';

const FOLDER = new URL('../../migrations/', import.meta.url);

/** The database holds a later version than this program knows: it must be left as it is. */
export class NewerDataError extends Error {}

/** Brings the database to the newest version: numbered SQL files, forward only, one program at a time. Returns how many ran. */
export async function migrate(pool: Pool): Promise<number> {
  const connection = await pool.getConnection();
  // Tables are made and changed: that takes as long as the disk takes.
  patient.add(connection);
  try {
    const lock = await one(
      connection,
      select(nullable(number)('answer'), "SELECT GET_LOCK(CONCAT(DATABASE(), '/migrate'), 60) AS answer"),
    );
    if (lock !== 1) throw new Error('Another Ojo is changing the database and has not finished within a minute.');
    await run(
      connection,
      query(
        'CREATE TABLE IF NOT EXISTS migrations (number INT NOT NULL PRIMARY KEY, name VARCHAR(200) NOT NULL, ran_at DATETIME(3) NOT NULL DEFAULT NOW(3))',
      ),
    );
    const files = readdirSync(FOLDER)
      .filter((name) => name.endsWith('.sql'))
      .sort();
    const done = new Set(await rows(connection, select(number('number'), 'SELECT number FROM migrations')));
    const newest = Math.max(0, ...files.map(numberOf));
    const beyond = [...done].find((number) => number > newest);
    if (beyond !== undefined)
      throw new NewerDataError(
        `The data is of version ${beyond}, this Ojo knows versions up to ${newest}. Start the newer Ojo; nothing was changed.`,
      );
    const open = files.filter((name) => !done.has(numberOf(name)));
    for (const name of open) {
      await connection.query(readFileSync(new URL(name, FOLDER), 'utf8'));
      await run(connection, query('INSERT INTO migrations (number, name) VALUES (?, ?)', numberOf(name), name));
    }
    return open.length;
  } finally {
    await run(connection, query("DO RELEASE_LOCK(CONCAT(DATABASE(), '/migrate'))")).catch(() => undefined);
    patient.delete(connection);
    connection.release();
  }
}

const numberOf = (name: string) => Number.parseInt(name, 10);

import { createHash, randomBytes } from 'node:crypto';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Pool } from 'mysql2/promise';
import { pino } from 'pino';
import { ruleSchema } from '../contract/documents/index.ts';
import { publishRule } from '../server/acts/index.ts';
import { type Ojo, startMariaDb, startOjo } from '../server/boot/index.ts';
import { editItem } from '../server/intake/index.ts';
import { systemClock } from '../server/kit/index.ts';
import { inTransaction, openPool, query, run, store } from '../server/store/index.ts';
import { LOANS, prepare } from './museum.ts';

/** A server with a thousand live rules and three hundred people signed in, of whom each may read all. */
export interface FullHouse {
  pool: Pool;
  ojo: Ojo;
  /** The cookie of each of the people, by place. */
  cookies: string[];
  /** Sets a new loan on view, of which person `who` is the registrar; answers at which instant it was committed. */
  change(number: number, who: number): Promise<number>;
  close(): Promise<void>;
}

/** How much there is in a house. */
export interface Size {
  rules: number;
  people: number;
  /** Items that nothing happens to. */
  items: number;
}
const FULL: Size = { rules: 1000, people: 300, items: 0 };

const clockNow = () => performance.timeOrigin + performance.now();

/** One rule tells the registrar of a loan that goes on view; the others wait for loans with other names. */
const ruleAt = (at: number) =>
  ruleSchema.parse({
    id: `rule-${at}`,
    name: `Rule ${at}`,
    owner: 'ines',
    scope: { sources: ['loans'] },
    when: {
      if: {
        all: [
          { became: { field: 'status', op: 'is', value: 'On view' } },
          ...(at === 0 ? [] : [{ field: 'title', op: 'contains', value: `reed gate ${at}` }]),
        ],
      },
    },
    to: [{ field: 'registrar' }],
    channels: ['inApp'],
  });

async function people(pool: Pool, count: number): Promise<string[]> {
  const ids = Array.from({ length: count }, (_, at) => `p${at}`);
  const tokens = ids.map(() => randomBytes(32).toString('hex'));
  const rows = ids.map((id) => [id, id, 'Europe/Madrid', 'en-GB', 'member', '']);
  await run(pool, query('INSERT INTO people (id, name, zone, locale, role, password_hash) VALUES ?', rows));
  await run(pool, query("INSERT INTO groups_of_people VALUES ('all', 'All')"));
  await run(
    pool,
    query(
      'INSERT INTO group_members VALUES ?',
      ids.map((id) => ['all', 'person', id]),
    ),
  );
  await run(
    pool,
    query('UPDATE access_entries SET readers = ?', JSON.stringify([{ group: 'all' }, { person: 'mei' }])),
  );
  for (const [at, id] of ids.entries()) {
    const hash = createHash('sha256')
      .update(tokens[at] ?? '')
      .digest('hex');
    await run(
      pool,
      store.sessions.open(hash, {
        person: id,
        at: Date.now(),
        expires: Date.now() + 86_400_000,
        agent: '',
        origin: null,
        isByHouse: false,
      }),
    );
  }
  return tokens.map((token) => `ojo-session=${token}`);
}

/** Items as an import leaves them, all at once. */
async function addItems(pool: Pool, count: number): Promise<void> {
  for (let done = 0; done < count; done += 10_000)
    await run(
      pool,
      query(
        `INSERT INTO items (id, source_id, title, fields, version, created_by, created_at, last_by, last_at)
         SELECT CONCAT('still-', seq), 'loans', CONCAT('Loan ', seq), JSON_OBJECT('title', CONCAT('Loan ', seq), 'status', 'Agreed'), 1, 'mei', NOW(3), 'mei', NOW(3)
         FROM seq_1_to_${count} WHERE seq > ? AND seq <= ?`,
        done,
        done + 10_000,
      ),
    );
}

/** Makes such a house in an empty database, and starts a server of it. */
export async function openFullHouse({ rules, people: howMany, items }: Size = FULL): Promise<FullHouse> {
  const folder = mkdtempSync(join(tmpdir(), 'ojo-bench-'));
  const port = Number(process.env.OJO_BENCH_DATABASE_PORT ?? 4511);
  const database = await startMariaDb(folder, port, 'only-for-the-bench');
  const first = openPool(database.connecting, 1, true);
  await run(first, query('CREATE DATABASE ojo_bench'));
  await first.end();
  const pool = openPool({ ...database.connecting, database: 'ojo_bench' }, 10);
  await prepare(pool);
  const cookies = await people(pool, howMany);
  await addItems(pool, items);
  await inTransaction(pool, async (on) => {
    await run(on, query("UPDATE rule_phases SET until = NOW(3) WHERE rule_id = 'on-view'"));
    for (let at = 0; at < rules; at++) {
      await run(on, store.rules.create(ruleAt(at), 'ines', Date.now()));
      await publishRule(on, ruleAt(at), 1, 'ines', Date.now() - 1000);
    }
    await run(on, store.world.raise());
  });
  const carrier = { carry: async () => '250 kept', close: () => undefined };
  const ojo = await startOjo({
    pool,
    clock: systemClock,
    log: pino({ level: 'silent' }),
    site: { base: 'http://localhost', name: 'Ojo' },
    mail: { url: '', from: { name: '', address: '' } },
    reports: null,
    text: { url: '', token: '' },
    webhooks: { isInsideAllowed: true },
    demoPassword: null,
    pages: null,
    port: 0,
    carriers: { email: carrier, text: carrier, webhook: carrier },
  });
  return {
    pool,
    ojo,
    cookies,
    async change(number, who) {
      const item = `L-${number}`;
      const set = { title: `Tidal Loom (${item})`, status: 'On view', registrar: `p${who}` };
      const done = await editItem(
        pool,
        { actor: 'mei', source: LOANS, item, kind: 'created', set, at: Date.now() },
        ojo.runner.foresee,
      );
      const committed = clockNow();
      ojo.runner.wake(done.outcome === 'saved' ? done.change : undefined);
      return committed;
    },
    async close() {
      await ojo.stop();
      await pool.end();
      await database.stop();
      rmSync(folder, { recursive: true, force: true });
    },
  };
}

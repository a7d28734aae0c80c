import { raw } from './raw.ts';
import { hash } from '@node-rs/argon2';
import type { Connection as CoreConnection, QueryOptions } from 'mysql2';
import type { Pool, PoolConnection } from 'mysql2/promise';
import { afterAll, beforeAll, inject } from 'vitest';
import { ruleSchema } from '../../contract/documents/index.ts';
import type { Rule } from '../../core/rules/index.ts';
import { instantOf } from '../../core/time/index.ts';
import type { Fields, Source } from '../../core/values/index.ts';
import { type Carrier, type DeliveryError, type Parcel, Sender } from '../delivery/index.ts';
import { publishRule } from '../acts/index.ts';
import { editItem } from '../intake/index.ts';
import { SignedLinks } from '../signed-links/index.ts';
import { type Clock, SettableClock } from '../kit/index.ts';
import { Runner } from '../runner/index.ts';
import {
  DirectoryCache,
  inTransaction,
  migrate,
  openPool,
  query,
  rows,
  run,
  type StoredChange,
  store,
} from '../store/index.ts';
import { quietLog } from './quiet.ts';

export const NOON = instantOf('2026-03-04T12:00:00Z');
export const PASSWORD = 'reed-gate';

export const LOANS: Source = {
  id: 'loans',
  kind: 'records',
  name: 'Loan agreements',
  titleField: 'title',
  fields: [
    { id: 'title', name: 'Loan', type: 'text' },
    { id: 'status', name: 'Status', type: 'choice', options: ['Requested', 'Agreed', 'On view', 'Returned'] },
    { id: 'registrar', name: 'Registrar', type: 'person' },
    { id: 'insured', name: 'Insured value', type: 'money' },
    { id: 'due', name: 'Due back', type: 'date' },
    { id: 'note', name: 'Note', type: 'longText' },
  ],
};

const PEOPLE: [id: string, role: string, phone: string | null][] = [
  ['ines', 'coordinator', '+34600555014'],
  ['mei', 'member', null],
  ['wren', 'member', null],
  ['petra', 'member', null],
  ['marisol', 'steward', null],
];

export const ON_VIEW = rule({
  id: 'on-view',
  name: 'Loan goes on view',
  owner: 'ines',
  urgency: 'important',
  zone: 'Europe/Madrid',
  scope: { sources: ['loans'] },
  when: { if: { became: { field: 'status', op: 'is', value: 'On view' } } },
  to: [{ field: 'registrar' }, { group: 'insurers' }],
  channels: ['inApp', 'email'],
});

export function rule(document: Record<string, unknown>): Rule {
  return ruleSchema.parse(document);
}

/** A small museum in a database of its own, made anew for a test file. */
export function setUpMuseum() {
  const museum = { pool: null as unknown as Pool, clock: new SettableClock(NOON) };
  const name = `ojo_test_${process.pid}_${Math.floor(performance.now() * 1000)}`;
  beforeAll(async () => {
    const connecting = inject('connecting');
    const first = openPool(connecting, 1, true);
    await run(first, query(`CREATE DATABASE ${name}`));
    await first.end();
    museum.pool = openPool({ ...connecting, database: name });
    await migrate(museum.pool);
    await layOut(museum.pool);
  });
  afterAll(async () => {
    await run(museum.pool, query(`DROP DATABASE ${name}`));
    await museum.pool.end();
  });
  return Object.assign(museum, { database: name });
}

async function layOut(pool: Pool): Promise<void> {
  const secret = await hash(PASSWORD, { memoryCost: 8192, timeCost: 1, parallelism: 1 });
  await run(
    pool,
    query(
      'INSERT INTO people (id, name, email, phone, zone, locale, role, password_hash) VALUES ?',
      PEOPLE.map(([id, role, phone]) => [
        id,
        id.replace(/^./, (first) => first.toUpperCase()),
        `${id}@marisma.example`,
        phone,
        'Europe/Madrid',
        'en-GB',
        role,
        secret,
      ]),
    ),
  );
  await run(
    pool,
    query("INSERT INTO groups_of_people (id, name) VALUES ('insurers', 'Insurers'), ('readers', 'Readers')"),
  );
  await run(
    pool,
    query(
      "INSERT INTO group_members (group_id, kind, member_id) VALUES ('insurers', 'person', 'mei'), ('insurers', 'person', 'wren'), ('insurers', 'person', 'petra'), ('readers', 'person', 'mei'), ('readers', 'person', 'wren'), ('readers', 'person', 'ines'), ('readers', 'person', 'marisol')",
    ),
  );
  await run(
    pool,
    query('INSERT INTO sources (id, kind, name, about, title_field, fields, position) VALUES (?)', [
      LOANS.id,
      LOANS.kind,
      LOANS.name,
      '',
      LOANS.titleField,
      JSON.stringify(LOANS.fields),
      0,
    ]),
  );
  await run(
    pool,
    query('INSERT INTO access_entries (source_id, readers) VALUES (?)', [
      'loans',
      JSON.stringify([{ group: 'readers' }, { field: 'registrar' }]),
    ]),
  );
  await run(pool, store.world.raise());
}

export const putLive = (pool: Pool, document: Rule, at: number): Promise<void> =>
  inTransaction(pool, async (on) => {
    await run(on, store.rules.create(document, document.owner, at));
    await publishRule(on, document, 1, document.owner, at);
  });

const TABLES = [
  'changes',
  'change_queue',
  'act_queue',
  'items',
  'rules',
  'rule_versions',
  'rule_phases',
  'alerts',
  'alert_changes',
  'messages',
  'message_alerts',
  'withheld',
  'dropped',
  'timers',
  'engine_rows',
  'decided_acts',
  'rule_troubles',
  'set_aside',
  'contacts',
];

/** Empties all that a test has filled: everything but people and sources. */
export async function clearAway(pool: Pool): Promise<void> {
  for (const table of TABLES) await run(pool, query(`DELETE FROM ${table}`));
  await run(pool, store.turns.decidedTo({ at: 0, rank: 0, seq: 0 }));
  await run(pool, store.world.raise());
}

/** A pool whose connections break off at the given statement, as if the process had been killed there. */
export function breakingPool(pool: Pool, at: number): { pool: Pool; wasBroken: () => boolean } {
  let statements = 0;
  let broken = false;
  const isKilledHere = (connection: PoolConnection): boolean => {
    if (!broken && ++statements !== at) return false;
    broken = true;
    connection.destroy();
    return true;
  };
  const getConnection = async () => {
    const connection = await pool.getConnection();
    const core = connection.connection as unknown as CoreConnection;
    const watched = (target: object, query: (...words: unknown[]) => unknown, more: Record<string, unknown> = {}) =>
      new Proxy(target, {
        get(from, key) {
          if (key === 'query') return query;
          if (typeof key === 'string' && key in more) return more[key];
          const value = Reflect.get(from, key) as unknown;
          return typeof value === 'function' ? value.bind(from) : value;
        },
      });
    const ask = (options: QueryOptions, answer: (error: Error | null, result?: unknown) => void) =>
      isKilledHere(connection) ? answer(new Error('killed')) : core.query(options, answer);
    return watched(
      connection,
      (sql) => (isKilledHere(connection) ? Promise.reject(new Error('killed')) : connection.query(sql as string)),
      { connection: watched(core as object, ask as (...words: unknown[]) => unknown) },
    );
  };
  // A dead process writes nothing by other connections either.
  const ask = (...words: unknown[]) =>
    broken ? Promise.reject(new Error('killed')) : pool.query(...(words as Parameters<Pool['query']>));
  return { pool: { getConnection, query: ask } as unknown as Pool, wasBroken: () => broken };
}

let made = 0;

/** A new loan that stands as given; its id. */
export async function newLoan(pool: Pool, set: Fields, at = NOON): Promise<string> {
  const id = `L-${++made}`;
  await editItem(pool, {
    actor: 'ines',
    source: LOANS,
    item: id,
    kind: 'created',
    set: { title: `Loan ${id}`, ...set },
    at,
  });
  return id;
}

export const edit = (
  pool: Pool,
  item: string,
  set: Fields,
  more: { actor?: string; from?: number; at?: number } = {},
) =>
  editItem(pool, {
    actor: more.actor ?? 'wren',
    source: LOANS,
    item,
    kind: 'changed',
    set,
    at: more.at ?? NOON,
    ...(more.from === undefined ? {} : { from: more.from }),
  });

/** A carrier that keeps what it is handed, or fails as it is told. */
export class KeepingCarrier implements Carrier {
  readonly taken: Parcel[] = [];
  failure: DeliveryError | null = null;

  async carry(parcel: Parcel): Promise<string> {
    if (this.failure) throw this.failure;
    this.taken.push(parcel);
    return '250 kept';
  }

  close(): void {
    // holds nothing open
  }
}

const SITE = { base: 'https://ojo.example', name: 'Ojo' };

export function makeRunner(
  pool: Pool,
  clock: Clock,
  directory = new DirectoryCache(),
  onDecided: (changes: StoredChange[]) => void = () => undefined,
): Runner {
  return new Runner({
    pool,
    directory,
    site: SITE,
    clock,
    log: quietLog,
    onArrivals: () => undefined,
    onOutgoing: () => undefined,
    onDecided,
  });
}

export function makeSender(
  pool: Pool,
  clock: SettableClock,
  carriers: { email: Carrier; text: Carrier; webhook?: Carrier },
  mostMs?: number,
  patienceMs?: number,
): Sender {
  return new Sender({
    pool,
    directory: new DirectoryCache(),
    site: SITE,
    clock,
    log: quietLog,
    signedLinks: new SignedLinks(pool),
    carriers: { webhook: new KeepingCarrier(), ...carriers },
    reports: null,
    onNobodyThere: () => Promise.resolve([]),
    onFate: () => undefined,
    ...(mostMs === undefined ? {} : { mostMs }),
    ...(patienceMs === undefined ? {} : { patienceMs }),
  });
}

/** All messages as `person channel fate`, in order. */
export async function fates(pool: Pool): Promise<string[]> {
  const found = await rows(
    pool,
    raw<{ person_id: string; channel: string; fate: string; subject: string }>(
      'SELECT person_id, channel, fate, subject FROM messages ORDER BY subject, person_id, channel',
    ),
  );
  return found.map((row) => `${row.person_id} ${row.channel} ${row.fate}: ${row.subject}`);
}

export async function withheld(pool: Pool): Promise<string[]> {
  const found = await rows(
    pool,
    raw<{ person_id: string; reason: string; item_id: string }>(
      'SELECT person_id, reason, item_id FROM withheld ORDER BY item_id, person_id',
    ),
  );
  return found.map((row) => `${row.item_id} ${row.person_id}: ${row.reason}`);
}

import { fromJson, raw } from '../server/testing/raw.ts';
import { type ChildProcess, spawn } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as delay } from 'node:timers/promises';
import { fileURLToPath } from 'node:url';
import type { Pool } from 'mysql2/promise';
import { ruleSchema, scenarioSchema } from '../contract/documents/index.ts';
import { simulate } from '../core/decide/index.ts';
import { printInstant } from '../core/time/index.ts';
import { ownSecret, startMariaDb } from '../server/boot/index.ts';
import { publishRule } from '../server/acts/index.ts';
import { systemClock } from '../server/kit/index.ts';
import { startMailStandIn } from '../server/standins/index.ts';
import { inTransaction, one, openPool, query, rows, run, sqlTime, store } from '../server/store/index.ts';
import { logOf } from '../server/testing/log.ts';
import { prepare } from './museum.ts';

/**
 * Three servers on one database, a webhook that never answers, people who edit, pause, publish, read and acknowledge;
 * every twenty seconds a server is killed without warning, now and then MariaDB. At the end: every edit that was said to be
 * kept stands in the trail once, everything is decided once, the log replays to the same alerts and messages, every
 * email has arrived under one Message-ID. `OJO_DRILL_SECONDS` and `OJO_DRILL_KILLS` make it shorter.
 */
const LASTS_S = Number(process.env.OJO_DRILL_SECONDS ?? 600);
const KILLS = Number(process.env.OJO_DRILL_KILLS ?? 30);
const FIRST_PORT = Number(process.env.OJO_DRILL_PORT ?? 4610);
const SERVERS = 3;
const WRITERS = 6;
/** Whatever nothing happens to for so long does not happen any more, in ms. */
const PATIENCE_MS = 120_000;
/** One kill in so many is MariaDB's. */
const DATABASE_EVERY = 6;
const ROOT = fileURLToPath(new URL('../', import.meta.url));
const PORTS = {
  database: FIRST_PORT + 1,
  mail: FIRST_PORT + 2,
  hook: FIRST_PORT + 4,
  web: (server: number) => FIRST_PORT + 10 + server,
};

const say = (text: string) => process.stdout.write(`${text}\n`);
const folder = mkdtempSync(join(tmpdir(), 'ojo-drill-'));

const loans = (id: string, more: Record<string, unknown>) =>
  ruleSchema.parse({
    id,
    name: id,
    owner: 'ines',
    scope: { sources: ['loans'] },
    to: [{ field: 'registrar' }, { person: 'mei' }],
    channels: ['inApp', 'email'],
    ...more,
  });
const RULES = [
  loans('hooked', { when: { if: { changed: 'status' } }, to: [{ webhook: 'dead' }] }),
  loans('paused', { when: { if: { changed: 'title' } } }),
  loans('settled', { when: { if: { changed: 'title' } }, pace: { kind: 'settled', quiet: 'PT2S', most: 'PT8S' } }),
  loans('acked', {
    urgency: 'critical',
    when: { if: { became: { field: 'status', op: 'is', value: 'On view' } } },
    to: [{ person: 'wren' }],
    ack: { remind: { after: 'PT5S', times: 2 }, escalate: [{ after: 'PT8S', to: [{ person: 'sol' }] }] },
  }),
];

/** A server with whoever brings it back. */
class Server {
  private readonly keeper: ChildProcess;
  private said = '';

  constructor(readonly number: number) {
    this.keeper = spawn(process.execPath, ['bin/start.mjs'], {
      cwd: ROOT,
      stdio: ['ignore', 'pipe', 'pipe'],
      env: {
        ...process.env,
        OJO_DATA: folder,
        OJO_DEMO: 'no',
        OJO_PORT: String(PORTS.web(number)),
        OJO_DATABASE_PORT: String(PORTS.database),
        OJO_SMTP_URL: `smtp://127.0.0.1:${PORTS.mail}`,
        OJO_TEXT_URL: 'http://127.0.0.1:1/',
        OJO_LOG: 'fatal',
      },
    });
    for (const stream of [this.keeper.stdout, this.keeper.stderr])
      stream?.on('data', (part) => {
        this.said += String(part);
      });
  }

  async ready(): Promise<void> {
    while (!/Ojo is at/.test(this.said)) await delay(100);
  }

  /** Kills the server, not its keeper; whether there was one just then. */
  kill(): boolean {
    const found = readFileSync(`/proc/${this.keeper.pid}/task/${this.keeper.pid}/children`, 'utf8')
      .trim()
      .split(' ')
      .filter(Boolean);
    for (const pid of found) process.kill(Number(pid), 'SIGKILL');
    return found.length > 0;
  }

  async stop(): Promise<void> {
    const gone = new Promise((resolve) => {
      this.keeper.once('exit', resolve);
    });
    this.keeper.kill('SIGTERM');
    await gone;
  }
}

interface Answer {
  status: number;
  // biome-ignore lint/suspicious/noExplicitAny: answers have every shape
  body: any;
}

/** Asks one server or another until one answers; whatever is sent again goes under the same key. */
async function ask(
  path: string,
  as: string,
  method = 'GET',
  body?: object,
  key = crypto.randomUUID(),
): Promise<Answer> {
  for (let tries = 0; ; tries++) {
    const url = `http://127.0.0.1:${PORTS.web((tries + path.length) % SERVERS)}/api${path}`;
    try {
      const response = await fetch(url, {
        method,
        headers: { cookie: cookies.get(as) ?? '', 'content-type': 'application/json', 'idempotency-key': key },
        ...(body ? { body: JSON.stringify(body) } : {}),
        signal: AbortSignal.timeout(12_000),
      });
      if (response.status < 500) {
        if (path === '/session' && response.ok)
          cookies.set(as, response.headers.get('set-cookie')?.split(';')[0] ?? '');
        return { status: response.status, body: response.status === 204 ? null : await response.json() };
      }
    } catch {
      // It is away just now.
    }
    await delay(100);
  }
}
const cookies = new Map<string, string>();
const signIn = (name: string) => ask('/session', name, 'POST', { name, password: 'bench-bench' });

const kept: { item: string; title: string }[] = [];

async function write(writer: number, isOver: () => boolean): Promise<void> {
  const as = ['ines', 'mei', 'wren', 'sol'][writer % 4] ?? 'ines';
  const { body: made } = await ask('/sources/loans/items', as, 'POST', {
    set: { title: `Loan ${writer}`, status: 'Agreed', registrar: 'ines' },
  });
  let version = Number(made.version);
  for (let edit = 0; !isOver(); edit++) {
    const title = `Loan ${writer}, edit ${edit}`;
    const { status, body } = await ask(`/items/${made.id}`, as, 'PATCH', {
      from: version,
      set: { title, status: edit % 2 === 0 ? 'On view' : 'Agreed' },
    });
    if (status !== 200) throw new Error(`an edit was answered with ${status}: ${JSON.stringify(body)}`);
    version = Number(body.version);
    kept.push({ item: String(made.id), title });
    await delay(200);
  }
}

async function meddle(isOver: () => boolean): Promise<void> {
  for (let step = 0; !isOver(); step++) {
    await ask('/rules/acts', 'ines', 'POST', {
      act: step % 2 === 0 ? 'pause' : 'resume',
      ids: ['paused'],
      ...(step % 2 === 0 ? {} : { catchUp: ['each', 'summary', 'skip'][step % 3] }),
    });
    const { body: inbox } = await ask('/inbox', 'wren');
    const ids = (inbox.messages as { id: string }[]).slice(0, 3).map(({ id }) => id);
    if (ids.length > 0) await ask('/inbox/acknowledge', 'wren', 'POST', { ids });
    await delay(1500);
  }
}

async function check(pool: Pool, start: number): Promise<string[]> {
  const wrong: string[] = [];
  const trail = await rows(
    pool,
    raw<{ item_id: string; title: string; times: number }>(
      "SELECT item_id, JSON_VALUE(fields_after, '$.title') AS title, COUNT(*) AS times FROM changes GROUP BY 1, 2",
    ),
  );
  const times = new Map(trail.map((row) => [`${row.item_id} ${row.title}`, Number(row.times)]));
  const lost = kept.filter(({ item, title }) => times.get(`${item} ${title}`) !== 1);
  if (lost.length > 0)
    wrong.push(`${lost.length} of ${kept.length} edits that were said to be kept do not stand in the trail once`);
  const end = systemClock.now() - 1000;
  const log = JSON.stringify(await logOf(pool, start, end));
  writeFileSync(join(folder, 'log.json'), log);
  const outcome = simulate(scenarioSchema.parse(JSON.parse(log)));
  const alerts = await rows(
    pool,
    raw<{ rule_id: string; at: number; items: string; changes: string }>(
      'SELECT rule_id, at, items, changes FROM alerts WHERE at <= ?',
      sqlTime(end),
    ),
  );
  const differs = (name: string, ours: string[], theirs: string[]) => {
    const [left, right] = [new Set(ours), new Set(theirs)];
    const odd = [...ours.filter((line) => !right.has(line)), ...theirs.filter((line) => !left.has(line))];
    if (odd.length > 0 || ours.length !== theirs.length)
      wrong.push(
        `${odd.length} ${name} differ from the replayed log (${folder}), of ${ours.length} and ${theirs.length}: ${odd.sort().slice(0, 4).join(' / ')}`,
      );
  };
  differs(
    'alerts',
    alerts.map(
      (row) =>
        `${printInstant(row.at)} ${row.rule_id} ${fromJson<string[]>(row.items)} ${fromJson<string[]>(row.changes)}`,
    ),
    outcome.alerts.map((row) => `${row.at} ${row.rule} ${row.items} ${row.changes}`),
  );
  const messages = await rows(
    pool,
    raw<{
      id: string;
      person_id: string;
      channel: string;
      at: number;
      form: string;
      fate: string;
    }>('SELECT id, person_id, channel, at, form, fate FROM messages WHERE at <= ? AND form NOT IN (?)', sqlTime(end), [
      'notice',
    ]),
  );
  differs(
    'messages',
    messages.map((row) => `${printInstant(row.at)} ${row.person_id} ${row.channel} ${row.form}`),
    outcome.messages.map((row) => `${row.at} ${row.to} ${row.channel} ${row.form}`),
  );
  const mails = await rows(
    pool,
    raw<{ message_id: string; times: number }>(
      'SELECT message_id, COUNT(*) AS times FROM standin_mail GROUP BY message_id',
    ),
  );
  const arrived = new Set(mails.map((row) => row.message_id.replace(/^<|@.*$/g, '')));
  const missing = messages.filter(
    (row) => row.channel === 'email' && (!arrived.has(row.id) || row.fate !== 'delivered'),
  );
  if (missing.length > 0) wrong.push(`${missing.length} emails have not arrived`);
  const strange = [...arrived].filter((id) => !messages.some((row) => row.id === id));
  if (strange.length > 0) wrong.push(`${strange.length} emails bear an id that no message has`);
  const open = await one(
    pool,
    raw<{ left_over: number }>(
      'SELECT (SELECT COUNT(*) FROM change_queue) + (SELECT COUNT(*) FROM act_queue) + (SELECT COUNT(*) FROM set_aside) + (SELECT COUNT(*) FROM rule_troubles) AS left_over',
    ),
  );
  if (Number(open?.left_over) > 0) wrong.push(`${open?.left_over} inputs are undecided or set aside`);
  const sent = mails.reduce((sum, row) => sum + Number(row.times), 0);
  say('What came of it:');
  account('edits said to be kept', kept.length, 'each stands in the trail once', lost.length);
  account('alerts', alerts.length, 'the log, replayed, gives the same', outcome.alerts.length - alerts.length);
  account('messages', messages.length, 'the log, replayed, gives the same', outcome.messages.length - messages.length);
  account(
    'emails',
    mails.length,
    `each has arrived under its one id, ${sent - mails.length} of them twice`,
    missing.length,
  );
  account('left over', Number(open?.left_over), 'undecided, set aside, or in trouble', Number(open?.left_over));
  return wrong;
}

/** A line of the account: how many, what holds of them, and of how many it does not. */
const account = (what: string, count: number, holds: string, not: number) =>
  say(
    `  ${what.padEnd(24)}${String(count).padStart(7)}   ${not === 0 ? holds : `${holds}: not so of ${Math.abs(not)}`}`,
  );

/** Kills one after another, evenly over the time. */
async function kill(servers: readonly Server[]): Promise<void> {
  for (let number = 1; number <= KILLS; number++) {
    await delay((LASTS_S * 1000) / (KILLS + 1));
    const isDatabase = number % DATABASE_EVERY === 0;
    const server = number % SERVERS;
    if (isDatabase) process.kill(Number(readFileSync(join(folder, 'mariadb/mariadb.pid'), 'utf8')), 'SIGKILL');
    // One that is just being brought back is waited for.
    else while (!servers[server]?.kill()) await delay(100);
    say(`kill ${number}: ${isDatabase ? 'MariaDB' : `server ${server}`}`);
  }
}

/** Waits until what falls due within seconds of the last edit has been told, and every email is away; two minutes in which nothing of it gets done are the end. */
async function settle(pool: Pool): Promise<void> {
  const open = async () => {
    const row = await one(
      pool,
      raw<{ open: number }>(
        "SELECT (SELECT COUNT(*) FROM change_queue) + (SELECT COUNT(*) FROM act_queue) + (SELECT COUNT(*) FROM timers WHERE due_at < ?) + (SELECT COUNT(*) FROM messages WHERE channel = 'email' AND fate IN ('waiting', 'sending')) AS open",
        sqlTime(systemClock.now() + 10_000),
      ),
    ).catch(() => undefined);
    return Number(row?.open ?? Number.POSITIVE_INFINITY);
  };
  let least = await open();
  say(`all have been killed; ${least} inputs, timers and emails are still under way`);
  for (let limit = performance.now() + PATIENCE_MS; least > 0 && performance.now() < limit; ) {
    await delay(500);
    const left = await open();
    if (left >= least) continue;
    least = left;
    limit = performance.now() + PATIENCE_MS;
  }
  await delay(2000);
}

async function drill(pool: Pool, servers: Server[]): Promise<boolean> {
  const start = systemClock.now() - 2000;
  for (const rule of RULES) {
    await inTransaction(pool, async (on) => {
      await run(on, store.rules.create(rule, rule.owner, systemClock.now()));
      await publishRule(on, rule, 1, rule.owner, systemClock.now());
    });
  }
  for (let number = 0; number < SERVERS; number++) servers.push(new Server(number));
  await Promise.all(servers.map((server) => server.ready()));
  for (const name of ['ines', 'mei', 'wren', 'sol']) await signIn(name);
  say(`${SERVERS} servers are up; ${KILLS} kills in ${LASTS_S} s begin`);
  const until = performance.now() + LASTS_S * 1000;
  const isOver = () => performance.now() > until;
  await Promise.all([
    kill(servers),
    meddle(isOver),
    ...Array.from({ length: WRITERS }, (_, writer) => write(writer, isOver)),
  ]);
  await settle(pool);
  const wrong = await check(pool, start);
  say(
    `${KILLS} kills: ${wrong.length === 0 ? 'nothing is lost, nothing is told twice, the log replays alike' : wrong.join('; ')}`,
  );
  return wrong.length === 0;
}

const hook = createServer(() => undefined).listen(PORTS.hook, '127.0.0.1');
const database = await startMariaDb(folder, PORTS.database, ownSecret(folder, 'database-password'));
const first = openPool(database.connecting, 1, true);
await run(first, query('CREATE DATABASE ojo'));
await first.end();
const pool = openPool({ ...database.connecting, database: 'ojo' }, 6, true);
await prepare(pool);
await run(
  pool,
  query("INSERT INTO webhooks (id, url, secret) VALUES ('dead', ?, 's')", `http://127.0.0.1:${PORTS.hook}/`),
);
const mail = await startMailStandIn({ pool, clock: systemClock, port: PORTS.mail, reportsPort: null });
const servers: Server[] = [];
let isRight = false;
try {
  isRight = await drill(pool, servers);
} finally {
  for (const server of servers) await server.stop();
  await mail.close();
  await pool.end();
  hook.closeAllConnections();
  hook.close();
  await database.stop();
}
process.exitCode = isRight ? 0 : 1;

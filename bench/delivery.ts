import { mkdtempSync, rmSync } from 'node:fs';
import { createServer, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pino } from 'pino';
import { startMariaDb, startOjo } from '../server/boot/index.ts';
import { editItem } from '../server/intake/index.ts';
import { systemClock } from '../server/kit/index.ts';
import { openPool, query, run } from '../server/store/index.ts';
import { LOANS, prepare } from './museum.ts';
import { OpenPages } from './open-pages.ts';

/**
 * From the commit of a change to the message on the registrar's open page, against a bare loop that inserts one
 * row durably and pushes one server-sent event: same machine, same database, same run, turn by turn.
 */
const ROUNDS = 1500;
const WARM_UP = 500;

const clockNow = () => performance.timeOrigin + performance.now();
const median = (values: number[]) => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)] ?? Number.NaN;

const folder = mkdtempSync(join(tmpdir(), 'ojo-bench-'));
const port = Number(process.env.OJO_BENCH_DATABASE_PORT ?? 4511);
const database = await startMariaDb(folder, port, 'only-for-the-bench');
try {
  const first = openPool(database.connecting, 1);
  await run(first, query('CREATE DATABASE ojo_bench'));
  await first.end();
  const pool = openPool({ ...database.connecting, database: 'ojo_bench' }, 3);
  await prepare(pool);
  await run(
    pool,
    query('CREATE TABLE bare (id BIGINT NOT NULL AUTO_INCREMENT PRIMARY KEY, body VARCHAR(200) NOT NULL)'),
  );
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
  const signIn = await fetch(`http://127.0.0.1:${ojo.port}/api/session`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ name: 'ines', password: 'bench-bench' }),
  });
  const cookie = signIn.headers.get('set-cookie')?.split(';')[0] ?? '';
  const ourPage = new OpenPages(ojo.port, '/api/events', [cookie]);
  await ourPage.opened();

  let page: ServerResponse | null = null;
  const bare = createServer((_request, response) => {
    response.writeHead(200, { 'content-type': 'text/event-stream' });
    response.write('retry: 1000\n\n');
    page = response;
  });
  await new Promise<void>((resolve) => {
    bare.listen(0, '127.0.0.1', () => resolve());
  });
  const barePage = new OpenPages((bare.address() as AddressInfo).port, '/', ['']);
  await barePage.opened();

  const settle = async () => {
    await ojo.runner.drain();
    await ojo.sender.drain();
  };
  const ours: number[] = [];
  const base: number[] = [];
  for (let round = 0; round < WARM_UP + ROUNDS; round++) {
    const item = `L-${round}`;
    await editItem(pool, {
      actor: 'mei',
      source: LOANS,
      item,
      kind: 'created',
      set: { title: `Tidal Loom (${item})`, status: 'Agreed', registrar: 'ines' },
      at: Date.now(),
    });
    await settle();
    const arrived = ourPage.next();
    const done = await editItem(
      pool,
      { actor: 'mei', source: LOANS, item, kind: 'changed', set: { status: 'On view' }, at: Date.now() },
      ojo.runner.foresee,
    );
    const committed = clockNow();
    ojo.runner.wake(done.outcome === 'saved' ? done.change : undefined);
    const took = (await arrived).at - committed;

    // Each is measured alone: what the other left to do is done first.
    await settle();
    const pushed = barePage.next();
    const began = clockNow();
    await pool.query('INSERT INTO bare (body) VALUES (?)', [`Status Agreed → On view, ${item}`]);
    (page as ServerResponse | null)?.write(`event: message\ndata: ${JSON.stringify({ id: item })}\n\n`);
    const bareTook = (await pushed).at - began;
    if (round >= WARM_UP) {
      ours.push(took);
      base.push(bareTook);
    }
  }
  const show = (values: number[]) =>
    `median ${median(values).toFixed(2)} ms, nine in ten within ${([...values].sort((a, b) => a - b)[Math.floor(values.length * 0.9)] ?? 0).toFixed(2)} ms`;
  process.stdout.write(
    `From the commit of a change to the message on an open page, ${ROUNDS} rounds, in turn with the baseline\n`,
  );
  process.stdout.write(`  a bare loop (one durable row, one event)   ${show(base)}\n`);
  process.stdout.write(`  Ojo (decided, 6 rows, pushed)              ${show(ours)}\n`);
  process.stdout.write(
    `  ratio of the medians                       ${(median(ours) / median(base)).toFixed(2)}   (to reach: at most 3)\n`,
  );
  ourPage.close();
  barePage.close();
  bare.close();
  await ojo.stop();
  await pool.end();
} finally {
  await database.stop();
  rmSync(folder, { recursive: true, force: true });
}

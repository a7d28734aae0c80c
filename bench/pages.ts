import { createServer, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import { setTimeout as delay } from 'node:timers/promises';
import { query, run } from '../server/store/index.ts';
import { openFullHouse } from './full-house.ts';
import { OpenPages } from './open-pages.ts';

/**
 * From the commit of a change to its message on the open page of whom it is for, at twenty changes a second, with a
 * thousand live rules and three hundred open pages, against a bare loop that inserts one row durably and pushes one
 * event, with as many pages open: same machine, same database, same run, in turn.
 */
const A_SECOND = 20;
const ROUND_S = 10;
const ROUNDS = 4;
const WARM_UP_S = 5;

const clockNow = () => performance.timeOrigin + performance.now();
const share = (values: number[], part: number) =>
  [...values].sort((a, b) => a - b)[Math.min(values.length - 1, Math.floor(values.length * part))] ?? Number.NaN;

/** Does something so many times a second, whatever it takes; how long each took from the instant it answers to its arrival, in ms. */
async function paced(seconds: number, pages: OpenPages, act: (number: number) => Promise<number>): Promise<number[]> {
  const began = new Map<number, Promise<number>>();
  const arrived = new Map<number, number>();
  pages.onArrival(({ at, text }) => {
    arrived.set(Number(/L-(\d+)/.exec(text)?.[1]), at);
  });
  for (let beat = 0; beat < seconds * A_SECOND; beat++) {
    const number = next++;
    began.set(number, act(number));
    await delay(1000 / A_SECOND);
  }
  const took: number[] = [];
  for (const [number, start] of began) {
    const from = await start;
    for (const limit = performance.now() + 5000; !arrived.has(number) && performance.now() < limit; ) await delay(2);
    took.push((arrived.get(number) ?? Number.POSITIVE_INFINITY) - from);
  }
  return took;
}
let next = 0;

const house = await openFullHouse();
try {
  const { pool, cookies } = house;
  await run(
    pool,
    query('CREATE TABLE bare (id BIGINT NOT NULL AUTO_INCREMENT PRIMARY KEY, body VARCHAR(200) NOT NULL)'),
  );
  const ours = new OpenPages(house.ojo.port, '/api/events', cookies);
  await ours.opened();
  const open: ServerResponse[] = [];
  const bare = createServer((_request, response) => {
    response.writeHead(200, { 'content-type': 'text/event-stream' });
    response.write('retry: 1000\n\n');
    open.push(response);
  });
  await new Promise<void>((resolve) => {
    bare.listen(0, '127.0.0.1', () => resolve());
  });
  const theirs = new OpenPages((bare.address() as AddressInfo).port, '/', cookies);
  await theirs.opened();
  const change = (number: number) => house.change(number, number % cookies.length);
  const push = async (number: number) => {
    const from = clockNow();
    await run(pool, query('INSERT INTO bare (body) VALUES (?)', `Status Agreed → On view, L-${number}`));
    open[number % open.length]?.write(`event: message\ndata: ${JSON.stringify({ id: `L-${number}` })}\n\n`);
    return from;
  };
  await paced(WARM_UP_S, ours, change);
  await paced(WARM_UP_S, theirs, push);
  const found = { ours: [] as number[], bare: [] as number[] };
  for (let round = 0; round < ROUNDS; round++) {
    found.ours.push(...(await paced(ROUND_S, ours, change)));
    found.bare.push(...(await paced(ROUND_S, theirs, push)));
  }
  const show = (name: string, values: number[]) =>
    process.stdout.write(
      `  ${name.padEnd(42)} median ${share(values, 0.5).toFixed(2).padStart(7)} ms   99 in 100 within ${share(values, 0.99).toFixed(2).padStart(7)} ms\n`,
    );
  const ratio = (part: number) => (share(found.ours, part) / share(found.bare, part)).toFixed(2);
  process.stdout.write(
    `From a change's commit to the open page at ${A_SECOND} a second, 1,000 rules, ${cookies.length} pages, ${found.ours.length} changes, in turn with the baseline\n`,
  );
  show('a bare loop (one durable row, one event)', found.bare);
  show('Ojo', found.ours);
  process.stdout.write(
    `  ratio of the medians ${ratio(0.5)} (to reach: at most 3), of what 99 in 100 stay within ${ratio(0.99)} (at most 5)\n`,
  );
  ours.close();
  theirs.close();
  bare.closeAllConnections();
  bare.close();
} finally {
  await house.close();
}

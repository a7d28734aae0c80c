import { openFullHouse } from './full-house.ts';
import { OpenPages } from './open-pages.ts';

/**
 * What a server holds in memory over an hour's worth of load: twenty changes a second, as fast as they are decided,
 * with a thousand live rules and three hundred open pages. The baseline is the same server after the first sixth.
 */
const CHANGES = Number(process.env.OJO_BENCH_CHANGES ?? 20 * 3600);
const PARTS = 6;
const WRITERS = 8;

const say = (text: string) => process.stdout.write(`${text}\n`);

/** What is held once all that can be is given back, in MB. */
function held(): number {
  for (let pass = 0; pass < 3; pass++) globalThis.gc?.();
  return process.memoryUsage().heapUsed / 1e6;
}

const house = await openFullHouse();
try {
  const pages = new OpenPages(house.ojo.port, '/api/events', house.cookies);
  await pages.opened();
  let arrived = 0;
  pages.onArrival(() => {
    arrived += 1;
  });
  const found: number[] = [];
  const began = performance.now();
  for (let part = 0; part < PARTS; part++) {
    let next = (part * CHANGES) / PARTS;
    const end = ((part + 1) * CHANGES) / PARTS;
    await Promise.all(
      Array.from({ length: WRITERS }, async () => {
        while (next < end) {
          const number = next++;
          await house.change(number, number % house.cookies.length);
        }
      }),
    );
    await house.ojo.runner.drain();
    found.push(held());
  }
  const seconds = (performance.now() - began) / 1000;
  say(
    `Memory over ${CHANGES} changes (an hour at 20 a second, done in ${seconds.toFixed(0)} s), ${arrived} messages on open pages`,
  );
  say(`  held after each sixth, MB      ${found.map((one) => one.toFixed(1)).join('   ')}`);
  say(`  last against first             ${((found.at(-1) ?? 0) / (found[0] ?? 1)).toFixed(2)}   (flat: at most 1.1)`);
  pages.close();
} finally {
  await house.close();
}

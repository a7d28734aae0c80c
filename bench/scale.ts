import { execFileSync } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { openFullHouse, type Size } from './full-house.ts';
import { OpenPages } from './open-pages.ts';

/**
 * What grows with what: from a change to its being decided, one after another, as rules, items, people and open pages
 * grow, each by itself. The baseline is the smallest house, in the same run.
 */
const CHANGES = 300;
const WARM_UP = 100;
const SMALL = { rules: 10, people: 10, items: 0, pages: 0 };
const GROWN: Partial<typeof SMALL>[] = [
  { rules: 1000 },
  { rules: 10_000 },
  { items: 10_000 },
  { items: 200_000 },
  { people: 1000 },
  { people: 5000 },
  { people: 300, pages: 300 },
  { people: 1000, pages: 1000 },
];

const median = (values: number[]) => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)] ?? Number.NaN;

/** The median from a change's commit to its being decided and told, in ms, and what is held by then, in MB. */
async function measured(size: Size & { pages: number }): Promise<{ ms: number; megabytes: number }> {
  const house = await openFullHouse(size);
  try {
    const pages = size.pages > 0 ? new OpenPages(house.ojo.port, '/api/events', house.cookies) : null;
    await pages?.opened();
    const took: number[] = [];
    for (let number = 0; number < WARM_UP + CHANGES; number++) {
      const committed = await house.change(number, number % house.cookies.length);
      await house.ojo.runner.drain();
      if (number >= WARM_UP) took.push(performance.timeOrigin + performance.now() - committed);
    }
    pages?.close();
    for (let pass = 0; pass < 3; pass++) globalThis.gc?.();
    return { ms: median(took), megabytes: process.memoryUsage().heapUsed / 1e6 };
  } finally {
    await house.close();
  }
}

/** The same in a process of its own, which holds nothing of the houses before. */
function apart(size: Size & { pages: number }): { ms: number; megabytes: number } {
  const env = { ...process.env, OJO_BENCH_SIZE: JSON.stringify(size) };
  const done = execFileSync(process.execPath, [...process.execArgv, fileURLToPath(import.meta.url)], { env });
  return JSON.parse(done.toString());
}

const say = (text: string) => process.stdout.write(`${text}\n`);
const asked = process.env.OJO_BENCH_SIZE;
if (asked !== undefined) say(JSON.stringify(await measured(JSON.parse(asked))));
else {
  const small = apart(SMALL);
  say('From a change to its being decided, as one thing grows: ratio to a small house (10 rules, 10 people), same run');
  say(`  a small house${' '.repeat(19)}1.00   ${small.megabytes.toFixed(0).padStart(4)} MB held`);
  for (const grown of GROWN) {
    const { ms, megabytes } = apart({ ...SMALL, ...grown });
    const name = Object.entries(grown)
      .map(([what, count]) => `${count} ${what}`)
      .join(', ');
    say(`  ${name.padEnd(30)}${(ms / small.ms).toFixed(2).padStart(6)}   ${megabytes.toFixed(0).padStart(4)} MB held`);
  }
}

import type { Connecting } from '../store/index.ts';
import { DirectoryCache, openPool } from '../store/index.ts';
import { SettableClock } from '../kit/index.ts';
import { Runner } from '../runner/index.ts';
import { quietLog } from './quiet.ts';

/** A process that decides what is in the queue, says so change by change, and then stays: for tests that kill it. */
const { connecting, now } = JSON.parse(process.env.OJO_TEST_ORDER ?? '{}') as { connecting: Connecting; now: number };
const pool = openPool(connecting);
const runner = new Runner({
  pool,
  directory: new DirectoryCache(),
  site: { base: 'https://ojo.example', name: 'Ojo' },
  clock: new SettableClock(now),
  log: quietLog,
  onArrivals: () => undefined,
  onOutgoing: () => undefined,
  onDecided: (changes) => process.stdout.write(`decided ${changes.length}\n`),
});
await runner.drain();
process.stdout.write('all\n');
setInterval(() => undefined, 60_000);

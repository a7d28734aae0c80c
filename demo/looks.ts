import { dateIn, DAY_MS, timeIn, weekday } from '../core/time/index.ts';
import type { Chance } from './chance.ts';
import type { Deed } from './deed.ts';
import { NOTED } from './sources.ts';

const ZONE = 'Europe/Madrid';
const STEP_MS = 40 * 60_000;
/** For so long it has been noted who opens a contract. */
const NOTED_DAYS = 12;
const WHO_READS = ['lidia', 'hugo', 'ines', 'marisol'];

/** Who opened which contract, in the hours of work of the days since that is noted. */
export function looks(story: readonly Deed[], now: number, chance: Chance): Deed[] {
  const gone = new Set(story.filter(({ kind }) => kind === 'deleted').map(({ item }) => item));
  const contracts = story.filter(
    ({ kind, folder, item }) => kind === 'created' && NOTED.includes(folder ?? '') && !gone.has(item),
  );
  const found: Deed[] = [];
  for (let at = now - NOTED_DAYS * DAY_MS; at < now - STEP_MS; at += STEP_MS) {
    const time = timeIn(at, ZONE);
    if (weekday(dateIn(at, ZONE)) > 5 || time < '09:00' || time > '17:30' || !chance.isLikely(0.5)) continue;
    const there = contracts.filter((one) => one.at < at);
    if (there.length === 0) continue;
    // What came lately is read most.
    const { source, item } = there[Math.floor((1 - chance.next() ** 3) * there.length * 0.999)] as Deed;
    found.push({ at: at + chance.whole(0, 900) * 1000, actor: chance.pick(WHO_READS), source, item, kind: 'opened' });
  }
  return found;
}

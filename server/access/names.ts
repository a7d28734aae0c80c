import type { FaultAt } from '../../contract/problems.ts';
import { foldCase } from '../../core/values/index.ts';

/** The longest name that something of somebody's own may have, in UTF-16 units. */
const LONGEST = 120;

/** The name itself where it is free, else the first with a number after it that is. Case makes no difference. */
export function freeName(name: string, taken: readonly string[]): string {
  const known = new Set(taken.map(foldCase));
  let free = name;
  for (let at = 2; known.has(foldCase(free)); at += 1) free = `${name.slice(0, LONGEST - 5).trimEnd()} ${at}`;
  return free;
}

/** What is wrong with a second thing of one name, with a name that would be free; `null` where it is the first. */
export function nameFault(name: string, taken: readonly string[]): FaultAt | null {
  const free = freeName(name, taken);
  return free === name ? null : { code: 'nameTaken', path: 'name', params: { name, free } };
}

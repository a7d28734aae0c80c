import { foldCase } from '../values/index.ts';

/** So long is an id that is made of a name. */
const LONGEST = 60;

/** An id after a name, in plain letters, other than those that are taken; `begin` where no letter of it is plain. */
export function freshId(name: string, taken: ReadonlySet<string>, begin = 'field'): string {
  const bare = foldCase(name)
    .normalize('NFD')
    .replace(/\p{M}/gu, '')
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '')
    .slice(0, LONGEST);
  const begun = bare || begin;
  // `constructor` is found in every object, whatever it holds.
  const isTaken = (id: string) => taken.has(id) || id in Object.prototype;
  let id = begun;
  for (let copy = 2; isTaken(id); copy += 1) id = `${begun}-${copy}`;
  return id;
}

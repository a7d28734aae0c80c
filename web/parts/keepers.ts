import { phrases } from '../words/index.ts';
import type { Viewer } from './viewer.tsx';

/** Who may do what somebody may not: those who look after all of these sources, else those who look after Ojo; by name. */
export function keepersOf(sources: readonly string[], { directory, person, me }: Viewer): string {
  const lists = sources.map((id) => directory.keepers.find(({ source }) => source === id)?.people ?? []);
  const [first = [], ...others] = lists;
  const all = first.filter((one) => others.every((list) => list.includes(one)));
  const people = all.length > 0 ? all : directory.stewards;
  return phrases().or(
    people
      .filter((one) => one !== me.id)
      .slice(0, MOST)
      .map(person),
  );
}

/** So many of them are named. */
const MOST = 3;

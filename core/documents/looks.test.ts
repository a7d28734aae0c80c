import fc from 'fast-check';
import { expect, it } from 'vitest';
import { type LookedAt, notedBy } from './looks.ts';

interface Tried extends LookedAt {
  id: string;
}

/** Folders of which each lies in one that came before it, or in none; nothing keeps two from lying in each other. */
const folders = fc
  .array(fc.record({ parent: fc.nat({ max: 9 }), notesLooks: fc.boolean() }), { minLength: 1, maxLength: 8 })
  .map((list): Tried[] =>
    list.map(({ parent, notesLooks }, at) => ({ id: `f${at}`, parent: parent < 8 ? `f${parent}` : null, notesLooks })),
  );

/** All of the way up, by asking for one folder after the other, round at most once. */
function wayUp(from: string, all: readonly Tried[]): Tried[] {
  const way: Tried[] = [];
  for (let next = all.find(({ id }) => id === from); next && !way.includes(next); ) {
    way.push(next);
    const { parent } = next;
    next = all.find(({ id }) => id === parent);
  }
  return way;
}

it('a look is noted by the nearest folder that has it so, also where folders lie in a ring', () => {
  fc.assert(
    fc.property(folders, fc.nat({ max: 8 }), (all, at) => {
      const known = new Map(all.map((one) => [one.id, one]));
      const nearest = wayUp(`f${at}`, all).find(({ notesLooks }) => notesLooks);
      expect(notedBy(`f${at}`, known)?.id ?? null).toBe(nearest?.id ?? null);
    }),
  );
  expect(notedBy(null, new Map())).toBeNull();
});

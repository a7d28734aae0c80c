import { raw } from '../../testing/raw.ts';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type AccessEntry, mayRead, type Selector } from '../../../core/people/index.ts';
import { LOANS, setUpMuseum } from '../../testing/museum.ts';
import { DirectoryCache, readableItems, rows, run, type StoredItem, worldOf, store } from '../index.ts';

const museum = setUpMuseum();

const PERSONS = ['ines', 'mei', 'wren', 'petra'];
const FOLDERS = [
  { id: 'top', source: 'loans', name: 'Top', parent: null },
  { id: 'mid', source: 'loans', name: 'Mid', parent: 'top' },
  { id: 'leaf', source: 'loans', name: 'Leaf', parent: 'mid' },
];
const selector = fc.oneof(
  fc.constantFrom(...PERSONS).map((person): Selector => ({ person })),
  fc.constantFrom('insurers', 'readers').map((group): Selector => ({ group })),
  fc.constant<Selector>({ field: 'registrar' }),
);
const entry: fc.Arbitrary<AccessEntry> = fc
  .record({
    place: fc.constantFrom<Partial<AccessEntry>>(
      { source: 'loans' },
      { folder: 'top' },
      { folder: 'mid' },
      { folder: 'leaf' },
    ),
    readers: fc.array(selector, { maxLength: 3 }),
  })
  .map(({ place, readers }) => ({ ...place, readers }));

describe('which items a person may read', () => {
  it('is the same in SQL and in core, for any access', async () => {
    const stored = [null, 'top', 'mid', 'leaf'].flatMap((folder) =>
      [...PERSONS, null].map(
        (registrar): StoredItem => ({
          id: `${folder}-${registrar}`,
          source: 'loans',
          folder,
          fields: registrar ? { registrar } : {},
          title: 'x',
          version: 1,
          isDeleted: false,
          createdBy: 'ines',
          createdAt: 0,
          lastBy: 'ines',
          lastAt: 0,
        }),
      ),
    );
    for (const item of stored) await run(museum.pool, store.items.save(item));
    const directory = {
      ...(await new DirectoryCache().current(museum.pool)),
      sources: new Map([['loans', { ...LOANS, about: '' }]]),
      folders: new Map(FOLDERS.map((folder) => [folder.id, { ...folder, notesLooks: false }])),
    };
    await fc.assert(
      fc.asyncProperty(fc.array(entry, { maxLength: 4 }), fc.constantFrom(...PERSONS), async (access, person) => {
        const world = worldOf({ ...directory, access }, new Map());
        const may = readableItems(person, world);
        const found = (
          await rows(museum.pool, raw(`SELECT i.* FROM items i WHERE ${may.sql} ORDER BY i.id`, ...may.params))
        ).map((row) => row.id);
        expect(found.sort()).toEqual(
          stored
            .filter((item) => mayRead(person, item, world))
            .map((item) => item.id)
            .sort(),
        );
      }),
      { numRuns: 150, seed: 4 },
    );
  });
});

import { type AccessEntry, membersOfGroup, type Subject, type World } from './directory.ts';
import { asKind, kindOfSelector, type Selector } from './selector-kinds.ts';
import { reach } from './selectors.ts';

/** The entry that applies at a place: that of the nearest folder with one of its own, else the source's; `null` where there is none. */
export function entryAt(
  source: string,
  folder: string | null,
  world: Pick<World, 'access' | 'folders'>,
): AccessEntry | null {
  for (let id = folder, depth = 0; id !== null && depth < 1000; id = world.folders.get(id)?.parent ?? null, depth++) {
    const own = world.access.find((entry) => entry.folder === id);
    if (own) return own;
  }
  return world.access.find((entry) => entry.source === source && !entry.folder) ?? null;
}

/** The readers that apply at a place; `null` where everybody may read. */
export const readersAt = (
  source: string,
  folder: string | null,
  world: Pick<World, 'access' | 'folders'>,
): readonly Selector[] | null => entryAt(source, folder, world)?.readers ?? null;

/** Whether there is a place in the source where a person may read, or might, where the item decides. */
export function mayReadSome(person: string, source: string, world: Omit<World, 'item'>): boolean {
  const places = [
    null,
    ...[...world.folders.values()].filter((folder) => folder.source === source).map((folder) => folder.id),
  ];
  return places.some((folder) => {
    const readers = readersAt(source, folder, world);
    if (readers === null) return world.people.has(person);
    return readers.some((reader) => {
      const outright = namesOutright(reader, person, world);
      return outright ?? kindOfSelector(reader) !== 'anybody';
    });
  });
}

/** Whether a person may read every item of a source, whatever it holds and wherever it lies. */
export function mayReadAll(
  person: string,
  source: string,
  world: Pick<World, 'access' | 'folders' | 'people' | 'groups'>,
): boolean {
  const folders = new Set(
    [...world.folders.values()].filter((folder) => folder.source === source).map((folder) => folder.id),
  );
  const entries = world.access.filter((entry) =>
    entry.folder === undefined ? entry.source === source : folders.has(entry.folder),
  );
  return (
    world.people.has(person) &&
    entries.every(
      ({ readers }) => readers === null || readers.some((reader) => namesOutright(reader, person, world) === true),
    )
  );
}

/** Whether a selector names one person whatever the item is; `null` where the item decides. */
export function namesOutright(selector: Selector, person: string, world: Pick<World, 'groups'>): boolean | null {
  const named = asKind(selector, 'person');
  if (named) return named.person === person;
  const group = asKind(selector, 'group');
  return group ? membersOfGroup(group.group, world).has(person) : null;
}

/**
 * The readers of one item, named: whoever its fields and its history name stands there as a person, so that they can
 * read what belongs to it and has no such fields. `null` where everybody may read.
 */
export function readersNamed(place: Subject, world: World): Selector[] | null {
  const readers = readersAt(place.source, place.folder, world);
  if (readers === null) return null;
  return readers.flatMap((reader): Selector[] => {
    const kind = kindOfSelector(reader);
    if (kind === 'person' || kind === 'group') return [reader];
    return [...reach([reader], place, world).keys()].filter((id) => world.people.has(id)).map((person) => ({ person }));
  });
}

/** Whether a selector reaches one person, without gathering all whom it reaches. */
function names(selector: Selector, person: string, place: Subject, world: World): boolean {
  const outright = namesOutright(selector, person, world);
  return outright === null ? reach([selector], place, world).has(person) : outright && world.people.has(person);
}

/** Whether a person may read an item as it stands. */
export function mayRead(person: string, place: Subject, world: World): boolean {
  const readers = readersAt(place.source, place.folder, world);
  if (readers === null) return world.people.has(person);
  return readers.some((reader) => names(reader, person, place, world));
}

/** Whether a person may edit an item as it stands: they read it, and are among those who edit there, where not all readers are. */
export const mayEditThere = (person: string, place: Subject, world: World): boolean =>
  mayDo('editors', person, place, world);
/** Whether a person may add something at a place; what is to be added stands for the item. */
export const mayAddThere = (person: string, place: Subject, world: World): boolean =>
  mayDo('adders', person, place, world);

function mayDo(what: 'adders' | 'editors', person: string, place: Subject, world: World): boolean {
  if (!mayRead(person, place, world)) return false;
  const named = entryAt(place.source, place.folder, world)?.[what] ?? null;
  return named === null || named.some((one) => names(one, person, place, world));
}

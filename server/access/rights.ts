import { type Because, Refusal } from '../../contract/problems.ts';
import {
  entryAt,
  mayAddThere,
  mayEditThere,
  mayRead,
  type Selector,
  type Subject,
  visitSelector,
} from '../../core/people/index.ts';
import { type Directory, worldOf } from '../store/index.ts';
import { type Caller, coordinates } from './caller.ts';

/** Something of a source as it stands, or as it would stand once it is added. */
type Place = Subject & { source: string; folder: string | null };

/** An item that is about to be made by somebody at a place. */
export const placeIn = (source: string, folder: string | null, by: string): Place => ({
  id: '',
  source,
  folder,
  fields: {},
  createdBy: by,
  lastBy: by,
});

/**
 * Whether somebody may change an item: who edits there, or looks after its source. The rows of a table change with
 * their document alone.
 */
export const mayChange = (item: Place, caller: Caller): boolean => mayDo(mayEditThere, item, caller);
/** Whether somebody may add something at a place. */
export const mayAdd = (source: string, folder: string | null, caller: Caller): boolean =>
  mayDo(mayAddThere, placeIn(source, folder, caller.me.id), caller);

function mayDo(may: typeof mayEditThere, place: Place, { me, directory }: Caller): boolean {
  if (directory.sources.get(place.source)?.sheetOf !== undefined) return false;
  const world = worldOf(directory, new Map());
  return may(me.id, place, world) || (coordinates(me, [place.source], directory) && mayRead(me.id, place, world));
}

/** Refuses to change an item, saying who may. */
export function expectChange(item: Place, caller: Caller): void {
  if (!mayChange(item, caller)) throw new Refusal('notAllowed', { because: whoMay('editors', item, caller.directory) });
}

/** Refuses to add something at a place, saying who may. */
export function expectAdd(source: string, folder: string | null, caller: Caller): void {
  if (mayAdd(source, folder, caller)) return;
  throw new Refusal('notAllowed', { because: whoMay('adders', placeIn(source, folder, ''), caller.directory) });
}

function whoMay(what: 'adders' | 'editors', place: Place, directory: Directory): Because {
  if (directory.sources.get(place.source)?.sheetOf !== undefined) return { code: 'rowsOfDocument', params: {} };
  return { code: 'othersMay', params: { who: namedAt(what, place, directory) } };
}

/** Who may change an item, or add at a place, each in a word; nobody where all readers may. */
export function namedAt(
  what: 'adders' | 'editors',
  place: Pick<Place, 'source' | 'folder'>,
  directory: Directory,
): string[] {
  const named = entryAt(place.source, place.folder, directory)?.[what] ?? [];
  return named.map((one) => nameOf(one, place.source, directory));
}

/** Whom a selector names, in a word. */
function nameOf(selector: Selector, source: string, directory: Directory): string {
  const fieldName = (id: string) => directory.sources.get(source)?.fields.find((field) => field.id === id)?.name ?? id;
  const kind = () => Object.keys(selector)[0] ?? '';
  return visitSelector<string>(selector, {
    person: ({ person }) => directory.people.get(person)?.name ?? person,
    group: ({ group }) => directory.groups.get(group)?.name ?? group,
    field: ({ field }) => fieldName(field),
    linked: ({ field }) => fieldName(field),
    creator: kind,
    lastEditor: kind,
    followers: kind,
    mentioned: kind,
    managerOf: kind,
    contact: kind,
    webhook: kind,
    told: kind,
    cases: kind,
    tell: kind,
    system: kind,
    anybody: kind,
  });
}

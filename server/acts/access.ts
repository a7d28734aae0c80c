import { type FaultAt, Refusal } from '../../contract/problems.ts';
import type { AccessPreview, Rights } from '../../contract/wire/index.ts';
import {
  type AccessEntry,
  kindOfSelector,
  mayRead,
  mayReadSome,
  namesOutright,
  type Selector,
} from '../../core/people/index.ts';
import { fieldOf } from '../../core/values/index.ts';
import type { Caller } from '../access/index.ts';
import { originNow } from '../kit/index.ts';
import { type Directory, inTransaction, rows, runAll, store, type StoredItem, worldOf } from '../store/index.ts';
import { rulesOver, silentRules } from './consequences.ts';
import type { ActContext } from './context.ts';

/** A place whose rights change; without any of its own it goes by what stands above it. */
export interface AccessChange {
  folder: string | null;
  rights: Rights | null;
}

/** What a place's entry says, who reads all of it outright, and whether items name others as well. */
export function rightsOf(
  entry: AccessEntry | null,
  directory: Pick<Directory, 'people' | 'groups'>,
): { rights: Rights; outright: string[]; isByItem: boolean } {
  const { readers = null, adders = null, editors = null } = entry ?? { readers: null };
  const active = [...directory.people.values()].filter((one) => one.active).map((one) => one.id);
  return {
    rights: { readers, adders, editors },
    outright: active.filter(
      (id) => readers === null || readers.some((reader) => namesOutright(reader, id, directory) === true),
    ),
    isByItem: (readers ?? []).some((reader) => namesOutright(reader, '', directory) === null),
  };
}

/** Whom a change of access would shut out or let in, by the items that there are, and which live rules would then tell nobody. */
export async function previewAccess(
  { pool, clock }: Pick<ActContext, 'pool' | 'clock'>,
  source: string,
  change: AccessChange,
  { directory }: Caller,
): Promise<AccessPreview> {
  expectRights(source, change, directory);
  const items = await rows(pool, store.items.allOf(source, false));
  const after: Directory = { ...directory, access: changed(source, change, directory) };
  const [was, will] = [readsIn(source, items, directory), readsIn(source, items, after)];
  const { shutOut, letIn } = {
    shutOut: [...was].filter(([id, reads]) => reads.some((isRead, at) => isRead && !will.get(id)?.[at])),
    letIn: [...will].filter(([id, reads]) => reads.some(Boolean) && !was.get(id)?.some(Boolean)),
  };
  return {
    shutOut: shutOut.map(([id]) => id),
    letIn: letIn.map(([id]) => id),
    silent: silentRules(rulesOver([source], directory, clock.now()), items, {
      before: directory,
      after,
      now: clock.now(),
    }),
  };
}

/** Who reads each of the items, by person; where there are none yet, who would read something. */
function readsIn(source: string, items: readonly StoredItem[], directory: Directory): Map<string, boolean[]> {
  const world = worldOf(directory, new Map());
  return new Map(
    [...directory.people.values()]
      .filter((one) => one.active)
      .map(({ id }) => [
        id,
        items.length === 0 ? [mayReadSome(id, source, directory)] : items.map((item) => mayRead(id, item, world)),
      ]),
  );
}

/** All entries as they would be. */
function changed(source: string, { folder, rights }: AccessChange, { access }: Directory): AccessEntry[] {
  const isIt = (entry: AccessEntry) =>
    folder === null ? entry.source === source && entry.folder === undefined : entry.folder === folder;
  const others = access.filter((entry) => !isIt(entry));
  return rights === null ? others : [...others, { ...(folder === null ? { source } : { folder }), ...rights }];
}

/** Changes who may read, add and edit at a place; from then on it holds for everybody. */
export async function changeAccess(
  { pool, clock }: Pick<ActContext, 'pool' | 'clock'>,
  source: string,
  change: AccessChange,
  { me, directory }: Caller,
): Promise<void> {
  expectRights(source, change, directory);
  await inTransaction(pool, (on) =>
    runAll(on, [
      ...store.sources.saveAccess(source, change.folder, change.rights),
      store.world.raise(),
      store.audit.add({
        at: clock.now(),
        kind: 'accessChanged',
        actor: me.id,
        origin: originNow(),
        about: {
          source: directory.sources.get(source)?.name ?? source,
          folder: directory.folders.get(change.folder ?? '')?.name ?? '',
          rights: JSON.stringify(change.rights),
        },
      }),
    ]),
  );
}

/** Refuses rights at no place, and for nobody there is, with every fault. */
function expectRights(source: string, { folder, rights }: AccessChange, directory: Directory): void {
  if (folder !== null && directory.folders.get(folder)?.source !== source)
    throw new Refusal('badRequest', { because: 'noFolderThere' });
  const lists = Object.entries(rights ?? {}) as [keyof Rights, Rights[keyof Rights]][];
  const faults = lists.flatMap(([what, named]) =>
    (named ?? []).flatMap((one, at) => faultsOf(one, source, directory, `rights.${what}.${at}`)),
  );
  if (rights?.readers?.length === 0) faults.push({ code: 'nobodyReads', path: 'rights.readers', params: {} });
  if (faults.length > 0) throw new Refusal('badValues', { faults });
}

function faultsOf(selector: Selector, source: string, directory: Directory, path: string): FaultAt[] {
  const kind = kindOfSelector(selector);
  const of = directory.sources.get(source);
  const value = String(Object.values(selector)[0]);
  const known: Partial<Record<typeof kind, boolean>> = {
    person: directory.people.has(value),
    group: directory.groups.has(value),
    field: of !== undefined && fieldOf(of, value) !== undefined,
    creator: true,
    lastEditor: true,
    followers: true,
  };
  return known[kind] ? [] : [{ code: 'notAReader', path, params: { selector: value } }];
}

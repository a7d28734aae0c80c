import type { PoolConnection } from 'mysql2/promise';
import { Refusal } from '../../contract/problems.ts';
import {
  editOfAct,
  followsFromActs,
  heldAgainst,
  type ItemAct,
  leavesAsIs,
  type Unfit,
  unfit,
} from '../../core/documents/index.ts';
import { mayRead } from '../../core/people/index.ts';
import type { Fields, Source } from '../../core/values/index.ts';
import { type Caller, coordinates, expectChange, mayAdd } from '../access/index.ts';
import { passDoor, refuseBadValues } from '../intake/index.ts';
import {
  inTransaction,
  newId,
  rows,
  shortKey,
  type StoredChange,
  type StoredItem,
  store,
  worldOf,
} from '../store/index.ts';
import type { ActContext } from './context.ts';

/** What became of an act on one item. */
export interface ActOutcome {
  id: string;
  outcome: 'done' | 'unchanged' | 'refused';
  refusal: Refusal | null;
}

/** What somebody does to several items of a source. */
interface Doing {
  source: Source;
  act: ItemAct;
  asking: Caller;
  at: number;
  batch: string | null;
  /** The id of the change of each item, where whoever asks may ask again. */
  changeId: ((item: string) => string) | null;
  /** What was made of the item before, under the same key. */
  made: StoredChange | null;
}

/**
 * Does one thing to items of a source: in one transaction, of several as one batch at one instant. Each is accounted
 * for: done, left as it was, or refused with the reason; one that is refused holds up none of the others.
 * @param editKey where whoever asks may ask again: done under it once, it is not done twice
 */
export async function actOnItems(
  { pool, clock }: Pick<ActContext, 'pool' | 'clock'>,
  source: Source,
  { ids, act }: { ids: readonly string[]; act: ItemAct },
  asking: Caller,
  editKey: string | null,
): Promise<{ batch: string | null; outcomes: ActOutcome[]; changes: StoredChange[] }> {
  const wanted = [...new Set(ids)].sort();
  expectSense(act, source, asking);
  const now = clock.now();
  const changeId = editKey === null ? null : (item: string) => shortKey(`${editKey}/${item}`);
  const doing: Omit<Doing, 'at' | 'made'> = {
    source,
    act,
    asking,
    batch: wanted.length > 1 ? shortKey(`batch/${editKey ?? newId(now)}`) : null,
    changeId,
  };
  return inTransaction(pool, async (on) => {
    // In order of their ids, so that two who act on the same items never wait for each other.
    const locked = await rows(on, store.items.locked(wanted));
    const world = worldOf(asking.directory, new Map());
    const readable = new Map(
      locked.filter((item) => mayRead(asking.me.id, item, world)).map((item) => [item.id, item]),
    );
    // Asked for again: what was done stays done, although it would not go any more.
    const keys = wanted.map((id): [string, string] => [source.id, changeId?.(id) ?? '']);
    const before = changeId ? await rows(on, store.changes.byIds(keys)) : [];
    // One instant for all of a batch, and no item's time runs backwards.
    const at = Math.max(now, ...locked.map((item) => item.lastAt));
    const outcomes: ActOutcome[] = [];
    const changes: StoredChange[] = [];
    for (const id of wanted) {
      const made = before.find(({ item }) => item === id) ?? null;
      const { change, ...outcome } = await actOn(on, id, readable.get(id), { ...doing, at, made });
      outcomes.push(outcome);
      if (change) changes.push(change);
    }
    return { batch: doing.batch, outcomes, changes };
  });
}

/** Does it to one item; a refusal is an outcome, whatever else fails is thrown. */
async function actOn(
  on: PoolConnection,
  id: string,
  item: StoredItem | undefined,
  { source, act, asking, at, batch, changeId, made }: Doing,
): Promise<ActOutcome & { change: StoredChange | null }> {
  const came = (
    outcome: ActOutcome['outcome'],
    change: StoredChange | null = null,
    refusal: Refusal | null = null,
  ) => ({
    id,
    outcome,
    change,
    refusal,
  });
  if (item?.source !== source.id) return came('refused', null, new Refusal('notFound'));
  if (made) return came('done', made);
  const against = againstAct(act, item, source, asking);
  if (against) return came('refused', null, against);
  if (leavesAsIs(act, item)) return came('unchanged');
  try {
    const done = await passDoor(on, {
      ...(changeId ? { id: changeId(id) } : {}),
      actor: asking.me.id,
      source,
      item: id,
      at,
      ...(batch === null ? {} : { batch }),
      ...editOfAct(act, item, source, asking.me.id),
    });
    return done.outcome === 'saved' ? came('done', done.change) : came('unchanged');
  } catch (error) {
    if (error instanceof Refusal) return came('refused', null, error);
    throw error;
  }
}

/** Why an act does not go with an item, as a refusal with people by their names. */
function againstAct(act: ItemAct, item: StoredItem, source: Source, asking: Caller): Refusal | null {
  const { me, directory } = asking;
  // Whoever reads an item may say something of it; whatever else changes it.
  const notTheirs = act.act === 'comment' ? null : refusalIn(() => expectChange(item, asking));
  if (notTheirs) return notTheirs;
  const isKeeper = coordinates(me, [source.id], directory);
  const fault = unfit(act.act, item, source, { id: me.id, isKeeper });
  if (fault) return refusalOf(fault, directory);
  if (act.act !== 'move') return null;
  // Whoever moves it has to be able to read it there.
  const there = { ...item, folder: act.folder };
  return mayRead(me.id, there, worldOf(directory, new Map())) && mayAdd(source.id, act.folder, asking)
    ? null
    : new Refusal('badRequest', { because: 'noFolderThere' });
}

/** What a check refuses with; `null` where it lets pass. */
function refusalIn(check: () => void): Refusal | null {
  try {
    check();
    return null;
  } catch (error) {
    if (error instanceof Refusal) return error;
    throw error;
  }
}

/** A reason of core's as a refusal. */
export function refusalOf({ code, params }: Unfit, { people }: Caller['directory']): Refusal {
  const { person } = params;
  const named = typeof person === 'string' ? { ...params, person: people.get(person)?.name ?? person } : params;
  return new Refusal('badRequest', { because: { code, params: named } });
}

/** Refuses to have typed into a document what follows from acts: its approval is its approver's to give. */
export function expectTyped(source: Source, set: Fields): void {
  const faults = source.fields
    .filter(({ id }) => id in set && followsFromActs(source, id))
    .map(({ id, name }) => ({ code: 'notTyped', path: id, params: { field: name } }));
  if (faults.length > 0) throw new Refusal('badValues', { faults });
}

/** Refuses to change a document that somebody else has checked out. */
export function expectFree(item: StoredItem, { me, directory }: Caller): void {
  const held = heldAgainst(item, me.id);
  if (held) throw refusalOf(held, directory);
}

/** Refuses an act that could go with no item of the source. */
function expectSense(act: ItemAct, source: Source, { directory }: Caller): void {
  if (act.act === 'move' && directory.folders.get(act.folder)?.source !== source.id)
    throw new Refusal('badRequest', { because: 'noFolderThere' });
  if (act.act === 'set') {
    expectTyped(source, act.set);
    refuseBadValues({ source, set: act.set });
  }
  if (act.act === 'share' && !directory.people.get(act.person)?.active)
    throw new Refusal('badRequest', {
      faults: [{ code: 'unknownPerson', path: 'act.person', params: { person: act.person } }],
    });
}

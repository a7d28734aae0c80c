import { setTimeout as delay } from 'node:timers/promises';
import type { Pool, PoolConnection } from 'mysql2/promise';
import { HIDDEN_ITEM } from '../../contract/hidden.ts';
import { type FaultAt, Refusal } from '../../contract/problems.ts';
import { titleOf } from '../../core/messages/index.ts';
import {
  type Change,
  type ChangeKind,
  faultOf,
  type Fields,
  isEmpty,
  isLinkType,
  isLook,
  membersOf,
  type Source,
  sameValue,
  type Value,
} from '../../core/values/index.ts';
import {
  inTransaction,
  isUnavailable,
  newId,
  OutcomeUnknown,
  type Statement,
  rows,
  runAll,
  several,
  type StoredChange,
  type StoredItem,
  store,
} from '../store/index.ts';

/** Something somebody does to one item. */
export interface Edit {
  /** The change's id, where whoever edits has one for it: made again under it, it is the same edit. */
  id?: string;
  actor: string;
  source: Source;
  item: string;
  kind: ChangeKind;
  /** The version it was made from; left out by those who need not see what happened meanwhile. */
  from?: number;
  /** Fields that get a new value; the others stay. */
  set?: Fields;
  folder?: string | null;
  at: number;
  detail?: Change['detail'];
  /** Joins the changes of one bulk action; all of them bear one instant. */
  batch?: string;
  /** Statements that belong to the same transaction, such as a document's new content. */
  also?: (version: number) => Statement[];
}

/** What another person did to the same item since the edit began. */
export interface Meanwhile {
  field: string;
  by: string;
  at: number;
  started: Value;
  theirs: Value;
  /** The value that the refused edit holds for the field; left out where it does not touch it. */
  yours?: Value;
}

export interface Conflict {
  version: number;
  meanwhile: Meanwhile[];
}

export type Done =
  | { outcome: 'saved'; item: StoredItem; change: StoredChange }
  | { outcome: 'unchanged'; item: StoredItem };

/**
 * The one door: every edit, import, upload and stream passes here. An item's new state, its version, its change
 * row and its place in the queue are written in the caller's transaction, or none of them is.
 * Where it may have been made before under the same id, and was, that is what it comes to.
 * Throws a Refusal for values that cannot stand, for an item that is gone, and where somebody else edited it meanwhile.
 */
export async function passDoor(on: PoolConnection, edit: Edit, isMadeBefore = false): Promise<Done> {
  refuseBadValues(edit);
  const [[row] = [], [sheet] = [], [again] = []] = await several(on, [
    store.items.byId(edit.item, true),
    store.sheets.ofDocument(edit.item),
    ...(edit.id !== undefined && isMadeBefore ? [store.changes.byIds([[edit.source.id, edit.id]])] : []),
  ]);
  const known = row ? row : null;
  // The lock waits for whoever tried before and may be about to be kept.
  if (again && known) return { outcome: 'saved', item: known, change: again };
  const isNew = edit.kind === 'created';
  if (isNew === (known !== null))
    throw isNew
      ? new Refusal('badRequest', { because: { code: 'itemTwice', params: { item: edit.item } } })
      : new Refusal('notFound');
  if (known?.isDeleted && edit.kind !== 'restored' && !isLook(edit)) throw new Refusal('gone');
  if (known && !known.isDeleted && edit.kind === 'restored') throw new Refusal('badRequest', { because: 'notDeleted' });
  if (known && edit.from !== undefined && edit.from !== known.version)
    throw new Refusal('editedMeanwhile', { conflict: await conflictOf(on, known, edit) });

  const made = applyEdit(known, edit);
  if (!made) return { outcome: 'unchanged', item: known as StoredItem };
  return isLook(edit) ? keepLook(on, made) : keepEdit(on, made, edit, sheet !== undefined);
}

/** What an edit makes of an item, and the change. */
interface Made {
  item: StoredItem;
  change: Change;
}

/** A look makes no version, and nothing that follows from the document is otherwise by it. */
async function keepLook(on: PoolConnection, { item, change }: Made): Promise<Done> {
  const [written] = await runAll(on, store.changes.save(change, null));
  return { outcome: 'saved', item, change: { ...change, seq: Number(written?.insertId), itemVersion: null } };
}

async function keepEdit(on: PoolConnection, { item, change }: Made, edit: Edit, hasRows: boolean): Promise<Done> {
  const [, written] = await runAll(on, [
    store.items.save(item),
    ...store.changes.save(change, item.version),
    ...(edit.also?.(item.version) ?? []),
    // What its rows are called and who may read them follows from the document.
    ...(hasRows ? [store.world.raise()] : []),
  ]);
  const seq = Number(written?.insertId);
  return { outcome: 'saved', item, change: { ...change, seq, itemVersion: item.version } };
}

/** What an edit makes of an item: its next state and the change; `null` where it says nothing. A look leaves the item itself. */
export function applyEdit(known: StoredItem | null, edit: Edit): Made | null {
  const item = nextState(known, edit);
  const change = changeOf(known, item, edit);
  if (known && isLook(edit)) return { item: known, change: { ...change, before: known.fields, after: known.fields } };
  return known && !tells(change, edit.source) ? null : { item, change };
}

/** Pauses before finding out what became of a commit whose answer never came, in ms. */
const FINDING_OUT_MS = [0, 150, 500, 1500];

/**
 * One edit in a transaction of its own; `meanwhile` hears of the change while it is being committed. Where the
 * connection is cut during the commit, the edit is made again under the same id, which finds out whether it was kept;
 * only where the database stays away is an OutcomeUnknown thrown.
 */
export async function editItem(pool: Pool, given: Edit, meanwhile?: (change: StoredChange) => void): Promise<Done> {
  const edit = { ...given, id: given.id ?? newId(given.at) };
  try {
    return await inTransaction(
      pool,
      (on) => passDoor(on, edit, given.id !== undefined),
      (done) => done.outcome === 'saved' && meanwhile?.(done.change),
    );
  } catch (error) {
    if (!(error instanceof OutcomeUnknown)) throw error;
  }
  for (const pause of FINDING_OUT_MS) {
    await delay(pause);
    try {
      return await inTransaction(pool, (on) => passDoor(on, edit, true));
    } catch (error) {
      if (!(error instanceof OutcomeUnknown) && !isUnavailable(error)) throw error;
    }
  }
  throw new OutcomeUnknown('the database stayed away after an edit may have been kept');
}

/** Refuses values that cannot stand in their fields, with every fault. */
export function refuseBadValues({ source, set }: Pick<Edit, 'source' | 'set'>): void {
  const faults: FaultAt[] = Object.entries(set ?? {}).flatMap(([id, value]) => {
    const field = source.fields.find((one) => one.id === id);
    if (!field)
      return [
        {
          code: 'unknownField',
          path: id,
          params: { field: id, source: source.name, allowed: source.fields.map((one) => one.id) },
        },
      ];
    if (isLinkType(field.type) && membersOf(value).includes(HIDDEN_ITEM))
      return [{ code: 'standsForHidden', path: id, params: { field: field.name } }];
    const fault = faultOf(field, value);
    return fault ? [{ ...fault, path: id }] : [];
  });
  if (faults.length > 0) throw new Refusal('badValues', { faults });
}

function nextState(known: StoredItem | null, edit: Edit): StoredItem {
  const fields: Fields = { ...known?.fields };
  for (const [id, value] of Object.entries(edit.set ?? {})) {
    if (isEmpty(value)) delete fields[id];
    else fields[id] = value;
  }
  // Time does not run backwards for one item, whatever a machine's clock does.
  const at = Math.max(edit.at, known?.lastAt ?? 0);
  return {
    id: edit.item,
    source: edit.source.id,
    folder: edit.folder === undefined ? (known?.folder ?? null) : edit.folder,
    fields,
    title: titleOf(edit.source, edit.item, fields).slice(0, 400),
    version: (known?.version ?? 0) + 1,
    isDeleted: edit.kind === 'deleted',
    createdBy: known?.createdBy ?? edit.actor,
    createdAt: known?.createdAt ?? at,
    lastBy: edit.actor,
    lastAt: at,
  };
}

function changeOf(known: StoredItem | null, next: StoredItem, edit: Edit): Change {
  const existed = known !== null && !known.isDeleted;
  return {
    id: edit.id ?? newId(next.lastAt),
    at: next.lastAt,
    source: next.source,
    item: next.id,
    kind: edit.kind,
    actor: edit.actor,
    before: existed ? known.fields : null,
    after: next.isDeleted ? null : next.fields,
    folder: next.folder,
    folderBefore: known?.folder ?? null,
    batch: edit.batch ?? null,
    detail: edit.detail ?? {},
    previous: { by: known?.lastBy ?? null, createdBy: known?.createdBy ?? edit.actor },
  };
}

/** Whether the change says anything: an edit that leaves all as it was is none. */
function tells({ kind, before, after, folder, folderBefore }: Change, source: Source): boolean {
  if (kind !== 'changed' && kind !== 'renamed' && kind !== 'moved') return true;
  return (
    folder !== folderBefore ||
    source.fields.some((field) => !sameValue(field.type, before?.[field.id], after?.[field.id]))
  );
}

async function conflictOf(on: PoolConnection, known: StoredItem, edit: Edit): Promise<Conflict> {
  const since = await rows(on, store.changes.since(known.id, edit.from as number));
  return {
    version: known.version,
    meanwhile: edit.source.fields.flatMap((field) => meanwhileIn(field.id, field.type, since, edit)),
  };
}

function meanwhileIn(
  field: string,
  type: Source['fields'][number]['type'],
  since: StoredChange[],
  edit: Edit,
): Meanwhile[] {
  const touched = since.filter((change) => !sameValue(type, change.before?.[field], change.after?.[field]));
  const last = touched.at(-1);
  if (!last) return [];
  const yours = edit.set && field in edit.set ? { yours: edit.set[field] ?? null } : {};
  return [
    {
      field,
      by: last.actor,
      at: last.at,
      started: touched[0]?.before?.[field] ?? null,
      theirs: last.after?.[field] ?? null,
      ...yours,
    },
  ];
}

import { HIDDEN_ITEM } from '../../contract/hidden.ts';
import { createHash } from 'node:crypto';
import type { PoolConnection } from 'mysql2/promise';
import { Refusal } from '../../contract/problems.ts';
import {
  faultsOfMapping,
  type Grid,
  ITEM_ID,
  type Mapping,
  type RowPlan,
  type TablePlan,
  type Name,
  type NamesKnown,
} from '../../core/tables/index.ts';
import { type Field, foldCase, isLinkType, isTemporalType, type Source } from '../../core/values/index.ts';
import { type Caller, mayAdd, mayChange } from '../access/index.ts';
import { originNow } from '../kit/index.ts';
import { type Edit, type OnWritten, passDoorTogether } from '../intake/index.ts';
import {
  type Connection,
  inTransaction,
  readableItems,
  rows,
  run,
  shortKey,
  type StoredItem,
  store,
  several,
} from '../store/index.ts';
import { planApart } from '../tables/index.ts';
import type { ActContext } from './context.ts';

/** How many rows come to what. */
export type Counts = Record<RowPlan['outcome'], number>;
/** Which column goes where; an import takes nothing away. */
export type ImportMapping = Pick<Mapping, 'columns' | 'key'>;

/** What a table would come to, with the items that it was compared with. */
export interface Planned {
  plan: TablePlan;
  items: Map<string, StoredItem>;
  counts: Counts;
  /** What it comes to as one text, so that what is done is what was looked at. */
  seal: string;
}

/** Which field each column of a table seems to be, by its name; `id` where it holds the items' own. */
export const fieldsOfColumns = (columns: readonly string[], source: Source): (string | null)[] => {
  const taken = new Set<string>();
  const take = (field: string | undefined): string | null => {
    if (field === undefined || taken.has(field)) return null;
    taken.add(field);
    return field;
  };
  const named = columns.map((column) => {
    const name = foldCase(column);
    if (name === ITEM_ID) return take(ITEM_ID);
    return take(source.fields.find((one) => foldCase(one.name) === name || foldCase(one.id) === name)?.id);
  });
  if (!columns.includes('UID')) return named;
  return named.map((field, at) => field ?? take(fieldOfEvent(columns[at] ?? '', source, taken)));
};

/** Where what a calendar says of an event goes, in a source that has no field of that name. */
function fieldOfEvent(column: string, source: Source, taken: ReadonlySet<string>): string | undefined {
  const first = (is: (field: Field) => boolean) => source.fields.find((field) => is(field) && !taken.has(field.id))?.id;
  if (column === 'Summary') return source.titleField;
  if (column === 'Starts') return first(({ type }) => isTemporalType(type));
  return column === 'Description' ? first(({ type }) => type === 'longText') : undefined;
}

/** What a table would come to in a source, compared with the items that the caller may read. */
export async function planImport(
  on: Connection,
  source: Source,
  { grid, mapping: given }: { grid: Grid; mapping: ImportMapping },
  asking: Caller,
  lock = false,
): Promise<Planned> {
  const mapping: Mapping = { ...given, absent: 'leave' };
  expectMapping(grid, mapping, source);
  const may = readableItems(asking.me.id, asking.directory);
  const items = await rows(on, store.items.readableOf(source.id, may, lock));
  const byId = new Map(items.map((item) => [item.id, item]));
  const known = items.map(({ id, fields }) => ({ id, fields }));
  const names = await namesOf(on, source, asking);
  const whole = await planApart({ grid, mapping, source, known, names });
  const plan = withinRights(whole, byId, source, asking);
  const counts: Counts = { new: 0, changed: 0, unchanged: 0, refused: 0 };
  for (const { outcome } of plan.rows) counts[outcome] += 1;
  const seal = createHash('sha256').update(JSON.stringify(plan)).digest('base64url');
  return { plan, items: byId, counts, seal };
}

/** A plan without what the caller may not do: such rows are refused, and such items stay. */
function withinRights(
  plan: TablePlan,
  items: ReadonlyMap<string, StoredItem>,
  source: Source,
  asking: Caller,
): TablePlan {
  const isNewAllowed = mayAdd(source.id, null, asking);
  const mayTouch = (id: string) => {
    const item = items.get(id);
    return item !== undefined && mayChange(item, asking);
  };
  const isAllowed = (row: RowPlan) =>
    (row.outcome === 'new' && isNewAllowed) ||
    (row.outcome === 'changed' && mayTouch(row.item)) ||
    row.outcome === 'unchanged' ||
    row.outcome === 'refused';
  return {
    ...plan,
    rows: plan.rows.map((row): RowPlan => {
      if (isAllowed(row)) return row;
      const { line, key } = row;
      const code = row.outcome === 'new' ? 'mayNotAdd' : 'mayNotEdit';
      return { line, key, outcome: 'refused', faults: [{ column: null, code, params: {} }] };
    }),
  };
}

/**
 * Takes a table into a source: what was looked at, all of it in one transaction as one batch at one instant, or none
 * where it would come to something else by now.
 * @param key under which it is done once, however often it is asked for
 * @param onWritten hears how far it has come
 */
export async function takeImport(
  { pool, clock }: Pick<ActContext, 'pool' | 'clock'>,
  source: Source,
  given: { grid: Grid; mapping: ImportMapping; seal: string },
  asking: Caller,
  { key, onWritten }: { key: string; onWritten?: OnWritten },
): Promise<{ batch: string; counts: Counts }> {
  const batch = shortKey(`batch/${key}`);
  return inTransaction(pool, async (on) => {
    const planned = await planImport(on, source, given, asking, true);
    const { plan, counts, items, seal } = planned;
    const before = await rows(on, store.changes.kindsIn(source.id, batch));
    if (before.length > 0) return { batch, counts: countsOfKinds(before, counts) };
    if (seal !== given.seal) throw new Refusal('editedMeanwhile', { because: 'movedOn' });
    const at = Math.max(clock.now(), ...[...items.values()].map(({ lastAt }) => lastAt));
    await writePlan(on, source, {
      plan,
      items,
      at,
      batch,
      key,
      actor: asking.me.id,
      ...(onWritten ? { onWritten } : {}),
    });
    await run(
      on,
      store.audit.add({
        at: clock.now(),
        kind: 'imported',
        actor: asking.me.id,
        origin: originNow(),
        about: { source: source.name, rows: counts.new + counts.changed },
      }),
    );
    return { batch, counts };
  });
}

/** What a plan is written as. */
export interface Writing {
  plan: TablePlan;
  items: ReadonlyMap<string, StoredItem>;
  at: number;
  batch: string;
  key: string;
  actor: string;
  /** What every change of it tells beside its values. */
  detail?: Edit['detail'];
  /** Hears how far it has come. */
  onWritten?: OnWritten;
}

/** Writes what a plan comes to, all of it as one batch. */
export async function writePlan(on: PoolConnection, source: Source, writing: Writing): Promise<void> {
  const { plan, items, at, batch, key, actor, detail, onWritten } = writing;
  const common = (place: string) => ({
    id: shortKey(`${key}/${place}`),
    actor,
    source,
    at,
    batch,
    ...(detail ? { detail } : {}),
  });
  const edits = plan.rows.flatMap((row): (Edit & { id: string })[] => {
    const place = `line ${row.line}`;
    if (row.outcome === 'new')
      return [{ ...common(place), item: shortKey(`item/${key}/${row.line}`), kind: 'created', set: row.set }];
    if (row.outcome === 'changed') return [{ ...common(place), item: row.item, kind: 'changed', set: row.set }];
    return [];
  });
  const gone = plan.deleted.map((item): Edit & { id: string } => ({
    ...common(`gone ${item}`),
    item,
    kind: 'deleted',
  }));
  await passDoorTogether(on, [...edits, ...gone], items, onWritten);
}

function expectMapping(grid: Grid, mapping: Mapping, source: Source): void {
  const tooMany = mapping.columns.length !== grid.columns.length ? [{ code: 'noColumnUsed', params: {} }] : [];
  const faults = [...tooMany, ...faultsOfMapping(mapping, source)].map((fault) => ({ ...fault, path: 'mapping' }));
  if (faults.length > 0) throw new Refusal('badValues', { faults });
}

/** What was done under the key before, by the kinds of its changes. */
function countsOfKinds(kinds: readonly { kind: string; size: number }[], now: Counts): Counts {
  const of = (kind: string) => kinds.find((one) => one.kind === kind)?.size ?? 0;
  return { ...now, new: of('created'), changed: of('changed') };
}

/** By what names a table's texts are known to somebody: those of people, and of items that they may read. */
export async function namesOf(on: Connection, source: Source, { me, directory }: Caller): Promise<NamesKnown> {
  const may = readableItems(me.id, directory);
  const linked = [...new Set(source.fields.flatMap(({ type, to = '' }) => (isLinkType(type) ? [to] : [])))];
  const titles = await several(
    on,
    linked.map((to) => store.items.titlesIn(to, may)),
  );
  return {
    locale: me.locale,
    hidden: HIDDEN_ITEM,
    people: [...directory.people.values()].map(({ id, name, email }): Name => [id, [name, email ?? '']]),
    items: linked.map((to, at) => [to, (titles[at] ?? []).map(({ id, title }): Name => [id, [title]])]),
  };
}

import type { Pool, PoolConnection } from 'mysql2/promise';
import { Refusal } from '../../contract/problems.ts';
import {
  freshId,
  type Grid,
  guessColumns,
  type Guess,
  type Mapping,
  planTable,
  type Reading,
  type TablePlan,
} from '../../core/tables/index.ts';
import type { Field, Source } from '../../core/values/index.ts';
import { type Caller, expectChange } from '../access/index.ts';
import {
  inTransaction,
  newId,
  one,
  rows,
  run,
  runAll,
  type Sheet,
  type SheetFault,
  shortKey,
  store,
  type StoredItem,
} from '../store/index.ts';
import { isTable, readTable } from '../tables/index.ts';
import type { ActContext } from './context.ts';
import { writePlan } from './importing.ts';
import { expectFree } from './item-acts.ts';

/** What a new version of a document holds: what was handed in, or what an earlier version held. */
export type NewContents = { upload: string } | { number: number };

/** So many cells that could not be taken are told. */
const MOST_FAULTS = 50;

/** What a new version gives to the rows that are watched: its table, or why it has none. */
export interface VersionRows {
  sheet: Sheet;
  grid: Grid | null;
  fault: SheetFault | null;
}

const ofWhole = (code: string, params: SheetFault['params'] = {}): SheetFault => ({
  line: null,
  column: null,
  code,
  params,
});

/** Reads, before anything is locked, the table of what is about to become a version; `null` where no rows are watched. */
export async function rowsOfVersion(
  pool: Pool,
  document: StoredItem,
  given: NewContents,
  { me }: Caller,
): Promise<VersionRows | null> {
  const sheet = await one(pool, store.sheets.ofDocument(document.id));
  if (!sheet?.isWatching) return null;
  const content =
    'upload' in given
      ? await one(pool, store.contents.handedIn([given.upload], me.id))
      : await one(pool, store.contents.version(document.id, given.number)).then(
          (version) => version && { ...version, id: version.content },
        );
  if (!content) return null;
  try {
    const { grid } = await readTable(pool, content, sheet.sheet);
    return { sheet, grid, fault: null };
  } catch (error) {
    if (!(error instanceof Refusal)) throw error;
    return { sheet, grid: null, fault: ofWhole(isTable(content.mediaType) ? 'sheetUnread' : 'sheetNoTable') };
  }
}

/** Whether the rows of a document are watched now as they were not when a version's table was read, if it was. */
export async function isWatchedOtherwise(
  on: PoolConnection,
  document: string,
  read: VersionRows | null,
): Promise<boolean> {
  const sheet = await one(on, store.sheets.ofDocument(document));
  return sheet?.isWatching === true && (read === null || read.sheet.sheet !== sheet.sheet);
}

/** Whoever made the version, and when. */
interface Made {
  item: StoredItem;
  actor: string;
  at: number;
}

/**
 * Gives the rows of a document what its newest version holds: one change for each row that differs, all of them one
 * batch, in the transaction that keeps the version. Cells that cannot stand are left as they were, and told.
 */
export async function takeRows(
  on: PoolConnection,
  { sheet: read, grid, fault }: VersionRows,
  made: Made,
): Promise<void> {
  const sheet = await one(on, store.sheets.ofDocument(read.document));
  const [newest] = await rows(on, store.contents.versionsOf(read.document));
  // Done before, under the same key; or nobody watches it any more.
  if (!(sheet?.isWatching && newest) || newest.number <= sheet.number) return;
  const next = { ...sheet, number: newest.number };
  if (!grid?.columns.includes(sheet.key)) {
    const told = fault ?? ofWhole('sheetKeyGone', { column: sheet.key });
    await run(on, store.sheets.save({ ...next, faults: [told] }));
    return;
  }
  await writeRows(on, await sourceOf(on, sheet), next, grid, made);
}

/** Writes what a table comes to into the rows of its sheet, and what of it could not be taken. */
async function writeRows(
  on: PoolConnection,
  known: Source,
  sheet: Sheet,
  grid: Grid,
  { actor, at }: Pick<Made, 'actor' | 'at'>,
): Promise<void> {
  const { source, columns } = widened(known, sheet, grid);
  const items = await rows(on, store.items.allOf(source.id, true));
  const mapping: Mapping = {
    columns: grid.columns.map((name) => fieldFor(name, columns)),
    key: fieldFor(sheet.key, columns),
    absent: 'delete',
    faulty: 'leave',
  };
  const plan = planTable(grid, mapping, source, items, readingOf(sheet));
  await runAll(on, [
    store.sheets.save({ ...sheet, columns, faults: faultsOf(plan, sheet, grid) }),
    ...(source === known ? [] : [store.sources.saveFields(source.id, source.fields), store.world.raise()]),
  ]);
  const then = Math.max(at, ...items.map(({ lastAt }) => lastAt));
  // A version is taken once; begun anew, the same one may be taken again.
  const key = `sheet/${sheet.document}/${sheet.number}/${then}`;
  await writePlan(on, source, {
    plan,
    items: new Map(items.map((item) => [item.id, item])),
    at: then,
    batch: shortKey(`batch/${key}`),
    key,
    actor,
  });
}

/** The field of a column; a column may be called as what every object has. */
const fieldFor = (name: string, columns: Sheet['columns']): string | null =>
  Object.hasOwn(columns, name) ? (columns[name] ?? null) : null;

/** No cell of a sheet names a person or an item. */
const readingOf = ({ locale }: Sheet): Reading => ({ locale, person: () => null, item: () => null });

/** The source with a field for each column that is new, and which column is which field. */
function widened(source: Source, sheet: Sheet, grid: Grid): { source: Source; columns: Sheet['columns'] } {
  const fresh = guessColumns(grid, sheet.locale).filter(({ name }) => fieldFor(name, sheet.columns) === null);
  if (fresh.length === 0) return { source, columns: sheet.columns };
  const added = fieldsOf(fresh, source.fields);
  return {
    source: { ...source, fields: [...source.fields, ...added] },
    columns: { ...sheet.columns, ...Object.fromEntries(added.map(({ id }, at) => [fresh[at]?.name ?? '', id])) },
  };
}

/** Fields for columns: what would be a choice is text, since a sheet may hold anything tomorrow. */
function fieldsOf(guesses: readonly Guess[], before: readonly Field[]): Field[] {
  const taken = new Set(before.map(({ id }) => id));
  return guesses.map(({ name, type }) => {
    const id = freshId(name, taken);
    taken.add(id);
    return { id, name: name.slice(0, 200), type: type === 'choice' ? 'text' : type };
  });
}

function faultsOf({ rows: planned, left }: TablePlan, sheet: Sheet, grid: Grid): SheetFault[] {
  const gone = Object.keys(sheet.columns).filter((name) => !grid.columns.includes(name));
  const refused = planned.flatMap((row) =>
    row.outcome === 'refused' ? row.faults.map((fault): SheetFault => ({ ...fault, line: row.line })) : [],
  );
  return [...gone.map((column) => ofWhole('sheetColumnGone', { column })), ...refused, ...left].slice(0, MOST_FAULTS);
}

/** What a table document's newest version holds, to choose by which column its rows are told apart. */
export async function lookAtSheet(
  pool: Pool,
  document: StoredItem,
  wanted: string | null,
): Promise<{ grid: Grid; sheets: string[]; number: number } | null> {
  const version = await one(pool, store.contents.version(document.id, null));
  if (!version || !isTable(version.mediaType)) return null;
  return { ...(await readTable(pool, { ...version, id: version.content }, wanted)), number: version.number };
}

/**
 * Begins to watch the rows of a table document, told apart by one of its columns: they become the items of a source of
 * their own. Begun again after it was ended, or with another column, the rows that there are go on.
 */
export async function watchSheet(
  context: Pick<ActContext, 'pool' | 'clock'>,
  document: StoredItem,
  wanted: { key: string; sheet: string | null },
  asking: Caller,
): Promise<Sheet> {
  expectChange(document, asking);
  expectFree(document, asking);
  for (;;) {
    const looked = await lookAtSheet(context.pool, document, wanted.sheet);
    if (!looked) throw new Refusal('badRequest', { because: 'notATable' });
    if (!looked.grid.columns.includes(wanted.key))
      throw new Refusal('badValues', {
        faults: [{ code: 'sheetKeyGone', path: 'key', params: { column: wanted.key } }],
      });
    const sheet = await beginSheet(context, document, { ...wanted, ...looked }, asking);
    if (sheet) return sheet;
  }
}

/** Begins with the version that was looked at; `null`, and nothing written, where there is a newer one by now. */
async function beginSheet(
  { pool, clock }: Pick<ActContext, 'pool' | 'clock'>,
  document: StoredItem,
  { key, sheet: wanted, grid, number }: { key: string; sheet: string | null; grid: Grid; number: number },
  asking: Caller,
): Promise<Sheet | null> {
  return inTransaction(pool, async (on) => {
    const item = await one(on, store.items.byId(document.id, true));
    if (!item || item.isDeleted) throw new Refusal('gone');
    const newest = await one(on, store.contents.version(document.id, null));
    if (newest?.number !== number) return null;
    const before = await one(on, store.sheets.ofDocument(document.id));
    const { source, sheet } = before
      ? { source: await sourceOf(on, before), sheet: { ...before, key, sheet: wanted, isWatching: true } }
      : begun(grid, { key, sheet: wanted, document: document.id, locale: asking.me.locale }, clock.now());
    if (!before) await run(on, store.sources.create({ ...source, about: '' }));
    const next = { ...sheet, number };
    // It is kept before the rows are, so that they are read by who reads the document.
    await runAll(on, [store.sheets.save(next), store.world.raise()]);
    await writeRows(on, source, next, grid, { actor: asking.me.id, at: clock.now() });
    return (await one(on, store.sheets.ofDocument(document.id))) as Sheet;
  });
}

async function sourceOf(on: PoolConnection, { source }: Sheet): Promise<Source> {
  const found = (await rows(on, store.people.sources())).find(({ id }) => id === source);
  if (!found) throw new Refusal('gone');
  return found;
}

/** A source for the rows of a sheet that is watched for the first time. */
function begun(
  grid: Grid,
  given: Pick<Sheet, 'key' | 'sheet' | 'document' | 'locale'>,
  now: number,
): { source: Source; sheet: Sheet } {
  const guesses = guessColumns(grid, given.locale);
  const fields = fieldsOf(guesses, []);
  const columns = Object.fromEntries(guesses.map(({ name }, at) => [name, fields[at]?.id ?? '']));
  const id = newId(now);
  return {
    source: { id, kind: 'list', name: given.document, titleField: fieldFor(given.key, columns) ?? '', fields },
    sheet: { ...given, source: id, columns, number: 0, faults: [], isWatching: true },
  };
}

/** Ends watching the rows of a document; they stay as they are. */
export async function leaveSheet({ pool }: Pick<ActContext, 'pool'>, document: StoredItem): Promise<void> {
  await inTransaction(pool, async (on) => {
    const sheet = await one(on, store.sheets.ofDocument(document.id));
    if (sheet) await run(on, store.sheets.save({ ...sheet, isWatching: false }));
  });
}

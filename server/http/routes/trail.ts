import type { TrailEntry } from '../../../contract/wire/index.ts';
import { addDays, atLocal, MIDNIGHT, parseInstant } from '../../../core/time/index.ts';
import { fieldOf, sameValue, type Source } from '../../../core/values/index.ts';
import { type Caller, linksOf, readableAmong, statesOf, titlesOf, trailRow, when } from '../../access/index.ts';
import { readableItems, rows, store, type StoredChange } from '../../store/index.ts';
import type { Context } from '../context.ts';
import type { Asked, Handlers } from '../register.ts';

const PAGE = 80;
/** So many changes are read for a page at most: a batch stands as one, however many it has. */
const READ = 600;

/** The trail: everything that happened to what the reader may see. */
export const trailHandlers: Handlers<'trail.list'> = {
  async 'trail.list'(context, { query, asking }) {
    const { pool } = context;
    const { me, directory } = asking;
    const found = await changesFor(context, query, asking);
    const { shown, batches, last } = pageOf(found, query.batch === undefined);
    const sizes = new Map(
      batches.length === 0
        ? []
        : (await rows(pool, store.changes.batchSizes(readableItems(me.id, directory), batches))).map(
            ({ batch, size }) => [batch, size],
          ),
    );
    const sourceOf = ({ source }: StoredChange) => directory.sources.get(source) as Source;
    const items = await readableAmong(
      pool,
      shown.map((change) => change.item),
      me.id,
      directory,
    );
    const links = await linksOf(
      pool,
      shown.flatMap((change) => statesOf(change, sourceOf(change))),
      { me, directory },
    );
    const caught =
      shown.length === 0
        ? []
        : await rows(pool, store.changes.caughtBySeveral(shown.map(({ source, id }) => [source, id])));
    const caughtBy = ({ source, id }: StoredChange) =>
      caught.filter((row) => row.source === source && row.change === id).map((row) => row.rule);
    const hasMore = last !== null && (found.indexOf(last) < found.length - 1 || found.length === READ);
    return {
      entries: shown.map(
        (change): TrailEntry => ({
          source: change.source,
          item: change.item,
          title: items.get(change.item)?.title ?? '',
          row: trailRow(change, sourceOf(change), links, caughtBy(change)),
          batch: batchOf(change, sizes),
        }),
      ),
      names: { ...titlesOf(items), ...links.names },
      next: hasMore && last ? `${when(last.at)}_${last.seq}` : null,
    };
  },
};

async function changesFor(
  { pool }: Context,
  { from, until, before, ...asked }: Asked<'trail.list'>['query'],
  { me, directory }: Caller,
): Promise<StoredChange[]> {
  const day = (date: string | undefined) => (date === undefined ? null : atLocal(date, MIDNIGHT, me.zone));
  const wanted = { ...asked, from: day(from), until: day(until && addDays(until, 1)), before: readPlace(before) };
  const found = await rows(pool, store.changes.trail(readableItems(me.id, directory), wanted, READ));
  return found.filter((change) => {
    const source = directory.sources.get(change.source);
    return source !== undefined && isOfField(change, asked.field, source);
  });
}

/** A page of changes, of each batch its newest alone; the batches that stand so, and the last change that is covered. */
function pageOf(
  found: readonly StoredChange[],
  isGathered: boolean,
): { shown: StoredChange[]; batches: string[]; last: StoredChange | null } {
  const shown: StoredChange[] = [];
  const batches = new Set<string>();
  let last: StoredChange | null = null;
  for (const change of found) {
    const batch = isGathered ? change.batch : null;
    if (batch !== null && batches.has(batch)) {
      last = change;
      continue;
    }
    if (shown.length === PAGE) break;
    if (batch !== null) batches.add(batch);
    shown.push(change);
    last = change;
  }
  return { shown, batches: [...batches], last };
}

function batchOf({ batch }: StoredChange, sizes: ReadonlyMap<string, number>): TrailEntry['batch'] {
  const count = batch === null ? 1 : (sizes.get(batch) ?? 1);
  return batch !== null && count > 1 ? { id: batch, count } : null;
}

function readPlace(text: string | undefined): { at: number; seq: number } | null {
  const [at, seq] = text?.split('_') ?? [];
  const instant = at ? parseInstant(at) : null;
  return instant === null || !/^\d+$/.test(seq ?? '') ? null : { at: instant, seq: Number(seq) };
}

/** Whether a field of the change differs as core sees it; the database sees every other spelling too. */
function isOfField({ before, after }: StoredChange, id: string | undefined, source: Source): boolean {
  if (id === undefined) return true;
  const field = fieldOf(source, id);
  return field !== undefined && !sameValue(field.type, before?.[id], after?.[id]);
}

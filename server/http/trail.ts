import { Router } from 'express';
import { type TrailEntry, type TrailPage, trailQuerySchema } from '../../contract/api.ts';
import { addDays, atLocal, MIDNIGHT, parseInstant } from '../../core/time/index.ts';
import { fieldOf, membersOf, sameValue, type Source } from '../../core/values/index.ts';
import {
  batchSizesQuery,
  caughtBySeveralQuery,
  readableItems,
  rows,
  type StoredChange,
  toChange,
  trailQuery,
} from '../store/index.ts';
import { caller, type Context, readableAmong, take, when } from './context.ts';
import { trailRow } from './shown.ts';

const PAGE = 80;
/** So many changes are read for a page at most: a batch stands as one, however many it has. */
const READ = 600;

/** The trail: everything that happened to what the reader may see. */
export function trailRoutes({ pool }: Context): Router {
  const routes = Router();

  routes.get('/trail', async (request, response) => {
    const { me, directory } = caller(response);
    const { from, until, before, ...asked } = take(trailQuerySchema, request.query);
    const day = (date: string | undefined) => (date === undefined ? null : atLocal(date, MIDNIGHT, me.zone));
    const may = readableItems(me.id, directory);
    const found = (
      await rows(
        pool,
        trailQuery(
          may,
          { ...asked, from: day(from), until: day(until && addDays(until, 1)), before: readPlace(before) },
          READ,
        ),
      )
    )
      .map(toChange)
      .filter(
        (change) =>
          directory.sources.has(change.source) &&
          isOfField(change, asked.field, directory.sources.get(change.source) as Source),
      );
    const shown: StoredChange[] = [];
    const batches = new Set<string>();
    let last: StoredChange | null = null;
    for (const change of found) {
      if (change.batch !== null && asked.batch === undefined) {
        if (batches.has(change.batch)) {
          last = change;
          continue;
        }
        if (shown.length < PAGE) batches.add(change.batch);
      }
      if (shown.length === PAGE) break;
      shown.push(change);
      last = change;
    }
    const sizes = new Map(
      batches.size === 0
        ? []
        : (await rows<{ batch: string; size: number }>(pool, batchSizesQuery(may, [...batches]))).map((row) => [
            row.batch,
            Number(row.size),
          ]),
    );
    const items = await readableAmong(
      pool,
      shown.flatMap((change) => [change.item, ...linksOf(change, directory.sources.get(change.source) as Source)]),
      me.id,
      directory,
    );
    const caught =
      shown.length === 0
        ? []
        : await rows<{ source_id: string; change_id: string; rule_id: string }>(
            pool,
            caughtBySeveralQuery(shown.map(({ source, id }) => [source, id])),
          );
    const hasMore = last !== null && (found.indexOf(last) < found.length - 1 || found.length === READ);
    response.json({
      entries: shown.map(
        (change): TrailEntry => ({
          source: change.source,
          item: change.item,
          title: items.get(change.item)?.title ?? '',
          row: trailRow(
            change,
            directory.sources.get(change.source) as Source,
            caught
              .filter((row) => row.source_id === change.source && row.change_id === change.id)
              .map((row) => row.rule_id),
          ),
          batch:
            change.batch !== null && (sizes.get(change.batch) ?? 1) > 1
              ? { id: change.batch, count: sizes.get(change.batch) ?? 1 }
              : null,
        }),
      ),
      names: Object.fromEntries([...items.values()].map((item) => [item.id, item.title])),
      next: hasMore && last ? `${when(last.at)}_${last.seq}` : null,
    } satisfies TrailPage);
  });

  return routes;
}

/** Whether a field of the change differs as core sees it; the database sees every other spelling too. */
const isOfField = ({ before, after }: StoredChange, id: string | undefined, source: Source): boolean => {
  const field = id === undefined ? undefined : fieldOf(source, id);
  return id === undefined || (field !== undefined && !sameValue(field.type, before?.[id], after?.[id]));
};

const linksOf = ({ before, after }: StoredChange, source: Source): string[] =>
  source.fields
    .filter((field) => field.type === 'link' || field.type === 'links')
    .flatMap((field) => [...membersOf(before?.[field.id]), ...membersOf(after?.[field.id])]);

function readPlace(text: string | undefined): { at: number; seq: number } | null {
  const [at, seq] = text?.split('_') ?? [];
  const instant = at ? parseInstant(at) : null;
  return instant === null || !seq ? null : { at: instant, seq: Number(seq) };
}

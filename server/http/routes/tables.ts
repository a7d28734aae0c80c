import { pipeline } from 'node:stream/promises';
import { Readable } from 'node:stream';
import { Refusal } from '../../../contract/problems.ts';
import type { PlannedRow } from '../../../contract/wire/index.ts';
import { titleOf } from '../../../core/messages/index.ts';
import { type Grid, ITEM_ID, type RowPlan } from '../../../core/tables/index.ts';
import type { Source } from '../../../core/values/index.ts';
import { type Caller, linksOf, type State, visibleSource } from '../../access/index.ts';
import { fieldsOfColumns, planImport, type Planned, progressOf, takeImport, withProgress } from '../../acts/index.ts';
import { originNow } from '../../kit/index.ts';
import { newId, one, run, store } from '../../store/index.ts';
import { readTable, type TableRead, tableFile } from '../../tables/index.ts';
import type { Context } from '../context.ts';
import { listItems, MOST_LISTED } from '../listing.ts';
import type { Handlers } from '../register.ts';
import { tableOf } from '../written-table.ts';

/** So many rows of each sort are shown. */
const SHOWN = 100;
const SAMPLES = 3;

/** Files into a source and out of it: looked at, planned row by row, taken as one batch, written. */
export const tableHandlers: Handlers<'tables.look' | 'tables.plan' | 'tables.take' | 'tables.progress' | 'tables.out'> =
  {
    async 'tables.look'({ pool }, { params, body, asking }) {
      const source = openTo(params.source, asking);
      const { grid, sheets } = await tableIn({ pool }, body, asking);
      const columns = fieldsOfColumns(grid.columns, source);
      return {
        rows: grid.rows.length,
        sheets,
        columns: grid.columns.map((name, at) => ({ name, samples: samplesOf(grid, at), field: columns[at] ?? null })),
        key: keyAmong(columns, source),
      };
    },

    async 'tables.plan'({ pool }, { params, body, asking }) {
      const source = openTo(params.source, asking);
      const { grid } = await tableIn({ pool }, body, asking);
      const planned = await planImport(pool, source, { grid, mapping: body.mapping }, asking);
      const shown = shownOf(planned, source, namesIn(grid, body.mapping.columns.indexOf(source.titleField)));
      const states = shown.flatMap((row): State[] => [
        [source, row.set],
        [source, row.before],
      ]);
      const links = await linksOf(pool, states, asking);
      const readable = shown.map((row) => ({ ...row, before: links.shown(row.before, source) ?? {} }));
      return { counts: planned.counts, seal: planned.seal, rows: readable, names: links.names };
    },

    async 'tables.take'(context, { params, body, asking, editKey }) {
      const source = openTo(params.source, asking);
      const { grid } = await tableIn(context, body, asking);
      const { mapping, seal } = body;
      const key = editKey ?? newId(context.clock.now());
      const done = await withProgress(asking.me.id, body.upload, (onWritten) =>
        takeImport(context, source, { grid, mapping, seal }, asking, { key, onWritten }),
      );
      context.wake();
      return done;
    },

    'tables.progress'(_context, { params, query: { upload }, asking }) {
      visibleSource(params.source, asking);
      return { progress: progressOf(asking.me.id, upload) };
    },

    async 'tables.out'(context, { params, query: { as, ...asked }, asking, response }) {
      const source = visibleSource(params.source, asking);
      const page = { limit: MOST_LISTED, offset: 0 };
      const { items } = await listItems(context, source, asked, asking, page);
      await run(
        context.pool,
        store.audit.add({
          at: context.clock.now(),
          kind: 'exported',
          actor: asking.me.id,
          origin: originNow(),
          about: { source: source.name, rows: items.length, as },
        }),
      );
      const { mediaType, bytes } = await tableFile(await tableOf(context.pool, source, items, asking), as);
      response.set({
        'content-type': mediaType,
        'content-length': String(bytes.length),
        'content-disposition': `attachment; filename*=UTF-8''${encodeURIComponent(`${source.name}.${as}`)}`,
        'x-content-type-options': 'nosniff',
        'cache-control': 'private, no-store',
      });
      await pipeline(Readable.from([bytes]), response);
    },
  };

/** A source that files can go into; documents are handed in as they are. */
function openTo(id: string, asking: Caller): Source {
  const source = visibleSource(id, asking);
  if (source.kind === 'folders') throw new Refusal('badRequest', { because: 'rowsAlone' });
  return source;
}

/** The table in contents that the caller handed in. */
async function tableIn(
  { pool }: Pick<Context, 'pool'>,
  { upload, sheet }: { upload: string; sheet: string | null },
  { me }: Caller,
): Promise<TableRead> {
  const content = await one(pool, store.contents.waitingOf(upload, me.id));
  if (!content) throw new Refusal('badRequest', { because: 'uploadGone' });
  return readTable(pool, content, sheet);
}

const samplesOf = (grid: Grid, at: number): string[] =>
  grid.rows
    .flatMap(({ cells }) => (cells[at] === null || cells[at] === undefined ? [] : [String(cells[at]).slice(0, 80)]))
    .slice(0, SAMPLES);

/** By what rows would be known again: the items' own ids, else the field that items go by. */
function keyAmong(columns: readonly (string | null)[], source: Source): string | null {
  if (columns.includes(ITEM_ID)) return ITEM_ID;
  return columns.includes(source.titleField) ? source.titleField : null;
}

/** What rows call their items, by line, as they are written. */
const namesIn = ({ rows }: Grid, column: number): Map<number, string> =>
  new Map(rows.flatMap(({ line, cells }) => (cells[column] ? [[line, String(cells[column])]] : [])));

/** The first rows of each sort, in the order of the file. */
function shownOf({ plan, items }: Planned, source: Source, names: ReadonlyMap<number, string>): PlannedRow[] {
  const left: Record<RowPlan['outcome'], number> = { new: SHOWN, changed: SHOWN, unchanged: 0, refused: SHOWN };
  return plan.rows
    .filter(({ outcome }) => {
      left[outcome] -= 1;
      return left[outcome] >= 0;
    })
    .map((row): PlannedRow => {
      const item = 'item' in row ? items.get(row.item) : undefined;
      const set = 'set' in row ? row.set : {};
      return {
        line: row.line,
        outcome: row.outcome,
        title: item ? titleOf(source, item.id, item.fields) : (names.get(row.line) ?? row.key),
        set,
        before: 'before' in row ? row.before : {},
        faults: row.outcome === 'refused' ? row.faults : [],
      };
    });
}

import { Refusal } from '../../../contract/problems.ts';
import type { SheetLooked } from '../../../contract/wire/index.ts';
import { guessColumns, tellsApart } from '../../../core/tables/index.ts';
import { type Caller, expectChange, readableItem } from '../../access/index.ts';
import { leaveSheet, lookAtSheet, watchSheet } from '../../acts/index.ts';
import { one, type Sheet, store } from '../../store/index.ts';
import type { Handlers } from '../register.ts';

/** Table documents: what they hold, and whether their rows are watched. */
export const sheetHandlers: Handlers<'sheets.look' | 'sheets.watch' | 'sheets.leave'> = {
  async 'sheets.look'({ pool }, { params, query, asking }) {
    const document = await readableItem(pool, params.id, asking);
    const sheet = await one(pool, store.sheets.ofDocument(document.id));
    const looked = await lookAtSheet(pool, document, query.sheet ?? sheet?.sheet ?? null).catch((error: unknown) => {
      if (error instanceof Refusal) return null;
      throw error;
    });
    return { table: looked && tableRow(looked, asking), watched: sheet ? watchedRow(sheet) : null };
  },

  async 'sheets.watch'(context, { params, body, asking }) {
    const document = await readableItem(context.pool, params.id, asking);
    const sheet = await watchSheet(context, document, body, asking);
    context.wake();
    return watchedRow(sheet);
  },

  async 'sheets.leave'(context, { params, asking }) {
    const document = await readableItem(context.pool, params.id, asking);
    expectChange(document, asking);
    await leaveSheet(context, document);
  },
};

function tableRow(
  { grid, sheets }: NonNullable<Awaited<ReturnType<typeof lookAtSheet>>>,
  { me }: Caller,
): SheetLooked['table'] {
  const types = guessColumns(grid, me.locale);
  return {
    rows: grid.rows.length,
    sheets,
    columns: types.map(({ name, type }, at) => ({ name, type, tellsApart: tellsApart(grid, at) })),
  };
}

const watchedRow = ({ document: _document, locale: _locale, ...row }: Sheet) => row;

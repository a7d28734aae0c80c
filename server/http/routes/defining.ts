import { Refusal } from '../../../contract/problems.ts';
import { guessColumns, guessKey } from '../../../core/tables/index.ts';
import type { Caller } from '../../access/index.ts';
import { defineSource, redefineSource } from '../../acts/index.ts';
import { cleanName, receiveContents } from '../../contents/index.ts';
import { readTable } from '../../tables/index.ts';
import type { Handlers } from '../register.ts';

/** Defining sources, for stewards: in the page, or from a file whose columns are guessed. */
export const definingHandlers: Handlers<'sources.define' | 'sources.redefine' | 'sources.guess'> = {
  async 'sources.define'(context, { body, asking }) {
    expectSteward(asking);
    return { id: await defineSource(context, body, asking) };
  },

  async 'sources.redefine'(context, { params, body, asking }) {
    expectSteward(asking);
    const known = asking.directory.sources.get(params.source);
    if (!known) throw new Refusal('notFound');
    if (known.sheetOf !== undefined) throw new Refusal('badRequest', { because: 'rowsOfDocument' });
    if (known.kind !== 'list' && known.kind !== 'records') throw new Refusal('badRequest', { because: 'rowsAlone' });
    await redefineSource(context, known, body, asking);
  },

  async 'sources.guess'({ pool, clock }, { query, asking, request }) {
    expectSteward(asking);
    if (!request.is('application/octet-stream')) throw new Refusal('badRequest', { because: 'contentsAsTheyAre' });
    const name = cleanName(query.name);
    const content = await receiveContents(pool, request, { name, by: asking.me.id, at: clock.now() });
    const { grid } = await readTable(pool, content);
    const guesses = guessColumns(grid, asking.me.locale);
    const isText = (at: number | null) => at !== null && guesses[at]?.type === 'text';
    const key = guessKey(grid);
    const title = isText(key)
      ? (key ?? 0)
      : Math.max(
          0,
          guesses.findIndex(({ type }) => type === 'text'),
        );
    return {
      rows: grid.rows.length,
      fields: guesses.map(({ name: column, type, options = [] }) => ({
        id: null,
        name: column.slice(0, 200),
        type,
        options: options.map((option) => ({ id: null, name: option })),
        to: null,
      })),
      title,
    };
  },
};

function expectSteward({ me }: Caller): void {
  if (me.role !== 'steward') throw new Refusal('notAllowed', { because: 'sourcesAreForStewards' });
}

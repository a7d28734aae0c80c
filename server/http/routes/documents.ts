import { pipeline } from 'node:stream/promises';
import { Readable } from 'node:stream';
import { Refusal } from '../../../contract/problems.ts';
import type { DocumentVersionRow } from '../../../contract/wire/index.ts';
import type { Source } from '../../../core/values/index.ts';
import { type Caller, itemRow, linksOf, readableItem, visibleSource, when } from '../../access/index.ts';
import { addDocuments, addVersion, type NewContents, noteLook } from '../../acts/index.ts';
import { cleanName, piecesOf, receiveContents } from '../../contents/index.ts';
import type { Done } from '../../intake/index.ts';
import { type DocumentVersion, one, rows, store } from '../../store/index.ts';
import { isWorkbook, readTable, tableFile } from '../../tables/index.ts';
import type { Context } from '../context.ts';
import type { Asked, Handlers } from '../register.ts';

/** Documents: handed in, in versions, looked at, brought back. */
export const documentHandlers: Handlers<
  'contents.handIn' | 'documents.add' | 'documents.versions' | 'documents.addVersion' | 'items.file'
> = {
  async 'contents.handIn'({ pool, clock }, { params, query, asking, request }) {
    visibleSource(params.source, asking);
    if (!request.is('application/octet-stream')) throw new Refusal('badRequest', { because: 'contentsAsTheyAre' });
    const name = cleanName(query.name);
    const content = await receiveContents(pool, request, { name, by: asking.me.id, at: clock.now() });
    return { upload: content.id, name, size: content.size, mediaType: content.mediaType };
  },

  async 'documents.add'(context, { params, body, asking, editKey }) {
    const done = await addDocuments(context, visibleSource(params.source, asking), body, asking, editKey);
    return Promise.all(done.map((one) => told(context, one, asking)));
  },

  async 'documents.versions'({ pool }, { params, asking }) {
    const item = await readableItem(pool, params.id, asking);
    return (await rows(pool, store.contents.versionsOf(item.id))).map(versionRow);
  },

  async 'documents.addVersion'(context, asked) {
    return told(context, await versionOf(context, asked, asked.body), asked.asking);
  },

  async 'items.file'(context, { params, query, asking, request, response }) {
    const { pool } = context;
    const item = await readableItem(pool, params.id, asking);
    const version = await one(pool, store.contents.version(item.id, query.number ?? null));
    if (!version) throw new Refusal('notFound');
    // Before anything of it is shown: nobody looks without its being noted. Whoever asks for the head alone sees nothing.
    if (request.method !== 'HEAD') await noteLook(context, item, asking);
    if (query.as === 'text' && isWorkbook(version.mediaType)) {
      const { grid } = await readTable(pool, { ...version, id: version.content });
      const { bytes } = await tableFile({ columns: grid.columns, rows: grid.rows.map(({ cells }) => cells) }, 'csv');
      response.set({ 'content-type': 'text/plain; charset=utf-8', 'x-content-type-options': 'nosniff' }).send(bytes);
      return;
    }
    const isText = version.mediaType.startsWith('text/');
    // A document is somebody's upload: it may be looked at, and run nothing.
    response.set({
      'content-type': isText ? `${version.mediaType}; charset=utf-8` : version.mediaType,
      'content-length': String(version.size),
      'content-disposition': `${query.as === 'download' ? 'attachment' : 'inline'}; filename*=UTF-8''${encodeURIComponent(version.name)}`,
      'content-security-policy': "default-src 'none'; style-src 'unsafe-inline'; sandbox",
      'x-content-type-options': 'nosniff',
      'cache-control': 'private, no-cache',
    });
    // Whoever stops reading in the middle is no failure of ours.
    await pipeline(Readable.from(piecesOf(pool, version.content)), response).catch((error: unknown) => {
      if (!response.destroyed) throw error;
    });
  },
};

async function versionOf(
  context: Context,
  { params, asking, editKey }: Pick<Asked<'documents.addVersion'>, 'params' | 'asking' | 'editKey'>,
  given: NewContents,
): Promise<Done> {
  const item = await readableItem(context.pool, params.id, asking);
  const source = asking.directory.sources.get(item.source) as Source;
  return addVersion(context, item, source, given, asking, editKey);
}

async function told(context: Context, done: Done, asking: Caller) {
  if (done.outcome === 'saved') context.wake(done.change);
  const source = asking.directory.sources.get(done.item.source) as Source;
  return itemRow(done.item, source, await linksOf(context.pool, [[source, done.item.fields]], asking));
}

const versionRow = ({ number, name, madeBy, madeAt, size, mediaType }: DocumentVersion): DocumentVersionRow => ({
  number,
  name,
  by: madeBy,
  at: when(madeAt),
  size,
  mediaType,
});

import { type Request, type Response, Router } from 'express';
import type { z } from 'zod';
import {
  createSchema,
  type Directory as DirectoryPage,
  editSchema,
  type EyeRow,
  type Found,
  fromSchema,
  type HearingRow,
  type ItemPage,
  type ItemRow,
  listQuerySchema,
  type SourceRow,
} from '../../contract/api.ts';
import { Refusal } from '../../contract/problems.ts';
import { previewRecipients } from '../../core/decide/index.ts';
import { type Folder, mayReadSome } from '../../core/people/index.ts';
import { checkRule, compileState, eyeOf, openRule } from '../../core/rules/index.ts';
import { asChange, type Change, fieldOf, membersOf, type Source } from '../../core/values/index.ts';
import { type Done, type Edit, editItem } from '../intake/index.ts';
import {
  caughtByQuery,
  changesOfItemQuery,
  countsQuery,
  type Directory,
  fileQuery,
  findItemsQuery,
  lastChangesQuery,
  listQuery,
  listSizeQuery,
  livePhases,
  newId,
  one,
  orderSql,
  readableItems,
  rows,
  shortKey,
  stateSql,
  type StoredItem,
  systemsQuery,
  toChange,
  toItem,
  worldOf,
} from '../store/index.ts';
import { type Caller, caller, type Context, param, readableAmong, readableItem, take, when } from './context.ts';
import { coordinates } from './rule-documents.ts';
import { itemRow, trailRow } from './shown.ts';

const PAGE = 200;
/** So many items of one source are looked through at most. */
const MOST = 50_000;

export function itemRoutes(context: Context): Router {
  const routes = Router();
  const { pool } = context;

  routes.get('/directory', async (_request, response) => {
    const { directory, me } = caller(response);
    const systems = await rows<{ source_id: string; actor: string }>(pool, systemsQuery());
    const people = [...directory.people.values()].map(({ id, name, title, active }) => ({
      id,
      name,
      title,
      isActive: active,
    }));
    const sources = visibleSources(me.id, directory);
    const ids = new Set(sources.map((source) => source.id));
    response.json({
      people,
      groups: [...directory.groups.values()],
      sources,
      folders: [...directory.folders.values()].filter((folder) => ids.has(folder.source)),
      contacts:
        me.role === 'member'
          ? []
          : [...directory.contacts.values()].map(({ id, name, confirmed }) => ({ id, name, isConfirmed: confirmed })),
      webhooks: me.role === 'member' ? [] : [...directory.webhooks.keys()],
      systems: systems
        .filter((row) => ids.has(row.source_id))
        .map((row) => ({ source: row.source_id, name: row.actor.slice('system:'.length) })),
      wordings: [...directory.wordings.values()],
      coordinates: sources.map((source) => source.id).filter((id) => coordinates(me, [id], directory)),
    } satisfies DirectoryPage);
  });

  routes.get('/sources', async (_request, response) => {
    const { directory, me } = caller(response);
    const counts = await rows<{ source_id: string; folder_id: string | null; items: number; last_at: number }>(
      pool,
      countsQuery(readableItems(me.id, directory)),
    );
    const now = context.clock.now();
    response.json(
      visibleSources(me.id, directory).map((source): SourceRow => {
        const own = counts.filter((row) => row.source_id === source.id);
        return {
          id: source.id,
          items: own.reduce((sum, row) => sum + Number(row.items), 0),
          lastAt: own.length === 0 ? null : when(Math.max(...own.map((row) => row.last_at))),
          byFolder: Object.fromEntries(
            own.flatMap((row) => (row.folder_id ? [[row.folder_id, Number(row.items)]] : [])),
          ),
          rules: livePhases(directory, now).filter(({ compiled }) => compiled.rule.scope.sources.includes(source.id))
            .length,
        };
      }),
    );
  });

  routes.get('/sources/:id/items', async (request, response) => {
    const { directory, me } = caller(response);
    const source = sourceFor(param(request, 'id'), caller(response));
    const asked = take(listQuerySchema, request.query);
    const { items, total } = await listed(source, asked, { me, directory });
    const last =
      items.length === 0 ? [] : (await rows(pool, lastChangesQuery(items.map((item) => item.id)))).map(toChange);
    const caught =
      last.length === 0
        ? []
        : await rows<{ change_id: string; rule_id: string }>(
            pool,
            caughtByQuery(
              source.id,
              last.map((change) => change.id),
            ),
          );
    const byItem = new Map(
      last.map((change) => [
        change.item,
        trailRow(
          change,
          source,
          caught.filter((row) => row.change_id === change.id).map((row) => row.rule_id),
        ),
      ]),
    );
    const names = await linkNames(
      items.map((item) => item.fields),
      source,
      caller(response),
    );
    response.json({ total, items: items.map((item): ItemRow => itemRow(item, byItem.get(item.id) ?? null)), names });
  });

  routes.post('/sources/:id/items', async (request, response) => {
    const source = sourceFor(param(request, 'id'), caller(response));
    const { set, folder } = take(createSchema, request.body);
    const now = context.clock.now();
    const key = keyOf(request, response);
    await answerEdit(
      response,
      {
        ...(key ? { id: shortKey(key) } : {}),
        actor: caller(response).me.id,
        source,
        item: key ? shortKey(`item/${key}`) : newId(now),
        kind: 'created',
        set,
        folder,
        at: now,
      },
      201,
    );
  });

  routes.get('/items/:id', async (request, response) => {
    const asking = caller(response);
    const item = await readableItem(pool, param(request, 'id'), asking);
    const source = asking.directory.sources.get(item.source) as Source;
    const changes = (await rows(pool, changesOfItemQuery(item.id, 60))).map(toChange);
    const caught =
      changes.length === 0
        ? []
        : await rows<{ change_id: string; rule_id: string }>(
            pool,
            caughtByQuery(
              item.source,
              changes.map((change) => change.id),
            ),
          );
    const states = [item.fields, ...changes.flatMap((change) => [change.before ?? {}, change.after ?? {}])];
    const file = await one<{ media_type: string }>(pool, fileQuery(item.id, null));
    response.json({
      item: itemRow(item, null),
      names: await linkNames(states, source, asking),
      trail: changes.map((change) =>
        trailRow(
          change,
          source,
          caught.filter((row) => row.change_id === change.id).map((row) => row.rule_id),
        ),
      ),
      hears: hearersOf(item, asking.directory),
      eyes: eyesOf(item, asking),
      file: file ? { name: item.title, mediaType: file.media_type } : null,
      mayEdit: !item.isDeleted,
    } satisfies ItemPage);
  });

  routes.patch('/items/:id', async (request, response) => {
    const item = await readableItem(pool, param(request, 'id'), caller(response));
    const { from, set } = take(editSchema, request.body);
    await answerEdit(response, { ...editOf(item, request, response), kind: 'changed', from, set });
  });

  routes.delete('/items/:id', async (request, response) => {
    const item = await readableItem(pool, param(request, 'id'), caller(response));
    await answerEdit(response, {
      ...editOf(item, request, response),
      kind: 'deleted',
      from: take(fromSchema, request.body).from,
    });
  });

  routes.post('/items/:id/restore', async (request, response) => {
    const item = await readableItem(pool, param(request, 'id'), caller(response));
    await answerEdit(response, {
      ...editOf(item, request, response),
      kind: 'restored',
      from: take(fromSchema, request.body).from,
    });
  });

  routes.get('/items/:id/file', async (request, response) => {
    const item = await readableItem(pool, param(request, 'id'), caller(response));
    const file = await one<{ media_type: string; bytes: Buffer }>(pool, fileQuery(item.id, null));
    if (!file) throw new Refusal('notFound');
    const type = file.media_type.startsWith('text/') ? `${file.media_type}; charset=utf-8` : file.media_type;
    // A document is somebody's upload: it may be looked at, and run nothing.
    response.set({
      'content-type': type,
      'content-disposition': `inline; filename*=UTF-8''${encodeURIComponent(item.title)}`,
      'content-security-policy': "default-src 'none'; style-src 'unsafe-inline'; sandbox",
      'cache-control': 'private, no-cache',
    });
    response.send(file.bytes);
  });

  routes.get('/find', async (request, response) => {
    const { directory, me } = caller(response);
    const { text } = take(listQuerySchema, request.query);
    const wanted = text.trim().toLowerCase();
    if (wanted === '') return void response.json({ items: [], rules: [], sources: [] } satisfies Found);
    const items = (await rows(pool, findItemsQuery(text.trim(), readableItems(me.id, directory), 8))).map(toItem);
    const sources = visibleSources(me.id, directory);
    const visible = new Set(sources.map((source) => source.id));
    const now = context.clock.now();
    const rules = livePhases(directory, now)
      .map(({ compiled }) => compiled)
      .filter(
        (one) => one.rule.name.toLowerCase().includes(wanted) && one.rule.scope.sources.every((id) => visible.has(id)),
      );
    response.json({
      items: items.map(({ id, title, source }) => ({ id, title, source })),
      rules: rules.slice(0, 5).map(({ rule }) => ({ id: rule.id, name: rule.name })),
      sources: sources
        .filter((source) => source.name.toLowerCase().includes(wanted))
        .map(({ id, name }) => ({ id, name })),
    } satisfies Found);
  });

  /** A page of a source's items as they were asked for. Where the database cannot judge a state exactly, core does, over all that may be. */
  async function listed(
    source: Source,
    { text, folder, offset, where, sort, down }: z.output<typeof listQuerySchema>,
    { me, directory }: Caller,
  ): Promise<{ items: StoredItem[]; total: number }> {
    const now = context.clock.now();
    const faults = where
      ? checkRule(
          {
            ...openRule('list', 'List', me.id, [source.id]),
            to: [{ person: me.id }],
            scope: { sources: [source.id], under: [], items: [], linked: false, where },
          },
          directory,
        ).filter((fault) => fault.path.startsWith('scope.where'))
      : [];
    if (faults.length > 0) throw new Refusal('badRequest', { faults });
    const sorted = sort === undefined ? undefined : fieldOf(source, sort);
    const state = where ? stateSql(where, { source, zone: me.zone, now }) : null;
    const isExact = state?.isExact ?? true;
    const listing = { text, folders: folder ? [folder, ...below(folder, directory.folders)] : null, where: state };
    const may = readableItems(me.id, directory);
    const order = sorted ? orderSql(sorted, down === '1') : null;
    if (isExact || !where) {
      const [found, size] = await Promise.all([
        rows(pool, listQuery(source.id, may, listing, { order, limit: PAGE, offset })),
        one<{ total: number }>(pool, listSizeQuery(source.id, may, listing)),
      ]);
      return { items: found.map(toItem), total: Number(size?.total ?? 0) };
    }
    const found = await rows(pool, listQuery(source.id, may, listing, { order, limit: MOST, offset: 0 }));
    const holds = compileState(where, source, me.zone);
    const items = found.map(toItem).filter((item) => holds(item.fields, now));
    return { items: items.slice(offset, offset + PAGE), total: items.length };
  }

  /** Who keeps an eye on an item: by a live rule of their own that is about it, its folder or its whole source. */
  function eyesOf(item: StoredItem, { me, directory }: Caller): EyeRow[] {
    const now = context.clock.now();
    const world = worldOf(directory, new Map([[item.id, item]]));
    return livePhases(directory, now).flatMap(({ compiled }): EyeRow[] => {
      const person = eyeOf(compiled.rule);
      return person !== null && compiled.inScope(asChange(item, now), world)
        ? [
            {
              person,
              rule: compiled.rule,
              mayEdit: person === me.id || coordinates(me, compiled.rule.scope.sources, directory),
            },
          ]
        : [];
    });
  }

  function editOf(item: StoredItem, request: Request, response: Response) {
    const { me, directory } = caller(response);
    const key = keyOf(request, response);
    return {
      ...(key ? { id: shortKey(key) } : {}),
      actor: me.id,
      source: directory.sources.get(item.source) as Source,
      item: item.id,
      at: context.clock.now(),
    };
  }

  async function answerEdit(response: Response, edit: Edit, status = 200): Promise<void> {
    const done: Done = await editItem(pool, edit, context.foresee);
    if (done.outcome === 'saved') context.wake(done.change);
    response.status(status).json(itemRow(done.item, null));
  }

  /** The names of linked items that the caller may read. */
  async function linkNames(
    states: Change['before'][],
    source: Source,
    { me, directory }: Caller,
  ): Promise<Record<string, string>> {
    const fields = source.fields.filter((field) => field.type === 'link' || field.type === 'links');
    const ids = states.flatMap((state) => fields.flatMap((field) => membersOf(state?.[field.id])));
    const items = await readableAmong(pool, ids, me.id, directory);
    return Object.fromEntries([...items.values()].map((item) => [item.id, item.title]));
  }

  function hearersOf(item: StoredItem, directory: Directory): HearingRow[] {
    const now = context.clock.now();
    const world = worldOf(directory, new Map([[item.id, item]]));
    return livePhases(directory, now)
      .filter(({ compiled }) => compiled.inScope(asChange(item, now), world))
      .flatMap(({ compiled }) =>
        previewRecipients(compiled, item, now, world).map(
          ({ to, reason }): HearingRow => ({
            rule: compiled.rule.id,
            ruleName: compiled.rule.name,
            urgency: compiled.rule.urgency,
            soon: compiled.rule.pace,
            person: to.id,
            reasons: to.reasons,
            withheld: reason,
          }),
        ),
      );
  }

  return routes;
}

/** The key under which a page sends an edit, made its sender's own: sent again under it, it is the same edit. */
function keyOf(request: Request, response: Response): string | null {
  const key = request.get('idempotency-key');
  if (key === undefined) return null;
  if (!/^[\x21-\x7e]{8,100}$/.test(key))
    throw new Refusal('badRequest', { detail: 'An Idempotency-Key has 8 to 100 plain characters.' });
  return `edit/${caller(response).me.id}/${key}`;
}

function sourceFor(id: string, { me, directory }: Caller): Source {
  const source = visibleSources(me.id, directory).find((one) => one.id === id);
  if (!source) throw new Refusal('notFound');
  return source;
}

/** Sources of which a person may read something, or could if there were an item. */
export const visibleSources = (person: string, directory: Directory) =>
  [...directory.sources.values()].filter((source) => mayReadSome(person, source.id, directory));

function below(folder: string, folders: ReadonlyMap<string, Folder>): string[] {
  const children = [...folders.values()].filter((one) => one.parent === folder);
  return children.flatMap((child) => [child.id, ...below(child.id, folders)]);
}

import { Refusal } from '../../../contract/problems.ts';
import type { EyeRow, ItemRow, RecipientRow } from '../../../contract/wire/index.ts';
import { previewRecipients } from '../../../core/decide/index.ts';
import { notedBy } from '../../../core/documents/index.ts';
import { eyeOf } from '../../../core/rules/index.ts';
import { asChange, type Source, type Value } from '../../../core/values/index.ts';
import {
  type Caller,
  coordinates,
  expectAdd,
  expectChange,
  mayChange,
  namedAt,
  itemRow,
  linksOf,
  looksAfter,
  readsAll,
  statesOf,
  readableChange,
  readableItem,
  samplesOf,
  type State,
  trailRows,
  visibleSource,
  when,
} from '../../access/index.ts';
import { expectFree, expectPlace, expectTyped } from '../../acts/index.ts';
import { type Conflict, type Edit, editItem, type Meanwhile } from '../../intake/index.ts';
import { livePhases, newId, one, rows, shortKey, store, type StoredItem, worldOf } from '../../store/index.ts';
import type { Context } from '../context.ts';
import { listItems } from '../listing.ts';
import type { Asked, Handlers } from '../register.ts';

const PAGE = 200;
/** So much of an item's trail is shown on its page. */
const TRAIL = 60;
/** So many of those who opened a document are named there. */
const LOOKS = 200;

/** Items: listed, looked at, edited, taken away and brought back. */
export const itemHandlers: Handlers<
  | 'items.list'
  | 'items.create'
  | 'items.read'
  | 'items.edit'
  | 'items.remove'
  | 'items.restore'
  | 'items.bringBack'
  | 'changes.read'
> = {
  async 'items.list'(context, { params, query, asking }) {
    const { pool } = context;
    const source = visibleSource(params.source, asking);
    const { items, total } = await listItems(context, source, query, asking, { limit: PAGE, offset: query.offset });
    const last = items.length === 0 ? [] : await rows(pool, store.changes.lastOf(items.map((item) => item.id)));
    const states = [
      ...items.map(({ fields }): State => [source, fields]),
      ...last.flatMap((one) => statesOf(one, source)),
    ];
    const links = await linksOf(pool, states, asking);
    const shown = await trailRows(pool, last, source, links);
    const byItem = new Map(last.map((change, at) => [change.item, shown[at] ?? null]));
    return {
      total,
      items: items.map((item) => itemRow(item, source, links, byItem.get(item.id) ?? null)),
      names: links.names,
    };
  },

  async 'items.create'(context, { params, body: { set, folder }, asking, editKey }) {
    const source = visibleSource(params.source, asking);
    if (folder === null) expectAdd(source.id, null, asking);
    else expectPlace(source, folder, asking);
    const { [source.titleField]: _name, ...others } = set;
    expectTyped(source, others);
    const now = context.clock.now();
    return saved(
      context,
      {
        ...(editKey ? { id: shortKey(editKey) } : {}),
        actor: asking.me.id,
        source,
        item: editKey ? shortKey(`item/${editKey}`) : newId(now),
        kind: 'created',
        set,
        folder,
        at: now,
      },
      asking,
    );
  },

  async 'items.read'({ pool, clock }, { params, asking }) {
    const item = await readableItem(pool, params.id, asking);
    const source = asking.directory.sources.get(item.source) as Source;
    const changes = await rows(pool, store.changes.ofItem(item.id, TRAIL));
    const states: State[] = [[source, item.fields], ...changes.flatMap((change) => statesOf(change, source))];
    const links = await linksOf(pool, states, asking);
    const file = await one(pool, store.contents.version(item.id, null));
    const looks = file === null ? [] : await rows(pool, store.changes.looksAt(item.id, LOOKS));
    return {
      item: itemRow(item, source, links),
      names: links.names,
      trail: await trailRows(pool, changes, source, links),
      hears: recipientsOf(item, asking, clock.now()),
      eyes: eyesOf(item, asking, clock.now()),
      file: file ? { name: file.name, mediaType: file.mediaType, number: file.number } : null,
      looks: {
        isNoted: notedBy(item.folder, asking.directory.folders) !== null,
        last: looks.map(({ person, at }) => ({ person, at: when(at) })),
      },
      mayEdit: !item.isDeleted && mayChange(item, asking),
      ...(mayChange(item, asking) ? {} : { onlyEditedBy: namedAt('editors', item, asking.directory) }),
    };
  },

  async 'items.edit'(context, asked) {
    const { edit, item } = await editOf(context, asked);
    const { from } = asked.body;
    const links = await linksOf(context.pool, [[edit.source, item.fields]], asked.asking);
    const set = links.kept(asked.body.set, item.fields, edit.source);
    expectTyped(edit.source, set);
    return saved(context, { ...edit, kind: 'changed', from, set }, asked.asking);
  },

  async 'items.remove'(context, asked) {
    const { edit } = await editOf(context, asked);
    return saved(context, { ...edit, kind: 'deleted', from: asked.body.from }, asked.asking);
  },

  async 'items.bringBack'(context, asked) {
    const { edit } = await editOf(context, asked);
    const { change, from } = asked.body;
    const [then] = await rows(context.pool, store.changes.byIds([[edit.source.id, change]]));
    // A document's contents are brought back by their versions, and are not these fields.
    if (then?.item !== edit.item || then.after === null || edit.source.kind === 'folders')
      throw new Refusal('notFound');
    const set = Object.fromEntries(edit.source.fields.map(({ id }) => [id, then.after?.[id] ?? null]));
    return saved(context, { ...edit, kind: 'changed', from, set, detail: { backTo: change } }, asked.asking);
  },

  async 'items.restore'(context, asked) {
    const { edit } = await editOf(context, asked);
    return saved(context, { ...edit, kind: 'restored', from: asked.body.from }, asked.asking);
  },

  /** One past change, to start a rule from. */
  async 'changes.read'({ pool }, { params, asking }) {
    const change = await readableChange(pool, [params.source], params.id, asking);
    const [sample] = await samplesOf(pool, [change], asking);
    if (!sample) throw new Refusal('notFound');
    return sample;
  },
};

async function editOf(
  { pool, clock }: Context,
  { params, asking, editKey }: Asked<'items.edit' | 'items.remove' | 'items.restore' | 'items.bringBack'>,
): Promise<{ edit: Pick<Edit, 'id' | 'actor' | 'source' | 'item' | 'at'>; item: StoredItem }> {
  const item = await readableItem(pool, params.id, asking);
  expectChange(item, asking);
  expectFree(item, asking);
  const edit = {
    ...(editKey ? { id: shortKey(editKey) } : {}),
    actor: asking.me.id,
    source: asking.directory.sources.get(item.source) as Source,
    item: item.id,
    at: clock.now(),
  };
  return { edit, item };
}

/** A refusal that tells what others did meanwhile, as whoever asks may read it. */
async function asReadable(error: unknown, source: Source, { pool }: Context, asking: Caller): Promise<unknown> {
  const conflict = error instanceof Refusal ? (error.grounds.conflict as Conflict | undefined) : undefined;
  if (!conflict) return error;
  const valuesOf = ({ started, theirs, yours = null }: Meanwhile): Value[] => [started, theirs, yours];
  const states = conflict.meanwhile.flatMap((one) =>
    valuesOf(one).map((value): State => [source, { [one.field]: value }]),
  );
  const links = await linksOf(pool, states, asking);
  const meanwhile = conflict.meanwhile.map((one) => {
    const [started, theirs, yours] = valuesOf(one).map(
      (value) => links.shown({ [one.field]: value }, source)?.[one.field] ?? null,
    );
    return { ...one, started, theirs, ...('yours' in one ? { yours } : {}) };
  });
  return new Refusal('editedMeanwhile', { conflict: { ...conflict, meanwhile } });
}

async function saved(context: Context, edit: Edit, asking: Caller): Promise<ItemRow> {
  const done = await editItem(context.pool, edit, context.foresee).catch(async (error: unknown) => {
    throw await asReadable(error, edit.source, context, asking);
  });
  if (done.outcome === 'saved') context.wake(done.change);
  return itemRow(done.item, edit.source, await linksOf(context.pool, [[edit.source, done.item.fields]], asking));
}

/** Who keeps an eye on an item: by a live rule of their own that is about it, its folder or its whole source. */
function eyesOf(item: StoredItem, { me, directory }: Caller, now: number): EyeRow[] {
  const world = worldOf(directory, new Map([[item.id, item]]));
  return livePhases(directory, now).flatMap(({ compiled }): EyeRow[] => {
    const { rule } = compiled;
    const person = eyeOf(rule);
    if (person === null || !compiled.inScope(asChange(item, now), world)) return [];
    return [{ person, rule, mayEdit: person === me.id || coordinates(me, rule.scope.sources, directory) }];
  });
}

/** Whom each live rule reaches for an item as it stands. */
function recipientsOf(item: StoredItem, asking: Caller, now: number): RecipientRow[] {
  const { me, directory } = asking;
  const world = worldOf(directory, new Map([[item.id, item]]));
  return livePhases(directory, now)
    .map(({ compiled }) => compiled)
    .filter((compiled) => compiled.inScope(asChange(item, now), world))
    .flatMap((compiled) => {
      const { rule } = compiled;
      const isSeen = readsAll(rule, asking);
      return previewRecipients(compiled, item, now, world)
        .filter(({ to, reason }) => to.id === me.id || (isSeen && (reason !== 'muted' || looksAfter(rule, asking))))
        .map(
          ({ to, reason }): RecipientRow => ({
            rule: rule.id,
            ruleName: rule.name,
            urgency: rule.urgency,
            soon: rule.pace,
            person: to.id,
            reasons: to.reasons,
            withheld: reason,
          }),
        );
    });
}

import { Refusal } from '../../../contract/problems.ts';
import type { EyeRow, ItemRow, RecipientRow } from '../../../contract/wire/index.ts';
import { previewRecipients } from '../../../core/decide/index.ts';
import { eyeOf } from '../../../core/rules/index.ts';
import { asChange, type Source } from '../../../core/values/index.ts';
import {
  type Caller,
  coordinates,
  expectAdd,
  expectChange,
  mayChange,
  namedAt,
  itemRow,
  linkTitles,
  readableChange,
  readableItem,
  samplesOf,
  trailRows,
  visibleSource,
} from '../../access/index.ts';
import { expectFree, expectTyped } from '../../acts/index.ts';
import { type Edit, editItem } from '../../intake/index.ts';
import {
  type Directory,
  livePhases,
  newId,
  one,
  rows,
  shortKey,
  store,
  type StoredItem,
  worldOf,
} from '../../store/index.ts';
import type { Context } from '../context.ts';
import { listItems } from '../listing.ts';
import type { Asked, Handlers } from '../register.ts';

const PAGE = 200;
/** So much of an item's trail is shown on its page. */
const TRAIL = 60;

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
    const shown = await trailRows(pool, last, source);
    const byItem = new Map(last.map((change, at) => [change.item, shown[at] ?? null]));
    const states = items.map((item) => item.fields);
    return {
      total,
      items: items.map((item) => itemRow(item, byItem.get(item.id) ?? null)),
      names: await linkTitles(pool, states, source, asking),
    };
  },

  async 'items.create'(context, { params, body: { set, folder }, asking, editKey }) {
    const source = visibleSource(params.source, asking);
    expectAdd(source.id, folder, asking);
    const { [source.titleField]: _name, ...others } = set;
    expectTyped(source, others);
    const now = context.clock.now();
    return saved(context, {
      ...(editKey ? { id: shortKey(editKey) } : {}),
      actor: asking.me.id,
      source,
      item: editKey ? shortKey(`item/${editKey}`) : newId(now),
      kind: 'created',
      set,
      folder,
      at: now,
    });
  },

  async 'items.read'({ pool, clock }, { params, asking }) {
    const item = await readableItem(pool, params.id, asking);
    const source = asking.directory.sources.get(item.source) as Source;
    const changes = await rows(pool, store.changes.ofItem(item.id, TRAIL));
    const states = [item.fields, ...changes.flatMap((change) => [change.before ?? {}, change.after ?? {}])];
    const file = await one(pool, store.contents.version(item.id, null));
    return {
      item: itemRow(item, null),
      names: await linkTitles(pool, states, source, asking),
      trail: await trailRows(pool, changes, source),
      hears: recipientsOf(item, asking.directory, clock.now()),
      eyes: eyesOf(item, asking, clock.now()),
      file: file ? { name: file.name, mediaType: file.mediaType, number: file.number } : null,
      mayEdit: !item.isDeleted && mayChange(item, asking),
      ...(mayChange(item, asking) ? {} : { onlyEditedBy: namedAt('editors', item, asking.directory) }),
    };
  },

  async 'items.edit'(context, asked) {
    const edit = await editOf(context, asked);
    expectTyped(edit.source, asked.body.set);
    return saved(context, { ...edit, kind: 'changed', ...asked.body });
  },

  async 'items.remove'(context, asked) {
    return saved(context, { ...(await editOf(context, asked)), kind: 'deleted', from: asked.body.from });
  },

  async 'items.bringBack'(context, asked) {
    const edit = await editOf(context, asked);
    const { change, from } = asked.body;
    const [then] = await rows(context.pool, store.changes.byIds([[edit.source.id, change]]));
    // A document's contents are brought back by their versions, and are not these fields.
    if (then?.item !== edit.item || then.after === null || edit.source.kind === 'folders')
      throw new Refusal('notFound');
    const set = Object.fromEntries(edit.source.fields.map(({ id }) => [id, then.after?.[id] ?? null]));
    return saved(context, { ...edit, kind: 'changed', from, set, detail: { backTo: change } });
  },

  async 'items.restore'(context, asked) {
    return saved(context, { ...(await editOf(context, asked)), kind: 'restored', from: asked.body.from });
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
): Promise<Pick<Edit, 'id' | 'actor' | 'source' | 'item' | 'at'>> {
  const item = await readableItem(pool, params.id, asking);
  expectChange(item, asking);
  expectFree(item, asking);
  return {
    ...(editKey ? { id: shortKey(editKey) } : {}),
    actor: asking.me.id,
    source: asking.directory.sources.get(item.source) as Source,
    item: item.id,
    at: clock.now(),
  };
}

async function saved(context: Context, edit: Edit): Promise<ItemRow> {
  const done = await editItem(context.pool, edit, context.foresee);
  if (done.outcome === 'saved') context.wake(done.change);
  return itemRow(done.item, null);
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
function recipientsOf(item: StoredItem, directory: Directory, now: number): RecipientRow[] {
  const world = worldOf(directory, new Map([[item.id, item]]));
  return livePhases(directory, now)
    .filter(({ compiled }) => compiled.inScope(asChange(item, now), world))
    .flatMap(({ compiled }) =>
      previewRecipients(compiled, item, now, world).map(
        ({ to, reason }): RecipientRow => ({
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

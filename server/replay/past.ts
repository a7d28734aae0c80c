import type { Setting } from '../../core/decide/index.ts';
import { mayRead } from '../../core/people/index.ts';
import { hasBeginning, type Report, type Rule } from '../../core/rules/index.ts';
import { DAY_MS, type Instant, nextOf } from '../../core/time/index.ts';
import { type Change, isLook, type ItemState, membersOf, isLinkType } from '../../core/values/index.ts';
import { type Directory, readableItems, rows, type StoredChange, voiceIn, worldOf, store } from '../store/index.ts';
import type { Caller } from '../access/index.ts';
import type { ReplayContext } from './context.ts';

/** What happened in a rule's sources, as far as the caller may read it, and the world it happened in. */
export interface Past {
  setting: Setting;
  changes: StoredChange[];
}

/** The last days before now, for a rule to be run over them. */
export async function pastOf(
  context: Pick<ReplayContext, 'pool' | 'clock'>,
  rule: Rule,
  { me, directory }: Caller,
  days: number,
): Promise<Past> {
  const end = context.clock.now();
  const start = end - days * DAY_MS;
  const world = worldOf(directory, new Map());
  const found = await rows(
    context.pool,
    store.changes.from(rule.scope.sources, start, readableItems(me.id, directory)),
  );
  const changes = found.filter(
    (change) =>
      isChangeFor([rule], change) &&
      mayRead(
        me.id,
        { source: change.source, folder: change.folder, fields: change.after ?? change.before ?? {} },
        world,
      ),
  );
  // Items as they stood before the first of these changes; those that stood still matter to dates, standstills and links.
  const items = new Map<string, ItemState>();
  for (const change of changes)
    if (!items.has(change.item) && change.before !== null) items.set(change.item, stateBefore(change, change.before));
  if (hasBeginning(rule) || rule.scope.linked) {
    for (const item of await rows(context.pool, store.items.untouched(rule.scope.sources, start)))
      if (mayRead(me.id, item, world)) items.set(item.id, item);
  }
  const setting = await settingOf(context, directory, [...items.values()], { start, end }, changes, me.id);
  return { setting, changes };
}

/** The last days over all that live rules look at, as it happened to whoever could read it: for what reaches one person. */
export async function pastOfAll(
  context: Pick<ReplayContext, 'pool' | 'clock'>,
  directory: Directory,
  rules: readonly Rule[],
  days: number,
): Promise<Past> {
  const end = context.clock.now();
  const start = end - days * DAY_MS;
  const sources = [...new Set(rules.flatMap((rule) => rule.scope.sources))];
  if (sources.length === 0)
    return { setting: await settingOf(context, directory, [], { start, end }, []), changes: [] };
  const found = await rows(context.pool, store.changes.from(sources, start));
  const changes = found.filter((change) => isChangeFor(rules, change));
  const items = new Map<string, ItemState>();
  for (const change of changes)
    if (!items.has(change.item) && change.before !== null) items.set(change.item, stateBefore(change, change.before));
  if (rules.some((rule) => hasBeginning(rule) || rule.scope.linked))
    for (const item of await rows(context.pool, store.items.untouched(sources, start))) items.set(item.id, item);
  const setting = await settingOf(context, directory, [...items.values()], { start, end }, changes);
  return { setting: { ...setting, rules: rules.map((rule) => ({ rule, from: start })) }, changes };
}

/** Whoever merely opened a document counts for rules that wait for just that, and is no change to any other. */
const isChangeFor = (rules: readonly Rule[], change: Change): boolean =>
  !isLook(change) || rules.some(({ when }) => when?.kinds.includes(change.kind));

/** One change, and the world just before it. What follows from it is looked at for as long as a year. */
export async function momentOf(
  context: Pick<ReplayContext, 'pool' | 'clock'>,
  { me, directory }: Caller,
  change: Change,
): Promise<Setting> {
  return settingOf(
    context,
    directory,
    change.before === null ? [] : [stateBefore(change, change.before)],
    { start: change.at - 1, end: change.at + 366 * DAY_MS },
    [change],
    me.id,
  );
}

/** One item as it stands, from now on. */
export const standingOf = (
  context: Pick<ReplayContext, 'pool' | 'clock'>,
  { me, directory }: Caller,
  item: ItemState,
): Promise<Setting> =>
  settingOf(
    context,
    directory,
    [item],
    { start: context.clock.now(), end: context.clock.now() + 366 * DAY_MS },
    [],
    me.id,
  );

/** All that a report's sources hold, as far as the caller may read it, up to its next instant. */
export async function reportedOf(
  context: Pick<ReplayContext, 'pool' | 'clock'>,
  rule: Rule,
  report: Report,
  { me, directory }: Caller,
): Promise<Setting> {
  const start = context.clock.now();
  const items = await rows(
    context.pool,
    store.items.last(rule.scope.sources, readableItems(me.id, directory), MOST_REPORTED),
  );
  const world = worldOf(directory, new Map());
  const open = items.filter((item) => mayRead(me.id, item, world));
  return settingOf(context, directory, open, { start, end: nextOf(report, start, rule.zone) }, [], me.id);
}

/** So many items a report is tried on. */
const MOST_REPORTED = 20_000;

const stateBefore = (change: Change, fields: ItemState['fields']): ItemState => ({
  id: change.item,
  source: change.source,
  folder: change.folderBefore,
  fields,
  createdBy: change.previous?.createdBy ?? null,
  lastBy: change.previous?.by ?? null,
  lastAt: null,
});

/**
 * @param changes what will happen: what they link to is there too, as it stands
 * @param asker who sees what comes of it, and is shown nothing through a link that they may not read; left out where nobody but its own reader does
 */
async function settingOf(
  { pool }: Pick<ReplayContext, 'pool'>,
  directory: Directory,
  items: ItemState[],
  span: { start: Instant; end: Instant },
  changes: readonly Change[],
  asker?: string,
): Promise<Setting> {
  const ids = items.map((item) => item.id);
  const states = [...items, ...changes.flatMap(({ source, after }) => (after ? [{ source, fields: after }] : []))];
  const known = new Set([...ids, ...changes.map(({ item }) => item)]);
  const linked = linkedIds(states, directory).filter((id) => !known.has(id));
  const world = worldOf(directory, new Map());
  const others =
    linked.length === 0
      ? []
      : (await rows(pool, store.items.byIds(linked))).filter(
          (item) => asker === undefined || mayRead(asker, item, world),
        );
  const followers = ids.length === 0 ? [] : await rows(pool, store.followers.of(ids));
  return {
    ...span,
    people: [...directory.people.values()],
    groups: [...directory.groups.values()],
    contacts: [...directory.contacts.values()],
    sources: [...directory.sources.values()],
    folders: [...directory.folders.values()],
    followers,
    wordings: [...directory.wordings.values()],
    voice: voiceIn(directory),
    access: [...directory.access],
    items: [...items, ...others],
    rules: [],
  };
}

/** The items that these link to: whom a rule names across a link, and what it asks there. */
function linkedIds(items: readonly Pick<ItemState, 'source' | 'fields'>[], { sources }: Directory): string[] {
  const found = new Set<string>();
  for (const item of items) {
    for (const field of sources.get(item.source)?.fields ?? []) {
      if (isLinkType(field.type)) for (const id of membersOf(item.fields[field.id])) found.add(id);
    }
  }
  return [...found];
}

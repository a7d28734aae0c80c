import { Refusal } from '../../contract/problems.ts';
import { HIDDEN_ITEM } from '../../contract/hidden.ts';
import type { CameBack, ItemRow, MessageRow, Sample, TrailRow, When } from '../../contract/wire/index.ts';
import { forPages, itemsIn, readableContent } from '../../core/messages/index.ts';
import { type Instant, printInstant } from '../../core/time/index.ts';
import {
  type Change,
  type Fields,
  isEmpty,
  isLinkType,
  membersOf,
  sameValue,
  type Source,
  type Value,
} from '../../core/values/index.ts';
import {
  type Connection,
  type Directory,
  one,
  rows,
  store,
  type StoredChange,
  type StoredItem,
  type StoredMessage,
} from '../store/index.ts';
import { type Caller, readableAmong } from './caller.ts';

export const when = (instant: Instant): When => printInstant(instant);
export const whenOrNull = (instant: Instant | null): When | null => (instant === null ? null : printInstant(instant));

/** How mail to an address came back, for whoever may see the address; `null` where it did not. */
export function cameBackOf(address: string, { suspended }: Pick<Directory, 'suspended'>): CameBack | null {
  const found = suspended.get(address.trim().toLowerCase());
  return found ? { ...found, since: when(found.since) } : null;
}

/** A stored change as pages show it: only the fields that differ. */
export function trailRow(change: StoredChange, source: Source, links: Links, caughtBy: string[] = []): TrailRow {
  const [before, after] = [links.shown(change.before, source), links.shown(change.after, source)];
  return {
    id: change.id,
    at: when(change.at),
    kind: change.kind,
    actor: change.actor,
    version: change.itemVersion,
    fields: source.fields
      .filter((field) => !sameValue(field.type, change.before?.[field.id], change.after?.[field.id]))
      .map((field) => ({
        field: field.id,
        before: before?.[field.id] ?? null,
        after: after?.[field.id] ?? null,
      })),
    folder: change.folder,
    folderBefore: change.folderBefore,
    text: change.detail.text ?? null,
    caughtBy,
  };
}

export const itemRow = (item: StoredItem, source: Source, links: Links, last: TrailRow | null = null): ItemRow => ({
  id: item.id,
  source: item.source,
  folder: item.folder,
  title: item.title,
  fields: links.shown(item.fields, source) ?? {},
  version: item.version,
  isDeleted: item.isDeleted,
  lastAt: when(item.lastAt),
  lastBy: item.lastBy,
  last,
});

/** Changes as pages show them, with the titles of their items as far as the caller may read them. */
export async function samplesOf(on: Connection, changes: StoredChange[], { me, directory }: Caller): Promise<Sample[]> {
  const items = await readableAmong(
    on,
    changes.map((change) => change.item),
    me.id,
    directory,
  );
  const sourceOf = (change: StoredChange) => directory.sources.get(change.source) as Source;
  const links = await linksOf(
    on,
    changes.flatMap((change) => statesOf(change, sourceOf(change))),
    { me, directory },
  );
  return changes.map((change) => {
    const source = sourceOf(change);
    const title = String((change.after ?? change.before)?.[source.titleField] ?? '');
    return {
      source: change.source,
      item: change.item,
      title: items.get(change.item)?.title ?? title,
      row: trailRow(change, source, links),
    };
  });
}

/** A change that the caller may read, by its id, in one of the sources; any other is answered as if it were not there. */
export async function readableChange(
  on: Connection,
  sources: readonly string[],
  id: string,
  { me, directory }: Caller,
): Promise<StoredChange> {
  const change = await one(on, store.changes.byIds(sources.map((source): [string, string] => [source, id])));
  if (!change || !(await readableAmong(on, [change.item], me.id, directory)).has(change.item))
    throw new Refusal('notFound');
  return change;
}

/** The changes of one source as pages show them, with the rules that caught each. */
export async function trailRows(
  on: Connection,
  changes: readonly StoredChange[],
  source: Source,
  links: Links,
): Promise<TrailRow[]> {
  const ids = changes.map((change) => change.id);
  const caught = ids.length === 0 ? [] : await rows(on, store.changes.caughtBy(source.id, ids));
  return changes.map((change) =>
    trailRow(
      change,
      source,
      links,
      caught.filter((row) => row.change === change.id).map((row) => row.rule),
    ),
  );
}

/** A state of an item of a source. */
export type State = [source: Source, fields: Fields | null];
/** Both states of a change. */
export const statesOf = ({ before, after }: Pick<Change, 'before' | 'after'>, source: Source): State[] => [
  [source, before],
  [source, after],
];

/** What somebody may know of the items that states lead to. */
export interface Links {
  /** The titles of those they may read, by id. */
  names: Record<string, string>;
  /** A state as it may be shown: what leads to another item says no more than that it does. */
  shown(fields: Fields | null, source: Source): Fields | null;
  /** A state that was shown so and sent back, with what was hidden in it as it stands. */
  kept(set: Fields, stands: Fields, source: Source): Fields;
}

const linkedFields = (source: Source) => source.fields.filter((field) => isLinkType(field.type));

/** A state with the values of its links put otherwise. */
function withLinks(fields: Fields, source: Source, value: (given: Value, field: string) => Value): Fields {
  const own = linkedFields(source).filter(({ id }) => !isEmpty(fields[id]));
  return { ...fields, ...Object.fromEntries(own.map(({ id }) => [id, value(fields[id] as Value, id)])) };
}

/** What somebody may know of items, by those that they may read. */
export function linksAmong(readable: ReadonlyMap<string, Pick<StoredItem, 'id' | 'title'>>): Links {
  const hide = (id: string) => (readable.has(id) ? id : HIDDEN_ITEM);
  return {
    names: titlesOf(readable),
    shown: (fields, source) =>
      fields &&
      withLinks(fields, source, (value) =>
        Array.isArray(value) ? [...new Set(membersOf(value).map(hide))] : hide(String(value)),
      ),
    kept: (set, stands, source) =>
      withLinks(set, source, (value, field) => {
        if (!Array.isArray(value)) return value === HIDDEN_ITEM ? (stands[field] ?? null) : value;
        const unnamed = membersOf(stands[field]).filter((id) => !value.includes(id));
        const hidden = unnamed.filter((id) => !readable.has(id));
        // What was hidden when it was shown may be open by now.
        const meant = hidden.length > 0 ? hidden : unnamed;
        return membersOf(value).flatMap((id) => (id === HIDDEN_ITEM ? meant : [id]));
      }),
  };
}

/** What the caller may know of the items that states lead to. */
export async function linksOf(on: Connection, states: readonly State[], { me, directory }: Caller): Promise<Links> {
  const ids = states.flatMap(([source, fields]) =>
    linkedFields(source).flatMap((field) => membersOf(fields?.[field.id])),
  );
  return linksAmong(await readableAmong(on, ids, me.id, directory));
}

export const titlesOf = (items: ReadonlyMap<string, Pick<StoredItem, 'id' | 'title'>>): Record<string, string> =>
  Object.fromEntries([...items.values()].map((item) => [item.id, item.title]));

/** The items that messages speak of. */
export const itemsOf = (messages: readonly StoredMessage[]): string[] =>
  itemsIn(messages.map(({ content }) => content));

/** A message as pages show it: what it says of items that its reader may no longer read is left out of it. */
export function messageRow(message: StoredMessage, readable: Pick<ReadonlySet<string>, 'has'>): MessageRow {
  const { content, isWhole } = readableContent(message.content, (id) => readable.has(id));
  return {
    id: message.id,
    at: when(message.at),
    form: message.form,
    urgency: message.urgency,
    subject: isWhole ? message.subject : content.headline,
    content: forPages(content),
    readAt: whenOrNull(message.readAt),
  };
}

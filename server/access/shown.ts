import { Refusal } from '../../contract/problems.ts';
import type { CameBack, ItemRow, MessageRow, Sample, TrailRow, When } from '../../contract/wire/index.ts';
import { type Content, type Entry, phrasesFor } from '../../core/messages/index.ts';
import { type Instant, printInstant } from '../../core/time/index.ts';
import { type Change, membersOf, sameValue, type Source, isLinkType } from '../../core/values/index.ts';
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
export function trailRow(change: StoredChange, source: Source, caughtBy: string[] = []): TrailRow {
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
        before: change.before?.[field.id] ?? null,
        after: change.after?.[field.id] ?? null,
      })),
    folder: change.folder,
    folderBefore: change.folderBefore,
    text: change.detail.text ?? null,
    caughtBy,
  };
}

export const itemRow = (item: StoredItem, last: TrailRow | null): ItemRow => ({
  id: item.id,
  source: item.source,
  folder: item.folder,
  title: item.title,
  fields: item.fields,
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
  return changes.map((change) => {
    const source = directory.sources.get(change.source) as Source;
    const title = String((change.after ?? change.before)?.[source.titleField] ?? '');
    return {
      source: change.source,
      item: change.item,
      title: items.get(change.item)?.title ?? title,
      row: trailRow(change, source),
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
export async function trailRows(on: Connection, changes: readonly StoredChange[], source: Source): Promise<TrailRow[]> {
  const ids = changes.map((change) => change.id);
  const caught = ids.length === 0 ? [] : await rows(on, store.changes.caughtBy(source.id, ids));
  return changes.map((change) =>
    trailRow(
      change,
      source,
      caught.filter((row) => row.change === change.id).map((row) => row.rule),
    ),
  );
}

/** The titles of the items that states link to, as far as the caller may read them, by id. */
export async function linkTitles(
  on: Connection,
  states: readonly Change['before'][],
  source: Source,
  { me, directory }: Caller,
): Promise<Record<string, string>> {
  const fields = source.fields.filter((field) => isLinkType(field.type));
  const ids = states.flatMap((state) => fields.flatMap((field) => membersOf(state?.[field.id])));
  return titlesOf(await readableAmong(on, ids, me.id, directory));
}

export const titlesOf = (items: ReadonlyMap<string, StoredItem>): Record<string, string> =>
  Object.fromEntries([...items.values()].map((item) => [item.id, item.title]));

/** The items that messages are about. */
export const itemsOf = (messages: readonly StoredMessage[]): string[] =>
  messages.flatMap((message) => message.content.entries.map((entry) => entry.item.id));

/** A message as pages show it: what it says of items that its reader may no longer read is left out of it. */
export function messageRow(message: StoredMessage, readable: ReadonlyMap<string, StoredItem>): MessageRow {
  const { own: _, sender: _sender, ...bare } = message.content;
  const entries = bare.entries.filter((entry) => readable.has(entry.item.id));
  const isWhole = entries.length === bare.entries.length;
  // Words about the whole, Ojo's and the rule's own, may tell of what is hidden: what is left speaks for itself.
  const left = leftHeadline(entries, message.content.language);
  const content: Content = isWhole ? message.content : { ...bare, headline: left, lead: '', entries };
  return {
    id: message.id,
    at: when(message.at),
    form: message.form,
    urgency: message.urgency,
    subject: isWhole ? message.subject : left,
    content,
    readAt: whenOrNull(message.readAt),
  };
}

function leftHeadline([first, ...others]: readonly Entry[], language: string | undefined): string {
  const phrases = phrasesFor(language);
  if (!first) return phrases.say('headline.hidden');
  return others.length === 0
    ? first.headline
    : phrases.say('headline.andMore', { headline: first.headline, more: others.length });
}

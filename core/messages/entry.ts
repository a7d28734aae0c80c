import type { Urgency, World } from '../people/index.ts';
import { conditionOf, differingFields, linksIn, openRule } from '../rules/index.ts';
import { type Instant, printInstant } from '../time/index.ts';
import {
  type Change,
  type ChangeKind,
  type Fields,
  fieldOf,
  formatDayTime,
  formatInstant,
  formatValue,
  isEmpty,
  isLook,
  type ItemState,
  judgedFields,
  type Names,
  type Reader,
  type Source,
} from '../values/index.ts';
import { fieldsNamed, type Phrasing } from './condition-words.ts';
import type { Entry, ShownField, ShownStep, Telling } from './content.ts';
import { type Phrases, phrasesFor } from './locales/index.ts';
import { noteWords, whyWords } from './why.ts';
import { kindWords } from './occasion-words.ts';

/** What an item goes by: its title field, else its id. */
export function titleOf(source: Source | undefined, id: string, fields: Fields): string {
  const title = source ? fields[source.titleField] : null;
  return isEmpty(title) ? id : String(title);
}

/** Whether a reader may know what an item is called. */
export type Sees = (item: ItemState) => boolean;
const ALL: Sees = () => true;

/** Names for the ids that values hold, and a language's yes and no; an item that the reader may not read has none. */
export function namesIn(
  world: Pick<World, 'people' | 'sources' | 'item' | 'lastState'>,
  phrases: Phrases,
  sees: Sees = ALL,
): Names {
  return {
    truth: (isSo) => phrases.say(isSo ? 'value.yes' : 'value.no'),
    person: (id) => world.people.get(id)?.name ?? id,
    item: (id) => {
      const item = world.item(id) ?? world.lastState?.(id);
      // What a world does not hold is what whoever asks may not read.
      return item && sees(item)
        ? titleOf(world.sources.get(item.source), id, item.fields)
        : phrases.say('value.hidden');
    },
  };
}

/** What it takes to word a source's values and conditions for a reader, in their language. */
export function phrasingOf(
  source: Source,
  reader: Reader,
  world: Pick<World, 'people' | 'sources' | 'item'>,
  sees: Sees = ALL,
): Phrasing {
  const phrases = phrasesFor(reader.locale);
  return { source, sources: world.sources, reader, phrases, names: namesIn(world, phrases, sees) };
}

/** An actor's name; systems go by theirs. */
export const actorName = (actor: string, world: Pick<World, 'people'>): string =>
  world.people.get(actor)?.name ?? (actor.startsWith('system:') ? actor.slice('system:'.length) : actor);

/** The names of the folders that hold an item, outermost first. */
export function folderPath(folder: string | null, world: Pick<World, 'folders'>): string[] {
  const path: string[] = [];
  for (
    let at = folder === null ? undefined : world.folders.get(folder);
    at && path.length < 1000;
    at = at.parent === null ? undefined : world.folders.get(at.parent)
  ) {
    path.unshift(at.name);
  }
  return path;
}

/** The fields that differ between two states, worded; those the rules name come first. */
export function shownFields(
  source: Source,
  before: Fields | null,
  after: Fields | null,
  first: string[],
  reader: Reader,
  names: Names,
): ShownField[] {
  const shown = differingFields(source, before, after).map((field) => ({
    id: field.id,
    label: field.name,
    before: formatValue(field, before?.[field.id], reader, names),
    after: formatValue(field, after?.[field.id], reader, names),
  }));
  const rank = (id: string) => (first.includes(id) ? first.indexOf(id) : first.length);
  return shown.sort((a, b) => rank(a.id) - rank(b.id));
}

/**
 * All that is told to a reader of one item; the tellings, at least one, are of this item alone. What is told later than
 * it happened also says how the item stands by then.
 */
export function makeEntry(
  tellings: readonly Telling[],
  reader: Reader,
  world: World,
  shared: SharedEntries = new Map(),
  sees: Sees = ALL,
  isLater = false,
): Entry {
  // Readers of one locale and zone who are told the same changes, and see the same items linked there, read the same, but for why they heard.
  const key = [
    reader.locale,
    reader.zone,
    String(isLater),
    ...hiddenLinks(tellings, world, sees),
    ...tellings.flatMap(({ alert, item, changes }) => [alert, item, ...changes.map((change) => change.id)]),
  ].join('|');
  const whole = `${key}|${JSON.stringify(tellings.map(({ rule, reasons }) => [rule.id, reasons]))}`;
  const made = shared.get(whole);
  if (made) return made;
  const bare = shared.get(key) ?? bareEntry(tellings, reader, world, sees);
  const known = isLater && !bare.now ? withNow(bare, tellings, reader, world, sees) : bare;
  shared.set(key, known);
  const source = world.sources.get(known.item.source) as Source;
  const entry = { ...known, why: whyWords(tellings, phrasingOf(source, reader, world, sees), world) };
  shared.set(whole, entry);
  return entry;
}

/** An entry with how its item stands now, where it has changed since what is told of it. */
function withNow(entry: Entry, tellings: readonly Telling[], reader: Reader, world: World, sees: Sees): Entry {
  const [{ item, source: id }] = tellings as [Telling];
  const source = world.sources.get(id) as Source;
  if (entry.kind === null || entry.kind === 'deleted') return entry;
  const { names, phrases } = phrasingOf(source, reader, world, sees);
  const standing = world.item(item);
  const isGone = !standing && world.lastState?.(item) !== undefined;
  if (isGone) return { ...entry, now: [{ label: '', value: phrases.say('kind.deleted') }] };
  if (!standing) return entry;
  const now = entry.fields.flatMap((told) => {
    const field = fieldOf(source, told.id);
    const value = field ? formatValue(field, standing.fields[told.id], reader, names) : told.after;
    return value === told.after ? [] : [{ label: told.label, value }];
  });
  return now.length > 0 ? { ...entry, now } : entry;
}

/** Entries, without their readers' reasons and with them, kept while one alert is told to many: whoever has the same reasons gets the same entry. */
export type SharedEntries = Map<string, Entry>;

/** What happened to an item, told outside of any rule: by changes, in their order, and what was noted of it. */
export function itemEntry(
  { source, item, at }: { source: string; item: string; at: Instant },
  changes: readonly Change[],
  notes: readonly string[],
  reader: Reader,
  world: World,
  sees: Sees = ALL,
): Entry {
  const bare = bareEntry(
    [{ alert: '', rule: openRule('', '', '', [source]), source, item, occasion: 'change', at, changes, reasons: [] }],
    reader,
    world,
    sees,
  );
  return { ...bare, rules: [], notes: bare.notes.length > 0 ? bare.notes : [...notes] };
}

const statesIn = (changes: readonly Change[]): (Fields | null)[] =>
  changes.flatMap(({ before, after }) => [before, after]);
/** An item as it stands, or as it stood when it was deleted. */
const standingOf = (item: string, world: World): ItemState | undefined => world.item(item) ?? world.lastState?.(item);

/** The items linked in what is told that a reader may not know by name. */
function hiddenLinks(tellings: readonly Telling[], world: World, sees: Sees): string[] {
  const linked = tellings.flatMap(({ source, item, changes }) =>
    [...statesIn(changes), standingOf(item, world)?.fields ?? null].flatMap((fields) =>
      fields ? linksIn(world.sources.get(source), fields) : [],
    ),
  );
  const isHidden = (id: string) => {
    const item = world.item(id);
    return item !== undefined && !sees(item);
  };
  return [...new Set(linked)].filter(isHidden).sort();
}

function bareEntry(tellings: readonly Telling[], reader: Reader, world: World, sees: Sees = ALL): Entry {
  const [telling] = tellings as [Telling];
  const changes = [
    ...new Map(tellings.flatMap((one) => one.changes).map((change) => [change.id, change])).values(),
  ].sort((a, b) => a.at - b.at);
  const first = changes[0];
  const last = changes.at(-1);
  const source = world.sources.get(telling.source) as Source;
  const standing = standingOf(telling.item, world);
  const state = last ? judgedFields(last) : (standing?.fields ?? {});
  const folder = last?.folder ?? standing?.folder ?? null;
  const phrasing = phrasingOf(source, reader, world, sees);
  const phrases = phrasesFor(reader.locale);
  const named = tellings.flatMap(({ rule }) => fieldsNamed(conditionOf(rule)));
  const fields = first && last ? shownFields(source, first.before, last.after, named, reader, phrasing.names) : [];
  const kind = changes.length > 0 ? netKind(changes) : null;
  const title = titleOf(source, telling.item, state);
  const steps = changes.map(
    (change): ShownStep => ({
      change: change.id,
      at: printInstant(change.at),
      when: formatInstant(change.at, reader),
      hour: formatDayTime(change.at, reader),
      kind: change.kind,
      actor: actorName(change.actor, world),
      fields: shownFields(source, change.before, change.after, named, reader, phrasing.names),
    }),
  );
  const isBack =
    changes.length > 1 &&
    fields.length === 0 &&
    first?.folderBefore === last?.folder &&
    (kind === 'changed' || kind === 'moved');
  const linked = namedThere(source, [state, ...statesIn(changes)], world, sees);
  const remarks = changes.flatMap((change) =>
    change.kind === 'commented' && change.detail.text ? [`“${change.detail.text}”`] : [],
  );
  const notes = [...new Set([...tellings.flatMap((one) => noteWords(one, state, phrasing)), ...remarks])];
  return {
    item: { id: telling.item, title, source: source.id, sourceName: source.name, folder: folderPath(folder, world) },
    urgency: highest(tellings.map(({ rule }) => rule.urgency)),
    asks: tellings.some(({ rule }) => rule.ack !== null),
    rules: [...new Map(tellings.map(({ rule }) => [rule.id, { id: rule.id, name: rule.name }])).values()],
    headline:
      kind && last
        ? changedHeadline(kind, title, isBack ? null : fields, last, world, phrases)
        : notedHeadline(title, notes, phrases),
    kind,
    notes,
    fields,
    steps,
    isBack,
    show: tellings
      .flatMap(({ rule }) => rule.message.show)
      .filter((id, at, all) => all.indexOf(id) === at)
      .flatMap((id) => {
        const field = fieldOf(source, id);
        return field ? [{ label: field.name, value: formatValue(field, state[id], reader, phrasing.names) }] : [];
      }),
    doNow: [...new Set(tellings.flatMap(({ rule }) => rule.message.doNow ?? []))],
    why: [],
    ...(linked.length > 0 ? { linked } : {}),
  };
}

/** The items that states lead to and that a reader is told by name. */
function namedThere(source: Source, states: readonly (Fields | null)[], world: World, sees: Sees): string[] {
  const ids = new Set(states.flatMap((fields) => (fields ? linksIn(source, fields) : [])));
  return [...ids].filter((id) => {
    const item = world.item(id);
    return item !== undefined && sees(item);
  });
}

function netKind(all: Change[]): ChangeKind {
  // Where something happened besides, that it was opened too says less.
  const acts = all.filter((change) => !isLook(change));
  const changes = acts.length > 0 ? acts : all;
  const first = changes[0] as Change;
  const last = changes.at(-1) as Change;
  if (changes.length === 1) return first.kind;
  if (last.kind === 'deleted') return 'deleted';
  if (first.kind === 'created') return 'created';
  return first.kind === 'deleted' && last.kind === 'restored' ? 'changed' : last.kind;
}

/** Of what only a date, a standstill or a remark tells. */
const notedHeadline = (title: string, [note]: readonly string[], phrases: Phrases): string =>
  note === undefined ? title : phrases.say('headline.note', { title, note });

/** @param fields what differs; `null` where it is back as it was */
const changedHeadline = (
  kind: ChangeKind,
  title: string,
  fields: ShownField[] | null,
  last: Change,
  world: World,
  phrases: Phrases,
): string => (fields ? headlineOf(kind, title, fields, last, world, phrases) : phrases.say('headline.back', { title }));

function headlineOf(
  kind: ChangeKind,
  title: string,
  fields: ShownField[],
  last: Change,
  world: World,
  phrases: Phrases,
): string {
  const lead = fields[0];
  if (kind === 'moved' && last.folder)
    return phrases.say('headline.moved', { title, folder: world.folders.get(last.folder)?.name ?? last.folder });
  if (kind !== 'changed' || !lead) return phrases.say('headline.kind', { title, kind: kindWords(kind, phrases) });
  const empty = phrases.say('value.empty');
  const said = { title, field: lead.label, before: lead.before || empty, after: lead.after || empty };
  return fields.length > 1
    ? phrases.say('headline.changes', { ...said, more: fields.length - 1 })
    : phrases.say('headline.change', said);
}

/** How urgencies are ordered: the greater, the more urgent. */
export const RANK: Record<Urgency, number> = { routine: 0, important: 1, critical: 2 };
/** The more urgent of several. */
export const highest = (all: Urgency[]): Urgency => all.reduce((a, b) => (RANK[b] > RANK[a] ? b : a), 'routine');

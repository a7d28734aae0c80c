import type { Reason, Urgency, World } from '../people/index.ts';
import { differingFields, type Rule } from '../rules/index.ts';
import { type Instant, printInstant } from '../time/index.ts';
import { type Change, type ChangeKind, type Fields, fieldOf, formatDayTime, formatInstant, formatValue, isEmpty, judgedFields, type Names, type Reader, type Source } from '../values/index.ts';
import { fieldsNamed, heldWords, type Phrasing } from './condition-words.ts';
import type { Content, Entry, ShownField, ShownStep, Words } from './content.ts';

/** What an item goes by: its title field, else its id. */
export function titleOf(source: Source | undefined, id: string, fields: Fields): string {
  const title = source ? fields[source.titleField] : null;
  return isEmpty(title) ? id : String(title);
}

/** Names for the ids that values hold. */
function namesIn(world: Pick<World, 'people' | 'sources' | 'item'>): Names {
  return {
    person: (id) => world.people.get(id)?.name ?? id,
    item: (id) => {
      const item = world.item(id);
      return item ? titleOf(world.sources.get(item.source), id, item.fields) : id;
    },
  };
}

/** An actor's name; systems go by theirs. */
const actorName = (actor: string, world: Pick<World, 'people'>): string =>
  world.people.get(actor)?.name ?? (actor.startsWith('system:') ? actor.slice('system:'.length) : actor);

/** The names of the folders that hold an item, outermost first. */
function folderPath(folder: string | null, world: Pick<World, 'folders'>): string[] {
  const path: string[] = [];
  for (let at = folder === null ? undefined : world.folders.get(folder); at && path.length < 1000; at = at.parent === null ? undefined : world.folders.get(at.parent)) {
    path.unshift(at.name);
  }
  return path;
}

/** One rule's catch of one item, as told to one reader: the changes in their order, and why the reader hears. */
export interface Telling {
  rule: Rule;
  changes: Change[];
  reasons: Reason[];
}

/** The fields that differ between two states, worded; those the rules name come first. */
function shownFields(source: Source, before: Fields | null, after: Fields | null, first: string[], reader: Reader, names: Names): ShownField[] {
  const shown = differingFields(source, before, after).map((field) => ({
    id: field.id,
    label: field.name,
    before: formatValue(field, before?.[field.id], reader, names),
    after: formatValue(field, after?.[field.id], reader, names),
  }));
  const rank = (id: string) => (first.includes(id) ? first.indexOf(id) : first.length);
  return shown.sort((a, b) => rank(a.id) - rank(b.id));
}

/** All that is told to a reader of one item. The tellings are of this item alone and hold at least one change. */
export function makeEntry(tellings: Telling[], reader: Reader, world: World, shared: SharedEntries = new Map()): Entry {
  // Readers of one locale and zone who are told the same changes read the same, but for why they heard.
  const key = [reader.locale, reader.zone, ...tellings.flatMap(({ rule, changes }) => [rule.id, ...changes.map((change) => change.id)])].join('|');
  const known = shared.get(key) ?? bareEntry(tellings, reader, world);
  shared.set(key, known);
  const source = world.sources.get(known.item.source) as Source;
  return { ...known, why: whyWords(tellings, { source, reader, names: namesIn(world) }, world) };
}

/** Entries without their reader's reasons, kept while one alert is told to many. */
export type SharedEntries = Map<string, Entry>;

function bareEntry(tellings: Telling[], reader: Reader, world: World): Entry {
  const changes = [...new Map(tellings.flatMap((telling) => telling.changes).map((change) => [change.id, change])).values()].sort((a, b) => a.at - b.at);
  const first = changes[0] as Change;
  const last = changes.at(-1) as Change;
  const source = world.sources.get(last.source) as Source;
  const names = namesIn(world);
  const named = tellings.flatMap(({ rule }) => fieldsNamed(rule.when.if));
  const fields = shownFields(source, first.before, last.after, named, reader, names);
  const kind = netKind(changes);
  const title = titleOf(source, last.item, judgedFields(last));
  const rules = [...new Map(tellings.map(({ rule }) => [rule.id, { id: rule.id, name: rule.name }])).values()];
  const steps = changes.map((change): ShownStep => ({
    change: change.id,
    at: printInstant(change.at),
    when: formatInstant(change.at, reader),
    hour: formatDayTime(change.at, reader),
    kind: change.kind,
    actor: actorName(change.actor, world),
    fields: shownFields(source, change.before, change.after, named, reader, names),
  }));
  const isBack = changes.length > 1 && fields.length === 0 && first.folderBefore === last.folder && (kind === 'changed' || kind === 'moved');
  return {
    item: { id: last.item, title, source: source.id, sourceName: source.name, folder: folderPath(last.folder, world) },
    urgency: highest(tellings.map(({ rule }) => rule.urgency)),
    rules,
    headline: isBack ? `${title} is back where it was` : headlineOf(kind, title, fields, last, world),
    kind,
    fields,
    steps,
    isBack,
    show: tellings.flatMap(({ rule }) => rule.message.show).filter((id, at, all) => all.indexOf(id) === at).flatMap((id) => {
      const field = fieldOf(source, id);
      return field ? [{ label: field.name, value: formatValue(field, last.after?.[id], reader, names) }] : [];
    }),
    doNow: tellings.flatMap(({ rule }) => rule.message.doNow ?? []),
    why: [],
  };
}

function netKind(changes: Change[]): ChangeKind {
  const first = changes[0] as Change;
  const last = changes.at(-1) as Change;
  if (changes.length === 1) return first.kind;
  if (last.kind === 'deleted') return 'deleted';
  if (first.kind === 'created') return 'created';
  return first.kind === 'deleted' && last.kind === 'restored' ? 'changed' : last.kind;
}

const KIND_WORDS: Record<string, string> = {
  created: 'was added', changed: 'was edited', deleted: 'was deleted', restored: 'was restored', renamed: 'was renamed', moved: 'was moved',
  contentAdded: 'has a new version', checkedOut: 'was checked out', checkedIn: 'was checked in', submitted: 'was submitted',
  approved: 'was approved', rejected: 'was rejected', commented: 'has a comment', shared: 'was shared', unshared: 'is no longer shared',
};

/** What happened, after the item's name: *was added*. */
export const kindWords = (kind: ChangeKind): string => KIND_WORDS[kind] ?? kind.replace(/^x-/, '').replaceAll('-', ' ');

function headlineOf(kind: ChangeKind, title: string, fields: ShownField[], last: Change, world: World): string {
  const lead = fields[0];
  if (kind === 'moved' && last.folder) return `${title} was moved to ${world.folders.get(last.folder)?.name ?? last.folder}`;
  if (kind !== 'changed' || !lead) return `${title} ${kindWords(kind)}`;
  const more = fields.length > 1 ? `, and ${fields.length - 1} more` : '';
  return `${title}: ${lead.label} ${lead.before || 'empty'} → ${lead.after || 'empty'}${more}`;
}

function whyWords(tellings: Telling[], phrasing: Phrasing, world: World): Words[] {
  return tellings.flatMap(({ rule, reasons }) => [
    ...heldWords(rule.when.if, phrasing),
    ...reasons.map((reason) => reasonWords(reason, rule, phrasing, world)),
  ]);
}

function reasonWords(reason: Reason, rule: Rule, { source }: Phrasing, world: World): Words {
  switch (reason.kind) {
    case 'person':
      return ['The rule ', { strong: rule.name }, ' names you.'];
    case 'group':
      return ['You are in ', { strong: world.groups.get(reason.group)?.name ?? reason.group }, '.'];
    case 'field':
      return ['You are its ', { strong: fieldOf(source, reason.field)?.name ?? reason.field }, '.'];
    default:
      return reason satisfies never;
  }
}

const RANK: Record<Urgency, number> = { routine: 0, important: 1, critical: 2 };
/** The more urgent of several. */
export const highest = (all: Urgency[]): Urgency => all.reduce((a, b) => (RANK[b] > RANK[a] ? b : a), 'routine');

/** A message about one alert. */
export function singleContent(entries: Entry[], at: Instant, reader: Reader): Content {
  const [first] = entries;
  const headline = entries.length === 1 && first ? first.headline : `${entries.length} items changed`;
  return { form: 'single', headline, when: formatInstant(at, reader), lead: '', entries };
}

/** A digest of all that gathered for one reader: the urgent first, then in the order in which they first changed. */
export function digestContent(entries: Entry[], at: Instant, reader: Reader): Content {
  const sorted = [...entries].sort((a, b) => RANK[b.urgency] - RANK[a.urgency]);
  const changes = new Set(entries.flatMap((entry) => entry.steps.map((step) => step.change))).size;
  const back = entries.filter((entry) => entry.isBack).map((entry) => entry.item.title);
  const headline = `${changes} change${changes === 1 ? '' : 's'} on ${entries.length} item${entries.length === 1 ? '' : 's'}`;
  const lead = back.length === 0 ? '' : `${back.join(', ')} ${back.length === 1 ? 'is' : 'are'} back where ${back.length === 1 ? 'it was' : 'they were'}.`;
  return { form: 'digest', headline, when: formatInstant(at, reader), lead, entries: sorted };
}

import { Liquid } from 'liquidjs';
import type { World } from '../people/index.ts';
import type { Fault, Rule } from '../rules/index.ts';
import { type Change, fieldOf, formatInstant, formatValue, type Source } from '../values/index.ts';
import {
  ACKNOWLEDGE_MARK,
  BASE_MARK,
  type Entry,
  type Form,
  LEAVE_MARK,
  type AddressedReader,
  type Telling,
} from './content.ts';
import { actorName, folderPath, phrasingOf, type Sees } from './entry.ts';
import { itemPath, rulePath, sourcePath } from './paths.ts';
import { phrasesFor } from './locales/index.ts';

/** Where texts that several rules share are looked up. */
export interface Wordings {
  wording?(id: string): { subject: string | null; body: string | null } | undefined;
}

/** The names that a text may use, and what each holds; `null` where it holds nothing by name. */
const NAMES: Record<string, readonly string[] | null> = {
  rule: ['id', 'name', 'urgency', 'owner'],
  item: ['id', 'title', 'source', 'folder', 'fields'],
  change: ['kind', 'actor', 'at', 'fields'],
  changes: null,
  recipient: ['id', 'name'],
  links: ['item', 'folder', 'rule', 'unsubscribe', 'acknowledge'],
};

/** What a text about items of these sources may put in, by name. */
export function placeholdersOf(sources: readonly Source[]): string[] {
  const [first, ...others] = sources;
  const shared = (first?.fields ?? []).filter((field) => others.every((source) => fieldOf(source, field.id)));
  return [
    ...['id', 'title', 'source', 'folder'].map((name) => `item.${name}`),
    ...shared.map((field) => `item.fields.${field.id}`),
    'change.kind',
    'change.actor',
    'change.at',
    ...(['recipient', 'rule', 'links'] as const).flatMap((root) =>
      (NAMES[root] ?? []).map((name) => `${root}.${name}`),
    ),
  ];
}

/** However a text goes round in circles, putting it together takes no longer, in ms; sound ones take less than one. */
const RENDER_MS = 50;

// A text reads nothing but what it is given: no files, no clock, no chance, and no more work than a message is worth.
const engine = new Liquid({
  templates: {},
  strictFilters: true,
  ownPropertyOnly: true,
  memoryLimit: 200_000,
  parseLimit: 50_000,
  renderLimit: RENDER_MS,
});
for (const name of ['date', 'date_to_xmlschema', 'date_to_rfc822', 'date_to_string', 'date_to_long_string'])
  engine.registerFilter(name, (value: unknown) => value);
for (const name of ['sample', 'random'])
  engine.registerFilter(name, (value: unknown) => (Array.isArray(value) ? value[0] : value));

/** The words at which a text cannot be read any further, as they stand in it. */
function nearOf(error: unknown, text: string): string {
  const begin = (error as { token?: { begin?: number } }).token?.begin ?? 0;
  return text.slice(begin, begin + 30).split('\n')[0] ?? '';
}

/** What keeps a text from being saved: it cannot be read, or names what there is not. */
export function checkText(text: string, path: string, sources: readonly Source[]): Fault[] {
  let used: (string | number)[][];
  try {
    used = engine.globalVariableSegmentsSync(engine.parse(text)) as (string | number)[][];
  } catch (error) {
    return [{ code: 'unreadableText', path, params: { near: nearOf(error, text) } }];
  }
  return used.flatMap((segments) => {
    const [root, name, field] = segments.map(String);
    const known = NAMES[root ?? ''];
    const unknown = (allowed: readonly string[]): Fault[] => [
      { code: 'unknownName', path, params: { name: segments.join('.'), allowed: [...allowed] } },
    ];
    if (known === undefined) return unknown(Object.keys(NAMES));
    if (known && name !== undefined && !known.includes(name)) return unknown(known.map((one) => `${root}.${one}`));
    const [first] = sources;
    if (root !== 'item' || name !== 'fields' || field === undefined || !first) return [];
    return sources.every((source) => fieldOf(source, field))
      ? []
      : unknown(first.fields.map((one) => `item.fields.${one.id}`));
  });
}

/** A rule's own subject and body, else those of its shared wording; in forms that are about one alert as it arose. */
export function ownWords(
  form: Form,
  byItem: readonly (readonly Telling[])[],
  entries: readonly Entry[],
  reader: AddressedReader,
  world: World & Wordings,
  sees?: Sees,
): { subject: string | null; body: string | null; hasFailed: boolean } | null {
  const telling = byItem[0]?.[0];
  if (!telling || form === 'digest' || form === 'summary' || form === 'allClear') return null;
  const { message } = telling.rule;
  const shared = message.wording === null ? undefined : world.wording?.(message.wording);
  const subject = message.subject ?? shared?.subject ?? null;
  const body = message.body ?? shared?.body ?? null;
  if (subject === null && body === null) return null;
  const scope = scopeOf(byItem, entries, reader, world, sees);
  const [title, text] = [subject === null ? null : render(subject, scope), body === null ? null : render(body, scope)];
  const said = {
    subject: title?.replace(/\s+/g, ' ').trim() || null,
    body: text,
    hasFailed: (subject !== null && title === null) || (body !== null && text === null),
  };
  if (said.subject === null || form === 'single') return said;
  return { ...said, subject: phrasesFor(reader.locale).say(`headline.${form}`, { headline: said.subject }) };
}

/** `null` where the text asks for more work than a message is worth: the default stands then. */
function render(text: string, scope: object): string | null {
  try {
    return engine.parseAndRenderSync(text, scope);
  } catch {
    return null;
  }
}

function scopeOf(
  byItem: readonly (readonly Telling[])[],
  entries: readonly Entry[],
  reader: AddressedReader,
  world: World,
  sees?: Sees,
): object {
  const { rule, source: sourceId, item: id } = (byItem[0] as Telling[])[0] as Telling;
  const source = world.sources.get(sourceId) as Source;
  const standing = world.item(id) ?? world.lastState?.(id);
  const [entry] = entries as [Entry];
  const changes = byItem
    .flat()
    .flatMap((telling) => telling.changes.map((change) => changeScope(change, reader, world, sees)));
  const { names } = phrasingOf(source, reader, world, sees);
  const lastChange = (byItem[0] as Telling[]).flatMap((telling) => telling.changes).at(-1);
  const fields = lastChange?.after ?? standing?.fields ?? lastChange?.before ?? {};
  return {
    rule: {
      id: rule.id,
      name: rule.name,
      urgency: rule.urgency,
      owner: world.people.get(rule.owner)?.name ?? rule.owner,
    },
    item: {
      id,
      title: entry.item.title,
      source: source.name,
      folder: folderPath(standing?.folder ?? lastChange?.folder ?? null, world).join(' / '),
      fields: Object.fromEntries(
        source.fields.map((field) => [field.id, formatValue(field, fields[field.id], reader, names)]),
      ),
    },
    change: changes.at(-1) ?? { kind: '', actor: '', at: '', fields: [] },
    changes,
    recipient: { id: reader.id, name: reader.name },
    links: {
      item: BASE_MARK + itemPath(id),
      folder: BASE_MARK + sourcePath(source.id),
      rule: BASE_MARK + rulePath(rule.id),
      unsubscribe: LEAVE_MARK,
      acknowledge: ACKNOWLEDGE_MARK,
    },
  };
}

function changeScope(change: Change, reader: AddressedReader, world: World, sees?: Sees): object {
  const source = world.sources.get(change.source) as Source;
  const { names } = phrasingOf(source, reader, world, sees);
  return {
    kind: change.kind,
    actor: actorName(change.actor, world),
    at: formatInstant(change.at, reader),
    fields: source.fields
      .map((field) => ({
        id: field.id,
        label: field.name,
        before: formatValue(field, change.before?.[field.id], reader, names),
        after: formatValue(field, change.after?.[field.id], reader, names),
      }))
      .filter(({ before, after }) => before !== after),
  };
}

/** What keeps a rule's own texts from being saved. */
export function checkMessage(
  { message, scope }: Rule,
  sources: ReadonlyMap<string, Source>,
  wordings?: ReadonlySet<string>,
): Fault[] {
  const watched = scope.sources.flatMap((id) => sources.get(id) ?? []);
  const faults = (['subject', 'body'] as const).flatMap((part) =>
    message[part] === null ? [] : checkText(message[part], `message.${part}`, watched),
  );
  if (message.wording !== null && wordings && !wordings.has(message.wording))
    faults.push({
      code: 'unknownWording',
      path: 'message.wording',
      params: { wording: message.wording, allowed: [...wordings] },
    });
  return faults;
}

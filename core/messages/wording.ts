import { Drop } from 'liquidjs';
import type { World } from '../people/index.ts';
import type { Fault, Rule } from '../rules/index.ts';
import {
  type Change,
  type Field,
  fieldOf,
  formatInstant,
  formatValue,
  type Source,
  type Value,
} from '../values/index.ts';
import type { Phrasing } from './condition-words.ts';
import { ACKNOWLEDGE_MARK, BASE_MARK, type Form, LEAVE_MARK, type AddressedReader, type Telling } from './content.ts';
import { actorName, folderPath, phrasingOf, type Sees } from './entry.ts';
import type { Wordings } from './house.ts';
import { marked, plainMarked, withoutMarks } from './marked.ts';
import { itemPath, rulePath, sourcePath } from './paths.ts';
import { phrasesFor } from './locales/index.ts';
import { namesIn, templateEngine } from './template-engine.ts';

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
export function placeholdersOf(sources: readonly Source[], all: ReadonlyMap<string, Source> = new Map()): string[] {
  const [first, ...others] = sources;
  const shared = (first?.fields ?? []).filter((field) => others.every((source) => fieldOf(source, field.id)));
  return [
    ...['id', 'title', 'source', 'folder'].map((name) => `item.${name}`),
    ...shared.flatMap((field) => [
      `item.fields.${field.id}`,
      ...partsOf(field, all).map((part) => `item.fields.${field.id}.${part}`),
    ]),
    'change.kind',
    'change.actor',
    'change.actor.email',
    'change.at',
    ...(['recipient', 'rule', 'links'] as const).flatMap((root) =>
      (NAMES[root] ?? []).map((name) => `${root}.${name}`),
    ),
  ];
}

const engine = templateEngine();

/** What keeps a text from being saved: it cannot be read, or names what there is not. */
export function checkText(
  text: string,
  path: string,
  sources: readonly Source[],
  all: ReadonlyMap<string, Source> = new Map(),
): Fault[] {
  const found = namesIn(engine, text);
  if ('near' in found) return [{ code: 'unreadableText', path, params: { near: found.near } }];
  return found.used.flatMap((segments) => {
    const allowed = allowedFor(segments, sources, all);
    return allowed === null
      ? []
      : [{ code: 'unknownName', path, params: { name: segments.join('.'), allowed: [...allowed] } }];
  });
}

/** What could stand in place of a name that there is not; `null` where there is such a name. */
function allowedFor(
  [root = '', name, field, part]: readonly string[],
  sources: readonly Source[],
  all: ReadonlyMap<string, Source>,
): readonly string[] | null {
  const known = NAMES[root];
  if (known === undefined) return Object.keys(NAMES);
  if (known && name !== undefined && !known.includes(name)) return known.map((one) => `${root}.${one}`);
  if (field === undefined) return null;
  if ((root === 'change' && name === 'actor') || (root === 'rule' && name === 'owner'))
    return (PERSON_PARTS as readonly string[]).includes(field)
      ? null
      : PERSON_PARTS.map((one) => `${root}.${name}.${one}`);
  return root === 'item' && name === 'fields' ? allowedField(field, part, sources, all) : null;
}

function allowedField(
  field: string,
  part: string | undefined,
  sources: readonly Source[],
  all: ReadonlyMap<string, Source>,
): string[] | null {
  const [first] = sources;
  if (!first) return null;
  if (!sources.every((source) => fieldOf(source, field))) return first.fields.map((one) => `item.fields.${one.id}`);
  const parts = part === undefined ? [] : partsOf(fieldOf(first, field), all);
  return part === undefined || parts.includes(part) ? null : parts.map((one) => `item.fields.${field}.${one}`);
}

/** What a text may ask of a field's value: of a person their name and address, of a linked item its fields. */
function partsOf(field: Field | undefined, sources: ReadonlyMap<string, Source>): string[] {
  if (field?.type === 'person') return [...PERSON_PARTS];
  return field?.type === 'link' ? (sources.get(field.to ?? '')?.fields ?? []).map((one) => one.id) : [];
}

/**
 * A rule's own subject and body, else those of its shared wording, else the usual ones; in forms that are about one alert as it arose.
 * @param title what the first item is called, which is the one that the words speak of
 */
export function ownWords(
  form: Form,
  byItem: readonly (readonly Telling[])[],
  title: string,
  reader: AddressedReader,
  world: World & Wordings,
  sees?: Sees,
): { subject: string | null; body: string | null; hasFailed: boolean } | null {
  const telling = byItem[0]?.[0];
  if (!telling || form === 'digest' || form === 'summary' || form === 'allClear') return null;
  const { message } = telling.rule;
  const shared = message.wording === null ? undefined : world.wording?.(message.wording);
  const usual = world.usual?.(telling.source, telling.occasion);
  const subject = message.subject ?? shared?.subject ?? usual?.subject ?? null;
  const body = message.body ?? shared?.body ?? usual?.body ?? null;
  if (subject === null && body === null) return null;
  const scope = scopeOf(byItem, title, reader, world, sees);
  // A subject is one plain line: signs for lists and links mean themselves there.
  const [line, text] = [
    subject === null ? null : renderPlain(subject, scope),
    body === null ? null : render(body, scope),
  ];
  const said = {
    subject: line?.replace(/\s+/g, ' ').trim() || null,
    body: text,
    hasFailed: (subject !== null && line === null) || (body !== null && text === null),
  };
  if (said.subject === null || form === 'single' || form === 'report') return said;
  return { ...said, subject: phrasesFor(reader.locale).say(`headline.${form}`, { headline: said.subject }) };
}

const renderPlain = (text: string, scope: object): string | null => {
  const said = render(text, scope);
  return said === null ? null : plainMarked(said);
};

/** `null` where the text asks for more work than a message is worth: the default stands then. */
function render(text: string, scope: object): string | null {
  try {
    return engine.parseAndRenderSync(marked(text), scope);
  } catch {
    return null;
  }
}

/** Somebody, or an item linked, as a text has them: by name, and with what is known of them by further names. */
class Named extends Drop {
  [part: string]: unknown;
  constructor(
    readonly called: string,
    parts: Record<string, string>,
  ) {
    super();
    for (const [part, value] of Object.entries(parts)) this[part] = value;
  }
  override valueOf(): string {
    return this.called;
  }
  equals(other: unknown): boolean {
    return this.called === String(other);
  }
  gt(other: unknown): boolean {
    return this.called > String(other);
  }
  geq(other: unknown): boolean {
    return this.called >= String(other);
  }
  lt(other: unknown): boolean {
    return this.called < String(other);
  }
  leq(other: unknown): boolean {
    return this.called <= String(other);
  }
}

/** What a text may ask of a person. */
const PERSON_PARTS = ['name', 'email'] as const;

function personIn(id: string, world: Pick<World, 'people'>): Named {
  const person = world.people.get(id);
  const name = withoutMarks(actorName(id, world));
  return new Named(name, { name, email: withoutMarks(person?.email ?? '') });
}

/** A field's value as a text has it: of a person or a linked item with what is known of them, as far as the reader may read it. */
function valueIn(field: Field, value: Value | undefined, phrasing: Phrasing, world: World, sees: Sees): string | Named {
  const said = withoutMarks(formatValue(field, value, phrasing.reader, phrasing.names));
  if (field.type === 'person')
    return new Named(said, { name: said, email: withoutMarks(world.people.get(String(value ?? ''))?.email ?? '') });
  const linked = field.type === 'link' && typeof value === 'string' ? world.item(value) : undefined;
  const source = linked && world.sources.get(linked.source);
  if (!linked || !source || !sees(linked)) return said;
  const say = (one: Field) => withoutMarks(formatValue(one, linked.fields[one.id], phrasing.reader, phrasing.names));
  return new Named(said, Object.fromEntries(source.fields.map((one) => [one.id, say(one)])));
}

function scopeOf(
  byItem: readonly (readonly Telling[])[],
  title: string,
  reader: AddressedReader,
  world: World,
  sees: Sees = () => true,
): object {
  const { rule, source: sourceId, item: id } = (byItem[0] as Telling[])[0] as Telling;
  const source = world.sources.get(sourceId) as Source;
  const standing = world.item(id) ?? world.lastState?.(id);
  const changes = byItem
    .flat()
    .flatMap((telling) => telling.changes.map((change) => changeScope(change, reader, world, sees)));
  const phrasing = phrasingOf(source, reader, world, sees);
  const lastChange = (byItem[0] as Telling[]).flatMap((telling) => telling.changes).at(-1);
  const fields = lastChange?.after ?? standing?.fields ?? lastChange?.before ?? {};
  const folder = folderPath(standing?.folder ?? lastChange?.folder ?? null, world).join(' / ');
  return {
    rule: {
      id: rule.id,
      name: withoutMarks(rule.name),
      urgency: rule.urgency,
      owner: personIn(rule.owner, world),
    },
    item: {
      id,
      title: withoutMarks(title),
      source: withoutMarks(source.name),
      folder: withoutMarks(folder),
      fields: Object.fromEntries(
        source.fields.map((field) => [field.id, valueIn(field, fields[field.id], phrasing, world, sees)]),
      ),
    },
    change: changes.at(-1) ?? { kind: '', actor: '', at: '', fields: [] },
    changes,
    recipient: { id: reader.id, name: withoutMarks(reader.name) },
    links: {
      item: BASE_MARK + itemPath(id),
      folder: BASE_MARK + sourcePath(source.id),
      rule: BASE_MARK + rulePath(rule.id),
      unsubscribe: LEAVE_MARK,
      acknowledge: ACKNOWLEDGE_MARK,
    },
  };
}

function changeScope(change: Change, reader: AddressedReader, world: World, sees: Sees): object {
  const source = world.sources.get(change.source) as Source;
  const { names } = phrasingOf(source, reader, world, sees);
  const say = (field: Field, value: Value | undefined) => withoutMarks(formatValue(field, value, reader, names));
  return {
    kind: change.kind,
    actor: personIn(change.actor, world),
    at: formatInstant(change.at, reader),
    fields: source.fields
      .map((field) => ({
        id: field.id,
        label: withoutMarks(field.name),
        before: say(field, change.before?.[field.id]),
        after: say(field, change.after?.[field.id]),
      }))
      .filter(({ before, after }) => before !== after),
  };
}

/** What keeps a rule's own texts from being saved. */
export function checkMessage(
  { message, scope }: Rule,
  sources: ReadonlyMap<string, Source>,
  known: { wordings?: ReadonlySet<string>; senders?: ReadonlySet<string> } = {},
): Fault[] {
  const watched = scope.sources.flatMap((id) => sources.get(id) ?? []);
  const faults = (['subject', 'body'] as const).flatMap((part) =>
    message[part] === null ? [] : checkText(message[part], `message.${part}`, watched, sources),
  );
  const { wordings, senders } = known;
  if (message.wording !== null && wordings && !wordings.has(message.wording))
    faults.push({
      code: 'unknownWording',
      path: 'message.wording',
      params: { wording: message.wording, allowed: [...wordings] },
    });
  if (typeof message.from === 'object' && senders && !senders.has(message.from.sender))
    faults.push({
      code: 'unknownSender',
      path: 'message.from',
      params: { sender: message.from.sender, allowed: ['ojo', 'owner', ...senders] },
    });
  return faults;
}

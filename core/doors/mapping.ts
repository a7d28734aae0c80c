import { type Reading, readCell } from '../tables/index.ts';
import { type Field, type Fields, fieldOf, isMoney, type Source, type Value, faultOf } from '../values/index.ts';
import { isPointer, pointedAt } from './pointer.ts';

/** What an event does to the source behind a door. */
export const DEEDS = ['keep', 'add', 'comment', 'remove'] as const;
/** `keep` edits the item that the key names and makes it where there is none, `add` makes a new one of each event. */
export type Deed = (typeof DEEDS)[number];

/** Where a field's value comes from: a place in the event (RFC 6901), or the same text always. */
export interface FieldFrom {
  field: string;
  from: string | null;
  fixed: string | null;
}

/** What becomes of events of one sort. */
export interface EventMapping {
  /** The events' type; a `*` at its end stands for whatever comes there. */
  type: string;
  does: Deed;
  /** Where the event says which item it is about; asked of everything but `add`. */
  key: string | null;
  /** Where it says who did it, by id, address or name; the door itself where that names nobody here. */
  actor: string | null;
  /** Where a comment's words stand. */
  text: string | null;
  fields: FieldFrom[];
}

/** An event of CloudEvents 1.0, as far as doors ask of it. */
export interface OutsideEvent {
  specversion: '1.0';
  id: string;
  source: string;
  type: string;
  [attribute: string]: unknown;
}

/** Something wrong with an event or a mapping, and where. */
export interface DoorFault {
  code: string;
  path: string;
  params: Record<string, unknown>;
}

/** What an event comes to. */
export type Mapped =
  | { outcome: 'act'; does: Deed; key: string | null; actor: string | null; set: Fields; text: string | null }
  | { outcome: 'passedOver' }
  | { outcome: 'refused'; faults: DoorFault[] };

const fits = (type: string, asked: string): boolean =>
  asked.endsWith('*') ? type.startsWith(asked.slice(0, -1)) : type === asked;

/** What a value of JSON is as people write it in a cell; `undefined` where that is nothing. */
function cellOf(value: unknown): string | number | null | undefined {
  if (value === null || value === undefined || typeof value === 'number') return value;
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (typeof value === 'string') return value;
  if (Array.isArray(value) && value.every((one) => typeof one === 'string' || typeof one === 'number'))
    return value.join('; ');
  return undefined;
}

/** A field's value from an event; `undefined` where the event does not speak of it. */
function valueFrom(
  { from, fixed }: FieldFrom,
  field: Field,
  event: OutsideEvent,
  reading: Reading,
): { value: Value } | { fault: { code: string; params: Record<string, unknown> } } | undefined {
  const found = from === null ? fixed : pointedAt(event, from);
  if (found === undefined) return undefined;
  // An amount as Ojo itself writes it is one as it stands.
  if (field.type === 'money' && isMoney(found as Value)) {
    const fault = faultOf(field, found as Value);
    return fault ? { fault } : { value: found as Value };
  }
  const cell = cellOf(found);
  if (cell === undefined) return { fault: { code: 'needsText', params: { field: field.name } } };
  return readCell(field, cell, reading);
}

const textAt = (event: OutsideEvent, pointer: string | null): string | null => {
  const found = pointer === null ? undefined : pointedAt(event, pointer);
  return typeof found === 'string' || typeof found === 'number' ? String(found).trim() || null : null;
};

/** The values that an event has for the fields it makes or edits; what is wrong with them goes to `faults`. */
function fieldsOf(
  { does, fields }: EventMapping,
  event: OutsideEvent,
  source: Source,
  reading: Reading,
  faults: DoorFault[],
): Fields {
  const set: Fields = {};
  for (const one of does === 'keep' || does === 'add' ? fields : []) {
    const field = fieldOf(source, one.field);
    const read = field && valueFrom(one, field, event, reading);
    if (!field || !read) continue;
    if ('value' in read) set[field.id] = read.value;
    else
      faults.push({
        code: read.fault.code,
        path: one.from ?? field.id,
        params: { field: field.name, ...read.fault.params },
      });
  }
  return set;
}

/** What an event comes to by the first of the mappings that is of its type; fields that it does not speak of stay as they are. */
export function mapEvent(
  mappings: readonly EventMapping[],
  event: OutsideEvent,
  source: Source,
  reading: Reading,
): Mapped {
  const mapping = mappings.find(({ type }) => fits(event.type, type));
  if (!mapping) return { outcome: 'passedOver' };
  const faults: DoorFault[] = [];
  const key = textAt(event, mapping.key);
  if (mapping.does !== 'add' && (key === null || key.length > 200))
    faults.push({ code: 'noKeyThere', path: mapping.key ?? '', params: { pointer: mapping.key ?? '' } });
  const text = textAt(event, mapping.text);
  if (mapping.does === 'comment' && text === null)
    faults.push({ code: 'noWordsThere', path: mapping.text ?? '', params: { pointer: mapping.text ?? '' } });
  const set = fieldsOf(mapping, event, source, reading, faults);
  if (faults.length > 0) return { outcome: 'refused', faults };
  return { outcome: 'act', does: mapping.does, key, actor: textAt(event, mapping.actor), set, text };
}

/** What keeps mappings from being kept: a place that is none, a field that there is not, or what is needed and left out. */
export function checkMappings(mappings: readonly EventMapping[], source: Source): DoorFault[] {
  return mappings.flatMap((mapping, at) => {
    const faults: DoorFault[] = [];
    const wrong = (code: string, path: string, params: Record<string, unknown> = {}) =>
      faults.push({ code, path: `mappings.${at}.${path}`, params });
    const pointer = (path: string, value: string | null) => {
      if (value !== null && !isPointer(value)) wrong('noPointer', path, { text: value });
    };
    if (mappings.slice(0, at).some(({ type }) => type === mapping.type))
      wrong('typeTwice', 'type', { type: mapping.type });
    pointer('key', mapping.key);
    pointer('actor', mapping.actor);
    pointer('text', mapping.text);
    if (mapping.does !== 'add' && mapping.key === null) wrong('keyIsNeeded', 'key');
    if (mapping.does === 'comment' && mapping.text === null) wrong('wordsAreNeeded', 'text');
    const makes = mapping.does === 'keep' || mapping.does === 'add';
    mapping.fields.forEach(({ field, from }, index) => {
      if (!fieldOf(source, field)) wrong('noFieldThere', `fields.${index}.field`, { field });
      if (mapping.fields.slice(0, index).some((one) => one.field === field))
        wrong('mappedTwice', `fields.${index}.field`, { field });
      pointer(`fields.${index}.from`, from);
    });
    if (makes && !mapping.fields.some(({ field }) => field === source.titleField))
      wrong('titleIsMapped', 'fields', { field: fieldOf(source, source.titleField)?.name ?? source.titleField });
    return faults;
  });
}

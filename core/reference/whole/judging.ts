import type { AccessEntry, Contact, Folder, Group, Person, Selector } from '../../people/index.ts';
import type { Condition, FieldTest, Rule, StateTest } from '../../rules/index.ts';
import {
  addDays,
  addDuration,
  atLocal,
  dateIn,
  type Duration,
  type Instant,
  parseInstant,
  timesDuration,
} from '../../time/index.ts';
import type { Change, Field, Fields, Source, Value } from '../../values/index.ts';

/** The naive twin's world: plain maps, altered in place. */
export interface Plain {
  people: Map<string, Person>;
  groups: Map<string, Group>;
  contacts: Map<string, Contact>;
  folders: Map<string, Folder>;
  source: Source;
  access: AccessEntry[];
  followers: { item: string; person: string }[];
  items: Map<string, PlainItem>;
}

/** An item as it stands, or stood last. */
export interface PlainItem {
  id: string;
  isThere: boolean;
  folder: string | null;
  fields: Fields;
  createdBy: string | null;
  lastBy: string | null;
  lastAt: Instant | null;
}

/** What a condition is asked of: both sides, and the last state of what was deleted. */
export interface Sides {
  at: Instant;
  before: Fields | null;
  after: Fields | null;
  last: Fields;
}

const blank = (value: Value | undefined): boolean =>
  value === undefined ||
  value === null ||
  (typeof value === 'string' && value.trim() === '') ||
  (Array.isArray(value) && value.length === 0);
const amount = (value: Value | undefined): number =>
  Number(typeof value === 'object' && value !== null && 'amount' in value ? value.amount : value);
const currency = (value: Value | undefined): string =>
  typeof value === 'object' && value !== null && 'currency' in value ? value.currency : '';
const fold = (text: Value): string => String(text).normalize('NFC').toLowerCase().normalize('NFC');
const list = (value: Value | undefined): string[] => (blank(value) ? [] : [value].flat().map(String));
const isDated = (type: Field['type']) => type === 'date' || type === 'dateTime';
/** A moment, or a day's midnight in the zone. */
const momentOf = (value: Value | undefined, zone: string): number =>
  parseInstant(String(value)) ?? atLocal(String(value), '00:00', zone);

/** An instant so many times a duration later. The twin asks the same at every minute: what it was told it remembers. */
export function later(from: Instant, duration: Duration, zone: string, times = 1): Instant {
  const key = `${from} ${duration} ${zone} ${times}`;
  const known =
    moved.get(key) ??
    (times < 0
      ? addDuration(from, duration, zone, -1)
      : addDuration(from, times === 1 ? duration : timesDuration(duration, times), zone));
  moved.set(key, known);
  return known;
}
const moved = new Map<string, Instant>();

/** Whether two values of a field are the same, as *changed* sees it. */
function same({ type }: Field, a: Value | undefined, b: Value | undefined): boolean {
  if (blank(a) || blank(b)) return blank(a) && blank(b);
  if (Array.isArray(a) || Array.isArray(b))
    return JSON.stringify([...new Set(list(a))].sort()) === JSON.stringify([...new Set(list(b))].sort());
  if (type === 'number' || type === 'money') return amount(a) === amount(b) && currency(a) === currency(b);
  if (type === 'dateTime') return momentOf(a, 'UTC') === momentOf(b, 'UTC');
  return String(a).normalize('NFC') === String(b).normalize('NFC');
}

const fieldIn = (source: Source, id: string): Field => source.fields.find((field) => field.id === id) as Field;

function testHolds(test: FieldTest, fields: Fields, at: Instant, source: Source, zone: string): boolean {
  const field = fieldIn(source, test.field);
  const value = fields[test.field];
  const { op } = test;
  if (op === 'empty') return blank(value);
  const beside = test.value as { field?: unknown } | null | undefined;
  if (typeof beside === 'object' && beside !== null && typeof beside.field === 'string') {
    // The other field's value, as if it stood in the test: it is of the same type.
    const given = fields[beside.field];
    if (blank(value) || blank(given)) return op === 'isNot';
    return testHolds({ ...test, value: given as Value }, fields, at, source, zone);
  }
  if (blank(value)) return op === 'isNot' || op === 'noneOf' || op === 'lacks';
  if (op === 'filled') return true;
  if (op === 'isNot') return !testHolds({ ...test, op: 'is' }, fields, at, source, zone);
  if (op === 'noneOf') return !testHolds({ ...test, op: 'oneOf' }, fields, at, source, zone);
  if (op === 'lacks') return !testHolds({ ...test, op: 'contains' }, fields, at, source, zone);
  const wanted = [test.value ?? null].flat() as Value[];
  if (isDated(field.type)) return dateHolds(test, field, value as Value, wanted, at, zone);
  if (field.type === 'number' || field.type === 'money') return numberHolds(op, value as Value, wanted);
  if (field.type === 'choices' || field.type === 'people' || field.type === 'links') {
    if (op === 'is') return same(field, value, test.value as Value);
    return op === 'includesAny'
      ? wanted.some((one) => list(value).includes(String(one)))
      : wanted.every((one) => list(value).includes(String(one)));
  }
  const isText = field.type === 'text' || field.type === 'longText' || field.type === 'url' || field.type === 'email';
  if (!isText) return wanted.some((one) => one === value);
  const seen = test.matchCase ? String(value).normalize('NFC') : fold(value as Value);
  const given = wanted.map((one) => (test.matchCase ? String(one).normalize('NFC') : fold(one)));
  if (op === 'contains') return seen.includes(given[0] ?? '');
  if (op === 'startsWith') return seen.startsWith(given[0] ?? '');
  if (op === 'endsWith') return seen.endsWith(given[0] ?? '');
  return given.includes(seen);
}

function numberHolds(op: FieldTest['op'], value: Value, wanted: Value[]): boolean {
  if (wanted.some((one) => currency(one) !== currency(value))) return false;
  const [low = Number.NaN, high = low] = wanted.map(amount);
  const x = amount(value);
  if (op === 'above') return x > low;
  if (op === 'atLeast') return x >= low;
  if (op === 'below') return x < low;
  if (op === 'atMost') return x <= low;
  if (op === 'between') return x >= low && x <= high;
  return x === low;
}

function dateHolds(
  { op, value: operand }: FieldTest,
  { type }: Field,
  value: Value,
  wanted: Value[],
  at: Instant,
  zone: string,
): boolean {
  if (op === 'withinNext' || op === 'withinLast') {
    const ahead = op === 'withinNext' ? 1 : -1;
    const [from, to] = [at, addDuration(at, String(operand), zone, ahead)].sort((a, b) => a - b) as [number, number];
    if (type === 'dateTime') return momentOf(value, zone) >= from && momentOf(value, zone) <= to;
    return String(value) >= dateIn(from, zone) && String(value) <= dateIn(to, zone);
  }
  const of = (one: Value) => (type === 'date' ? String(one) : momentOf(one, zone));
  const [low = '', high = low] = wanted.map(of);
  if (op === 'before') return of(value) < low;
  if (op === 'after') return of(value) > low;
  if (op === 'between') return of(value) >= low && of(value) <= high;
  return of(value) === low;
}

/** A state of an item that there is. */
export function stateHolds(test: StateTest, fields: Fields, at: Instant, source: Source, on: Judging): boolean {
  if ('op' in test) return testHolds(test, fields, at, source, on.zone);
  if ('all' in test) return test.all.every((part) => stateHolds(part, fields, at, source, on));
  if ('any' in test) return test.any.some((part) => stateHolds(part, fields, at, source, on));
  if ('none' in test) return !test.none.some((part) => stateHolds(part, fields, at, source, on));
  // Links of the twin lead to its one source.
  const named = list(fields[test.through]).map((id) => on.items.get(id));
  const so = named.filter((one) => one?.isThere && stateHolds(test.holds, one.fields, at, source, on));
  return test.every ? named.length > 0 && so.length === named.length : so.length > 0;
}

/** In which zone a condition is asked, and of which items links tell. */
export interface Judging extends Pick<Plain, 'items'> {
  zone: string;
}

export function conditionHolds(node: Condition, sides: Sides, source: Source, on: Judging): boolean {
  const { zone } = on;
  const { before, after, at } = sides;
  const then = (test: StateTest) => before !== null && stateHolds(test, before, at, source, on);
  const now = (test: StateTest) => after !== null && stateHolds(test, after, at, source, on);
  const of = (id: string): [Field, Value | undefined, Value | undefined] => [
    fieldIn(source, id),
    before?.[id],
    after?.[id],
  ];
  if ('op' in node || 'through' in node) return stateHolds(node, sides.last, at, source, on);
  if ('all' in node) return node.all.every((part) => conditionHolds(part, sides, source, on));
  if ('any' in node) return node.any.some((part) => conditionHolds(part, sides, source, on));
  if ('none' in node) return !node.none.some((part) => conditionHolds(part, sides, source, on));
  if ('was' in node) return then(node.was);
  if ('became' in node) return now(node.became) && !then(node.became);
  if ('ceased' in node) return then(node.ceased) && !now(node.ceased);
  if ('changed' in node)
    return (node.changed === '*' ? source.fields.map(({ id }) => id) : [node.changed].flat()).some(
      (id) => !same(...of(id)),
    );
  if ('gained' in node)
    return list(of(node.gained.field)[2]).some(
      (one) => !list(of(node.gained.field)[1]).includes(one) && (node.gained.any?.includes(one) ?? true),
    );
  if ('lost' in node)
    return list(of(node.lost.field)[1]).some(
      (one) => !list(of(node.lost.field)[2]).includes(one) && (node.lost.any?.includes(one) ?? true),
    );
  const [way, move] = 'rose' in node ? [1, node.rose] : [-1, node.fell];
  const [field, from, to] = of(move.field);
  if (blank(from) || blank(to)) return false;
  if (isDated(field.type)) {
    if ((momentOf(to, zone) - momentOf(from, zone)) * way <= 0) return false;
    if (move.by === undefined) return true;
    if (field.type === 'dateTime')
      return (momentOf(to, zone) - addDuration(momentOf(from, zone), String(move.by), zone, way as 1)) * way >= 0;
    return (momentOf(to, zone) - midnightAfter(String(from), String(move.by), zone, way)) * way >= 0;
  }
  if (currency(from) !== currency(to)) return false;
  const step = (amount(to) - amount(from)) * way;
  return (
    step > 0 &&
    (move.by === undefined || step >= Number(move.by)) &&
    (move.percent === undefined || step * 100 >= Number(move.percent) * Math.abs(amount(from)))
  );
}

/** A day's midnight so many days and hours later; only such durations are generated. */
function midnightAfter(day: string, duration: Duration, zone: string, way: number): Instant {
  const [, days, hours] = /^P(?:(\d+)D)?(?:T(\d+)H)?$/.exec(duration) ?? [];
  return atLocal(addDays(day, Number(days ?? 0) * way), '00:00', zone) + Number(hours ?? 0) * 3_600_000 * way;
}

const linksOf = (source: Source, fields: Fields): string[] =>
  source.fields.filter(({ type }) => type === 'link' || type === 'links').flatMap(({ id }) => list(fields[id]));

/** Whether what is asked about an item (a change, a net change, or the item as it stands) lies in a rule's scope. */
export function inScope(
  { scope, zone }: Rule,
  item: string,
  sides: Sides,
  ends: (string | null)[],
  world: Plain,
): boolean {
  if (scope.under.length > 0 && !ends.some((folder) => above(folder, world).some((one) => scope.under.includes(one))))
    return false;
  if (scope.items.length > 0 && !scope.items.includes(item)) {
    const named = scope.items.map((id) => world.items.get(id)).filter((one) => one?.isThere);
    const isLinked =
      scope.items.some((id) => sides.after !== null && linksOf(world.source, sides.after).includes(id)) ||
      named.some((one) => one && linksOf(world.source, one.fields).includes(item));
    if (!scope.linked || !isLinked) return false;
  }
  return stateHolds(scope.where, sides.last, sides.at, world.source, { zone, items: world.items });
}

function above(folder: string | null, world: Plain): string[] {
  return folder === null ? [] : [folder, ...above(world.folders.get(folder)?.parent ?? null, world)];
}

export const standing = (item: PlainItem, at: Instant): Sides => ({
  at,
  before: item.fields,
  after: item.fields,
  last: item.fields,
});

export function inDates({ during, zone }: Rule, { at, last }: Sides): boolean {
  const day = dateIn(at, zone);
  if (during.from !== null && day < during.from) return false;
  if (during.until !== null && day > during.until) return false;
  if (!during.near) return true;
  const value = last[during.near.field];
  if (blank(value)) return false;
  const moment = momentOf(value, zone);
  return at >= addDuration(moment, during.near.ahead, zone, -1) && at <= addDuration(moment, during.near.behind, zone);
}

export function members(group: string, world: Plain): string[] {
  const of = world.groups.get(group);
  return of ? [...of.members, ...of.groups.flatMap((inner) => members(inner, world))] : [];
}

export function byActor({ by }: Rule, actor: string, world: Plain): boolean {
  const named = (one: Selector): boolean =>
    one === '*' ||
    ('person' in one && one.person === actor) ||
    ('group' in one && members(one.group, world).includes(actor)) ||
    ('system' in one && (one.system === '*' ? actor.startsWith('system:') : actor === `system:${one.system}`));
  return (by.only.length === 0 || by.only.some(named)) && !by.except.some(named);
}

/** What selectors see besides the item as it stands: who edited it before an alert, whom its comments mention, who was told. */
export interface Seen {
  lastBy: string | null;
  mentions: string[];
  told: string[];
  /** Whether the state of a case holds of the item. */
  isSo?: (test: StateTest) => boolean;
}

/** The keys of all whom selectors reach for an item: people by id, others with what they are. */
export function reached(selectors: readonly Selector[], item: PlainItem, seen: Seen, world: Plain): string[] {
  const personOrNobody = (id: string | null | undefined) => (id && world.people.has(id) ? [id] : []);
  const found = selectors.flatMap((one): string[] => {
    if (one === '*' || 'system' in one) return [];
    if ('tell' in one) return reached([one.tell], item, seen, world);
    if ('cases' in one)
      return reached(
        one.cases.find((each) => seen.isSo?.(each.if as StateTest))?.to ?? one.else ?? [],
        item,
        seen,
        world,
      );
    if ('person' in one) return personOrNobody(one.person);
    if ('group' in one) return members(one.group, world).flatMap(personOrNobody);
    if ('linked' in one)
      return list(item.fields[one.linked]).flatMap((id) => fieldReaches(world.items.get(id)?.fields, one.field, world));
    if ('field' in one) return fieldReaches(item.fields, one.field, world);
    if ('creator' in one) return personOrNobody(item.createdBy);
    if ('lastEditor' in one) return personOrNobody(seen.lastBy);
    if ('followers' in one)
      return world.followers.filter(({ item: id }) => id === item.id).flatMap(({ person }) => personOrNobody(person));
    if ('mentioned' in one) return seen.mentions.flatMap(personOrNobody);
    if ('managerOf' in one)
      return reached([one.managerOf], item, seen, world).flatMap((id) => personOrNobody(world.people.get(id)?.manager));
    if ('contact' in one) return world.contacts.has(one.contact) ? [`contact:${one.contact}`] : [];
    if ('webhook' in one) return [`webhook:${one.webhook}`];
    return seen.told.flatMap(personOrNobody);
  });
  return [...new Set(found)];
}

const address = (text: string | null | undefined) => (text ?? '').trim().toLowerCase();

function fieldReaches(fields: Fields | undefined, id: string, world: Plain): string[] {
  const { type } = fieldIn(world.source, id);
  return list(fields?.[id]).flatMap((value) => {
    if (type !== 'email') return world.people.has(value) ? [value] : [];
    const people = [...world.people.values()].filter(({ email }) => address(email) === address(value));
    if (people.length > 0) return people.map((person) => person.id);
    const contact = [...world.contacts.values()].find(({ id: key, email }) => address(email ?? key) === address(value));
    return [`contact:${contact?.id ?? value.trim()}`];
  });
}

/** Whether somebody may read an item as it stands. */
export function mayRead(person: string, item: PlainItem, world: Plain): boolean {
  const entries = [
    ...above(item.folder, world).map((folder) => world.access.find((entry) => entry.folder === folder)),
    world.access.find((entry) => entry.source !== undefined && entry.folder === undefined),
  ];
  const entry = entries.find((one) => one !== undefined);
  return entry?.readers
    ? reached(entry.readers, item, { lastBy: item.lastBy, mentions: [], told: [] }, world).includes(person)
    : world.people.has(person);
}

/** The sides of a change by itself. */
export const sidesOf = ({ at, before, after }: Change): Sides => ({ at, before, after, last: after ?? before ?? {} });
export const ended = (value: Value | undefined): boolean => blank(value);
export const differs = (source: Source, before: Fields | null, after: Fields | null): boolean =>
  source.fields.some((field) => !same(field, before?.[field.id], after?.[field.id]));

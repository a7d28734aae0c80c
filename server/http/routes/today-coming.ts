import type { Coming } from '../../../contract/wire/index.ts';
import { reach, type Urgency } from '../../../core/people/index.ts';
import { caseJudge, isScheduled, type Rule, type StateTest } from '../../../core/rules/index.ts';
import {
  addDays,
  atLocal,
  DAY_MS,
  dateIn,
  type Instant,
  MIDNIGHT,
  nextOf,
  parseInstant,
} from '../../../core/time/index.ts';
import { isPersonType, type Source } from '../../../core/values/index.ts';
import { type Caller, readableAmong, visibleSources, when } from '../../access/index.ts';
import {
  livePhases,
  newestRule,
  readableItems,
  rows,
  stateSql,
  store,
  type StoredItem,
  worldOf,
} from '../../store/index.ts';
import type { Context } from '../context.ts';

/** What comes is looked for so many days ahead. */
export const AHEAD_DAYS = 14;
/** So many items of one date, or of one rule's day, are named. */
const NAMED = 3;
/** So many places in schedules, and so many items of a source, are looked through. */
const MOST = 400;

interface Found extends Omit<Coming, 'items' | 'count' | 'at' | 'to'> {
  at: Instant;
  item: StoredItem;
}

/** Items of which a field names somebody, with each date of theirs in the days ahead. */
async function datesOf({ pool, clock }: Pick<Context, 'pool' | 'clock'>, { me, directory }: Caller): Promise<Found[]> {
  const now = clock.now();
  const today = dateIn(now, me.zone);
  const last = addDays(today, AHEAD_DAYS - 1);
  const ofSource = async (source: Source): Promise<Found[]> => {
    const dates = source.fields.filter(({ type }) => type === 'date' || type === 'dateTime');
    const names = source.fields.filter(({ type }) => isPersonType(type));
    if (dates.length === 0 || names.length === 0) return [];
    const named: StateTest = {
      any: names.map(({ id, type }) =>
        type === 'people' ? { field: id, op: 'includesAny', value: [me.id] } : { field: id, op: 'is', value: me.id },
      ),
    };
    const near: StateTest = {
      any: dates.map(({ id }) => ({ field: id, op: 'between', value: [today, last] })),
    };
    const where = stateSql({ all: [named, near] }, { source, zone: me.zone, now });
    const page = { order: null, limit: MOST, offset: 0 };
    const items = await rows(
      pool,
      store.items.list(source.id, readableItems(me.id, directory), { folders: null, where }, page),
    );
    return items.flatMap((item) =>
      dates.flatMap(({ id, type }): Found[] => {
        const value = String(item.fields[id] ?? '');
        const instant = type === 'date' ? null : parseInstant(value);
        const day = instant === null ? value : dateIn(instant, me.zone);
        const isNamed = names.some((field) => [item.fields[field.id]].flat().includes(me.id));
        if (!isNamed || day < today || day > last) return [];
        const at = instant ?? atLocal(day, MIDNIGHT, me.zone);
        const field = { source: source.id, id };
        return [{ what: 'date', at, isDay: instant === null, urgency: 'routine', field, rule: null, item }];
      }),
    );
  };
  return (await Promise.all(visibleSources(me.id, directory).map(ofSource))).flat();
}

/** What dates and standstills rules will tell somebody of, where nothing changes before. */
async function scheduledFor(
  { pool, clock }: Pick<Context, 'pool' | 'clock'>,
  { me, directory }: Caller,
): Promise<Found[]> {
  const now = clock.now();
  const rules = new Map<string, Rule>(
    livePhases(directory, now)
      .filter(({ compiled, isPaused }) => isScheduled(compiled.rule) && !isPaused)
      .map(({ compiled }) => [compiled.rule.id, compiled.rule]),
  );
  if (rules.size === 0) return [];
  const until = now + AHEAD_DAYS * DAY_MS;
  const shelves = await Promise.all(
    (['dues', 'idles'] as const).map((shelf) =>
      rows(pool, store.engine.scheduled(shelf, [...rules.keys()], now, until, MOST)),
    ),
  );
  const places = shelves.flat();
  const readable = await readableAmong(
    pool,
    places.map((place) => place.item),
    me.id,
    directory,
  );
  const world = worldOf(directory, readable);
  return places.flatMap((place): Found[] => {
    const rule = rules.get(place.rule);
    const item = readable.get(place.item);
    if (!rule || !item || place.next === null || item.isDeleted) return [];
    const isReached = [...reach(rule.to, item, world, { isSo: caseJudge(rule, now, world) }).values()].some(
      (one) => one.id === me.id,
    );
    if (!isReached) return [];
    const field = rule.due ? { source: item.source, id: rule.due.field } : null;
    const named = { id: rule.id, name: rule.name };
    return [
      {
        what: rule.due ? 'due' : 'idle',
        at: place.next,
        isDay: false,
        urgency: rule.urgency,
        field,
        rule: named,
        item,
      },
    ];
  });
}

/** The next report of each live rule that names somebody, and what they asked to be told again. */
async function announcedFor(
  { pool, clock }: Pick<Context, 'pool' | 'clock'>,
  { me, directory }: Caller,
): Promise<Coming[]> {
  const now = clock.now();
  const until = now + AHEAD_DAYS * DAY_MS;
  const world = worldOf(directory, new Map());
  const nothing = { source: '', folder: null, fields: {} };
  const reports = livePhases(directory, now).flatMap(({ compiled: { rule, inSeason }, isPaused }): Coming[] => {
    if (!rule.report || isPaused) return [];
    const at = nextOf(rule.report, now, rule.zone);
    // Whoever only an item's fields name is told where an item does.
    if (at > until || !inSeason(at) || !reach(rule.to, nothing, world).has(me.id)) return [];
    return [{ ...ALONE, what: 'report', at: when(at), urgency: rule.urgency, rule: { id: rule.id, name: rule.name } }];
  });
  const asked = (await rows(pool, store.engine.again(me.id))).filter((one) => one.when <= until);
  const ids = asked.flatMap(({ portions }) => portions.map(({ item }) => item));
  const readable = await readableAmong(pool, ids, me.id, directory);
  const again = asked.flatMap(({ when: at, rule: id, portions }): Coming[] => {
    const items = portions.flatMap(({ item }) => readable.get(item) ?? []);
    const rule = newestRule(directory, id);
    if (!rule || items.length === 0) return [];
    const named = items.slice(0, NAMED).map((item) => ({ id: item.id, title: item.title, source: item.source }));
    return [
      {
        ...ALONE,
        what: 'again',
        at: when(at),
        urgency: rule.urgency,
        rule: { id, name: rule.name },
        items: named,
        count: items.length,
      },
    ];
  });
  return [...reports, ...again];
}
const ALONE = { isDay: false, field: null, items: [], count: 0, to: [] };

/** Items of one date on one day, or of one rule's hour, stand together. */
function together(found: readonly Found[]): Coming[] {
  const groups = new Map<string, Found[]>();
  for (const one of found) {
    const key = JSON.stringify([one.what, one.at, one.field, one.rule?.id]);
    groups.set(key, [...(groups.get(key) ?? []), one]);
  }
  return [...groups.values()].map((group): Coming => {
    const [first] = group as [Found];
    const { item: _, at, ...rest } = first;
    const items = group.slice(0, NAMED).map(({ item }) => ({ id: item.id, title: item.title, source: item.source }));
    return { ...rest, at: when(at), items, count: group.length, to: [] };
  });
}

const RANKS: Record<Urgency, number> = { critical: 0, important: 1, routine: 2 };

/** What comes in the next two weeks: dates of what names somebody, and what rules will tell them by then, in order of time. */
export async function comingFor(context: Pick<Context, 'pool' | 'clock'>, asking: Caller): Promise<Coming[]> {
  const [dates, scheduled, announced] = await Promise.all([
    datesOf(context, asking),
    scheduledFor(context, asking),
    announcedFor(context, asking),
  ]);
  return [...together([...dates, ...scheduled]), ...announced].sort(
    (a, b) => a.at.localeCompare(b.at) || RANKS[a.urgency] - RANKS[b.urgency],
  );
}

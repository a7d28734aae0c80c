import { membersOfGroup, readersAt, type Selector, visitSelector, type World } from '../../../core/people/index.ts';
import type { Sql } from '../database/query.ts';

/** Whether a field of an item holds a text by itself or among others. */
const holds = (item: string, field: string, text: string): Sql => ({
  sql: `(JSON_VALUE(${item}.fields, CONCAT('$."', ?, '"')) = ? OR JSON_CONTAINS(JSON_QUERY(${item}.fields, CONCAT('$."', ?, '"')), JSON_QUOTE(?)))`,
  params: [field, text, field, text],
});

/** Whether a field names somebody: by id, or where it is an email field by their address. */
function fieldNames(item: string, field: string, person: string, world: Omit<World, 'item'>): Sql {
  const email = world.people.get(person)?.email?.trim();
  const byId = holds(item, field, person);
  if (!email) return byId;
  const byAddress: Sql = {
    sql: `LOWER(TRIM(JSON_VALUE(${item}.fields, CONCAT('$."', ?, '"')))) = LOWER(?)`,
    params: [field, email],
  };
  return anyOf([byId, byAddress]);
}

const anyOf = (ways: Sql[]): Sql => ({
  sql: `(${ways.map((one) => one.sql).join(' OR ')})`,
  params: ways.flatMap((one) => one.params),
});

/** Holds of no item. */
export const NOTHING: Sql = { sql: 'FALSE', params: [] };
const EVERYBODY: Sql = { sql: 'TRUE', params: [] };

/**
 * Which items `i` a person may read, in SQL: the same answer as core's `mayRead`, source by source and folder by
 * folder where one has readers of its own.
 */
export function readableItems(person: string, world: Omit<World, 'item'>): Sql {
  const places: Sql[] = [];
  for (const source of world.sources.values()) {
    const folders = [...world.folders.values()].filter((folder) => folder.source === source.id);
    const apart = folders.filter(
      (folder) => readersAt(source.id, folder.id, world) !== readersAt(source.id, null, world),
    );
    const own = readable(person, source.id, null, world);
    const except = apart.length === 0 ? '' : ' AND (i.folder_id IS NULL OR i.folder_id NOT IN (?))';
    places.push({
      sql: `(i.source_id = ?${except} AND ${own.sql})`,
      params: [source.id, ...(apart.length > 0 ? [apart.map((one) => one.id)] : []), ...own.params],
    });
    for (const folder of apart) {
      const there = readable(person, source.id, folder.id, world);
      if (there !== NOTHING)
        places.push({
          sql: `(i.source_id = ? AND i.folder_id = ? AND ${there.sql})`,
          params: [source.id, folder.id, ...there.params],
        });
    }
  }
  return places.length === 0
    ? NOTHING
    : { sql: `(${places.map((one) => one.sql).join(' OR ')})`, params: places.flatMap((one) => one.params) };
}

function readable(person: string, source: string, folder: string | null, world: Omit<World, 'item'>): Sql {
  const readers = readersAt(source, folder, world);
  if (readers === null) return world.people.has(person) ? { sql: 'TRUE', params: [] } : NOTHING;
  const ways = readers.map((reader) => readerNames(reader, person, world)).filter((way) => way !== NOTHING);
  if (ways.includes(EVERYBODY)) return EVERYBODY;
  return ways.length === 0 ? NOTHING : anyOf(ways);
}

/** Whether a selector reaches a person on item `i`, in SQL: the same answer as core's `reach`. */
function readerNames(reader: Selector, person: string, world: Omit<World, 'item'>): Sql {
  const nobody = () => NOTHING;
  return visitSelector<Sql>(reader, {
    person: (named) => (named.person === person ? EVERYBODY : NOTHING),
    group: ({ group }) => (membersOfGroup(group, world).has(person) ? EVERYBODY : NOTHING),
    linked: ({ linked, field }) => linkedNames(linked, fieldNames('l', field, person, world)),
    field: ({ field }) => fieldNames('i', field, person, world),
    creator: () => ({ sql: 'i.created_by = ?', params: [person] }),
    lastEditor: () => ({ sql: 'i.last_by = ?', params: [person] }),
    followers: () => ({
      sql: 'EXISTS (SELECT 1 FROM followers f WHERE f.item_id = i.id AND f.person_id = ?)',
      params: [person],
    }),
    managerOf: ({ managerOf }) => managerNames(managerOf, person, world),
    mentioned: nobody,
    contact: nobody,
    webhook: nobody,
    told: nobody,
    cases: nobody,
    tell: nobody,
    system: nobody,
    anybody: nobody,
  });
}

/** Whether an item linked from `i` by a field names them. */
function linkedNames(link: string, named: Sql): Sql {
  const links = `(JSON_VALUE(i.fields, CONCAT('$."', ?, '"')) = l.id OR JSON_CONTAINS(JSON_QUERY(i.fields, CONCAT('$."', ?, '"')), JSON_QUOTE(l.id)))`;
  return {
    sql: `EXISTS (SELECT 1 FROM items l WHERE ${links} AND ${named.sql})`,
    params: [link, link, ...named.params],
  };
}

/** Whether they manage somebody whom a selector names. */
function managerNames(of: Selector, person: string, world: Omit<World, 'item'>): Sql {
  const reports = [...world.people.values()]
    .filter((one) => one.manager === person)
    .map((one) => readerNames(of, one.id, world))
    .filter((way) => way !== NOTHING);
  if (reports.includes(EVERYBODY)) return EVERYBODY;
  return reports.length === 0 ? NOTHING : anyOf(reports);
}

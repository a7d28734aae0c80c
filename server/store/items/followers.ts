import { type Query, query, record, select, type Statement, text } from '../database/query.ts';

/** Who keeps an eye on each of these items. */
export const of = (items: string[]): Query<{ item: string; person: string }> =>
  select(
    record({ item: text('item_id'), person: text('person_id') }),
    'SELECT item_id, person_id FROM followers WHERE item_id IN (?) ORDER BY person_id',
    items,
  );
/** The items that somebody keeps an eye on. */
export const followedBy = (person: string): Query<{ item: string; source: string }> =>
  select(
    record({ item: text('item_id'), source: text('source_id') }),
    'SELECT f.item_id, i.source_id FROM followers f JOIN items i ON i.id = f.item_id WHERE f.person_id = ?',
    person,
  );
/** Makes somebody a follower of items; of those they follow already nothing changes. */
export const follow = (items: string[], person: string): Statement =>
  query(
    'INSERT IGNORE INTO followers (item_id, person_id) VALUES ?',
    items.map((item) => [item, person]),
  );
/** Somebody keeps an eye on these items no more. */
export const leave = (items: string[], person: string): Statement =>
  query('DELETE FROM followers WHERE item_id IN (?) AND person_id = ?', items, person);

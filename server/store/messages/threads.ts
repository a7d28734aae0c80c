import type { Instant } from '../../../core/time/index.ts';
import { instant, json, type Query, query, record, select, sqlTime, type Statement, text } from '../database/query.ts';

/** Something that somebody passed on: the item, and what of it. */
export interface Thread {
  id: string;
  source: string;
  item: string;
  changes: string[];
  notes: string[];
  beganBy: string;
  at: Instant;
}

const decode = record<Thread>({
  id: text('id'),
  source: text('source_id'),
  item: text('item_id'),
  changes: json('changes'),
  notes: json('notes'),
  beganBy: text('began_by'),
  at: instant('at'),
});

const COLUMNS = 't.id, t.source_id, t.item_id, t.changes, t.notes, t.began_by, t.at';

/** Begins a thread about an item among people. */
export const begin = (thread: Thread, people: readonly string[]): Statement[] => [
  query('INSERT INTO threads (id, source_id, item_id, changes, notes, began_by, at) VALUES (?)', [
    thread.id,
    thread.source,
    thread.item,
    JSON.stringify(thread.changes),
    JSON.stringify(thread.notes),
    thread.beganBy,
    sqlTime(thread.at),
  ]),
  query(
    'INSERT INTO thread_people (thread_id, person_id) VALUES ?',
    [thread.beganBy, ...people].map((person) => [thread.id, person]),
  ),
];
/** A thread, to somebody who is in it. */
export const byId = (id: string, person: string): Query<Thread> =>
  select(
    decode,
    `SELECT ${COLUMNS} FROM threads t JOIN thread_people p ON p.thread_id = t.id WHERE t.id = ? AND p.person_id = ?`,
    id,
    person,
  );
/** Who is in a thread, by id. */
export const people = (id: string): Query<string> =>
  select(text('person_id'), 'SELECT person_id FROM thread_people WHERE thread_id = ? ORDER BY person_id', id);
/** What was said in a thread, as it was said. */
export const words = (id: string): Query<{ person: string; at: Instant; words: string }> =>
  select(
    record({ person: text('person_id'), at: instant('at'), words: text('words') }),
    'SELECT person_id, at, words FROM thread_words WHERE thread_id = ? ORDER BY at, id',
    id,
  );
/** Adds a word to a thread. */
export const say = (id: string, thread: string, person: string, words: string, at: Instant): Statement =>
  query('INSERT INTO thread_words (id, thread_id, person_id, at, words) VALUES (?)', [
    id,
    thread,
    person,
    sqlTime(at),
    words,
  ]);

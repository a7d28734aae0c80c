import type { Instant } from '../../core/time/index.ts';
import { fromJson, type Query, query, type Row, sqlTime } from './connection.ts';

/** Something that somebody passed on: the item, and what of it. */
export interface Talk {
  id: string;
  source: string;
  item: string;
  changes: string[];
  notes: string[];
  beganBy: string;
  at: Instant;
}

export const toTalk = (row: Row): Talk => ({
  id: String(row.id),
  source: String(row.source_id),
  item: String(row.item_id),
  changes: fromJson<string[]>(row.changes),
  notes: fromJson<string[]>(row.notes),
  beganBy: String(row.began_by),
  at: row.at as Instant,
});

const COLUMNS = 't.id, t.source_id, t.item_id, t.changes, t.notes, t.began_by, t.at';

export const beginTalkQueries = (talk: Talk, people: readonly string[]): Query[] => [
  query('INSERT INTO talks (id, source_id, item_id, changes, notes, began_by, at) VALUES (?)', [
    talk.id,
    talk.source,
    talk.item,
    JSON.stringify(talk.changes),
    JSON.stringify(talk.notes),
    talk.beganBy,
    sqlTime(talk.at),
  ]),
  query(
    'INSERT INTO talk_people (talk_id, person_id) VALUES ?',
    [talk.beganBy, ...people].map((person) => [talk.id, person]),
  ),
];
/** A talk, to somebody who is in it. */
export const talkQuery = (id: string, person: string): Query =>
  query(
    `SELECT ${COLUMNS} FROM talks t JOIN talk_people p ON p.talk_id = t.id WHERE t.id = ? AND p.person_id = ?`,
    id,
    person,
  );
export const talkPeopleQuery = (id: string): Query =>
  query('SELECT person_id FROM talk_people WHERE talk_id = ? ORDER BY person_id', id);
export const talkWordsQuery = (id: string): Query =>
  query('SELECT person_id, at, words FROM talk_words WHERE talk_id = ? ORDER BY at, id', id);
export const sayQuery = (id: string, talk: string, person: string, words: string, at: Instant): Query =>
  query('INSERT INTO talk_words (id, talk_id, person_id, at, words) VALUES (?)', [
    id,
    talk,
    person,
    sqlTime(at),
    words,
  ]);

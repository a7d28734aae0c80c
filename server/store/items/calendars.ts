import type { Instant } from '../../../core/time/index.ts';
import { json, type Query, query, record, select, sqlTime, type Statement, text } from '../database/query.ts';

/** A dated list that calendar programs ask for, as one person may read it. */
export interface CalendarFeed {
  id: string;
  token: string;
  person: string;
  source: string;
  /** The day or instant by which items stand in it. */
  field: string;
  asked: { text?: string; where?: string };
}

const COLUMNS = 'id, token, person_id, source_id, field_id, asked';
const decode = record<CalendarFeed>({
  id: text('id'),
  token: text('token'),
  person: text('person_id'),
  source: text('source_id'),
  field: text('field_id'),
  asked: json('asked'),
});

/** Somebody's own feeds of a source, the oldest first. */
export const ofPerson = (person: string, source: string): Query<CalendarFeed> =>
  select(
    decode,
    `SELECT ${COLUMNS} FROM calendar_feeds WHERE person_id = ? AND source_id = ? ORDER BY id`,
    person,
    source,
  );
/** The feed that an address leads to. */
export const byToken = (token: string): Query<CalendarFeed> =>
  select(decode, `SELECT ${COLUMNS} FROM calendar_feeds WHERE token = ?`, token);
/** Makes a feed. */
export const add = (feed: CalendarFeed, at: Instant): Statement =>
  query(`INSERT INTO calendar_feeds (${COLUMNS}, created_at) VALUES (?)`, [
    feed.id,
    feed.token,
    feed.person,
    feed.source,
    feed.field,
    JSON.stringify(feed.asked),
    sqlTime(at),
  ]);
/** Ends a feed of somebody's own; its address leads nowhere from then on. */
export const remove = (id: string, person: string): Statement =>
  query('DELETE FROM calendar_feeds WHERE id = ? AND person_id = ?', id, person);

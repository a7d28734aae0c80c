import type { PageEvent } from '../../../contract/wire/index.ts';
import type { Instant } from '../../../core/time/index.ts';
import { json, number, type Query, query, record, select, sqlTime, type Statement, text } from '../database/query.ts';

/** What open pages are told: those of some people, or with `null` all. */
export interface Announcement {
  seq: number;
  /** The process that wrote it, and has told its own pages. */
  server: string;
  people: string[] | null;
  event: PageEvent;
}

const decode = record<Announcement>({
  seq: number('seq'),
  server: text('server'),
  people: json('people'),
  event: json('event'),
});

/** Announces an event to the pages of all processes: to these people's, or with `null` everybody's. */
export const add = (server: string, event: PageEvent, people: readonly string[] | null, at: Instant): Statement =>
  query('INSERT INTO page_events (server, at, people, event) VALUES (?)', [
    server,
    sqlTime(at),
    people && JSON.stringify(people),
    JSON.stringify(event),
  ]);
/** Those written after another, in order. */
export const after = (seq: number): Query<Announcement> =>
  select(decode, 'SELECT seq, server, people, event FROM page_events WHERE seq > ? ORDER BY seq LIMIT 1000', seq);
/** The number of the latest announcement; 0 where there is none. */
export const newest = (): Query<number> =>
  select(number('seq'), 'SELECT COALESCE(MAX(seq), 0) AS seq FROM page_events');
/** Takes away what everybody has read by now. */
export const sweep = (before: Instant): Statement =>
  query('DELETE FROM page_events WHERE at < ? LIMIT 1000', sqlTime(before));

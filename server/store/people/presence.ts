import type { Instant } from '../../../core/time/index.ts';
import { type Query, query, select, sqlTime, type Statement, text } from '../database/query.ts';

/** Those of these people who are in Ojo, at whatever server. */
export const among = (people: string[], now: Instant): Query<string> =>
  select(
    text('person_id'),
    'SELECT DISTINCT person_id FROM presence WHERE person_id IN (?) AND until > ?',
    people,
    sqlTime(now),
  );
/** People are in Ojo, by way of one server, until an instant. */
export const note = (people: string[], server: string, until: Instant): Statement =>
  query(
    'INSERT INTO presence (person_id, server, until) VALUES ? ON DUPLICATE KEY UPDATE until = VALUES(until)',
    people.map((person) => [person, server, sqlTime(until)]),
  );
/** Somebody has no page open at this server any more. */
export const end = (person: string, server: string): Statement =>
  query('DELETE FROM presence WHERE person_id = ? AND server = ?', person, server);

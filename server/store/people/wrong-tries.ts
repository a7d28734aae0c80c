import type { Instant } from '../../../core/time/index.ts';
import { instant, type Query, query, select, sqlTime, type Statement } from '../database/query.ts';

/** Writes down that each of these subjects is being tried, before it is known whether the try is right. */
export const begin = (subjects: readonly string[], at: Instant): Statement =>
  query(
    'INSERT INTO wrong_tries (subject, at) VALUES ?',
    subjects.map((subject) => [subject, sqlTime(at)]),
  );
/** Takes back one try of each subject of that instant. */
export const takeBack = (subjects: readonly string[], at: Instant): Statement[] =>
  subjects.map((subject) =>
    query('DELETE FROM wrong_tries WHERE subject = ? AND at = ? LIMIT 1', subject, sqlTime(at)),
  );
/** Forgets all tries of these subjects. */
export const forget = (subjects: readonly string[]): Statement =>
  query('DELETE FROM wrong_tries WHERE subject IN (?)', [...subjects]);
/** When a subject has been tried since an instant, the last first. */
export const since = (subject: string, from: Instant): Query<Instant> =>
  select(
    instant('at'),
    'SELECT at FROM wrong_tries WHERE subject = ? AND at > ? ORDER BY at DESC, id DESC LIMIT 500',
    subject,
    sqlTime(from),
  );
/** Takes away tries that count no more. */
export const sweep = (before: Instant): Statement => query('DELETE FROM wrong_tries WHERE at <= ?', sqlTime(before));

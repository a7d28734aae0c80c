import { type Query, query, select, type Statement, text } from '../database/query.ts';

/** A secret that Ojo made for itself. */
export const byName = (name: string): Query<string> =>
  select(text('secret'), 'SELECT secret FROM secrets WHERE name = ?', name);
/** Keeps a secret unless there is one of that name. */
export const keep = (name: string, secret: string): Statement =>
  query('INSERT IGNORE INTO secrets (name, secret) VALUES (?, ?)', name, secret);

import { type Query, query, record, select, type Statement, text } from '../database/query.ts';

/** As what a secret of the house's own is sealed. */
export const houseSecretOf = (name: string): string => `house/${name}`;

/** Every secret that Ojo made for itself, sealed. */
export const all = (): Query<{ name: string; secret: string }> =>
  select(record({ name: text('name'), secret: text('secret') }), 'SELECT name, secret FROM secrets');
/** Keeps a secret in the place of the one of that name. */
export const replace = (name: string, secret: string): Statement =>
  query('UPDATE secrets SET secret = ? WHERE name = ?', secret, name);
/** Takes all of them away: whoever needs one makes it anew. */
export const dropAll = (): Statement => query('DELETE FROM secrets');
/** A secret that Ojo made for itself, sealed. */
export const byName = (name: string): Query<string> =>
  select(text('secret'), 'SELECT secret FROM secrets WHERE name = ?', name);
/** Keeps a secret unless there is one of that name. */
export const keep = (name: string, secret: string): Statement =>
  query('INSERT IGNORE INTO secrets (name, secret) VALUES (?, ?)', name, secret);

import type { BodyKind } from '../../../core/messages/index.ts';
import type { Instant } from '../../../core/time/index.ts';
import {
  flag,
  instant,
  nullable,
  type Query,
  query,
  record,
  select,
  sqlTime,
  type Statement,
  text,
  word,
} from '../database/query.ts';

/** A machine that rules may tell by HTTP. */
export interface Machine {
  id: string;
  name: string;
  url: string;
  /** Both sides know it: what Ojo posts is signed by it. Sealed, as `secretOf`. */
  secret: string;
  /** The one before, which signs as well until an instant, so that the other side can change over. */
  oldSecret: string | null;
  oldUntil: Instant | null;
  owner: string | null;
  /** Since when nothing has gone there; `null` where the last did. */
  failingSince: Instant | null;
  isPaused: boolean;
  /** How it is told, and the template of that where it is the house's own. */
  kind: BodyKind;
  template: string;
}

const COLUMNS =
  "id, name, url, secret, old_secret, old_until, owner_id, failing_since, is_paused, body_kind, COALESCE(body_template, '') AS body_template";
const decode = record<Machine>({
  id: text('id'),
  name: text('name'),
  url: text('url'),
  secret: text('secret'),
  oldSecret: nullable(text)('old_secret'),
  oldUntil: nullable(instant)('old_until'),
  owner: nullable(text)('owner_id'),
  failingSince: nullable(instant)('failing_since'),
  isPaused: flag('is_paused'),
  kind: word('body_kind'),
  template: text('body_template'),
});

/** As what the secrets of a machine are sealed. */
export const secretOf = (id: string): string => `machine/${id}`;

/** All machines, by id. */
export const all = (): Query<Machine> => select(decode, `SELECT ${COLUMNS} FROM webhooks ORDER BY id`);
/** Machines that have failed since before an instant and are told all the same. */
export const failingSince = (before: Instant): Query<Machine> =>
  select(
    decode,
    `SELECT ${COLUMNS} FROM webhooks WHERE is_paused = 0 AND failing_since < ? ORDER BY id`,
    sqlTime(before),
  );
/** Makes a machine known. */
export const create = ({
  id,
  name,
  url,
  secret,
  owner,
  kind,
  template,
}: Pick<Machine, 'id' | 'name' | 'url' | 'secret' | 'owner' | 'kind' | 'template'>): Statement =>
  query('INSERT INTO webhooks (id, name, url, secret, owner_id, body_kind, body_template) VALUES (?)', [
    id,
    name,
    url,
    secret,
    owner,
    kind,
    template,
  ]);
type Saved = Pick<Machine, 'id' | 'name' | 'url' | 'isPaused' | 'kind' | 'template'>;
/** Calls a machine otherwise, has it elsewhere, pauses it or goes on; what it failed at before is forgotten. */
export const save = ({ id, name, url, isPaused, kind, template }: Saved): Statement =>
  query(
    'UPDATE webhooks SET name = ?, url = ?, is_paused = ?, body_kind = ?, body_template = ?, failing_since = NULL WHERE id = ?',
    name,
    url,
    isPaused ? 1 : 0,
    kind,
    template,
    id,
  );
/** Gives a machine another secret; the present one signs as well until an instant. */
export const rotate = (id: string, secret: string, until: Instant): Statement =>
  query('UPDATE webhooks SET old_secret = secret, old_until = ?, secret = ? WHERE id = ?', sqlTime(until), secret, id);
/** Keeps a machine's secrets sealed otherwise. */
export const reseal = (id: string, secret: string, oldSecret: string | null): Statement =>
  query('UPDATE webhooks SET secret = ?, old_secret = ? WHERE id = ?', secret, oldSecret, id);
/** Takes a machine away. */
export const remove = (id: string): Statement => query('DELETE FROM webhooks WHERE id = ?', id);
/** Nothing more is told to a machine until somebody goes on. */
export const pause = (id: string): Statement => query('UPDATE webhooks SET is_paused = 1 WHERE id = ?', id);
/** Something did not go to a machine. */
export const noteFailure = (id: string, at: Instant): Statement =>
  query('UPDATE webhooks SET failing_since = ? WHERE id = ? AND failing_since IS NULL', sqlTime(at), id);
/** Something went to a machine. */
export const noteSuccess = (id: string): Statement =>
  query('UPDATE webhooks SET failing_since = NULL WHERE id = ? AND failing_since IS NOT NULL', id);

import type { EventMapping } from '../../../core/doors/index.ts';
import type { Instant } from '../../../core/time/index.ts';
import {
  flag,
  instant,
  json,
  nullable,
  number,
  type Query,
  query,
  record,
  select,
  sqlTime,
  type Statement,
  text,
} from '../database/query.ts';

/** A door by which another program hands changes of one source in. */
export interface Door {
  id: string;
  source: string;
  name: string;
  /** SHA-256 of its key, in hexadecimal. */
  keyHash: string;
  owner: string;
  mappings: EventMapping[];
  isOpen: boolean;
  /** When something came last, and how many events were taken and refused in all. */
  lastAt: Instant | null;
  taken: number;
  refused: number;
}

const COLUMNS = 'id, source_id, name, key_hash, owner_id, mappings, is_open, last_at, taken, refused';
const decode = record<Door>({
  id: text('id'),
  source: text('source_id'),
  name: text('name'),
  keyHash: text('key_hash'),
  owner: text('owner_id'),
  mappings: json('mappings'),
  isOpen: flag('is_open'),
  lastAt: nullable(instant)('last_at'),
  taken: number('taken'),
  refused: number('refused'),
});

/** All doors, by name. */
export const all = (): Query<Door> => select(decode, `SELECT ${COLUMNS} FROM doors ORDER BY name, id`);
/** The doors of a source, by name. */
export const ofSource = (source: string): Query<Door> =>
  select(decode, `SELECT ${COLUMNS} FROM doors WHERE source_id = ? ORDER BY name, id`, source);
/** One door. */
export const byId = (id: string): Query<Door> => select(decode, `SELECT ${COLUMNS} FROM doors WHERE id = ?`, id);
/** Makes a door. */
export const create = (door: Omit<Door, 'lastAt' | 'taken' | 'refused'>): Statement =>
  query('INSERT INTO doors (id, source_id, name, key_hash, owner_id, mappings, is_open) VALUES (?)', [
    door.id,
    door.source,
    door.name,
    door.keyHash,
    door.owner,
    JSON.stringify(door.mappings),
    door.isOpen ? 1 : 0,
  ]);
/** Calls a door otherwise, maps otherwise, opens or closes it. */
export const save = ({ id, name, mappings, isOpen }: Pick<Door, 'id' | 'name' | 'mappings' | 'isOpen'>): Statement =>
  query(
    'UPDATE doors SET name = ?, mappings = ?, is_open = ? WHERE id = ?',
    name,
    JSON.stringify(mappings),
    isOpen ? 1 : 0,
    id,
  );
/** Gives a door another key; the one before opens it no more. */
export const rekey = (id: string, keyHash: string): Statement =>
  query('UPDATE doors SET key_hash = ? WHERE id = ?', keyHash, id);
/** Takes a door away. */
export const remove = (id: string): Statement => query('DELETE FROM doors WHERE id = ?', id);
/** Counts what came. */
export const count = (id: string, at: Instant, { taken, refused }: { taken: number; refused: number }): Statement =>
  query(
    'UPDATE doors SET last_at = ?, taken = taken + ?, refused = refused + ? WHERE id = ?',
    sqlTime(at),
    taken,
    refused,
    id,
  );

import type { Put, Rows, Shelf } from '../../../core/decide/index.ts';
import type { Instant } from '../../../core/time/index.ts';
import { shortKey } from '../database/keys.ts';
import { json, type Param, type Query, query, record, select, type Statement, text } from '../database/query.ts';

/** By which name each shelf is stored; ids are made of it, so that it stays when the shelf's own name changes. */
export const STORED_AS = {
  gatherings: 'gatherings',
  batched: 'batched',
  bursts: 'bursts',
  kept: 'kept',
  coolDowns: 'coolDowns',
  open: 'open',
  openItems: 'openItems',
  receipts: 'hearings',
  waiting: 'waiting',
  held: 'held',
  dues: 'dues',
  idles: 'idles',
  tallied: 'tallied',
  tallies: 'tallies',
  reported: 'reported',
  agains: 'agains',
} as const satisfies Record<Shelf, string>;

/** The id of one of the engine's rows. */
export const rowId = (shelf: Shelf, key: string): string => shortKey(`${STORED_AS[shelf]}/${key}`);
/** The id of a group of the engine's rows. */
export const groupId = (shelf: Shelf, group: string): string => shortKey(`${STORED_AS[shelf]}//${group}`);

/** A row of the engine as it is stored. */
export interface StoredRow {
  id: string;
  group: string;
  value: unknown;
}

const decode = record<StoredRow>({ id: text('id'), group: text('of_group'), value: json('value') });

/** The engine's rows of these ids; those that there are not are left out. */
export const rowsById = (ids: string[]): Query<StoredRow> =>
  select(decode, 'SELECT id, of_group, value FROM engine_rows WHERE id IN (?)', ids);
/** The engine's rows of these groups, in the order in which they were first put. */
export const rowsOfGroups = (groups: string[]): Query<StoredRow> =>
  select(decode, 'SELECT id, of_group, value FROM engine_rows WHERE of_group IN (?) ORDER BY seq', groups);

/** Where items stand in the schedules of these rules, of which the next instant falls between two others. */
export const scheduled = (
  shelf: 'dues' | 'idles',
  rules: string[],
  from: Instant,
  until: Instant,
  limit: number,
): Query<Rows['dues' | 'idles']> =>
  select(
    json('value'),
    `SELECT value, CAST(JSON_VALUE(value, '$.next') AS SIGNED) AS next_at
      FROM engine_rows
      WHERE shelf = ? AND rule_id IN (?)
      HAVING next_at BETWEEN ? AND ?
      ORDER BY next_at
      LIMIT ?`,
    STORED_AS[shelf],
    rules,
    from,
    until,
    limit,
  );

/** What somebody asked to be told once more, in order of time. */
export const again = (person: string): Query<Rows['agains']> =>
  select(
    json('value'),
    "SELECT value FROM engine_rows WHERE shelf = 'agains' AND recipient = ? ORDER BY CAST(JSON_VALUE(value, '$.when') AS SIGNED)",
    person,
  );

/** Writes the engine's rows as they are now; those that are over are taken away. */
export function putRows(puts: readonly Put[]): Statement[] {
  const over = puts.filter((put) => put.row === null).map((put) => rowId(put.shelf, put.key));
  const kept = puts
    .filter((put) => put.row !== null)
    .map((put): Param[] => {
      const row = put.row as { rule?: string; item?: string; to?: string; person?: string };
      return [
        rowId(put.shelf, put.key),
        STORED_AS[put.shelf],
        groupId(put.shelf, put.group),
        row.rule ?? null,
        row.item ?? null,
        row.to ?? row.person ?? null,
        JSON.stringify(put.row),
      ];
    });
  return [
    ...(over.length > 0 ? [query('DELETE FROM engine_rows WHERE id IN (?)', over)] : []),
    ...(kept.length > 0
      ? [
          query(
            `INSERT INTO engine_rows (id, shelf, of_group, rule_id, item_id, recipient, value)
              VALUES ?
              ON DUPLICATE KEY UPDATE of_group =
              VALUES(of_group), value =
              VALUES(value)`,
            kept,
          ),
        ]
      : []),
  ];
}

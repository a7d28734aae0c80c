import type { Instant } from '../../../core/time/index.ts';
import { type Change, type ChangeKind, isLook } from '../../../core/values/index.ts';
import {
  instant,
  json,
  nullable,
  number,
  type Param,
  type Query,
  query,
  record,
  select,
  type Sql,
  sqlTime,
  type Statement,
  text,
  word,
} from '../database/query.ts';

/** A change as it is kept: with its place in the log, and the version of its item that it made; `null` of a look, which makes none. */
export interface StoredChange extends Change {
  seq: number;
  itemVersion: number | null;
}

const COLUMNS = `c.seq, c.source_id, c.id, c.item_id, c.item_version, c.kind, c.actor, c.at, c.fields_before, c.fields_after,
  c.folder_id, c.folder_before, c.batch, c.detail, c.previous_by, c.made_by`;

/** Whatever made a version of its item: a look makes none. */
const NO_LOOK = 'c.item_version IS NOT NULL';

/** Makes of a whole row of `changes` what it is. */
export const decode = record<StoredChange>({
  seq: number('seq'),
  id: text('id'),
  at: instant('at'),
  source: text('source_id'),
  item: text('item_id'),
  itemVersion: nullable(number)('item_version'),
  kind: word('kind'),
  actor: text('actor'),
  before: json('fields_before'),
  after: json('fields_after'),
  folder: nullable(text)('folder_id'),
  folderBefore: nullable(text)('folder_before'),
  batch: nullable(text)('batch'),
  detail: json('detail'),
  previous: record<{ by: string | null; createdBy: string | null }>({
    by: nullable(text)('previous_by'),
    createdBy: nullable(text)('made_by'),
  }),
});

const INSERT = `INSERT INTO changes (source_id, id, item_id, item_version, kind, actor, at, fields_before, fields_after,
      folder_id, folder_before, batch, detail, previous_by, made_by)
    VALUES ?`;

function rowOf(change: Change, itemVersion: number | null): Param[] {
  const json = (value: unknown) => (value === null ? null : JSON.stringify(value));
  return [
    change.source,
    change.id,
    change.item,
    itemVersion,
    change.kind,
    change.actor,
    sqlTime(change.at),
    json(change.before),
    json(change.after),
    change.folder,
    change.folderBefore,
    change.batch,
    JSON.stringify(change.detail),
    change.previous?.by ?? null,
    change.previous?.createdBy ?? null,
  ];
}

/** Changes that have been decided already, for a trail that comes with its decisions. */
export const saveDecided = (changes: readonly { change: Change; version: number | null }[]): Statement =>
  query(
    INSERT,
    changes.map(({ change, version }) => rowOf(change, version)),
  );

/** The change's row and its place in the queue, to run in the transaction that writes the item's new state. */
export function save(change: Change, itemVersion: number | null): Statement[] {
  return [
    query(INSERT, [rowOf(change, itemVersion)]),
    query(
      'INSERT INTO change_queue (change_seq, item_id, at) VALUES (LAST_INSERT_ID(), ?, ?)',
      change.item,
      sqlTime(change.at),
    ),
  ];
}

/** Several changes of one source at once, with their places in the queue; those that are kept together. */
export const saveMany = (
  source: string,
  changes: readonly { change: Change; version: number | null }[],
): Statement[] => [
  saveDecided(changes),
  query(
    `INSERT INTO change_queue (change_seq, item_id, at) SELECT c.seq, c.item_id, c.at
      FROM changes c
      WHERE c.source_id = ? AND c.id IN (?)`,
    source,
    changes.map(({ change }) => change.id),
  ),
];

/** The next changes to decide, in order; none of an item of which an earlier one has been put off. */
export const next = (now: Instant, limit: number): Query<StoredChange> =>
  // The few that are wanted are found in the queue alone, in the order of its index: what a change holds is read of them only.
  select(
    decode,
    `SELECT ${COLUMNS} FROM (SELECT q.change_seq, q.at FROM change_queue q FORCE INDEX (by_time)
      LEFT JOIN (SELECT item_id, MIN(change_seq) AS change_seq FROM change_queue WHERE not_before > ? GROUP BY item_id) p
        ON p.item_id = q.item_id AND p.change_seq < q.change_seq
      WHERE (q.not_before IS NULL OR q.not_before <= ?) AND p.item_id IS NULL ORDER BY q.at, q.change_seq LIMIT ?) n
    JOIN changes c ON c.seq = n.change_seq ORDER BY n.at, n.change_seq`,
    sqlTime(now),
    sqlTime(now),
    limit,
  );

/** One change into a variable, where it is the very next that anybody has to decide. */
export const nextInto = (variable: string, { seq, item, at }: StoredChange): Statement =>
  query(
    `SELECT q.change_seq INTO ${variable} FROM change_queue q FORCE INDEX (PRIMARY)
    WHERE q.change_seq = ? AND NOT EXISTS (SELECT 1 FROM change_queue p WHERE p.change_seq < ? AND (p.tries = 0 OR p.item_id = ?))
      AND NOT EXISTS (SELECT 1 FROM act_queue a WHERE a.tries = 0 AND a.at <= ?)
      AND NOT EXISTS (SELECT 1 FROM timers t WHERE t.due_at < ? AND t.tries = 0)`,
    seq,
    seq,
    item,
    sqlTime(at),
    sqlTime(at),
  );

/** Changes of these items that are not decided yet, the first of each first; looks alter nothing, and are left out. */
export const undecidedOf = (items: string[]): Query<StoredChange> =>
  select(
    decode,
    `SELECT ${COLUMNS} FROM change_queue q JOIN changes c ON c.seq = q.change_seq
      WHERE q.item_id IN (?) AND ${NO_LOOK}
      ORDER BY c.item_version`,
    items,
  );
/** The changes that made these versions of items. */
export const ofVersions = (versions: [item: string, version: number][]): Query<StoredChange> =>
  select(decode, `SELECT ${COLUMNS} FROM changes c WHERE (c.item_id, c.item_version) IN (?)`, versions);

/** Changes by source and id; those that there are not are left out. */
export const byIds = (keys: [source: string, id: string][]): Query<StoredChange> =>
  select(decode, `SELECT ${COLUMNS} FROM changes c WHERE (c.source_id, c.id) IN (?)`, keys);
/** The latest changes of an item, latest first; looks are none. */
export const ofItem = (item: string, limit: number): Query<StoredChange> =>
  select(
    decode,
    `SELECT ${COLUMNS} FROM changes c WHERE c.item_id = ? AND ${NO_LOOK} ORDER BY c.item_version DESC LIMIT ?`,
    item,
    limit,
  );
/** When each person who has opened a document did so last, the latest first. */
export const looksAt = (item: string, limit: number): Query<{ person: string; at: Instant }> =>
  select(
    record({ person: text('actor'), at: instant('last_at') }),
    `SELECT c.actor, MAX(c.at) AS last_at
      FROM changes c
      WHERE c.item_id = ? AND c.item_version IS NULL AND c.kind = 'opened'
      GROUP BY c.actor
      ORDER BY last_at DESC, c.actor
      LIMIT ?`,
    item,
    limit,
  );
/** How often somebody has opened an item from an instant on. */
export const looksOf = (person: string, item: string, from: Instant): Query<number> =>
  select(
    number('looks'),
    `SELECT COUNT(*) AS looks FROM changes c
      WHERE c.item_id = ? AND c.item_version IS NULL AND c.kind = 'opened' AND c.actor = ? AND c.at >= ?`,
    item,
    person,
    sqlTime(from),
  );
/** What happened to these items from an instant on, in order of arrival. */
export const ofItemsFrom = (items: string[], from: Instant): Query<StoredChange> =>
  select(
    decode,
    `SELECT ${COLUMNS} FROM changes c WHERE c.item_id IN (?) AND c.at >= ? AND ${NO_LOOK} ORDER BY c.at, c.seq`,
    items,
    sqlTime(from),
  );
/** How many items that the reader may see others have changed from an instant on. */
export const itemsMoved = (person: string, from: Instant, may: Sql): Query<number> =>
  select(
    number('moved'),
    `SELECT COUNT(DISTINCT c.item_id) AS moved
      FROM changes c
      JOIN items i ON i.id = c.item_id
      WHERE c.at >= ? AND c.actor <> ? AND ${NO_LOOK} AND ${may.sql}`,
    sqlTime(from),
    person,
    ...may.params,
  );
/** When items of a source were edited, or one of them: the latest from an instant on, latest first, as far as `may` allows. */
export const editsOf = (
  source: string,
  item: string | null,
  from: Instant,
  limit: number,
  may: Sql,
): Query<{ item: string; at: Instant }> =>
  select(
    record({ item: text('item_id'), at: instant('at') }),
    `SELECT c.item_id, c.at
      FROM changes c
      JOIN items i ON i.id = c.item_id
      WHERE c.source_id = ? AND c.kind = 'changed'${item === null ? '' : ' AND c.item_id = ?'} AND c.at >= ? AND ${may.sql}
      ORDER BY c.at DESC, c.seq DESC
      LIMIT ?`,
    source,
    ...(item === null ? [] : [item]),
    sqlTime(from),
    ...may.params,
    limit,
  );
/** What happened to an item after the version somebody started from. */
export const since = (item: string, version: number): Query<StoredChange> =>
  select(
    decode,
    `SELECT ${COLUMNS} FROM changes c WHERE c.item_id = ? AND c.item_version > ? ORDER BY c.item_version`,
    item,
    version,
  );

/** Where changes of items happened that were written after another, for whoever tells open pages of them; in order. */
export const places = (afterSeq: number): Query<{ seq: number; source: string; item: string }> =>
  select(
    record({ seq: number('seq'), source: text('source_id'), item: text('item_id') }),
    'SELECT seq, source_id, item_id FROM changes WHERE seq > ? ORDER BY seq LIMIT 1000',
    afterSeq,
  );
/** The place of the latest change in the log; 0 where there is none. */
export const newestSeq = (): Query<number> => select(number('seq'), 'SELECT COALESCE(MAX(seq), 0) AS seq FROM changes');

/** Items' newest change each, to show beside them in a list. */
export const lastOf = (items: string[]): Query<StoredChange> =>
  select(
    decode,
    `SELECT ${COLUMNS} FROM changes c JOIN items i ON i.id = c.item_id AND i.version = c.item_version WHERE c.item_id IN (?)`,
    items,
  );

/**
 * A change is decided as of a later instant than it was made at: with it all of its batch that waits still, which
 * bears one instant. The item's last change bears it too; a look is none.
 */
export const restamp = ({ seq, kind, item, itemVersion, batch }: StoredChange, at: Instant): Statement[] =>
  batch === null
    ? [
        query('UPDATE changes SET made_at = COALESCE(made_at, at), at = ? WHERE seq = ?', sqlTime(at), seq),
        ...(isLook({ kind })
          ? []
          : [query('UPDATE items SET last_at = ? WHERE id = ? AND version = ?', sqlTime(at), item, itemVersion)]),
      ]
    : [
        query(
          `UPDATE items i
            JOIN changes c ON c.item_id = i.id AND c.item_version = i.version
            JOIN change_queue q ON q.change_seq = c.seq
            SET i.last_at = ?
            WHERE c.batch = ?`,
          sqlTime(at),
          batch,
        ),
        query(
          `UPDATE changes c
            JOIN change_queue q ON q.change_seq = c.seq
            SET c.made_at = COALESCE(c.made_at, c.at), c.at = ?, q.at = ?
            WHERE c.batch = ?`,
          sqlTime(at),
          sqlTime(at),
          batch,
        ),
      ];

/** Takes changes out of the line: they have been decided. */
export const decided = (seqs: number[]): Statement => query('DELETE FROM change_queue WHERE change_seq IN (?)', seqs);
/** A change could not be decided: it is tried again later. */
export const putOff = (seq: number, until: Instant, error: string): Statement =>
  query(
    'UPDATE change_queue SET tries = tries + 1, not_before = ?, error = ? WHERE change_seq = ?',
    sqlTime(until),
    error.slice(0, 1000),
    seq,
  );
/** How often one could not be decided so far. */
export const tries = (seq: number): Query<number> =>
  select(number('tries'), 'SELECT tries FROM change_queue WHERE change_seq = ?', seq);
/** Which rules caught these changes of one source. */
export const caughtBy = (source: string, ids: string[]): Query<{ change: string; rule: string }> =>
  select(
    record({ change: text('change_id'), rule: text('rule_id') }),
    'SELECT change_id, rule_id FROM alert_changes WHERE source_id = ? AND change_id IN (?)',
    source,
    ids,
  );

/** The same for changes of several sources. */
export const caughtBySeveral = (
  keys: [source: string, id: string][],
): Query<{ source: string; change: string; rule: string }> =>
  select(
    record({ source: text('source_id'), change: text('change_id'), rule: text('rule_id') }),
    'SELECT source_id, change_id, rule_id FROM alert_changes WHERE (source_id, change_id) IN (?)',
    keys,
  );

/** What acts on each source without being a person. */
export const systems = (): Query<{ source: string; actor: string }> =>
  select(
    record({ source: text('source_id'), actor: text('actor') }),
    "SELECT DISTINCT source_id, actor FROM changes WHERE actor LIKE 'system:%' ORDER BY source_id, actor",
  );

/**
 * Everything that happened in the sources since an instant, in order.
 * @param may where it is given, only of items that may be read as they stand now
 */
export const from = (sources: string[], from: Instant, may: Sql | null = null): Query<StoredChange> =>
  may === null
    ? select(
        decode,
        `SELECT ${COLUMNS} FROM changes c WHERE c.source_id IN (?) AND c.at >= ? ORDER BY c.at, c.seq`,
        sources,
        sqlTime(from),
      )
    : select(
        decode,
        `SELECT STRAIGHT_JOIN ${COLUMNS}
          FROM changes c
          JOIN items i ON i.id = c.item_id
          WHERE c.source_id IN (?) AND c.at >= ? AND ${may.sql}
          ORDER BY c.at, c.seq`,
        sources,
        sqlTime(from),
        ...may.params,
      );

/** What is asked of the trail; `before` continues a list. */
export interface TrailAsked {
  source?: string;
  item?: string;
  person?: string;
  kind?: string;
  field?: string;
  batch?: string;
  from: Instant | null;
  until: Instant | null;
  before: { at: Instant; seq: number } | null;
}

/** The trail of items that the reader may see, newest first. */
export function trail(may: Sql, asked: TrailAsked, limit: number): Query<StoredChange> {
  const parts = [may.sql];
  const params: Param[] = [...may.params];
  const narrow = (sql: string, ...values: Param[]) => {
    parts.push(sql);
    params.push(...values);
  };
  if (asked.source) narrow('c.source_id = ?', asked.source);
  if (asked.item) narrow('c.item_id = ?', asked.item);
  if (asked.person) narrow('c.actor = ?', asked.person);
  // Who opened what would bury all else; whoever wants to know asks for it.
  if (asked.kind) narrow('c.kind = ?', asked.kind);
  else narrow(NO_LOOK);
  if (asked.batch) narrow('c.batch = ?', asked.batch);
  if (asked.field)
    narrow(
      'NOT (JSON_EXTRACT(c.fields_before, ?) <=> JSON_EXTRACT(c.fields_after, ?))',
      `$."${asked.field}"`,
      `$."${asked.field}"`,
    );
  if (asked.from !== null) narrow('c.at >= ?', sqlTime(asked.from));
  if (asked.until !== null) narrow('c.at < ?', sqlTime(asked.until));
  if (asked.before)
    narrow(
      '(c.at < ? OR (c.at = ? AND c.seq < ?))',
      sqlTime(asked.before.at),
      sqlTime(asked.before.at),
      asked.before.seq,
    );
  return select(
    decode,
    `SELECT STRAIGHT_JOIN ${COLUMNS}
      FROM changes c
      JOIN items i ON i.id = c.item_id
      WHERE ${parts.join(' AND ')}
      ORDER BY c.at DESC, c.seq DESC
      LIMIT ?`,
    ...params,
    limit,
  );
}

/** How many changes of each kind a batch of a source has, whoever may read them. */
export const kindsIn = (source: string, batch: string): Query<{ kind: ChangeKind; size: number }> =>
  select(
    record({ kind: word<ChangeKind>('kind'), size: number('size') }),
    'SELECT c.kind, COUNT(*) AS size FROM changes c WHERE c.source_id = ? AND c.batch = ? GROUP BY c.kind',
    source,
    batch,
  );

/** How many changes each of these batches has, of items that the reader may see. */
export const batchSizes = (may: Sql, batches: string[]): Query<{ batch: string; size: number }> =>
  select(
    record({ batch: text('batch'), size: number('size') }),
    `SELECT c.batch, COUNT(*) AS size
      FROM changes c
      JOIN items i ON i.id = c.item_id
      WHERE c.batch IN (?) AND ${may.sql}
      GROUP BY c.batch`,
    batches,
    ...may.params,
  );

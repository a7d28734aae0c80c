import type { Pool } from 'mysql2/promise';
import type { Instant } from '../../../core/time/index.ts';
import { several } from '../database/connection.ts';
import { instant, number, type Query, record, select, type Sql, sqlTime, text } from '../database/query.ts';

/** What rules came to since an instant, counted over what somebody may read. */
export interface RuleFigures {
  alerts: number;
  /** Messages in Ojo, and how many of them were read. */
  told: number;
  seen: number;
  withheld: number;
  failed: number;
  /** Alerts that wait to be acknowledged, and those that somebody did. */
  waits: number;
  /** Matches kept while it is paused. */
  kept: number;
  acknowledged: number;
  lastAt: Instant | null;
  /** When it caught something, at most once in every four hours. */
  caught: Instant[];
}

/** What is counted for a set of rules: everything, or only what is about items that fit `may` (over `items i`). */
interface Counting {
  rules: string[];
  may: Sql | null;
}

/** The items that a JSON list names, where only some of them count. */
const among = (list: string, path: string, may: Sql | null): string =>
  may
    ? ` JOIN JSON_TABLE(${list}, '${path}' COLUMNS (item VARCHAR(120) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin PATH '$')) j JOIN items i ON i.id = j.item AND ${may.sql}`
    : '';

const rule = text('rule_id');

/** Alerts since an instant, and when the last of them arose. */
const alertsOf = ({ rules, may }: Counting, from: Instant) =>
  select(
    record({ rule, alerts: number('alerts'), lastAt: instant('last_at') }),
    `SELECT a.rule_id, COUNT(DISTINCT a.id) AS alerts, MAX(a.at) AS last_at
      FROM alerts a${among('a.items', '$[*]', may)}
      WHERE a.rule_id IN (?) AND a.at >= ?
      GROUP BY a.rule_id`,
    ...(may?.params ?? []),
    rules,
    sqlTime(from),
  );

const messagesOf = ({ rules, may }: Counting, from: Instant) =>
  select(
    record({ rule, told: number('told'), seen: number('seen'), failed: number('failed') }),
    `SELECT o.rule_id, COUNT(DISTINCT IF(s.channel = 'inApp', s.id, NULL)) AS told, COUNT(DISTINCT IF(s.channel = 'inApp' AND s.read_at IS NOT NULL, s.id, NULL)) AS seen, COUNT(DISTINCT IF(s.fate = 'failed', s.id, NULL)) AS failed
    FROM message_alerts o JOIN messages s ON s.id = o.message_id${among('o.items', '$[*]', may)} WHERE o.rule_id IN (?) AND s.at >= ? GROUP BY o.rule_id`,
    ...(may?.params ?? []),
    rules,
    sqlTime(from),
  );

const withheldOf = ({ rules, may }: Counting, from: Instant) =>
  counted(
    `SELECT w.rule_id, COUNT(*) AS n FROM withheld w${may ? ` JOIN items i ON i.id = w.item_id AND ${may.sql}` : ''} WHERE w.rule_id IN (?) AND w.at >= ? GROUP BY w.rule_id`,
    ...(may?.params ?? []),
    rules,
    sqlTime(from),
  );

const acknowledgedOf = ({ rules, may }: Counting, from: Instant) =>
  counted(
    `SELECT l.rule_id, COUNT(DISTINCT l.id) AS n
      FROM acknowledgements c
      JOIN alerts l ON l.id = c.alert_id${among('l.items', '$[*]', may)}
      WHERE l.rule_id IN (?) AND c.at >= ?
      GROUP BY l.rule_id`,
    ...(may?.params ?? []),
    rules,
    sqlTime(from),
  );

const waitingOf = ({ rules, may }: Counting) =>
  counted(
    `SELECT e.rule_id, COUNT(DISTINCT e.id) AS n
      FROM engine_rows e${among('e.value', '$.parts[*].item', may)}
      WHERE e.shelf = 'open' AND e.rule_id IN (?) AND JSON_VALUE(e.value, '$.isClosed') = 0
      GROUP BY e.rule_id`,
    ...(may?.params ?? []),
    rules,
  );

const keptOf = ({ rules, may }: Counting) =>
  counted(
    `SELECT e.rule_id, COUNT(DISTINCT e.id) AS n
      FROM engine_rows e${among('e.value', '$.parts[*].item', may)}
      WHERE e.shelf = 'kept' AND e.rule_id IN (?)
      GROUP BY e.rule_id`,
    ...(may?.params ?? []),
    rules,
  );

/** When rules caught something, once for every four hours in which they did. */
const catchesOf = ({ rules, may }: Counting, from: Instant) =>
  select(
    record({ rule, at: instant('at') }),
    `SELECT a.rule_id, MIN(a.at) AS at
      FROM alerts a${among('a.items', '$[*]', may)}
      WHERE a.rule_id IN (?) AND a.at >= ?
      GROUP BY a.rule_id, FLOOR(UNIX_TIMESTAMP(a.at) / 14400)
      ORDER BY 2`,
    ...(may?.params ?? []),
    rules,
    sqlTime(from),
  );

const counted = (sql: string, ...params: Parameters<typeof select>[2][]): Query<{ rule: string; n: number }> =>
  select(record({ rule, n: number('n') }), sql, ...params);

const NONE: RuleFigures = {
  alerts: 0,
  told: 0,
  seen: 0,
  withheld: 0,
  failed: 0,
  waits: 0,
  kept: 0,
  acknowledged: 0,
  lastAt: null,
  caught: [],
};

/** What each of these rules came to since an instant, in one round trip for those of which all may be read, and one for the others. */
export async function ofRules(
  pool: Pool,
  countings: readonly Counting[],
  from: Instant,
): Promise<Map<string, RuleFigures>> {
  const found = new Map<string, RuleFigures>();
  const add = (id: string, more: Partial<RuleFigures>) => found.set(id, { ...NONE, ...found.get(id), ...more });
  for (const counting of countings.filter(({ rules }) => rules.length > 0)) {
    const [alerts, messages, withheld, acknowledged, waits, kept, catches] = await several(pool, [
      alertsOf(counting, from),
      messagesOf(counting, from),
      withheldOf(counting, from),
      acknowledgedOf(counting, from),
      waitingOf(counting),
      keptOf(counting),
      catchesOf(counting, from),
    ]);
    for (const { rule: id, ...more } of alerts) add(id, more);
    for (const { rule: id, ...more } of messages) add(id, more);
    for (const row of withheld) add(row.rule, { withheld: row.n });
    for (const row of acknowledged) add(row.rule, { acknowledged: row.n });
    for (const row of waits) add(row.rule, { waits: row.n });
    for (const row of kept) add(row.rule, { kept: row.n });
    for (const { rule: id, at } of catches) add(id, { caught: [...(found.get(id)?.caught ?? []), at] });
  }
  return found;
}

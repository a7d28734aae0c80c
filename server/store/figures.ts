import type { Pool } from 'mysql2/promise';
import type { Instant } from '../../core/time/index.ts';
import { type Query, query, type Row, several, sqlTime } from './connection.ts';
import type { Sql } from './items.ts';

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

function queriesFor({ rules, may }: Counting, from: Instant): Query[] {
  const own = may?.params ?? [];
  const since = sqlTime(from);
  return [
    query(
      `SELECT a.rule_id, COUNT(DISTINCT a.id) AS alerts, MAX(a.at) AS last_at FROM alerts a${among('a.items', '$[*]', may)} WHERE a.rule_id IN (?) AND a.at >= ? GROUP BY a.rule_id`,
      ...own,
      rules,
      since,
    ),
    query(
      `SELECT o.rule_id, COUNT(DISTINCT IF(s.channel = 'inApp', s.id, NULL)) AS told, COUNT(DISTINCT IF(s.channel = 'inApp' AND s.read_at IS NOT NULL, s.id, NULL)) AS seen, COUNT(DISTINCT IF(s.fate = 'failed', s.id, NULL)) AS failed
      FROM message_alerts o JOIN messages s ON s.id = o.message_id${among('o.items', '$[*]', may)} WHERE o.rule_id IN (?) AND s.at >= ? GROUP BY o.rule_id`,
      ...own,
      rules,
      since,
    ),
    query(
      `SELECT w.rule_id, COUNT(*) AS withheld FROM withheld w${may ? ` JOIN items i ON i.id = w.item_id AND ${may.sql}` : ''} WHERE w.rule_id IN (?) AND w.at >= ? GROUP BY w.rule_id`,
      ...own,
      rules,
      since,
    ),
    query(
      `SELECT l.rule_id, COUNT(DISTINCT l.id) AS acknowledged FROM acknowledgements c JOIN alerts l ON l.id = c.alert_id${among('l.items', '$[*]', may)} WHERE l.rule_id IN (?) AND c.at >= ? GROUP BY l.rule_id`,
      ...own,
      rules,
      since,
    ),
    query(
      `SELECT e.rule_id, COUNT(DISTINCT e.id) AS waits FROM engine_rows e${among('e.value', '$.parts[*].item', may)} WHERE e.shelf = 'open' AND e.rule_id IN (?) AND JSON_VALUE(e.value, '$.isClosed') = 0 GROUP BY e.rule_id`,
      ...own,
      rules,
    ),
    query(
      `SELECT e.rule_id, COUNT(DISTINCT e.id) AS kept FROM engine_rows e${among('e.value', '$.parts[*].item', may)} WHERE e.shelf = 'kept' AND e.rule_id IN (?) GROUP BY e.rule_id`,
      ...own,
      rules,
    ),
    query(
      `SELECT a.rule_id, MIN(a.at) AS at FROM alerts a${among('a.items', '$[*]', may)} WHERE a.rule_id IN (?) AND a.at >= ? GROUP BY a.rule_id, FLOOR(UNIX_TIMESTAMP(a.at) / 14400) ORDER BY 2`,
      ...own,
      rules,
      since,
    ),
  ];
}

/** What each of these rules came to since an instant, in one round trip for those of which all may be read, and one for the others. */
export async function ruleFigures(
  pool: Pool,
  countings: readonly Counting[],
  from: Instant,
): Promise<Map<string, RuleFigures>> {
  const found = new Map<string, RuleFigures>();
  const of = (row: Row): RuleFigures => {
    const id = String(row.rule_id);
    const known = found.get(id) ?? {
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
    found.set(id, known);
    return known;
  };
  for (const counting of countings.filter(({ rules }) => rules.length > 0)) {
    const [alerts = [], messages = [], withheld = [], acknowledged = [], waits = [], kept = [], catches = []] =
      await several(pool, queriesFor(counting, from));
    for (const row of alerts) Object.assign(of(row), { alerts: Number(row.alerts), lastAt: row.last_at as Instant });
    for (const row of messages)
      Object.assign(of(row), { told: Number(row.told), seen: Number(row.seen), failed: Number(row.failed) });
    for (const row of withheld) of(row).withheld = Number(row.withheld);
    for (const row of acknowledged) of(row).acknowledged = Number(row.acknowledged);
    for (const row of waits) of(row).waits = Number(row.waits);
    for (const row of kept) of(row).kept = Number(row.kept);
    for (const row of catches) of(row).caught.push(row.at as Instant);
  }
  return found;
}

import type { Rule, StateTest } from '../../rules/index.ts';
import type { Instant } from '../../time/index.ts';
import type { Change } from '../../values/index.ts';
import type { Tallying } from './tallies.ts';

/** What a rule has caught, item by item. */
export type Parts = { item: string; changes: Change[] }[];

/** Changes of one item that wait until it settles. */
export interface Gathering {
  rule: Rule;
  epoch: number;
  item: string;
  changes: Change[];
}

/** What a paused rule has caught. */
export interface Kept {
  rule: Rule;
  version: number;
  batch: string | null;
  parts: Parts;
  /** Of dates and standstills: whether it still counts. */
  holds?: () => boolean;
}
/** Where one item stands in a schedule of dates. */
export interface Dated {
  value: string | null;
  isInside: boolean;
  next: Instant | null;
  /** Since when repeats count, by day where it was on time; and how many were. */
  first: { at: Instant; day: string | null } | null;
  repeats: number;
  day: string | null;
}

/** Where one item stands in a standstill. */
export interface Still {
  isInside: boolean;
  next: Instant | null;
  first: Instant | null;
  repeats: number;
  isAtGoLive: boolean;
}

/** A rule from one going live or going on to the next. */
export interface Live {
  rule: Rule;
  version: number;
  epoch: number;
  isPaused: boolean;
  burst: number;
  dated: Map<string, Dated>;
  still: Map<string, Still>;
  since: Instant;
  tally: Tallying | null;
}

/** Parts of one item as one. */
export function joined(parts: Parts): Parts {
  const found: Parts = [];
  for (const { item, changes } of parts) {
    const known = found.find((one) => one.item === item);
    if (known) known.changes.push(...changes);
    else found.push({ item, changes: [...changes] });
  }
  return found;
}

/** The state that a rule tells has come about, if it tells of exactly one. */
export function becameIn({ when }: Rule): StateTest | null {
  const node = when?.if;
  if (!node) return null;
  if ('became' in node) return node.became;
  const direct = 'all' in node ? node.all.flatMap((part) => ('became' in part ? [part.became] : [])) : [];
  return direct.length === 1 ? (direct[0] ?? null) : null;
}

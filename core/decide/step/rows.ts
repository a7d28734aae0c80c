import type { Occasion } from '../../rules/index.ts';
import type { Form, TallyMove } from '../../messages/index.ts';
import type { Channel } from '../../people/index.ts';
import type { Counted } from '../../pace/index.ts';
import type { CivilDate, Instant, Duration } from '../../time/index.ts';
import type { Arising, Part, Portion } from './types.ts';

/** Changes of one item that gather until they settle. */
export interface Gathering extends Part {
  rule: string;
  version: number;
  epoch: number;
  firstAt: Instant;
  lastAt: Instant;
  batch: string | null;
  settles: Instant;
}

/** A match of a batch, until the batch's instant is over. */
export interface Batched extends Part {
  key: string;
  at: Instant;
}

/** What a paused rule matched, kept with its version until it is resumed. */
export interface Kept {
  rule: string;
  version: number;
  at: Instant;
  occasion: Occasion;
  /** Matches of one batch, or of due and idle of one instant, are told together. */
  batch: string | null;
  key: string;
  /** They stand in one alert, whatever the rule's `together` says. */
  isOne?: boolean;
  /** `value` is the date that fired, or the last change (in ms) before a standstill. */
  parts: (Part & { value?: string })[];
  /** Of a tally: the part that passed its mark, and what it came to. */
  tally?: TallyMove;
}

/** When the limit of one key was last passed, and how many were kept back since. */
export interface CoolDown {
  listedAt: Instant;
  suppressed: number;
}

/** An alert that waits for acknowledgement, or to be called off. */
export interface OpenAlert {
  alert: string;
  rule: string;
  version: number;
  at: Instant;
  occasion: Occasion;
  arising: Arising;
  parts: Part[];
  told: string[];
  escalated: string[];
  acknowledged: string[];
  ceased: string[];
  isClosed: boolean;
  /** Whom a message of it went to, by which channel, of which items; kept where an all-clear will follow. */
  gone: { to: string; channel: Channel; items: string[] }[];
}

/** What one person has seen of an alert, while later steps depend on it. */
export interface AlertReceipt {
  alert: string;
  rule: string;
  person: string;
  items: string[];
  /** A message of the alert went to them. */
  told: boolean;
  /** They read or acknowledged it since. */
  seen: boolean;
  /** Later steps and held messages that still ask. */
  pending: number;
  /** The alert waits for acknowledgement, or has closed. */
  open: 'never' | 'open' | 'closed';
  /** What they were told, for reminders. */
  portions: Portion[];
}

/** A portion that waits for a digest, and what must be so then. */
export interface Waiting extends Portion {
  to: string;
  channel: Channel;
  due: Instant;
  /** Of a rule's digest: it is told only if it is unread, or its reader away, at the digest's instant. */
  ifUnread: boolean;
  ifAway: boolean;
}

/** A message that quiet hours hold. */
export interface Held {
  person: string;
  channel: Channel;
  until: Instant;
  key: string;
  form: Form;
  portions: Portion[];
}

/** Where one item stands in a due rule's schedule. */
export interface DueRow {
  rule: string;
  source: string;
  item: string;
  field: string;
  /** The lead time that it is of, where its rule has several. */
  lead?: Duration;
  inScope: boolean;
  /** The date's key. */
  value: string | null;
  /** The dates that fired, or were passed over since `if` did not hold or `during` was over. */
  done: string[];
  /** The same of schedules with other lead times that the rule had before, by lead time. */
  doneBefore?: Record<string, string[]>;
  next: Instant | null;
  /** The civil day on which it fires first; `null` where that is late or has no local time. */
  day: CivilDate | null;
  /** When it fired first. */
  firedAt?: Instant | null;
  /** Repeats made so far of the value; `null` before it fired. */
  repeats: number | null;
}

/** Where one item stands in an idle rule's schedule. */
export interface IdleRow {
  rule: string;
  source: string;
  item: string;
  /** The last change from which the stretch is counted that fired. */
  firedFor: Instant | null;
  /** When that stretch fired first: its repeats count from there. */
  firedAt?: Instant | null;
  next: Instant | null;
  repeats: number | null;
  /** Whether it was in the scope when that was last asked with nothing waiting. */
  inScope?: boolean;
  atGoLive: boolean;
}

/** What one item adds to a tally, as it was judged at its last change; those outside the scope have no row. */
export interface Tallied {
  rule: string;
  version: number;
  item: string;
  /** The value by which it is parted; the empty string where it has none, or nothing is parted. */
  part: string;
  /** A decimal, written out. */
  amount: string;
}

/** What a part of a tally comes to, as a decimal written out, and how many items it has. */
export interface TallySum {
  rule: string;
  version: number;
  part: string;
  sum: string;
  items: number;
}

/** What a rule's last report had in it: the fields it showed, and each item with its source and what those held. */
export interface Reported {
  rule: string;
  shown: string[];
  items: [item: string, source: string, values: string][];
}

/** Somebody asked to be told of an alert once more. */
export interface Again {
  alert: string;
  rule: string;
  person: string;
  /** All items of the alert. */
  items: string[];
  when: Instant;
  portions: Portion[];
}

/** The shelves on which the engine keeps its rows; each row has a key and belongs to one group. */
export interface Rows {
  gatherings: Gathering;
  batched: Batched;
  bursts: { counted: Counted[] };
  kept: Kept;
  coolDowns: CoolDown;
  open: OpenAlert;
  openItems: { alert: string };
  receipts: AlertReceipt;
  waiting: Waiting;
  held: Held;
  dues: DueRow;
  idles: IdleRow;
  tallied: Tallied;
  tallies: TallySum;
  reported: Reported;
  agains: Again;
}
/** A shelf's name. */
export type Shelf = keyof Rows;

/** A row as it is now; `row` is `null` where it is taken away. */
export type Put = { [S in Shelf]: { shelf: S; key: string; group: string; row: Rows[S] | null } }[Shelf];

/** Keys are made of ids, which may hold anything: each part is escaped, so that no two keys meet. */
export function keyOf(...parts: (string | number)[]): string {
  let key = '';
  for (let at = 0; at < parts.length; at++) {
    const part = String(parts[at]);
    // Few ids hold a sign that has to be escaped.
    const plain = part.includes('|') || part.includes('~') ? part.replaceAll('~', '~0').replaceAll('|', '~1') : part;
    key = at === 0 ? plain : `${key}|${plain}`;
  }
  return key;
}

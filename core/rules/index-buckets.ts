import type { Source } from '../values/index.ts';
import type { ValuePlace } from './needs.ts';
import type { CompiledRule } from './compile.ts';

/** A rule in a bucket. */
export interface IndexEntry {
  compiled: CompiledRule;
  /** It may be found more than once. */
  isRepeated: boolean;
  /** Whoever finds it here need not ask it anything more, but for the text it needs. */
  isAll: boolean;
  /** The next in the same bucket: a chain costs fewer looks at memory than a list. */
  next: IndexEntry | null;
  needs: TextNeeds | null;
}

/** What a rule that is found by letters asks besides them. */
export interface TextNeeds {
  text: string;
  isNew: boolean;
  kinds: readonly string[];
}

/** How many rules stand in a bucket; from so many on, many. */
export function lengthOf(first: IndexEntry | null | undefined): number {
  let length = 0;
  for (let stand = first; stand && length < MANY; stand = stand.next) length++;
  return length;
}
const MANY = 200;

/** Buckets by key; each is the first rule in it. */
export type Buckets<K> = Map<K, IndexEntry | null>;

/** A bucket as a place to put a rule. */
export interface Bucket {
  first(): IndexEntry | null | undefined;
  put(first: IndexEntry | null): void;
}

/** One key's bucket among buckets; it is made when something is put into it. */
export const bucketOf = <K>(buckets: Buckets<K>, key: K): Bucket => ({
  first: () => buckets.get(key),
  put: (first) => {
    if (first) buckets.set(key, first);
    else buckets.delete(key);
  },
});

/** A place of a change, with a number for each value that some rule needs there: what no rule needs has none. */
export interface ValueSlot {
  place: ValuePlace;
  numbers: Map<string, number>;
}

/** Values at the places of a signature, as one key: a small whole number for most, which costs fewer looks at memory than a text. */
export type Key = number | string;

/** The key of some values, and one more. */
export const keyWith = (key: Key, number: number): Key =>
  typeof key === 'number' && key < HALF && number < HALF ? key * HALF + number : `${key} ${number}`;
const HALF = 2 ** 15;

/** Rules that need values at the same places of a change, by those values. */
export interface Signature {
  spots: ValueSlot[];
  buckets: Buckets<Key>;
}

/** Thresholds in ascending order, each with its rules. */
export interface Thresholds {
  at: number[];
  stands: (IndexEntry | null)[];
}

/** Thresholds passed upwards and downwards, by currency; those of plain numbers by none. */
export type Crossings = Map<string, Record<'up' | 'down', Thresholds>>;

/**
 * Rules by a run of letters of the text they need: most by a long one, those with shorter texts by a short one. The
 * key is a number made of the letters, which others may share: a text is asked for in full where it is found.
 */
export type Letters = Record<'long' | 'short', Buckets<number>>;

/** What an index knows of the rules of one source. */
export class SourceNode {
  /** Signatures of rules that need a field to differ, by that field; and of those that do not. */
  readonly driven = new Map<string, Map<string, Signature>>();
  readonly plain = new Map<string, Signature>();
  readonly thresholds = new Map<string, Crossings>();
  /** Rules that need a text to hold another, by some letters of it. */
  readonly newTexts = new Map<string, Letters>();
  readonly texts = new Map<string, Letters>();

  private readonly spots = new Map<string, ValueSlot>();

  constructor(readonly source: Source) {}

  /** One for each place, by which a look at a change remembers what it found there. */
  spotOf = (place: ValuePlace): ValueSlot =>
    entryOf(this.spots, `${place.side}.${place.field}`, () => ({ place, numbers: new Map() }));
}

/** The first place in an ascending list whose number is not below another. */
export function firstAtLeast(list: readonly number[], wanted: number): number {
  let low = 0;
  let high = list.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((list[middle] as number) < wanted) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** Texts are found by a run of so many of their letters: the longer, the fewer others share it. */
export const LONG = 5;
/** Texts of fewer letters are not cut into runs: they are looked for as they are. */
export const SHORT = 3;

/** A small whole number made of a run of letters: cheap to make at every letter of a text, and to look up. */
export function letterKey(text: string, start: number, run: number): number {
  let key = 0;
  for (let at = start; at < start + run; at++) key = Math.imul(key, 0x01000193) ^ text.charCodeAt(at);
  return (key ^ (key >>> 15)) & 0x3fffffff;
}

/** What stands at a key, made there if nothing does. */
export function entryOf<K, V>(map: Map<K, V>, key: K, make: () => V): V {
  const known = map.get(key);
  if (known !== undefined) return known;
  const made = make();
  map.set(key, made);
  return made;
}

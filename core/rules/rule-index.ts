import type { World } from '../people/index.ts';
import { type Change, fieldOf, isLook, sameValue, type Source } from '../values/index.ts';
import { type Needs, needsOf, type ValuePlace } from './needs.ts';
import {
  type Bucket,
  bucketOf,
  type Crossings,
  entryOf,
  firstAtLeast,
  type Key,
  keyWith,
  type Letters,
  LONG,
  lengthOf,
  letterKey,
  SHORT,
  type Signature,
  SourceNode,
  type ValueSlot,
  type IndexEntry,
  type TextNeeds,
  type Thresholds,
} from './index-buckets.ts';
import type { CompiledRule } from './compile.ts';
import { IndexProbe } from './index-probe.ts';

/** As many equalities of a rule make its key. */
const MOST_PLACES = 3;

/**
 * Finds the rules that may catch a change by what can be known of it: source, kind, actor, folders, the fields that
 * differ and the values they take. Every rule that does catch it is found, and few that do not. Rules are added and
 * taken out one by one.
 */
export class RuleIndex {
  private readonly nodes = new Map<string, SourceNode>();
  /** Where each rule stands, to be taken out again. */
  private readonly places = new Map<CompiledRule, Bucket[]>();

  constructor(private readonly sources: ReadonlyMap<string, Source>) {}

  get size(): number {
    return this.places.size;
  }

  add(compiled: CompiledRule): void {
    if (this.places.has(compiled)) return;
    const stands: ReturnType<typeof placesFor> = [];
    for (const id of compiled.rule.scope.sources) {
      const source = this.sources.get(id);
      if (!source) continue;
      const node = this.nodes.get(id) ?? new SourceNode(source);
      this.nodes.set(id, node);
      for (const needs of needsOf(compiled.rule, source)) stands.push(...placesFor(node, needs));
    }
    // A text may hold the same letters twice, so that what is found by them may be found again.
    const isRepeated = stands.length > 1 || stands.some(({ needs }) => needs);
    for (const { bucket, isAll, needs } of stands)
      bucket.put({ compiled, isRepeated, isAll, next: bucket.first() ?? null, needs });
    this.places.set(
      compiled,
      stands.map(({ bucket }) => bucket),
    );
  }

  remove(compiled: CompiledRule): void {
    for (const bucket of this.places.get(compiled) ?? []) {
      const others: IndexEntry[] = [];
      for (let stand = bucket.first(); stand; stand = stand.next) if (stand.compiled !== compiled) others.push(stand);
      bucket.put(others.reduceRight<IndexEntry | null>((next, stand) => ({ ...stand, next }), null));
    }
    this.places.delete(compiled);
  }

  /** The rules that catch a change, each once, in no order. */
  caught = (change: Change, world: World): CompiledRule[] => {
    const { found, sure } = this.look(change, world);
    return found.filter((compiled, at) => (sure[at] && isPlain(change)) || compiled.catches(change, world));
  };

  /** The rules that may look at a change, those that gather until things settle too, each with whether it catches the change; `null` where asking it failed. */
  looking = (change: Change, world: World): { compiled: CompiledRule; isCaught: boolean | null }[] => {
    const { found, sure } = this.look(change, world);
    return found.map((compiled, at) => ({
      compiled,
      isCaught: (sure[at] && isPlain(change)) || isCaughtOrFails(compiled, change, world),
    }));
  };

  /** The rules that may catch a change, and which of them do if the item still is. */
  private look(change: Change, world: Pick<World, 'folders'>): Pick<IndexProbe, 'found' | 'sure'> {
    const node = this.nodes.get(change.source);
    if (!node) return { found: [], sure: [] };
    const look = new IndexProbe(change, node.source, world);
    for (const signature of node.plain.values()) look.up(signature);
    for (const [field, byLetters] of node.texts) look.letters(field, byLetters);
    for (const field of node.source.fields) {
      const driven = node.driven.get(field.id);
      const thresholds = node.thresholds.get(field.id);
      const texts = node.newTexts.get(field.id);
      if (
        (!driven && !thresholds && !texts) ||
        sameValue(field.type, change.before?.[field.id], change.after?.[field.id])
      )
        continue;
      if (driven) for (const signature of driven.values()) look.up(signature);
      if (thresholds) look.crossed(thresholds, change.before?.[field.id], change.after?.[field.id]);
      if (texts) look.letters(field.id, texts);
    }
    return look;
  }
}

/** What is known of a change by its values alone is all that a rule asks, but of one that deletes, or only looks. */
const isPlain = (change: Change): boolean => change.after !== null && !isLook(change);

/** `null` where the rule cannot be asked: that is its own failure, and no other rule's. */
function isCaughtOrFails(compiled: CompiledRule, change: Change, world: World): boolean | null {
  try {
    return compiled.catches(change, world);
  } catch {
    return null;
  }
}

/** One way to find a rule: the buckets it would stand in, how full those are, and what looking there costs besides. */
interface Option {
  base: number;
  sizes(): number[];
  buckets(): Bucket[];
  /** Where it is found this way, nothing more has to be asked, but for its text. */
  isAll: boolean;
  needs: TextNeeds | null;
}

/** Where a rule is found by what it needs: with the fewest others. */
function placesFor(node: SourceNode, needs: Needs): { bucket: Bucket; isAll: boolean; needs: TextNeeds | null }[] {
  let best: { option: Option; cost: number } | null = null;
  for (const option of optionsOf(node, needs)) {
    const cost = option.base + Math.max(...option.sizes());
    if (!best || cost < best.cost) best = { option, cost };
    if (cost <= option.base) break;
  }
  return best?.option.buckets().map((bucket) => ({ bucket, isAll: best.option.isAll, needs: best.option.needs })) ?? [];
}

function optionsOf(node: SourceNode, needs: Needs): Option[] {
  const options: Option[] = [];
  const driver = needs.differs[0];
  const chosen = [...needs.equal]
    .sort((a, b) => rankOf(a.place, needs, node.source) - rankOf(b.place, needs, node.source))
    .slice(0, MOST_PLACES);
  const isWhole =
    needs.isAll &&
    needs.holds.length === 0 &&
    needs.crosses.length === 0 &&
    needs.differs.length <= 1 &&
    chosen.length === needs.equal.length;
  if (chosen.length > 0) options.push(equalOption(node, driver, chosen, isWhole));
  const isCrossing =
    needs.isAll &&
    needs.crosses.length === 1 &&
    needs.equal.length === 0 &&
    needs.holds.length === 0 &&
    needs.differs.every((id) => needs.crosses[0]?.every(({ field }) => field === id));
  for (const crossings of needs.crosses) options.push(crossingOption(node, crossings, isCrossing));
  const kinds = needs.equal.length === 1 && needs.equal[0]?.place.side === 'kind' ? needs.equal[0].values : [];
  // A look by letters asks of fields that differ only whether the text's own does, and that only where the text has to be new.
  const areDiffersAsked = needs.differs.every((id) => needs.holds.some(({ field, isNew }) => isNew && field === id));
  const isText =
    needs.isAll &&
    needs.holds.length === 1 &&
    needs.crosses.length === 0 &&
    areDiffersAsked &&
    needs.equal.length === (kinds.length > 0 ? 1 : 0);
  for (const { field, text, isNew } of needs.holds)
    options.push({
      ...lettersOption(isNew ? node.newTexts : node.texts, field, text, isNew ? 3 : 12),
      isAll: isText,
      needs: { text, isNew, kinds },
    });
  if (chosen.length === 0) options.push(equalOption(node, driver, [], isWhole));
  return options.sort((a, b) => a.base - b.base);
}

/** Which equalities tell most: the item, fields that differ, ids and texts before choices, then the rest. */
function rankOf({ side, field }: ValuePlace, { differs }: Needs, source: Source): number {
  if (side === 'item') return 0;
  if (side === 'kind') return 9;
  if (side === 'actor') return 6;
  if (side === 'folder') return 5;
  const type = fieldOf(source, field)?.type;
  const isNarrow = type !== 'choice' && type !== 'choices' && type !== 'boolean';
  return (differs.includes(field) ? 1 : 3) + (isNarrow ? 0 : 1);
}

function equalOption(node: SourceNode, driver: string | undefined, chosen: Needs['equal'], isAll: boolean): Option {
  const spots = chosen.map(({ place }) => node.spotOf(place));
  const name = chosen.map(({ place }) => `${place.side}.${place.field}`).join(' ');
  const keys = combined(
    chosen.map(({ values }, at) => values.map((value) => numberFor(spots[at] as ValueSlot, value))),
  );
  const known = (driver === undefined ? node.plain : node.driven.get(driver))?.get(name);
  const plainCost = driver === undefined ? 2 : 0;
  return {
    isAll,
    needs: null,
    // That it was changed tells next to nothing: most are.
    base: chosen.every(({ place }) => place.side === 'kind') ? 30 : plainCost,
    sizes: () => keys.map((key) => lengthOf(known?.buckets.get(key))),
    buckets: () => {
      const signatures =
        driver === undefined ? node.plain : entryOf(node.driven, driver, () => new Map<string, Signature>());
      const signature = entryOf(signatures, name, () => ({ spots, buckets: new Map() }));
      return keys.map((key) => bucketOf(signature.buckets, key));
    },
  };
}

function crossingOption(node: SourceNode, crossings: Needs['crosses'][number], isAll: boolean): Option {
  const listOf = ({ field, currency, way }: Needs['crosses'][number][number]) =>
    entryOf(
      entryOf(node.thresholds, field, (): Crossings => new Map()),
      currency,
      () => ({ up: { at: [], stands: [] }, down: { at: [], stands: [] } }),
    )[way];
  return {
    isAll,
    needs: null,
    base: 2,
    // However many thresholds there are, a step passes few: it is never worse than all rules that look at the field.
    sizes: () => [2],
    buckets: () => crossings.map((one) => bucketAt(listOf(one), one.at)),
  };
}

/** The bucket of a threshold. It stays where it is once nobody is in it: others may come. */
function bucketAt({ at, stands }: Thresholds, threshold: number): Bucket {
  const index = () => firstAtLeast(at, threshold);
  if (at[index()] !== threshold) {
    stands.splice(index(), 0, null);
    at.splice(index(), 0, threshold);
  }
  return {
    first: () => stands[index()],
    put: (first) => {
      stands[index()] = first;
    },
  };
}

function lettersOption(
  texts: SourceNode['texts'],
  field: string,
  text: string,
  base: number,
): Omit<Option, 'isAll' | 'needs'> {
  const isLong = text.length >= LONG;
  const byLetters = entryOf(texts, field, (): Letters => ({ long: new Map(), short: new Map() }))[
    isLong ? 'long' : 'short'
  ];
  const run = isLong ? LONG : SHORT;
  let rarest = { key: 0, size: Number.POSITIVE_INFINITY };
  for (let at = 0; at + run <= text.length; at++) {
    const key = letterKey(text, at, run);
    const size = lengthOf(byLetters.get(key));
    if (size < rarest.size) rarest = { key, size };
  }
  return { base, sizes: () => [rarest.size], buckets: () => [bucketOf(byLetters, rarest.key)] };
}

/** The number of a value at a place, given once. */
const numberFor = ({ numbers }: ValueSlot, value: string): number => entryOf(numbers, value, () => numbers.size);

/** Every way to take one of each list, as keys. */
function combined(lists: readonly (readonly number[])[]): Key[] {
  let keys: Key[] = [0];
  for (const [at, list] of lists.entries())
    keys = keys.flatMap((key) => list.map((number) => (at === 0 ? number : keyWith(key, number))));
  return keys;
}

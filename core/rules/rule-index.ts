import type { World } from '../people/index.ts';
import { type Change, type Field, fieldOf, foldCase, isEmpty, isMoney, isSetType, judgedFields, sameValue, type Source, type Value } from '../values/index.ts';
import { type Needs, needsOf, numberOf, type Place } from './atoms.ts';
import type { CompiledRule } from './compile.ts';
import { keyOfValue } from './keys.ts';

/** A rule that stands in several buckets and is found once: the look that found it, and where it then stands among what was found. */
interface Entry {
  seen: number;
  at: number;
}

/** A rule in a bucket. What stands in one bucket alone is found once without looking whether it was. */
interface Stand {
  compiled: CompiledRule;
  entry: Entry | null;
  /** Whoever finds it here need not ask it anything more, but for the text it needs. */
  isAll: boolean;
  /** The next in the same bucket: a chain costs fewer looks at memory than a list. */
  next: Stand | null;
  needs: TextNeeds | null;
}

/** What a rule that is found by letters asks besides them. */
interface TextNeeds {
  text: string;
  isNew: boolean;
  kinds: readonly string[];
}

/** How many rules stand in a bucket; from so many on, many. */
function lengthOf(first: Stand | null | undefined): number {
  let length = 0;
  for (let stand = first; stand && length < MANY; stand = stand.next) length++;
  return length;
}
const MANY = 200;

/** Buckets by key; each is the first rule in it. */
type Buckets = Map<string, Stand | null>;

/** A bucket as a place to put a rule. */
interface Bucket {
  first(): Stand | null | undefined;
  put(first: Stand | null): void;
}

const bucketOf = (buckets: Buckets, key: string): Bucket => ({
  first: () => buckets.get(key),
  put: (first) => {
    if (first) buckets.set(key, first);
    else buckets.delete(key);
  },
});

/** Rules that need values at the same places of a change, by those values. */
interface Signature {
  places: Place[];
  buckets: Buckets;
}

/** Thresholds in ascending order, each with its rules. */
interface Thresholds {
  at: number[];
  stands: (Stand | null)[];
}

/** Rules by a run of letters of the text they need: most by a long one, those with shorter texts by a short one. */
type Letters = Record<'long' | 'short', Buckets>;

/** What an index knows of the rules of one source. */
class SourceNode {
  /** Signatures of rules that need a field to differ, by that field; and of those that do not. */
  readonly driven = new Map<string, Map<string, Signature>>();
  readonly plain = new Map<string, Signature>();
  readonly thresholds = new Map<string, Record<'up' | 'down', Thresholds>>();
  /** Rules that need a text to hold another, by some letters of it. */
  readonly newTexts = new Map<string, Letters>();
  readonly texts = new Map<string, Letters>();

  private readonly places = new Map<string, Place>();

  constructor(readonly source: Source) {}

  /** One object for each place, by which a look at a change remembers what it found there. */
  placeOf = (place: Place): Place => entryOf(this.places, `${place.side}.${place.field}`, () => place);
}

/** What stands between the parts of a compound key; no value holds it, ids least of all. */
const SEPARATOR = '\u0000';
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
  private tick = 0;

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
    const entry: Entry | null = stands.length > 1 || stands.some(({ needs }) => needs) ? { seen: 0, at: 0 } : null;
    for (const { bucket, isAll, needs } of stands) bucket.put({ compiled, entry, isAll, next: bucket.first() ?? null, needs });
    this.places.set(compiled, stands.map(({ bucket }) => bucket));
  }

  remove(compiled: CompiledRule): void {
    for (const bucket of this.places.get(compiled) ?? []) {
      const others: Stand[] = [];
      for (let stand = bucket.first(); stand; stand = stand.next) if (stand.compiled !== compiled) others.push(stand);
      bucket.put(others.reduceRight<Stand | null>((next, stand) => ({ ...stand, next }), null));
    }
    this.places.delete(compiled);
  }

  /** The rules that catch a change, each once, in no order. */
  caught = (change: Change, world: World): CompiledRule[] => {
    const { found, sure } = this.look(change, world);
    return found.filter((compiled, at) => (sure[at] && change.after !== null) || compiled.catches(change, world));
  };

  /** The rules that may look at a change, those that gather until things settle too, each with whether it catches the change. */
  looking = (change: Change, world: World): { compiled: CompiledRule; isCaught: boolean }[] => {
    const { found, sure } = this.look(change, world);
    return found.map((compiled, at) => ({ compiled, isCaught: (sure[at] && change.after !== null) || compiled.catches(change, world) }));
  };

  /** The rules that may catch a change, and which of them do if the item still is. */
  private look(change: Change, world: Pick<World, 'folders'>): Pick<Look, 'found' | 'sure'> {
    const node = this.nodes.get(change.source);
    if (!node) return { found: [], sure: [] };
    const look = new Look(change, node.source, world, ++this.tick);
    for (const signature of node.plain.values()) look.up(signature);
    for (const [field, byLetters] of node.texts) look.letters(field, byLetters);
    for (const field of node.source.fields) {
      const driven = node.driven.get(field.id);
      const thresholds = node.thresholds.get(field.id);
      const texts = node.newTexts.get(field.id);
      if ((!driven && !thresholds && !texts) || sameValue(field.type, change.before?.[field.id], change.after?.[field.id])) continue;
      if (driven) for (const signature of driven.values()) look.up(signature);
      if (thresholds) look.crossed(thresholds, comparableBefore(change, field.id), numberOf(change.after?.[field.id]));
      if (texts) look.letters(field.id, texts);
    }
    return look;
  }
}

/** The number before a change; none where it was in another currency, beside which nothing is above or below. */
function comparableBefore({ before, after }: Change, field: string): number {
  const [from, to] = [before?.[field], after?.[field]];
  return isMoney(from) && isMoney(to) && from.currency !== to.currency ? Number.NaN : numberOf(from);
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
  const chosen = [...needs.equal].sort((a, b) => rankOf(a.place, needs, node.source) - rankOf(b.place, needs, node.source)).slice(0, MOST_PLACES);
  const isWhole = needs.isAll && needs.holds.length === 0 && needs.crosses.length === 0 && needs.differs.length <= 1 && chosen.length === needs.equal.length;
  if (chosen.length > 0) options.push(equalOption(node, driver, chosen, isWhole));
  for (const crossings of needs.crosses) options.push(crossingOption(node, crossings));
  const kinds = needs.equal.length === 1 && needs.equal[0]?.place.side === 'kind' ? needs.equal[0].values : [];
  const isText = needs.isAll && needs.holds.length === 1 && needs.crosses.length === 0 && needs.differs.length <= 1 && needs.equal.length === (kinds.length > 0 ? 1 : 0);
  for (const { field, text, isNew } of needs.holds) options.push({ ...lettersOption(isNew ? node.newTexts : node.texts, field, text, isNew ? 3 : 12), isAll: isText, needs: { text, isNew, kinds } });
  if (chosen.length === 0) options.push(equalOption(node, driver, [], isWhole));
  return options.sort((a, b) => a.base - b.base);
}

/** Which equalities tell most: the item, fields that differ, ids and texts before choices, then the rest. */
function rankOf({ side, field }: Place, { differs }: Needs, source: Source): number {
  if (side === 'item') return 0;
  if (side === 'kind') return 9;
  if (side === 'actor') return 6;
  if (side === 'folder') return 5;
  const type = fieldOf(source, field)?.type;
  const isNarrow = type !== 'choice' && type !== 'choices' && type !== 'boolean';
  return (differs.includes(field) ? 1 : 3) + (isNarrow ? 0 : 1);
}

function equalOption(node: SourceNode, driver: string | undefined, chosen: Needs['equal'], isAll: boolean): Option {
  const name = chosen.map(({ place }) => `${place.side}.${place.field}`).join(SEPARATOR);
  const keys = combined(chosen.map(({ values }) => values));
  const known = (driver === undefined ? node.plain : node.driven.get(driver))?.get(name);
  return {
    isAll,
    needs: null,
    base: chosen.length === 0 ? 30 : driver === undefined ? 2 : 0,
    sizes: () => keys.map((key) => lengthOf(known?.buckets.get(key))),
    buckets: () => {
      const signatures = driver === undefined ? node.plain : entryOf(node.driven, driver, () => new Map<string, Signature>());
      const signature = entryOf(signatures, name, () => ({ places: chosen.map(({ place }) => node.placeOf(place)), buckets: new Map() }));
      return keys.map((key) => bucketOf(signature.buckets, key));
    },
  };
}

function crossingOption(node: SourceNode, crossings: Needs['crosses'][number]): Option {
  const listOf = ({ field, way }: Needs['crosses'][number][number]) => entryOf(node.thresholds, field, () => ({ up: { at: [], stands: [] }, down: { at: [], stands: [] } }))[way];
  return {
    isAll: false,
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
  return { first: () => stands[index()], put: (first) => { stands[index()] = first; } };
}

/** The first place in an ascending list whose number is not below another. */
function firstAtLeast(list: readonly number[], wanted: number): number {
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
const LONG = 5;
const SHORT = 3;

const letterKeys = (text: string, run: number): string[] => Array.from({ length: Math.max(0, text.length - run + 1) }, (_, at) => text.slice(at, at + run));

function lettersOption(texts: SourceNode['texts'], field: string, text: string, base: number): Omit<Option, 'isAll' | 'needs'> {
  const isLong = text.length >= LONG;
  const byLetters = entryOf(texts, field, (): Letters => ({ long: new Map(), short: new Map() }))[isLong ? 'long' : 'short'];
  let rarest = { key: '', size: Number.POSITIVE_INFINITY };
  for (const key of letterKeys(text, isLong ? LONG : SHORT)) {
    const size = lengthOf(byLetters.get(key));
    if (size < rarest.size) rarest = { key, size };
  }
  return { base, sizes: () => [rarest.size], buckets: () => [bucketOf(byLetters, rarest.key)] };
}

/** Every way to take one of each list, as keys. */
function combined(lists: readonly (readonly string[])[]): string[] {
  let keys = [''];
  for (const [at, list] of lists.entries()) keys = keys.flatMap((key) => list.map((value) => (at === 0 ? value : key + SEPARATOR + value)));
  return keys;
}

function entryOf<K, V>(map: Map<K, V>, key: K, make: () => V): V {
  const known = map.get(key);
  if (known !== undefined) return known;
  const made = make();
  map.set(key, made);
  return made;
}

/** A change as it is looked up: the values at each place are worked out once, and each rule is found once. */
class Look {
  readonly found: CompiledRule[] = [];
  readonly sure: boolean[] = [];
  private readonly values = new Map<Place, string[]>();
  private folders: string[] | null = null;

  constructor(private readonly change: Change, private readonly source: Source, private readonly world: Pick<World, 'folders'>, private readonly tick: number) {}

  private take(first: Stand | null | undefined): void {
    for (let stand = first; stand; stand = stand.next) this.note(stand, stand.isAll);
  }

  private note({ compiled, entry }: Stand, isSure: boolean): void {
    if (entry !== null) {
      if (entry.seen === this.tick) {
        if (isSure) this.sure[entry.at] = true;
        return;
      }
      entry.seen = this.tick;
      entry.at = this.found.length;
    }
    this.found.push(compiled);
    this.sure.push(isSure);
  }

  up({ places, buckets }: Signature): void {
    const [first] = places;
    if (!first) return this.take(buckets.get(''));
    let keys = this.at(first);
    for (let at = 1; at < places.length && keys.length > 0; at++) {
      const values = this.at(places[at] as Place);
      if (keys.length === 1 && values.length === 1) keys = [keys[0] + SEPARATOR + values[0]];
      else keys = keys.flatMap((key) => values.map((value) => key + SEPARATOR + value));
    }
    for (const key of keys) this.take(buckets.get(key));
  }

  letters(field: string, { long, short }: Letters): void {
    const value = judgedFields(this.change)[field];
    if (isEmpty(value)) return;
    const before = this.change.before?.[field];
    const texts = { text: foldCase(String(value)), before: isEmpty(before) ? '' : foldCase(String(before)) };
    if (long.size > 0) for (let at = 0; at + LONG <= texts.text.length; at++) this.takeText(long.get(texts.text.slice(at, at + LONG)), texts);
    if (short.size > 0) for (let at = 0; at + SHORT <= texts.text.length; at++) this.takeText(short.get(texts.text.slice(at, at + SHORT)), texts);
  }

  /** Rules that share some letters with a text: those that ask for nothing but their text are judged by it here. */
  private takeText(first: Stand | null | undefined, texts: { text: string; before: string }): void {
    for (let stand = first; stand; stand = stand.next) {
      const { isAll, needs } = stand;
      if (!isAll || !needs) this.note(stand, isAll);
      else if (texts.text.includes(needs.text) && !(needs.isNew && texts.before.includes(needs.text)) && (needs.kinds.length === 0 || needs.kinds.includes(this.change.kind))) this.note(stand, true);
    }
  }

  /** The rules whose thresholds lie between the two sides; an empty side before lies below, and above, all of them. */
  crossed({ up, down }: Record<'up' | 'down', Thresholds>, before: number, after: number): void {
    if (Number.isNaN(after)) return;
    if (!(before > after)) this.between(up, Number.isNaN(before) ? Number.NEGATIVE_INFINITY : before, after);
    if (!(before < after)) this.between(down, after, Number.isNaN(before) ? Number.POSITIVE_INFINITY : before);
  }

  private between({ at, stands }: Thresholds, low: number, high: number): void {
    for (let index = firstAtLeast(at, low); index < at.length && (at[index] as number) <= high; index++) this.take(stands[index]);
  }

  private at(place: Place): string[] {
    const known = this.values.get(place);
    if (known) return known;
    const found = this.find(place);
    this.values.set(place, found);
    return found;
  }

  private find({ side, field }: Place): string[] {
    const { change } = this;
    switch (side) {
      case 'kind':
        return [change.kind];
      case 'item':
        return [change.item];
      case 'actor':
        return [change.actor];
      case 'folder':
        this.folders ??= foldersAbove(change, this.world);
        return this.folders;
      case 'before':
        return this.ofField(field, change.before?.[field]);
      case 'after':
        return this.ofField(field, judgedFields(change)[field]);
      default:
        return side satisfies never;
    }
  }

  private ofField(id: string, value: Value | undefined): string[] {
    if (value === undefined || isEmpty(value)) return [];
    const field = fieldOf(this.source, id) as Field;
    if (isSetType(field.type)) return Array.isArray(value) ? value : [String(value)];
    const key = keyOfValue(field, value);
    return field.type === 'dateTime' ? [key, ''] : [key];
  }
}

/** The folders at both ends of a change, with all above them. */
function foldersAbove({ folder, folderBefore }: Change, { folders }: Pick<World, 'folders'>): string[] {
  const found = new Set<string>();
  for (const start of [folder, folderBefore]) {
    for (let id = start; id !== null && !found.has(id); id = folders.get(id)?.parent ?? null) found.add(id);
  }
  return [...found];
}

import type { World } from '../people/index.ts';
import {
  type Change,
  type Field,
  fieldOf,
  foldCase,
  isEmpty,
  isMoney,
  isSetType,
  judgedFields,
  type Source,
  type Value,
} from '../values/index.ts';
import { numberOf, type ValuePlace } from './needs.ts';
import {
  type Crossings,
  firstAtLeast,
  type Key,
  keyWith,
  type Letters,
  letterKey,
  LONG,
  SHORT,
  type Signature,
  type ValueSlot,
  type IndexEntry,
  type Thresholds,
} from './index-buckets.ts';
import type { CompiledRule } from './compile.ts';
import { keyOfValue } from './keys.ts';

/** So many rules found are looked through quicker one by one. */
const FEW = 40;

/** A change as it is looked up: the values at each place are worked out once, and each rule is found once. */
export class IndexProbe {
  readonly found: CompiledRule[] = [];
  readonly sure: boolean[] = [];
  private readonly values = new Map<ValueSlot, number[]>();
  private folders: string[] | null = null;
  private byRule: Map<CompiledRule, number> | null = null;

  constructor(
    private readonly change: Change,
    private readonly source: Source,
    private readonly world: Pick<World, 'folders'>,
  ) {}

  private take(first: IndexEntry | null | undefined): void {
    for (let stand = first; stand; stand = stand.next) this.note(stand, stand.isAll);
  }

  private note({ compiled, isRepeated }: IndexEntry, isSure: boolean): void {
    const at = isRepeated ? this.placeOf(compiled) : -1;
    if (at >= 0) {
      if (isSure) this.sure[at] = true;
      return;
    }
    this.byRule?.set(compiled, this.found.length);
    this.found.push(compiled);
    this.sure.push(isSure);
  }

  /** Where a rule stands among those found, -1 if it does not: few are looked through, which costs less than to mark each rule. */
  private placeOf(compiled: CompiledRule): number {
    if (this.found.length < FEW) return this.found.indexOf(compiled);
    this.byRule ??= new Map(this.found.map((one, at) => [one, at]));
    return this.byRule.get(compiled) ?? -1;
  }

  up({ spots, buckets }: Signature): void {
    let keys: Key[] = spots[0] ? this.at(spots[0]) : [0];
    for (let at = 1; at < spots.length && keys.length > 0; at++) {
      const numbers = this.at(spots[at] as ValueSlot);
      if (keys.length === 1 && numbers.length === 1) keys = [keyWith(keys[0] as Key, numbers[0] as number)];
      else keys = keys.flatMap((key) => numbers.map((number) => keyWith(key, number)));
    }
    for (const key of keys) this.take(buckets.get(key));
  }

  letters(field: string, { long, short }: Letters): void {
    const value = judgedFields(this.change)[field];
    if (isEmpty(value)) return;
    const before = this.change.before?.[field];
    const texts = { text: foldCase(String(value)), before: isEmpty(before) ? '' : foldCase(String(before)) };
    if (long.size > 0)
      for (let at = 0; at + LONG <= texts.text.length; at++)
        this.takeText(long.get(letterKey(texts.text, at, LONG)), texts);
    if (short.size > 0)
      for (let at = 0; at + SHORT <= texts.text.length; at++)
        this.takeText(short.get(letterKey(texts.text, at, SHORT)), texts);
  }

  /** Rules that share some letters with a text: those that ask for nothing but their text are judged by it here. */
  private takeText(first: IndexEntry | null | undefined, texts: { text: string; before: string }): void {
    for (let stand = first; stand; stand = stand.next) {
      const { isAll, needs } = stand;
      if (!isAll || !needs) this.note(stand, isAll);
      else if (
        texts.text.includes(needs.text) &&
        !(needs.isNew && texts.before.includes(needs.text)) &&
        (needs.kinds.length === 0 || needs.kinds.includes(this.change.kind))
      )
        this.note(stand, true);
    }
  }

  /** The rules whose thresholds lie between the two sides; an empty side before, or one in another currency, lies below, and above, all of them. */
  crossed(crossings: Crossings, from: Value | undefined, to: Value | undefined): void {
    const after = numberOf(to);
    if (Number.isNaN(after)) return;
    const passed = crossings.get(isMoney(to) ? to.currency : '');
    if (!passed) return;
    const before = isMoney(from) && isMoney(to) && from.currency !== to.currency ? Number.NaN : numberOf(from);
    if (!(before > after)) this.between(passed.up, Number.isNaN(before) ? Number.NEGATIVE_INFINITY : before, after);
    if (!(before < after)) this.between(passed.down, after, Number.isNaN(before) ? Number.POSITIVE_INFINITY : before);
  }

  /** Rounding keeps the order: what lies between two numbers lies so exactly, only of what stands at an edge more has to be asked. */
  private between({ at, stands }: Thresholds, low: number, high: number): void {
    for (let index = firstAtLeast(at, low); index < at.length && (at[index] as number) <= high; index++) {
      const isInside = (at[index] as number) > low && (at[index] as number) < high;
      for (let stand = stands[index]; stand; stand = stand.next) this.note(stand, isInside && stand.isAll);
    }
  }

  private at(spot: ValueSlot): number[] {
    const known = this.values.get(spot);
    if (known) return known;
    const found: number[] = [];
    for (const value of this.find(spot.place)) {
      const number = spot.numbers.get(value);
      if (number !== undefined) found.push(number);
    }
    this.values.set(spot, found);
    return found;
  }

  private find({ side, field }: ValuePlace): string[] {
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
export function foldersAbove({ folder, folderBefore }: Change, { folders }: Pick<World, 'folders'>): string[] {
  const found = new Set<string>();
  for (const start of [folder, folderBefore]) {
    for (let id = start; id !== null && !found.has(id); id = folders.get(id)?.parent ?? null) found.add(id);
  }
  return [...found];
}

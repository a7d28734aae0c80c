import {
  decide,
  type Input,
  type Outcome,
  type Put,
  type Rows,
  type Shelf,
  type State,
  type ToldBefore,
} from '../../core/decide/index.ts';
import { voiceOf } from '../../core/messages/index.ts';
import type { Instant } from '../../core/time/index.ts';
import { type Change, isLook, type ItemState } from '../../core/values/index.ts';
import {
  type Connection,
  type Directory,
  groupId,
  one,
  phaseAt,
  type Query,
  rowId,
  rows,
  several,
  type StoredRow,
  type StoredChange,
  store,
  voiceIn,
} from '../store/index.ts';
import { Misses, type ToldAsked } from './misses.ts';
import { listsOf, phasesOf } from './phases.ts';

/** So many looks ahead find nearly all that a run of inputs asks for. */
const AHEAD = 2;

/** An item as it stands and, where it is deleted, as it stood. */
interface Known {
  item: ItemState | undefined;
  last: ItemState | undefined;
}

/** What was decided, and what rows that left. */
export interface Left {
  puts: ReadonlyMap<string, Put>;
  /** The numbers of the changes. */
  decided: ReadonlySet<number>;
}

/**
 * What deciding a run of inputs lays out before it: rows, items and changes as they are asked for, and what the
 * inputs before have left. The step is pure, so that it is simply asked again once what it missed is there.
 */
export class StateLoader {
  private readonly rows = new Map<string, { group: string; value: unknown }>();
  private readonly absent = new Set<string>();
  private readonly groups = new Map<string, Set<string>>();
  private readonly items = new Map<string, Known>();
  private readonly sources = new Map<string, string[]>();
  private readonly changes = new Map<string, Change>();
  private readonly followers = new Map<string, string[]>();
  private readonly present = new Map<string, boolean>();
  private readonly told = new Map<string, ToldBefore | undefined>();
  private readonly decided = new Set<number>();
  private readonly puts = new Map<string, Put>();
  private misses = new Misses();
  private isLaidOut = false;
  /** The instant as of which is being decided. */
  private at: Instant = 0;
  /** What the step sees, and the same for one whose words nobody will read. */
  private readonly worded: State;
  private readonly unworded: State;

  /** @param before what a turn just before has left, of which nothing may be stored yet: it goes before what is stored */
  constructor(
    private readonly directory: Directory,
    private readonly now: Instant,
    private readonly before: Left | null = null,
  ) {
    for (const [id, { group, shelf, row }] of before?.puts ?? []) {
      if (row === null) this.absent.add(id);
      else this.rows.set(id, { group: groupId(shelf, group), value: row });
    }
    this.worded = this.state();
    this.unworded = { ...this.worded, isWorded: () => false };
  }

  /** What the inputs have left for whoever decides before it is written. */
  get left(): Left {
    return { puts: this.puts, decided: this.decided };
  }

  /** All rows that the inputs left, to be written. */
  get written(): Put[] {
    return [...this.puts.values()];
  }

  /** Decides by what is at hand alone; `null` where that is not enough. Nothing is kept on the desk. */
  decideAtHand(input: Input): Outcome | null {
    this.misses = new Misses();
    if (input.input === 'change') this.layOut(input.change);
    this.at = momentOf(input);
    const outcome = decide(this.worded, input);
    return this.misses.isEmpty ? outcome : null;
  }

  /**
   * Lays out at once what a run of inputs is likely to ask for, so that they need not go to the database one by one:
   * each is asked as if the others were not, without words, and what is missed of all of them is fetched together.
   */
  private async layOutFor(on: Connection, inputs: readonly Input[]): Promise<void> {
    let lacking = inputs;
    for (let round = 0; round < AHEAD; round++) {
      this.misses = new Misses();
      lacking = lacking.filter((input) => {
        const expected = input.input === 'change' ? this.expect(input.change) : null;
        this.misses.isAny = false;
        this.attempt(input, false);
        // Until its change is decided, its item stands for all others as it did before.
        if (expected !== null) this.items.delete(expected);
        return this.misses.isAny;
      });
      if (lacking.length === 0) return;
      await this.fetch(on, this.misses);
    }
  }

  /**
   * Decides one input, fetching what it asks for; what it leaves is there for the next. The first that asks for what is
   * not there has it fetched for all that come after it too.
   * @param coming what is likely to come after it
   */
  async decide(on: Connection, input: Input, coming: () => readonly Input[]): Promise<Outcome> {
    if (input.input === 'change') this.layOut(input.change);
    for (;;) {
      this.misses = new Misses();
      const attempt = this.attempt(input);
      if (this.misses.isEmpty) {
        if (attempt instanceof Error) throw attempt;
        this.keep(attempt);
        return attempt;
      }
      const after = this.isLaidOut ? [] : coming();
      this.isLaidOut = true;
      if (after.length > 0) await this.layOutFor(on, [input, ...after]);
      else await this.fetch(on, this.misses);
    }
  }

  /** What a step makes of things it does not have may be an error, which then means nothing. */
  private attempt(input: Input, isWorded = true): Outcome | Error {
    try {
      this.at = momentOf(input);
      return decide(isWorded ? this.worded : this.unworded, input);
    } catch (error) {
      return error instanceof Error ? error : new Error(String(error));
    }
  }

  /** A change that will come, and its item as it will leave it, where nothing is known of that yet; the item then. */
  private expect(change: Change): string | null {
    this.changes.set(`${change.source}/${change.id}`, change);
    if (isLook(change) || this.items.has(change.item)) return null;
    this.items.set(change.item, stateAfter(change));
    return change.item;
  }

  /** A change and the item as it leaves it. */
  private layOut(change: Change & { seq?: number }): void {
    this.changes.set(`${change.source}/${change.id}`, change);
    if (change.seq !== undefined) this.decided.add(change.seq);
    // Whoever looked has changed nothing.
    if (!isLook(change)) this.items.set(change.item, stateAfter(change));
  }

  private state(): State {
    const { directory } = this;
    const lists = listsOf(directory);
    return {
      ...directory,
      start: 0,
      item: (id) => this.known(id)?.item,
      lastState: (id) => this.known(id)?.last,
      followersOf: (item) => this.followers.get(item) ?? this.miss('followers', item, []),
      phasesFor: (change) => {
        const looking = new Map(
          directory.index
            .looking(change, { ...directory, item: (id) => this.known(id)?.item })
            .map((one) => [one.compiled, one.isCaught]),
        );
        return phasesOf(directory, [...looking.keys()], this.at).map((phase) => ({
          phase,
          isCaught: looking.get(phase.compiled) ?? null,
        }));
      },
      schedulesOf: (source) => phasesOf(directory, lists.scheduled.get(source) ?? [], this.at),
      schedulesNaming: (item) => phasesOf(directory, lists.naming.get(item) ?? [], this.at),
      talliesOf: (source) => phasesOf(directory, lists.tallying.get(source) ?? [], this.at),
      lastTold: (person, rule, of) => this.lastTold([person, rule, of.item ?? null, of.alert ?? null]),
      closing: (source) => lists.closing.get(source) ?? [],
      phase: (rule) => phaseAt(directory, rule, this.at),
      version: (rule, version) => directory.versions.get(rule)?.get(version),
      change: (source, id) => {
        const known = this.changes.get(`${source}/${id}`);
        if (!known) {
          this.misses.isAny = true;
          this.misses.changes.set(`${source}/${id}`, [source, id]);
        }
        return known;
      },
      itemsOf: (source) =>
        (this.sources.get(source) ?? this.miss('sources', source, [])).flatMap((id) => this.known(id)?.item ?? []),
      ...voiceOf(voiceIn(directory), (id) => directory.wordings.get(id)),
      isHere: (person) => this.present.get(person) ?? this.miss('present', person, false),
      row: (shelf, key) => this.rowOf(shelf, key),
      group: (shelf, group) => this.groupOf(shelf, group),
    };
  }

  private miss<T>(what: 'followers' | 'sources' | 'present' | 'items', id: string, meanwhile: T): T {
    this.misses.isAny = true;
    this.misses[what].add(id);
    return meanwhile;
  }

  private lastTold(asked: ToldAsked): ToldBefore | undefined {
    const key = JSON.stringify(asked);
    if (!this.told.has(key)) {
      this.misses.isAny = true;
      this.misses.told.set(key, asked);
    }
    return this.told.get(key);
  }

  private known(id: string): Known | undefined {
    return this.items.get(id) ?? this.miss<Known | undefined>('items', id, undefined);
  }

  private rowOf<S extends Shelf>(shelf: S, key: string): Rows[S] | undefined {
    const id = rowId(shelf, key);
    const row = this.rows.get(id);
    if (!row && !this.absent.has(id)) {
      this.misses.isAny = true;
      this.misses.rows.add(id);
    }
    return row?.value as Rows[S] | undefined;
  }

  private groupOf<S extends Shelf>(shelf: S, group: string): readonly Rows[S][] {
    const ids = this.groups.get(groupId(shelf, group));
    if (!ids) {
      this.misses.isAny = true;
      this.misses.groups.add(groupId(shelf, group));
    }
    return [...(ids ?? [])].flatMap((id) => (this.rows.get(id)?.value as Rows[S] | undefined) ?? []);
  }

  private keep({ state }: Outcome): void {
    for (const put of state) {
      const id = rowId(put.shelf, put.key);
      this.puts.set(id, put);
      const before = this.rows.get(id);
      const group = groupId(put.shelf, put.group);
      if (before && (put.row === null || before.group !== group)) this.groups.get(before.group)?.delete(id);
      if (put.row === null) {
        this.rows.delete(id);
        this.absent.add(id);
      } else {
        this.rows.set(id, { group, value: put.row });
        this.groups.get(group)?.add(id);
      }
    }
  }

  private async fetch(on: Connection, misses: Misses): Promise<void> {
    const asked: { query: Query<unknown>; take: (found: unknown[]) => void }[] = [];
    const ask = <W, R>(wanted: readonly W[], make: (wanted: W[]) => Query<R>, take: (found: R[]) => void) => {
      if (wanted.length > 0) asked.push({ query: make([...wanted]), take: take as (found: unknown[]) => void });
    };
    ask([...misses.rows], store.engine.rowsById, (found) => this.takeRows(found, [...misses.rows]));
    ask([...misses.groups], store.engine.rowsOfGroups, (found) => this.takeGroups(found, [...misses.groups]));
    ask([...misses.changes.values()], store.changes.byIds, (found) => {
      for (const change of found) this.changes.set(`${change.source}/${change.id}`, change);
      for (const [key, [source, id]] of misses.changes)
        if (!this.changes.has(key)) throw new Error(`the change ${id} of ${source} is not in the trail`);
    });
    ask([...misses.followers], store.followers.of, (found) => {
      for (const item of misses.followers)
        this.followers.set(
          item,
          found.filter((row) => row.item === item).map((row) => row.person),
        );
    });
    ask(
      [...misses.present],
      (people) => store.presence.among(people, this.now),
      (found) => {
        for (const person of misses.present) this.present.set(person, found.includes(person));
      },
    );
    const lists =
      asked.length > 0
        ? await several(
            on,
            asked.map((one) => one.query),
          )
        : [];
    for (const [index, { take }] of asked.entries()) take(lists[index] ?? []);
    for (const source of misses.sources) await this.fetchSource(on, source);
    for (const [key, asked] of misses.told) this.told.set(key, await this.fetchTold(on, asked));
    const items = [...misses.items].filter((id) => !this.items.has(id));
    if (items.length > 0) await this.fetchItems(on, items);
  }

  private isDecided({ seq }: StoredChange): boolean {
    return this.decided.has(seq) || (this.before?.decided.has(seq) ?? false);
  }

  private takeRows(found: readonly StoredRow[], wanted: string[]): void {
    for (const { id, group, value } of found) this.rows.set(id, { group, value });
    for (const id of wanted) if (!this.rows.has(id)) this.absent.add(id);
  }

  /** Rows of groups; what inputs before have put or taken away goes before what is stored. */
  private takeGroups(found: readonly StoredRow[], wanted: string[]): void {
    for (const group of wanted) this.groups.set(group, new Set());
    const put = new Map([...(this.before?.puts ?? []), ...this.puts]);
    for (const { id, group, value } of found) {
      if (put.has(id)) continue;
      this.rows.set(id, { group, value });
      this.groups.get(group)?.add(id);
    }
    for (const [id, { shelf, group, row }] of put) if (row !== null) this.groups.get(groupId(shelf, group))?.add(id);
  }

  /** What somebody was told of last by a rule, with the changes that the alert has of each item. */
  private async fetchTold(on: Connection, asked: ToldAsked): Promise<ToldBefore | undefined> {
    const [person] = asked;
    const newest = await one(on, store.told.newest(...asked));
    if (!newest) return undefined;
    const [told, changes] = await several(on, [
      store.told.itemsTold(newest.id, person),
      store.told.changesOf(newest.id),
    ]);
    const items = [...new Set(told.flat())];
    const sources = new Map(changes.map((change) => [change.item, change.source]));
    const others = items.filter((id) => !sources.has(id));
    for (const { id, source } of others.length > 0 ? await rows(on, store.items.byIds(others)) : [])
      sources.set(id, source);
    const { alert, version, at, occasion, items: all } = newest;
    const parts = items.flatMap((id) => {
      const source = sources.get(id);
      const own = changes.filter((change) => change.item === id).map(({ change }) => change);
      return source === undefined ? [] : [{ source, item: id, changes: own }];
    });
    return { alert, version, at, occasion, items: all, parts };
  }

  private async fetchSource(on: Connection, source: string): Promise<void> {
    const ids = (await rows(on, store.items.idsOf(source))).sort();
    this.sources.set(source, ids);
    const missing = ids.filter((id) => !this.items.has(id));
    if (missing.length > 0) await this.fetchItems(on, missing);
  }

  /** Items as they stand where all that is decided so far has happened, and nothing of what is not. */
  private async fetchItems(on: Connection, ids: string[]): Promise<void> {
    const [stored, undecided] = await several(on, [store.items.byIds(ids), store.changes.undecidedOf(ids)]);
    for (const id of ids) this.items.set(id, { item: undefined, last: undefined });
    for (const { isDeleted, ...item } of stored)
      this.items.set(item.id, isDeleted ? { item: undefined, last: item } : { item, last: undefined });
    const first = new Map<string, StoredChange>();
    for (const change of undecided)
      if (!this.isDecided(change) && !first.has(change.item)) first.set(change.item, change);
    if (first.size === 0) return;
    const before = [...first.values()]
      .map(({ item, itemVersion }): [string, number] => [item, (itemVersion ?? 1) - 1])
      .filter(([, version]) => version > 0);
    const found = before.length > 0 ? await rows(on, store.changes.ofVersions(before)) : [];
    for (const id of first.keys()) this.items.set(id, { item: undefined, last: undefined });
    for (const change of found) this.items.set(change.item, stateAfter(change));
  }
}

function momentOf(input: Input): Instant {
  if (input.input === 'change') return input.change.at;
  return input.input === 'timer' ? input.timer.due : input.at;
}

/** An item as a change leaves it. */
function stateAfter(change: Change): Known {
  const item: ItemState = {
    id: change.item,
    source: change.source,
    folder: change.folder,
    fields: change.after ?? change.before ?? {},
    createdBy: change.previous?.createdBy ?? null,
    lastBy: change.actor,
    lastAt: change.at,
  };
  return change.after === null ? { item: undefined, last: item } : { item, last: undefined };
}

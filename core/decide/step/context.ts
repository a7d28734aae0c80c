import type { Content, SharedEntries } from '../../messages/index.ts';
import type { Instant } from '../../time/index.ts';
import { type About, Quarantine } from './quarantine.ts';
import type { Put, Rows, Shelf } from './rows.ts';
import type { Outcome, State } from './state.ts';
import type { Arising, Effect, Timer } from './types.ts';

/**
 * A step under way: the state as it was handed in, with what the step has changed of it so far laid over it.
 * What the step reads after it wrote is what it wrote.
 */
export class StepContext {
  private readonly puts = new Map<string, Put>();
  private readonly timers = new Map<string, Timer>();
  private readonly effects: Effect[] = [];
  /** The alerts that arose in this step, with their items. */
  readonly raised = new Map<string, string[]>();
  /** Who was told of which alert in this step, before anything asked for it. */
  readonly heard = new Set<string>();
  /** Entries that recipients of one locale and zone share. */
  readonly shared: SharedEntries = new Map();
  /** What one recipient is told of the same portions, in the same words by each channel. */
  readonly contents = new Map<string, Content | null>();

  /** What is under way, for whoever has to leave it out. */
  about: About | null = null;

  /**
   * @param from where the step's alerts stand among those of its instant
   * @param aside what is left out since it has failed
   */
  constructor(
    readonly state: State,
    readonly at: Instant,
    private readonly from: Omit<Arising, 'nth'>,
    readonly aside: Quarantine = new Quarantine(),
  ) {}

  /** Does something about a rule, and of it for one recipient; nothing where that has failed before. */
  within<T>({ rule, version }: { rule: { id: string }; version: number }, to: string, act: () => T): T | undefined {
    if (this.aside.has(rule.id, to)) return undefined;
    const before = this.about;
    this.about = { rule: rule.id, version, to };
    const done = act();
    // Only once it is done: what failed is what was under way.
    this.about = before;
    return done;
  }

  /** Where the next alert of the step stands; that of a batch by the change it began with. */
  arisingOf(began: number | undefined): Arising {
    return { ...this.from, ...(this.from.rank === 1 ? { seq: began ?? 0 } : {}), nth: this.raised.size };
  }

  row<S extends Shelf>(shelf: S, key: string): Rows[S] | undefined {
    const put = this.puts.get(`${shelf}/${key}`);
    return put ? ((put.row ?? undefined) as Rows[S] | undefined) : this.state.row(shelf, key);
  }

  /** What this step itself has put under a key. */
  written<S extends Shelf>(shelf: S, key: string): Rows[S] | undefined {
    return (this.puts.get(`${shelf}/${key}`)?.row ?? undefined) as Rows[S] | undefined;
  }

  /** The items of an alert that arose in this step. */
  itemsOf(alert: string): string[] | undefined {
    return this.raised.get(alert);
  }

  /** The rows of a group with their keys, as they are by now. */
  group<S extends Shelf>(shelf: S, group: string, keyOfRow: (row: Rows[S]) => string): { key: string; row: Rows[S] }[] {
    const found = new Map<string, Rows[S]>();
    for (const row of this.state.group(shelf, group)) {
      const key = keyOfRow(row);
      if (!this.puts.has(`${shelf}/${key}`)) found.set(key, row);
    }
    for (const put of this.puts.values())
      if (put.shelf === shelf && put.group === group && put.row) found.set(put.key, put.row as Rows[S]);
    return [...found].map(([key, row]) => ({ key, row }));
  }

  put<S extends Shelf>(shelf: S, key: string, group: string, row: Rows[S]): void {
    this.puts.set(`${shelf}/${key}`, { shelf, key, group, row } as Put);
  }

  remove(shelf: Shelf, key: string): void {
    this.puts.set(`${shelf}/${key}`, { shelf, key, group: '', row: null } as Put);
  }

  set(timer: Timer): void {
    this.timers.set(timer.key, timer);
  }

  emit(effect: Effect): void {
    this.effects.push(effect);
  }

  outcome(): Outcome {
    return { state: [...this.puts.values()], timers: [...this.timers.values()], effects: this.effects };
  }
}

/** Ids are ordered by code unit. */
export function compareIds(a: string, b: string): number {
  if (a === b) return 0;
  return a < b ? -1 : 1;
}

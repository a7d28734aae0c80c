import TinyQueue from 'tinyqueue';
import type { Instant } from '../../time/index.ts';
import type { Put, Rows, Shelf } from '../step/rows.ts';
import type { Outcome } from '../step/state.ts';
import type { Timer } from '../step/types.ts';
import { compareIds } from '../step/context.ts';

interface Placed {
  group: string;
  row: Rows[Shelf];
}

/** The engine's rows and timers in memory: what a server keeps in tables, for runs on virtual time. */
export class InMemoryState {
  private readonly shelves = new Map<Shelf, Map<string, Placed>>();
  private readonly groups = new Map<string, Map<string, Rows[Shelf]>>();
  private readonly timers = new TimerQueue();

  row<S extends Shelf>(shelf: S, key: string): Rows[S] | undefined {
    return this.shelves.get(shelf)?.get(key)?.row as Rows[S] | undefined;
  }

  group<S extends Shelf>(shelf: S, group: string): readonly Rows[S][] {
    const rows = this.groups.get(`${shelf}/${group}`);
    return rows ? ([...rows.values()] as Rows[S][]) : [];
  }

  /** Takes over what a step left. */
  take({ state, timers }: Outcome): void {
    for (const { shelf, key, group, row } of state) {
      const rows = this.shelves.get(shelf) ?? new Map<string, Placed>();
      this.shelves.set(shelf, rows);
      const before = rows.get(key);
      if (before && (row === null || before.group !== group)) this.leave(shelf, before.group, key);
      if (row === null) rows.delete(key);
      else {
        rows.set(key, { group, row });
        const members = this.groups.get(`${shelf}/${group}`) ?? new Map<string, Rows[Shelf]>();
        this.groups.set(`${shelf}/${group}`, members.set(key, row));
      }
    }
    for (const timer of timers) this.timers.add(timer);
  }

  /** All rows and timers, as if one step had just left them. */
  left(): Pick<Outcome, 'state' | 'timers'> {
    const state = [...this.shelves].flatMap(([shelf, rows]) =>
      [...rows].map(([key, { group, row }]) => ({ shelf, key, group, row }) as Put),
    );
    return { state, timers: this.timers.all() };
  }

  private leave(shelf: Shelf, group: string, key: string): void {
    const members = this.groups.get(`${shelf}/${group}`);
    members?.delete(key);
    if (members?.size === 0) this.groups.delete(`${shelf}/${group}`);
  }

  /** When the next timer is due; `null` where nothing waits. */
  nextDue(): Instant | null {
    return this.timers.peek()?.due ?? null;
  }

  nextTimer(): Timer | undefined {
    return this.timers.take();
  }
}

/** Of one rule, item and person a report comes before all else, and an escalation before a reminder. */
export function rankOfTask({ task }: Pick<Timer, 'task'>): number {
  if (task.task === 'report') return -1;
  return task.task === 'escalate' ? 0 : 1;
}

/** The order in which timers run: by instant, rank, rule, item, person, kind. */
export const compareTimers = (a: Timer, b: Timer): number =>
  a.due - b.due ||
  a.rank - b.rank ||
  compareIds(a.rule, b.rule) ||
  compareIds(a.item, b.item) ||
  compareIds(a.person, b.person) ||
  rankOfTask(a) - rankOfTask(b);

/** Timers in their order; of those that come together the first set runs first. One key waits once. */
class TimerQueue {
  private readonly queue = new TinyQueue<{ timer: Timer; order: number }>(
    [],
    (a, b) => compareTimers(a.timer, b.timer) || a.order - b.order,
  );
  private readonly keys = new Set<string>();
  private count = 0;

  peek(): Timer | undefined {
    return this.queue.peek()?.timer;
  }

  /** In the order in which they were set. */
  all = (): Timer[] => [...this.queue.data].sort((a, b) => a.order - b.order).map(({ timer }) => timer);

  add(timer: Timer): void {
    if (this.keys.has(timer.key)) return;
    this.keys.add(timer.key);
    this.queue.push({ timer, order: this.count++ });
  }

  take(): Timer | undefined {
    const first = this.queue.pop()?.timer;
    if (first) this.keys.delete(first.key);
    return first;
  }
}

import type { MessagePage } from '../../contract/api.ts';
import { keyOf, type Rows, type Timer } from '../../core/decide/index.ts';
import { type Reached, reach } from '../../core/people/index.ts';
import {
  acknowledgedQuery,
  type Connection,
  type Directory,
  followingQuery,
  fromJson,
  phaseAt,
  rowId,
  rows,
  rowsByIdQuery,
  type StoredItem,
  toEngineRow,
  worldOf,
} from '../store/index.ts';
import { type Context, when } from './context.ts';

/** An alert behind a message. */
export interface Behind {
  alert_id: string;
  alert_key: string;
  rule_id: string;
}

type Open = Rows['open'];
/** So many steps ahead are told. */
const MOST = 4;

/** What the engine remembers of alerts that somebody has to take on. */
export const openOf = async (on: Connection, behind: readonly Behind[]): Promise<Open[]> =>
  behind.length === 0
    ? []
    : (await rows(on, rowsByIdQuery(behind.map((one) => rowId('open', keyOf(one.alert_key)))))).map(
        (one) => toEngineRow(one).value as Open,
      );

/** Who has said of which alert, by its id, that they take it on: known at once, where the engine may have yet to decide it. */
export async function takersOf(on: Connection, behind: readonly Behind[]): Promise<Map<string, string[]>> {
  const takers = new Map<string, string[]>();
  if (behind.length === 0) return takers;
  for (const row of await rows<{ alert_id: string; person_id: string }>(
    on,
    acknowledgedQuery(behind.map((one) => one.alert_id)),
  ))
    takers.set(row.alert_id, [...(takers.get(row.alert_id) ?? []), row.person_id]);
  return takers;
}

/** An alert that is open, with those who took it on so far. */
export interface Taken {
  open: Open;
  takers: readonly string[];
}

export const takenOf = (
  open: readonly Open[],
  behind: readonly Behind[],
  takers: ReadonlyMap<string, string[]>,
): Taken[] =>
  open.map((one) => ({
    open: one,
    takers: [
      ...one.acknowledged,
      ...(takers.get(behind.find((row) => row.alert_key === one.alert)?.alert_id ?? '') ?? []),
    ],
  }));

/** Whether nothing follows an alert any more: it is closed, or its rule wants one of those told to take it on, and one has. */
export const isDone = ({ open, takers }: Taken, directory: Pick<Directory, 'versions'>): boolean =>
  open.isClosed ||
  (directory.versions.get(open.rule)?.get(open.version)?.rule.ack?.by === 'anyone' &&
    takers.some((one) => isAsked(open, one)));

const isAsked = (open: Open, person: string): boolean => open.told.includes(person) || open.escalated.includes(person);

/** Whether somebody is asked to take it on, and has not yet. */
export const waitsFor = (taken: Taken, person: string, directory: Pick<Directory, 'versions'>): boolean =>
  !isDone(taken, directory) && isAsked(taken.open, person) && !taken.takers.includes(person);

/** What follows an alert while nobody has it: its timers, with the people whom each step of its rule reaches as things stand. */
export async function followingOf(
  { pool, clock }: Pick<Context, 'pool' | 'clock'>,
  behind: readonly Behind[],
  open: readonly Open[],
  items: readonly string[],
  readable: ReadonlyMap<string, StoredItem>,
  directory: Directory,
): Promise<MessagePage['next']> {
  const keys = new Set(behind.map((one) => one.alert_key));
  const world = worldOf(directory, readable);
  const told = open.flatMap((one) => [...one.told]);
  const timers = (
    await rows<{ due_at: number; timer: unknown }>(pool, followingQuery(behind.map((one) => one.rule_id)))
  ).map((row) => ({ at: row.due_at, timer: fromJson<Timer>(row.timer) }));
  return timers
    .flatMap(({ at, timer: { rule, task } }): MessagePage['next'] => {
      if ((task.task !== 'remind' && task.task !== 'escalate') || !keys.has(task.alert)) return [];
      const step = phaseAt(directory, rule, clock.now())?.compiled.rule.ack?.escalate[task.round];
      const reached =
        task.task === 'remind' || !step
          ? []
          : items.flatMap((id): Reached[] => {
              const item = readable.get(id);
              return item ? [...reach(step.to, { ...item, lastBy: item.lastBy }, world, { told }).values()] : [];
            });
      return [{ what: task.task, at: when(at), to: [...new Set(reached.map((one) => one.id))] }];
    })
    .slice(0, MOST);
}

import type { MessagePage } from '../../../contract/wire/index.ts';
import { keyOf, type Rows } from '../../../core/decide/index.ts';
import { type Reached, reach } from '../../../core/people/index.ts';
import { caseJudge } from '../../../core/rules/index.ts';
import { when } from '../../access/index.ts';
import {
  type AlertBehind,
  type Connection,
  type Directory,
  phaseAt,
  rowId,
  rows,
  store,
  type StoredItem,
  worldOf,
} from '../../store/index.ts';
import type { Context } from '../context.ts';

type Open = Rows['open'];
/** So many steps ahead are told. */
const MOST = 4;

/** An alert that is open, with those who took it on so far. */
export interface Taken {
  open: Open;
  takers: readonly string[];
}

/** The alerts behind messages that somebody has to take on, with whoever has said so: known at once, where the engine may have yet to decide it. */
export async function takenBehind(on: Connection, behind: readonly AlertBehind[]): Promise<Taken[]> {
  if (behind.length === 0) return [];
  const stored = await rows(on, store.engine.rowsById(behind.map((one) => rowId('open', keyOf(one.key)))));
  const said = await rows(on, store.messages.acknowledgements(behind.map((one) => one.alert)));
  return stored.map(({ value }) => {
    const open = value as Open;
    const alert = behind.find((one) => one.key === open.alert)?.alert;
    const takers = said.filter((one) => one.alert === alert).map((one) => one.person);
    return { open, takers: [...new Set([...open.acknowledged, ...takers])] };
  });
}

/** Whether nothing follows an alert any more: it is closed, or its rule wants one of those told to take it on, and one has. */
export const isDone = ({ open, takers }: Taken, directory: Pick<Directory, 'versions'>): boolean =>
  open.isClosed ||
  (directory.versions.get(open.rule)?.get(open.version)?.rule.ack?.by === 'anyone' &&
    takers.some((one) => isAsked(open, one)));

const isAsked = (open: Open, person: string): boolean => open.told.includes(person) || open.escalated.includes(person);

/** Whether somebody is asked to take it on, and has not yet. */
export const waitsFor = (taken: Taken, person: string, directory: Pick<Directory, 'versions'>): boolean =>
  !isDone(taken, directory) && isAsked(taken.open, person) && !taken.takers.includes(person);

/** What follows the alerts behind a message while nobody has them: their timers, with the people whom each step of the rule reaches as things stand. */
export async function followingOf(
  { pool, clock }: Pick<Context, 'pool' | 'clock'>,
  { behind, taken, items }: { behind: readonly AlertBehind[]; taken: readonly Taken[]; items: readonly string[] },
  readable: ReadonlyMap<string, StoredItem>,
  directory: Directory,
): Promise<MessagePage['next']> {
  if (!taken.some((one) => !isDone(one, directory) && one.takers.length === 0)) return [];
  const keys = new Set(behind.map((one) => one.key));
  const world = worldOf(directory, readable);
  const told = taken.flatMap(({ open }) => [...open.told]);
  const timers = await rows(pool, store.timers.following(behind.map((one) => one.rule)));
  return timers
    .flatMap(({ due, rule, task }): MessagePage['next'] => {
      if ((task.task !== 'remind' && task.task !== 'escalate') || !keys.has(task.alert)) return [];
      const live = phaseAt(directory, rule, clock.now())?.compiled;
      const step = task.task === 'escalate' ? live?.rule.ack?.escalate[task.round] : undefined;
      const reached = items.flatMap((id): Reached[] => {
        const item = readable.get(id);
        return item && step
          ? [
              ...reach(step.to, { ...item, lastBy: item.lastBy }, world, {
                told,
                isSo: caseJudge(live?.rule ?? { zone: 'UTC' }, clock.now(), world),
              }).values(),
            ]
          : [];
      });
      return [{ what: task.task, at: when(due), to: [...new Set(reached.map((one) => one.id))] }];
    })
    .slice(0, MOST);
}

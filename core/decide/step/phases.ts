import { isScheduled, type Rule } from '../../rules/index.ts';
import type { Phase } from './state.ts';

type Version = { rule: Rule; version: number };

/** The phase with which a rule first goes live. */
export const firstPhase = <C extends Version>(compiled: C): Phase<C> => ({
  compiled,
  epoch: 1,
  isPaused: false,
  burstSince: compiled.version,
  scheduleSince: compiled.version,
  scheduleBefore: null,
});

/** The phase that a new version begins: gatherings of its own; bursts and schedules go on where they are the same. */
export function afterPublishing<C extends Version>(before: Phase<C>, compiled: C): Phase<C> {
  const goesOn = same(scheduleOf, before.compiled, compiled);
  return {
    compiled,
    epoch: before.epoch + 1,
    isPaused: before.isPaused,
    burstSince: same(({ when }) => when?.burst ?? null, before.compiled, compiled)
      ? before.burstSince
      : compiled.version,
    scheduleSince: goesOn ? before.scheduleSince : compiled.version,
    // A version that looks at changes has no rows of its own: what fired before it is found where it was.
    scheduleBefore: goesOn || !isScheduled(before.compiled.rule) ? before.scheduleBefore : before.scheduleSince,
  };
}

/** The phase that pausing or resuming begins. */
export const afterPausing = <C extends Version>(before: Phase<C>, isPaused: boolean): Phase<C> => ({
  ...before,
  epoch: before.epoch + 1,
  isPaused,
});

const scheduleOf = ({ due, idle, scope, zone }: Rule) => [due, idle, scope, zone];
const same = (part: (rule: Rule) => unknown, a: Version, b: Version) =>
  JSON.stringify(part(a.rule)) === JSON.stringify(part(b.rule));

import type { Instant } from '../../time/index.ts';
import type { Input } from './state.ts';
import type { Arising } from './types.ts';
import { compareIds } from './context.ts';

/** Where the alerts of a step stand among those of its instant, but for which of its step's they are. */
export function arisingFrom(input: Input): Omit<Arising, 'nth'> {
  switch (input.input) {
    case 'change':
      return { rank: 0, seq: input.change.seq ?? 0 };
    case 'resume':
      return { rank: 0, seq: input.seq ?? 0 };
    case 'timer':
      return { rank: input.timer.rank === 0 ? 1 : 2, seq: 0 };
    case 'again':
    case 'read':
    case 'acknowledge':
    case 'goLive':
      return { rank: 0, seq: 0 };
    default:
      return input satisfies never;
  }
}

/** The order in which alerts arose. */
export function compareArising(
  a: { at: Instant; rule: string; arising: Arising },
  b: { at: Instant; rule: string; arising: Arising },
): number {
  const [left, right] = [a.arising, b.arising];
  const bySeq = left.seq - right.seq;
  const byRule = compareIds(a.rule, b.rule);
  return (
    a.at - b.at ||
    left.rank - right.rank ||
    (left.rank === 0 ? bySeq || byRule : byRule || bySeq) ||
    left.nth - right.nth
  );
}

import type { TallyLine } from '../../../../contract/wire/index.ts';
import type { Tally } from '../../../../core/rules/index.ts';

type Op = Tally['becomes']['op'];

/** Whether a sum lies on the side of a mark that is told. */
export function isOver(op: Op, sum: number, mark: number): boolean {
  if (op === 'above') return sum > mark;
  if (op === 'atLeast') return sum >= mark;
  return op === 'below' ? sum < mark : sum <= mark;
}

/** How often a mark would have been passed, over all parts; where a part began counts as known. */
export const timesTold = ({ parts }: Pick<TallyLine, 'parts'>, op: Op, mark: number): number =>
  parts.reduce(
    (all, { moves }) =>
      all +
      moves.filter(({ value }, at) => {
        const before = moves[at - 1];
        return before !== undefined && isOver(op, value, mark) && !isOver(op, before.value, mark);
      }).length,
    0,
  );

/** From where to where figures are drawn, with some room, and in what steps a mark is moved. */
export function rangeOf(
  { parts }: Pick<TallyLine, 'parts'>,
  mark: number,
): { low: number; high: number; step: number } {
  const figures = [mark, ...parts.flatMap(({ moves }) => moves.map(({ value }) => value))];
  const [low, high] = [Math.min(0, ...figures), Math.max(1, ...figures)];
  const room = (high - low) * 0.15;
  // Whole steps, of which about a hundred fit.
  const step = Math.max(1, 10 ** Math.floor(Math.log10((high - low) / 30 || 1)));
  return { low: Math.floor(low), high: Math.ceil(high + room), step };
}

import { decimalOf, type Value } from '../values/index.ts';
import { type Condition, type FieldTest, isKind, partsOf, stateOf } from './nodes.ts';

const OPS = new Set<FieldTest['op']>(['above', 'atLeast', 'below', 'atMost', 'between']);

/** The figures that a condition compares fields with, by field, each once and in order; of sums of money the amounts. Dates are none. */
export function thresholdsOf(condition: Condition): Map<string, number[]> {
  const found = new Map<string, number[]>();
  for (const { field, value } of comparisons(condition)) {
    const lines = [value].flat().flatMap((one) => decimalOf(one as Value | undefined)?.toNumber() ?? []);
    found.set(
      field,
      [...new Set([...(found.get(field) ?? []), ...lines])].sort((a, b) => a - b),
    );
  }
  return found;
}

/** The tests of a condition that compare, whichever side of a change they look at. */
function comparisons(node: Condition): FieldTest[] {
  if (isKind(node, 'test')) return OPS.has(node.op) ? [node] : [];
  const state = stateOf(node);
  return (state ? [state] : partsOf(node)).flatMap(comparisons);
}

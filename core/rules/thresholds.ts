import { decimalOf, type Value } from '../values/index.ts';
import type { Condition, FieldTest, StateTest } from './rule.ts';

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

function comparisons(node: Condition | StateTest): FieldTest[] {
  if ('op' in node) return OPS.has(node.op) ? [node] : [];
  if ('changed' in node || 'rose' in node || 'fell' in node || 'gained' in node || 'lost' in node) return [];
  return Object.values(node)
    .flat()
    .flatMap((part) => comparisons(part as Condition));
}

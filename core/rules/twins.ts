import type { Rule } from './rule.ts';

/** Lists whose order says nothing: the parts of a condition, and all that names several of one kind. */
const UNORDERED = new Set([
  'all',
  'any',
  'none',
  'sources',
  'under',
  'items',
  'kinds',
  'to',
  'except',
  'only',
  'changed',
  'value',
]);

/** A part of a rule in one way of writing it: keys and unordered lists sorted, a list of one part as that part. */
function plainly(node: unknown, key = ''): unknown {
  if (Array.isArray(node)) {
    const parts = node.map((one) => plainly(one));
    return UNORDERED.has(key) ? parts.toSorted((a, b) => (JSON.stringify(a) < JSON.stringify(b) ? -1 : 1)) : parts;
  }
  if (node === null || typeof node !== 'object') return node;
  const entries = Object.entries(node).filter(([, part]) => part !== undefined);
  const [only] = entries;
  if (entries.length === 1 && only && (only[0] === 'all' || only[0] === 'any')) {
    const parts = only[1] as unknown[];
    if (parts.length === 1) return plainly(parts[0]);
  }
  // The two ends of a range are no list of what may be either.
  const isRange = 'op' in node && node.op === 'between';
  return Object.fromEntries(
    entries.toSorted(([a], [b]) => (a < b ? -1 : 1)).map(([name, part]) => [name, plainly(part, isRange ? '' : name)]),
  );
}

/** What a rule tells whom, however it is written, called and delivered: rules of one key tell the same people the same. */
const keyOf = ({ scope, when, due, idle, tally, report, by, during, about, ownChanges, to, except }: Rule): string =>
  JSON.stringify(plainly({ scope, when, due, idle, tally, report, by, during, about, ownChanges, to, except }));

/** Of each rule that tells the same people the same as another of these, the others; rules without a twin are left out. */
export function twinsOf(rules: readonly Rule[]): Map<string, Rule[]> {
  const byKey = new Map<string, Rule[]>();
  for (const rule of rules) {
    const key = keyOf(rule);
    byKey.set(key, [...(byKey.get(key) ?? []), rule]);
  }
  return new Map(
    [...byKey.values()].flatMap((same) =>
      same.length === 1 ? [] : same.map((rule): [string, Rule[]] => [rule.id, same.filter((one) => one !== rule)]),
    ),
  );
}

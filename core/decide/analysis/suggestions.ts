import { type Condition, isKind, type Rule, visitCondition } from '../../rules/index.ts';
import type { Change } from '../../values/index.ts';

/** The repairs that Ojo knows of. */
export const SUGGESTIONS = ['becomes', 'exceptSystem', 'settled', 'digest', 'perItem'] as const;

/** One repair that would make a rule cheaper, with the rule as it would then be. */
export interface Suggestion {
  code: (typeof SUGGESTIONS)[number];
  params: Record<string, string>;
  rule: Rule;
}

/** From such a share of what is caught on, leaving out a system is worth a word. */
const MUCH = 0.15;

/** What could be done to a rule that disturbs too often, by what it caught; whoever asks counts what each would leave. */
export function suggestionsFor(rule: Rule, caught: readonly Change[]): Suggestion[] {
  const found: Suggestion[] = [];
  const { when } = rule;
  if (when) {
    const turned = turnedToBecome(rule);
    if (turned) found.push({ code: 'becomes', params: {}, rule: turned });
    for (const [name, count] of systemsIn(caught)) {
      if (count / caught.length < MUCH || count === caught.length) continue;
      found.push({
        code: 'exceptSystem',
        params: { system: name },
        rule: { ...rule, by: { ...rule.by, except: [...rule.by.except, { system: name }] } },
      });
    }
  }
  if (rule.pace.kind === 'now') {
    if (when && !when.burst)
      found.push({
        code: 'settled',
        params: {},
        rule: { ...rule, pace: { kind: 'settled', quiet: 'PT30M', most: 'PT4H' } },
      });
    if (!rule.ack)
      found.push({
        code: 'digest',
        params: {},
        rule: { ...rule, pace: { kind: 'digest', every: 'day', at: '08:30' } },
      });
  }
  if (!rule.limit && rule.pace.kind !== 'digest' && when && hasRepeats(caught))
    found.push({ code: 'perItem', params: {}, rule: { ...rule, limit: { per: 'item', within: 'P1D' } } });
  return found;
}

/** The rule telling only when its state comes about, and no more at each save while it holds; `null` where it does so already. */
export function turnedToBecome(rule: Rule): Rule | null {
  const turned = rule.when && becoming(rule.when.if);
  return rule.when && turned ? { ...rule, when: { ...rule.when, if: turned } } : null;
}

/** The condition with every test of a mere state judged when it becomes so; `null` where there is none that holds at every save. */
function becoming(node: Condition): Condition | null {
  const asItIs = () => null;
  return visitCondition<Condition | null>(node, {
    test: (test) => ({ became: test }),
    through: (test) => ({ became: test }),
    all: ({ all }) => {
      const tests = all.flatMap((part) => (isKind(part, 'test') ? [part] : []));
      return tests.length > 0 && tests.length === all.length ? { became: { all: tests } } : null;
    },
    any: ({ any }) => {
      const parts = any.map(becoming);
      return parts.some((part) => part !== null) ? { any: any.map((part, at) => parts[at] ?? part) } : null;
    },
    none: asItIs,
    was: asItIs,
    became: asItIs,
    ceased: asItIs,
    changed: asItIs,
    rose: asItIs,
    fell: asItIs,
    gained: asItIs,
    lost: asItIs,
  });
}

function systemsIn(changes: readonly Change[]): Map<string, number> {
  const counts = new Map<string, number>();
  for (const { actor } of changes) {
    if (!actor.startsWith('system:')) continue;
    const name = actor.slice('system:'.length);
    counts.set(name, (counts.get(name) ?? 0) + 1);
  }
  return counts;
}

const hasRepeats = (changes: readonly Change[]): boolean =>
  new Set(changes.map((change) => change.item)).size < changes.length * 0.8;

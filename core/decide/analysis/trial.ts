import { type CompiledRule, compileRule, type Rule } from '../../rules/index.ts';
import type { Change } from '../../values/index.ts';
import { explain, type Explanation } from './explain.ts';
import type { Setting } from '../simulation/scenario.ts';
import { Run } from '../simulation/simulate.ts';
import type { Message, Withheld } from '../step/types.ts';

/** What a rule would make of one change, nothing else happening: how it is judged, and all that would go out. */
export interface Trial {
  /** `null` where the rule looks at the calendar, not at changes. */
  explanation: Explanation | null;
  /** What would go to whom, when and by what, nobody reading anything meanwhile; in order. */
  messages: Message[];
  withheld: Withheld[];
  /** The change is not caught: what would go out is shown as if it were. */
  isAsIf: boolean;
}

/**
 * Tries a rule on one change, or, where it looks at the calendar, on the items of the setting as they stand at its
 * start. A change that the rule would not catch, or only together with others, is taken as if it were caught alone,
 * so that there is a message to look at.
 */
export function trial(rule: Rule, setting: Setting, change: Change | null): Trial {
  if (!change) return { explanation: null, ...sent(rule, setting, null), isAsIf: false };
  const [explanation = null] = explanationsOf(
    [compileRule(rule, new Map(setting.sources.map((source) => [source.id, source])))],
    setting,
    change,
  );
  const real = sent(rule, setting, change);
  if (real.messages.length + real.withheld.length > 0) return { explanation, ...real, isAsIf: false };
  const open: Rule = {
    ...rule,
    scope: { ...rule.scope, under: [], items: [], linked: false, where: { all: [] } },
    when: { kinds: [], if: { all: [] }, burst: null },
    tally: null,
    by: { only: [], except: [] },
    during: { from: null, until: null, near: null },
    pace: rule.pace.kind === 'settled' ? { kind: 'now' } : rule.pace,
    limit: null,
  };
  return { explanation, ...sent(open, setting, change), isAsIf: true };
}

/** What each of these rules makes of one change, nothing else happening; in their order. */
export function explanationsOf(rules: readonly CompiledRule[], setting: Setting, change: Change): Explanation[] {
  let explained: Explanation[] = [];
  const run = new Run({ ...setting, rules: [] }, (at, state) => {
    if (at.id === change.id && explained.length === 0) explained = rules.map((rule) => explain(rule, at, state));
  });
  run.take(change);
  return explained;
}

function sent(rule: Rule, setting: Setting, change: Change | null): Pick<Trial, 'messages' | 'withheld'> {
  const run = new Run({ ...setting, rules: [{ rule, from: setting.start }] });
  if (change) run.take(change);
  const effects = run.finishRun();
  return {
    messages: effects.flatMap((one) => (one.effect === 'message' ? [one.message] : [])),
    withheld: effects.flatMap((one) => (one.effect === 'withheld' ? [one.withheld] : [])),
  };
}

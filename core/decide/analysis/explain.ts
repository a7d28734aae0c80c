import type { Reason, Recipient } from '../../people/index.ts';
import { type CompiledRule, type ExplainedRule, explainRule } from '../../rules/index.ts';
import type { Change } from '../../values/index.ts';
import type { Scenario } from '../simulation/scenario.ts';
import { Run } from '../simulation/simulate.ts';
import { judgeRecipients, subjectOf } from '../step/judge.ts';
import type { State } from '../step/state.ts';
import type { WithheldReason } from '../step/types.ts';

/** What a rule makes of one change: each node with what it saw, and each recipient with why. */
export interface Explanation extends ExplainedRule {
  rule: string;
  version: number;
  change: string;
  /** Whoever the rule reaches for this item, caught or not, with every reason to tell them and the one not to. */
  recipients: {
    to: string;
    kind: Recipient['kind'];
    reasons: Reason[];
    told: boolean;
    withheld: WithheldReason | null;
  }[];
}

/** What a rule makes of one change, in the world as it stands at it, and who would hear. */
export function explain(compiled: CompiledRule, change: Change, state: State): Explanation {
  const subject = subjectOf(change.item, change.source, [change], state);
  const isWatched = compiled.rule.scope.sources.includes(change.source);
  const heard = isWatched
    ? judgeRecipients(compiled.rule, [{ item: change.item, subject, changes: [change], at: change.at }], state)
    : [];
  return {
    rule: compiled.rule.id,
    version: compiled.version,
    change: change.id,
    ...explainRule(compiled, change, state),
    recipients: heard.map(({ to, reason }) => ({
      to: to.id,
      kind: to.kind,
      reasons: to.reasons,
      told: reason === null,
      withheld: reason,
    })),
  };
}

/** The explanation of one change of a scenario by one of its rules; `null` where there is no such change, or the rule is not live at it. */
export function explainIn(scenario: Scenario, change: string, rule: string): Explanation | null {
  let found: Explanation | null = null;
  const run = new Run(scenario, (at, state) => {
    if (at.id !== change || found) return;
    const phase = state.phase(rule, at.at);
    if (phase) found = explain(phase.compiled, at, state);
  });
  for (const input of scenario.inputs) {
    run.take(input);
    if (found) break;
  }
  return found;
}

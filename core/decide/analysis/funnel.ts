import { burstKey, type Counted, countIn } from '../../pace/index.ts';
import { CHANNELS, type Channel } from '../../people/index.ts';
import { compileRule, type Rule } from '../../rules/index.ts';
import { printInstant } from '../../time/index.ts';
import type { Change } from '../../values/index.ts';
import type { Form } from '../../messages/index.ts';
import type { ScenarioInput, Setting } from '../simulation/scenario.ts';
import { Run } from '../simulation/simulate.ts';
import type { State } from '../step/state.ts';
import type { Effect } from '../step/types.ts';
import { compareIds } from '../step/context.ts';

/** Where changes drop out on their way to being told, in the order in which that happens. */
export const FUNNEL_STEPS = [
  'changes',
  'scope',
  'kinds',
  'actor',
  'condition',
  'dates',
  'burst',
  'batch',
  'settling',
  'limit',
] as const;
/** A step of the funnel. */
export type FunnelStep = (typeof FUNNEL_STEPS)[number];

/** What a rule would have come to: how much is left after each step, and what each dropped. */
export interface Funnel {
  /** Up to `burst` changes are counted, from `batch` on alerts; `dropped` names some of the changes that a step let go. */
  steps: { step: FunnelStep; left: number; dropped: string[] }[];
  /** Messages by person, channel and form. */
  messages: { to: string; channel: Channel; form: Form; count: number }[];
  withheld: number;
  /** The changes that were caught: those that the burst, where there is one, left. */
  caught: string[];
  /** When its alerts would have arisen. */
  alerts: string[];
}

const SAMPLES = 5;

/** Counts, step by step, what a rule would have made of inputs had it been live since the start. Only the rule itself is run. */
export function funnel(rule: Rule, setting: Setting, inputs: Iterable<ScenarioInput>): Funnel {
  const counting = new Counting(rule, setting);
  for (const input of inputs) counting.take(input);
  return counting.finish();
}

/** A funnel under way: inputs are given one by one, in order of time. */
export class Counting {
  private readonly tally: Tally;
  private readonly run: Run;

  constructor(rule: Rule, setting: Setting) {
    this.tally = new Tally(rule, setting);
    this.run = new Run(
      { ...setting, rules: [{ rule, from: setting.start }] },
      (change, state) => this.tally.take(change, state),
      () => false,
    );
  }

  /** What people did to rules and about them is left out: the rule is counted as it is. */
  take(input: ScenarioInput): void {
    if (!('do' in input) || !('rule' in input)) this.run.take(input);
  }

  finish = (): Funnel => this.tally.result(this.run.finishRun());
}

/** What each step of a rule leaves, as changes come by. */
class Tally {
  private readonly left = new Map<FunnelStep, number>();
  private readonly dropped = new Map<FunnelStep, string[]>();
  private readonly bursts = new Map<string, Counted[]>();
  private readonly batches = new Set<string>();
  private readonly caught: string[] = [];
  private readonly compiled;

  constructor(
    private readonly rule: Rule,
    setting: Setting,
  ) {
    this.compiled = compileRule(rule, new Map(setting.sources.map((source) => [source.id, source])));
  }

  take(change: Change, state: State): void {
    this.count('changes');
    const { compiled } = this;
    const steps: [FunnelStep, () => boolean][] = [
      ['scope', () => compiled.inScope(change, state)],
      ['kinds', () => compiled.ofKind(change)],
      ['actor', () => compiled.byActor(change, state)],
      ['condition', () => compiled.holds(change, state)],
      ['dates', () => compiled.inDates(change)],
      ['burst', () => this.completes(change)],
    ];
    for (const [step, holds] of steps) {
      if (!holds()) return this.drop(step, change.id);
      this.count(step);
    }
    this.caught.push(change.id);
    const batch = change.batch !== null && this.rule.together ? change.batch : `|${change.source}/${change.id}`;
    if (this.batches.has(batch)) return;
    this.batches.add(batch);
    this.count('batch');
  }

  private completes(change: Change): boolean {
    const { when, zone } = this.rule;
    if (!when?.burst) return true;
    const key = burstKey(when.burst, change);
    const { counted, isComplete } = countIn(
      when.burst,
      this.bursts.get(key) ?? [],
      { at: change.at, source: change.source, item: change.item, change: change.id },
      zone,
    );
    this.bursts.set(key, isComplete ? [] : counted);
    return isComplete;
  }

  private count(step: FunnelStep): void {
    this.left.set(step, (this.left.get(step) ?? 0) + 1);
  }

  private drop(step: FunnelStep, change: string): void {
    const known = this.dropped.get(step) ?? [];
    if (known.length < SAMPLES) this.dropped.set(step, [...known, change]);
  }

  result(effects: readonly Effect[]): Funnel {
    const alerts = new Set(effects.flatMap((one) => (one.effect === 'alert' ? [one.alert.id] : [])));
    const cooled = effects.flatMap((one) =>
      one.effect === 'withheld' && one.withheld.reason === 'coolDown' && !alerts.has(one.withheld.alert)
        ? [one.withheld]
        : [],
    );
    const undone = effects.flatMap((one) => (one.effect === 'dropped' ? one.dropped.changes : []));
    for (const change of undone) this.drop('settling', change);
    for (const change of cooled.flatMap((one) => one.changes)) this.drop('limit', change);
    this.left.set('settling', alerts.size + new Set(cooled.map((one) => one.alert)).size);
    this.left.set('limit', alerts.size);
    return {
      steps: FUNNEL_STEPS.map((step) => ({
        step,
        left: this.left.get(step) ?? 0,
        dropped: this.dropped.get(step) ?? [],
      })),
      messages: messagesOf(effects),
      withheld: effects.filter((one) => one.effect === 'withheld').length,
      caught: this.caught,
      alerts: effects.flatMap((one) => (one.effect === 'alert' ? [printInstant(one.alert.at)] : [])),
    };
  }
}

function messagesOf(effects: readonly Effect[]): Funnel['messages'] {
  const counts = new Map<string, Funnel['messages'][number]>();
  for (const one of effects) {
    if (one.effect !== 'message') continue;
    const { to, channel, form } = one.message;
    const key = JSON.stringify([to, channel, form]);
    counts.set(key, { to, channel, form, count: (counts.get(key)?.count ?? 0) + 1 });
  }
  return [...counts.values()].sort(
    (a, b) =>
      compareIds(a.to, b.to) || CHANNELS.indexOf(a.channel) - CHANNELS.indexOf(b.channel) || compareIds(a.form, b.form),
  );
}

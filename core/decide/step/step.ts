import { type Change, isLook } from '../../values/index.ts';
import { askAgain, tellAgain } from './again.ts';
import { acknowledge, closeCeased, escalate, leaveOpen, markRead, remind } from './acknowledging.ts';
import { arisingFrom } from './arising.ts';
import { goLive, rearm } from './arm.ts';
import { carryOut, runDigest, runLater, runQuietEnd } from './carry-out.ts';
import { caughtUp } from './catch-up.ts';
import { compareIds, StepContext } from './context.ts';
import { datesDue, standstills } from './fire.ts';
import { batched, caughtBy } from './gather.ts';
import { judge, type Told } from './judge.ts';
import { Quarantine } from './quarantine.ts';
import { raise, type Raising } from './raise.ts';
import { type Reporting, reported, setReport } from './report.ts';
import { routesTo } from './route.ts';
import { settled } from './settling.ts';
import type { Input, Outcome, State } from './state.ts';
import { beginTally, tallied, talliedBy } from './tally.ts';
import type { Timer } from './types.ts';

/**
 * The step: what follows from one input, in the order in which it comes about. Pure; asking twice gives the
 * same rows, timers and effects with the same keys, so that a driver may be stopped anywhere and ask again.
 */
export function decide(state: State, input: Input): Outcome {
  const aside = new Quarantine();
  for (;;) {
    const context = new StepContext(state, instantOfInput(input), arisingFrom(input), aside);
    try {
      run(context, input);
    } catch (error) {
      // One rule, or one whom it tells, must not keep all others from hearing: the step is taken again without.
      if (!aside.add(context.about, error)) throw error;
      continue;
    }
    const outcome = context.outcome();
    return { ...outcome, effects: [...outcome.effects, ...aside.troubles(context.at)] };
  }
}

function instantOfInput(input: Input): number {
  if (input.input === 'change') return input.change.at;
  return input.input === 'timer' ? input.timer.due : input.at;
}

function run(context: StepContext, input: Input): void {
  switch (input.input) {
    case 'change':
      return runChange(context, input.change);
    case 'read':
      return markRead(context, input);
    case 'acknowledge':
      return acknowledge(context, input);
    case 'again':
      return askAgain(context, input);
    case 'goLive':
      return context.within(versionOf(context, input.rule), '', () => begin(context, input.rule));
    case 'resume':
      return context.within(versionOf(context, input.rule), '', () =>
        passOn(context, caughtUp(context, input.rule, input.catchUp)),
      );
    case 'timer':
      return runTimer(context, input.timer);
    default:
      return input satisfies never;
  }
}

/** What follows from a change: alerts it calls off, those it raises, dates and standstills that it sets anew. */
function runChange(context: StepContext, change: Change): void {
  if (isLook(change)) return passOn(context, caughtBy(context, change));
  closeCeased(context, change);
  passOn(context, inRuleOrder(caughtBy(context, change), talliedBy(context, change)));
  rearm(context, change);
}

/** What one change raises comes rule by rule, whatever brought it about. */
const inRuleOrder = (caught: Raising[], tallies: Raising[]): Raising[] =>
  tallies.length === 0
    ? caught
    : [...caught, ...tallies].sort((a, b) => compareIds(a.compiled.rule.id, b.compiled.rule.id));

/** A version goes live: its schedule begins, its items are counted, or its first report is set. */
function begin(context: StepContext, rule: string): void {
  const phase = context.state.phase(rule, context.at);
  if (phase?.compiled.rule.tally) beginTally(context, phase);
  else if (phase?.compiled.rule.report) setReport(context, phase);
  else goLive(context, rule);
}

function runTimer(context: StepContext, timer: Timer): void {
  if (timer.rule === '') return runTask(context, timer);
  context.within(versionOf(context, timer.rule), '', () => runTask(context, timer));
}

/** A rule's version live now, for what may fail of it. */
const versionOf = (context: StepContext, rule: string): { rule: { id: string }; version: number } => ({
  rule: { id: rule },
  version: context.state.phase(rule, context.at)?.compiled.version ?? 0,
});

function runTask(context: StepContext, { task }: Timer): void {
  switch (task.task) {
    case 'batch':
      return passOn(context, batched(context, task.rule, task.version, task.group));
    case 'tally':
      return passOn(context, tallied(context, task.rule, task.version, task.group));
    case 'settle':
      return passOn(context, settled(context, task.rule, task.group));
    case 'due':
      return passOn(context, datesDue(context, task.rule, task.group));
    case 'idle':
      return passOn(context, standstills(context, task.rule, task.group));
    case 'report':
      return tellReport(context, reported(context, task.rule, task.version));
    case 'again':
      return tellAgain(context, task.alert, task.person);
    case 'later':
      return runLater(context, task.later);
    case 'remind':
      return remind(context, task.alert, task.round);
    case 'escalate':
      return escalate(context, task.alert, task.round);
    case 'digest':
      return runDigest(context, task.to, task.channel);
    case 'quietEnd':
      return runQuietEnd(context, task.person);
    default:
      return task satisfies never;
  }
}

/** The line that every alert runs through: raised as far as its limit lets it pass, judged for each it reaches, routed, carried out. */
function passOn(context: StepContext, raisings: readonly Raising[]): void {
  for (const raising of raisings)
    context.within(raising.compiled, '', () => {
      const raised = raise(context, raising);
      const { told, withheld } = judge(raised, context.at, context.state);
      for (const one of withheld) context.emit({ effect: 'withheld', withheld: one });
      if (raised.parts.length === 0) return;
      leaveOpen(context, raised, told);
      for (const one of told)
        context.within(raising.compiled, one.key, () => tell(context, raising.compiled, one, 'single'));
    });
}

function tellReport(context: StepContext, reporting: Reporting | null): void {
  if (!reporting) return;
  const { compiled, told } = reporting;
  for (const one of told) context.within(compiled, one.key, () => tell(context, compiled, one, 'report'));
}

function tell(
  context: StepContext,
  { rule }: Raising['compiled'],
  { to, portions, steps }: Told,
  form: 'single' | 'report',
): void {
  const taking = { form, round: 0, pace: rule.pace };
  for (const route of routesTo(context, to, steps, portions, taking, rule)) carryOut(context, route);
}

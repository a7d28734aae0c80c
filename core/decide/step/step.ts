import { acknowledge, escalate, markRead, remind } from './acknowledging.ts';
import { Quarantine } from './quarantine.ts';
import { arisingFrom } from './arising.ts';
import { catchUp } from './catch-up.ts';
import { runDigest, runLater, runQuietEnd } from './deliver.ts';
import { decideChange, runBatch } from './matches.ts';
import { goLive, runDue, runIdle } from './schedules.ts';
import { runSettle } from './settling.ts';
import type { Input, Outcome, State } from './state.ts';
import type { Timer } from './types.ts';
import { StepContext } from './context.ts';

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
      return decideChange(context, input.change);
    case 'read':
      return markRead(context, input);
    case 'acknowledge':
      return acknowledge(context, input);
    case 'goLive':
      return context.within(versionOf(context, input.rule), '', () => goLive(context, input.rule));
    case 'resume':
      return context.within(versionOf(context, input.rule), '', () => catchUp(context, input.rule, input.catchUp));
    case 'timer':
      return runTimer(context, input.timer);
    default:
      return input satisfies never;
  }
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
      return runBatch(context, task.rule, task.version, task.group);
    case 'settle':
      return runSettle(context, task.rule, task.group);
    case 'due':
      return runDue(context, task.rule, task.group);
    case 'idle':
      return runIdle(context, task.rule, task.group);
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

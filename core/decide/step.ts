import { acknowledge, escalate, markRead, remind } from './acknowledging.ts';
import { arisingFrom } from './arising.ts';
import { catchUp } from './catch-up.ts';
import { runDigest, runLater, runQuietEnd } from './deliver.ts';
import { decideChange, runBatch } from './matches.ts';
import { goLive, runDue, runIdle } from './schedules.ts';
import { runSettle } from './settling.ts';
import type { Input, Outcome, State } from './state.ts';
import type { Timer } from './types.ts';
import { Work } from './work.ts';

/**
 * The step: what follows from one input, in the order in which it comes about. Pure; asking twice gives the
 * same rows, timers and effects with the same keys, so that a driver may be stopped anywhere and ask again.
 */
export function decide(state: State, input: Input): Outcome {
  const work = new Work(state, instantOfInput(input), arisingFrom(input));
  run(work, input);
  return work.outcome();
}

function instantOfInput(input: Input): number {
  if (input.input === 'change') return input.change.at;
  return input.input === 'timer' ? input.timer.due : input.at;
}

function run(work: Work, input: Input): void {
  switch (input.input) {
    case 'change':
      return decideChange(work, input.change);
    case 'read':
      return markRead(work, input);
    case 'acknowledge':
      return acknowledge(work, input);
    case 'goLive':
      return goLive(work, input.rule);
    case 'resume':
      return catchUp(work, input.rule, input.catchUp);
    case 'timer':
      return runTimer(work, input.timer);
    default:
      return input satisfies never;
  }
}

function runTimer(work: Work, { task }: Timer): void {
  switch (task.task) {
    case 'batch':
      return runBatch(work, task.rule, task.version, task.group);
    case 'settle':
      return runSettle(work, task.rule, task.group);
    case 'due':
      return runDue(work, task.rule, task.group);
    case 'idle':
      return runIdle(work, task.rule, task.group);
    case 'later':
      return runLater(work, task.later);
    case 'remind':
      return remind(work, task.alert, task.round);
    case 'escalate':
      return escalate(work, task.alert, task.round);
    case 'digest':
      return runDigest(work, task.to, task.channel);
    case 'quietEnd':
      return runQuietEnd(work, task.person);
    default:
      return task satisfies never;
  }
}

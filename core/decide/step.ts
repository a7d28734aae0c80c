import { acknowledge, escalate, markRead, remind } from './acknowledging.ts';
import { Aside } from './aside.ts';
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
  const aside = new Aside();
  for (;;) {
    const work = new Work(state, instantOfInput(input), arisingFrom(input), aside);
    try {
      run(work, input);
    } catch (error) {
      // One rule, or one whom it tells, must not keep all others from hearing: the step is taken again without.
      if (!aside.add(work.about, error)) throw error;
      continue;
    }
    const outcome = work.outcome();
    return { ...outcome, effects: [...outcome.effects, ...aside.troubles(work.at)] };
  }
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
      return work.within(versionOf(work, input.rule), '', () => goLive(work, input.rule));
    case 'resume':
      return work.within(versionOf(work, input.rule), '', () => catchUp(work, input.rule, input.catchUp));
    case 'timer':
      return runTimer(work, input.timer);
    default:
      return input satisfies never;
  }
}

function runTimer(work: Work, timer: Timer): void {
  if (timer.rule === '') return runTask(work, timer);
  work.within(versionOf(work, timer.rule), '', () => runTask(work, timer));
}

/** A rule's version live now, for what may fail of it. */
const versionOf = (work: Work, rule: string): { rule: { id: string }; version: number } => ({
  rule: { id: rule },
  version: work.state.phase(rule, work.at)?.compiled.version ?? 0,
});

function runTask(work: Work, { task }: Timer): void {
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

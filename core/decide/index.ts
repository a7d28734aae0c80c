export { explainIn, type Explanation } from './analysis/explain.ts';
export { InputCheck, scenarioFaults, settingFaults } from './simulation/scenario-faults.ts';
export { Counting, FUNNEL_STEPS, type Funnel, type FunnelStep, funnel } from './analysis/funnel.ts';
export { compareTimers, rankOfTask } from './simulation/in-memory-state.ts';
export { messagesReaching, type ReachingMessage } from './simulation/messages-reaching.ts';
export { SUGGESTIONS, type Suggestion, suggestionsFor, turnedToBecome } from './analysis/suggestions.ts';
export { keyOf, type Put, type Rows, type Shelf } from './step/rows.ts';
export type { Act, Results, Scenario, ScenarioInput, Setting } from './simulation/scenario.ts';
export { Run, simulate } from './simulation/simulate.ts';
export type { CatchUp, Input, Outcome, Phase, State, ToldBefore, Wording } from './step/state.ts';
export { decide } from './step/step.ts';
export { type RecipientVerdict, previewRecipients } from './step/judge.ts';
export { WITHHELD_REASONS } from './step/types.ts';
export type {
  Alert,
  Dropped,
  Effect,
  LaterStep,
  Message,
  Part,
  Portion,
  Timer,
  TimerTask,
  Trouble,
  Withheld,
  WithheldReason,
} from './step/types.ts';
export { tallyLine, type TallyPoint } from './analysis/tally-line.ts';
export { explanationsOf, type Trial, trial } from './analysis/trial.ts';
export { afterPausing, afterPublishing, firstPhase } from './step/phases.ts';

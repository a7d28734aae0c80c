export { explainIn, type Explanation } from './explain.ts';
export { InputCheck, scenarioFaults, settingFaults } from './faults.ts';
export { Counting, type Funnel, type FunnelStep, funnel } from './funnel.ts';
export { compareTimers } from './memory.ts';
export { heardBy, type HeardMessage } from './heard.ts';
export { type Mend, mendsOf, turnedToBecome } from './mends.ts';
export { keyOf, type Put, type Rows, type Shelf } from './rows.ts';
export type { Act, Results, Scenario, ScenarioInput, Setting } from './scenario.ts';
export { Run, simulate } from './simulate.ts';
export type { CatchUp, Input, Outcome, Phase, State, Wording } from './state.ts';
export { decide } from './step.ts';
export { type Heard, wouldHear } from './told.ts';
export type {
  Alert,
  Dropped,
  Effect,
  LaterStep,
  Message,
  Occasion,
  Part,
  Portion,
  Timer,
  TimerTask,
  Trouble,
  Withheld,
  WithheldReason,
} from './types.ts';
export { type Trial, trial } from './trial.ts';
export { afterPausing, afterPublishing, firstPhase } from './versions.ts';

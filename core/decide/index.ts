export { type Outcome, type Scenario, type ScenarioInput, simulate } from './simulate.ts';
export { decide } from './step.ts';
export { type Hearing, hearings, wouldHear } from './told.ts';
export { type Alert, type Effect, type Input, type LaterStep, type Message, type Portion, type State, type Waiting, WITHHELD_REASONS, type Withheld, type WithheldReason } from './types.ts';

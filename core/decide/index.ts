export { type Outcome, type Scenario, type ScenarioInput, simulate } from './simulate.ts';
export { decide } from './step.ts';
export { type Hearing, hearings, wouldHear } from './told.ts';
export type { Alert, Effect, Input, LaterStep, Message, Portion, State, Waiting, Withheld, WithheldReason } from './types.ts';

export { backOff, type Clock, SettableClock, systemClock } from './clock.ts';
export { Loop } from './loop.ts';
export { Runner, type RunnerParts } from './runner.ts';

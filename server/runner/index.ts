export { Runner, type RunnerParts } from './runner.ts';

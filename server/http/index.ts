export { makeApp } from './app.ts';
export type { Context } from './context.ts';
export { Hub } from './hub.ts';
export { Counter } from './counter.ts';

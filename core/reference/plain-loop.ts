import type { World } from '../people/index.ts';
import { type CompiledRule, isCaught } from '../rules/index.ts';
import type { Change } from '../values/index.ts';

/** The naive twin of the rule index: every rule is asked of every change. */
export const caughtByLoop = (rules: readonly CompiledRule[], change: Change, world: World): CompiledRule[] =>
  rules.filter((compiled) => isCaught(compiled, change, world));

export { idSchema, ruleSchema, toRule, valueSchema } from './rule.ts';
export { scenarioSchema } from './scenario.ts';

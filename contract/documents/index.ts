export { accessSchema, conditionSchema, idSchema, paceSchema, planSchema, ruleSchema, selectorSchema, stateTestSchema, toRule, valueSchema } from './rule.ts';
export { scenarioSchema, sourceSchema } from './scenario.ts';

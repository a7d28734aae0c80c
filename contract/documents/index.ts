export { cloudEventSchema, toCloudEvent } from './cloud-event.ts';
export { schemaFaults } from './faults.ts';
export { accessSchema, idSchema, planSchema, ruleSchema, selectorSchema, valueSchema } from './rule.ts';
export { changeSchema, inputSchema, scenarioSchema, scenarioShape } from './scenario.ts';

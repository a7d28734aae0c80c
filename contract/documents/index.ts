export { cloudEventSchema, toCloudEvent } from './cloud-event.ts';
export { schemaFaults } from './faults.ts';
export {
  accessSchema,
  dateSchema,
  idSchema,
  kindSchema,
  paceSchema,
  planSchema,
  ruleSchema,
  selectorSchema,
  stateTestSchema,
  valueSchema,
} from './rule.ts';
export { changeSchema, inputSchema, scenarioSchema, scenarioShape } from './scenario.ts';
export { nestingFault, shapeFault } from './shape.ts';

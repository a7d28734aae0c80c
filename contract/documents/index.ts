export { cloudEventSchema, toCloudEvent } from './cloud-event.ts';
export { schemaFaults } from './faults.ts';
export {
  accessSchema,
  conditionSchema,
  dateSchema,
  idSchema,
  kindSchema,
  paceSchema,
  planSchema,
  ruleSchema,
  selectorSchema,
  stateTestSchema,
  urgencySchema,
  valueSchema,
} from './rule.ts';
export {
  catchUpSchema,
  changeSchema,
  inputSchema,
  muteSchema,
  scenarioSchema,
  scenarioShape,
  sourceSchema,
} from './scenario.ts';
export { nestingFault, shapeFault } from './shape.ts';

export { checkRule, type Fault, operatorsOf } from './check.ts';
export { type CompiledRule, compileRule, isCaught, isItemInScope, linksIn } from './compile.ts';
export { type ExplainedNode, type ExplainedRule, explainRule } from './explain.ts';
export { RuleIndex } from './rule-index.ts';
export { compileState, differingFields } from './condition.ts';
export { thresholdsOf } from './thresholds.ts';
export {
  ABOUT,
  becameOf,
  type Burst,
  type Condition,
  conditionOf,
  type Due,
  eyeOf,
  type FieldTest,
  type Idle,
  type Limit,
  type Membership,
  type Movement,
  OPEN_MESSAGE,
  OPERATORS,
  type Operand,
  type Operator,
  openRule,
  type Repeat,
  type Rule,
  type RuleMessage,
  type StateTest,
} from './rule.ts';
export { type Occurrence, occurrencesOf, type Watch, watches } from './occurrences.ts';

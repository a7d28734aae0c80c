export { checkRule, type Fault, operatorsOf } from './check.ts';
export { type CompiledRule, compileRule, isBelow, isCaught, isItemInScope, linksIn } from './compile.ts';
export { type ExplainedNode, type ExplainedRule, explainRule } from './explain.ts';
export { RuleIndex } from './rule-index.ts';
export type { Linked } from './tests.ts';
export { caseJudge } from './cases.ts';
export { compileState, differingFields } from './condition.ts';
export { checkSense, hasRunOut, isCounting } from './sense.ts';
export { wordsTest } from './words.ts';
export { twinsOf } from './twins.ts';
export { thresholdsOf } from './thresholds.ts';
export {
  leadsOf,
  ABOUT,
  becameOf,
  type Burst,
  conditionOf,
  type Due,
  eyeOf,
  type Idle,
  type Limit,
  OPEN_MESSAGE,
  openRule,
  type Repeat,
  type Report,
  type Tally,
  TALLY_OPS,
  type Rule,
  type RuleMessage,
} from './rule.ts';
export { areAlike, carriedOver } from './carried.ts';
export { type Occurrence, occurrencesOf, type Watch, watches } from './occurrences.ts';
export {
  type Condition,
  type ConditionVisitor,
  type FieldTest,
  fromTo,
  HOLDS_EMPTY,
  isKind,
  isOpen,
  kindOf,
  type LinkedTest,
  type Membership,
  type Movement,
  type NodeKind,
  OPERATORS,
  COMPARES_FIELDS,
  type Operand,
  type OtherField,
  otherField,
  type Operator,
  ownFields,
  partsOf,
  type StateTest,
  stateOf,
  stateParts,
  visitCondition,
  visitState,
} from './nodes.ts';
export {
  ALL_OCCASIONS,
  hasBeginning,
  hasChanges,
  isScheduled,
  type Occasion,
  occasionsOf,
} from './occasion.ts';
export { EYED, type Eyed, eyedAs } from './second-eyes.ts';

export { checkRule, type Fault, operatorsOf } from './check.ts';
export { type CompiledRule, compileRule, isCaught, isLiveAt } from './compile.ts';
export { differingFields } from './condition.ts';
export { type Condition, type FieldTest, type Membership, type Movement, OPERATORS, type Operand, type Operator, openRule, type Rule, type StateTest } from './rule.ts';

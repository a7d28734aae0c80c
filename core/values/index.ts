export { asChange, compareArrival, CHANGE_KINDS, isLook, judgedFields } from './change.ts';
export type { Change, ChangeKind, ItemState } from './change.ts';
export { faultOf, LONGEST_ADDRESS, LONGEST_LINE, LONGEST_TEXT, type ValueFault } from './check.ts';
export { compareValues, decimalOf, sameValue } from './compare.ts';
export { foldCase, isEmpty, isMoney, membersOf } from './plain.ts';
export { dayText, isWrittenOut, readDay } from './day-text.ts';
export { optionName, optionNamed } from './options.ts';
export { numberText, readAmount, readNumber } from './number-text.ts';
export {
  FIELD_TYPES,
  type FieldType,
  isFigureType,
  isLinkType,
  isPersonType,
  isSetType,
  isTemporalType,
  isTextType,
  namesSomebody,
} from './field-types.ts';
export {
  type Field,
  type Fields,
  fieldOf,
  type Money,
  type Source,
  type SourceKind,
  type Value,
} from './fields.ts';
export { formatDay, formatDayTime, formatInstant, formatTime, formatValue, type Names, type Reader } from './format.ts';

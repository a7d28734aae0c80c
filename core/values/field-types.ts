/** What of a field's type decides how its values are treated, wherever types are told apart by families. */
interface Traits {
  /** Its values are sets of ids or options: order and repeats mean nothing. */
  isSet?: true;
  /** Its values are texts that people write: case and normal form are folded where they are compared. */
  isText?: true;
  /** Its values are exact decimals, with a currency or without. */
  isFigure?: true;
  /** Its values are days or instants. */
  isTemporal?: true;
  /** Its values are people's ids. */
  namesPeople?: true;
  /** Its values are addresses, which stand for whoever has them. */
  namesAddress?: true;
  /** Its values are ids of other items. */
  isLink?: true;
}

/** Every type that a field may have (the engine's specification, section 1), in the order in which they are offered. */
const TRAITS = {
  text: { isText: true },
  longText: { isText: true },
  number: { isFigure: true },
  money: { isFigure: true },
  boolean: {},
  date: { isTemporal: true },
  dateTime: { isTemporal: true },
  choice: {},
  choices: { isSet: true },
  person: { namesPeople: true },
  people: { isSet: true, namesPeople: true },
  link: { isLink: true },
  links: { isSet: true, isLink: true },
  url: { isText: true },
  email: { isText: true, namesAddress: true },
} as const satisfies Record<string, Traits>;

/** A type that a field may have. */
export type FieldType = keyof typeof TRAITS;
/** All types, in the order in which they are offered. */
export const FIELD_TYPES = Object.keys(TRAITS) as [FieldType, ...FieldType[]];

const has = (type: FieldType, trait: keyof Traits): boolean => (TRAITS[type] as Traits)[trait] === true;

/** Whether values are sets: order and repeats mean nothing. */
export const isSetType = (type: FieldType): boolean => has(type, 'isSet');
/** Whether values are texts that people write. */
export const isTextType = (type: FieldType): boolean => has(type, 'isText');
/** Whether values are exact decimals, with a currency or without. */
export const isFigureType = (type: FieldType): boolean => has(type, 'isFigure');
/** Whether values are days or instants. */
export const isTemporalType = (type: FieldType): boolean => has(type, 'isTemporal');
/** Whether values are people's ids. */
export const isPersonType = (type: FieldType): boolean => has(type, 'namesPeople');
/** Whether values tell who is meant: people, or addresses. */
export const namesSomebody = (type: FieldType): boolean => has(type, 'namesPeople') || has(type, 'namesAddress');
/** Whether values are ids of other items. */
export const isLinkType = (type: FieldType): boolean => has(type, 'isLink');

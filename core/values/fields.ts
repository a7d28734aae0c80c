/** The types a field may have, as in the engine's specification, section 1. */
export const FIELD_TYPES = [
  'text',
  'longText',
  'number',
  'money',
  'boolean',
  'date',
  'dateTime',
  'choice',
  'choices',
  'person',
  'people',
  'link',
  'links',
  'url',
  'email',
] as const;
export type FieldType = (typeof FIELD_TYPES)[number];

/** One field of a source. `options` belongs to choices, `to` (a source's id) to links. */
export interface Field {
  id: string;
  name: string;
  type: FieldType;
  options?: string[];
  to?: string;
}

export type SourceKind = 'folders' | 'list' | 'records' | 'stream';

/** What can be watched. `titleField` names the field that items go by. */
export interface Source {
  id: string;
  kind: SourceKind;
  name: string;
  titleField: string;
  fields: Field[];
}

export interface Money {
  amount: string;
  currency: string;
}

/** A field's value as it stands in a document; what is empty is said by `isEmpty`. */
export type Value = string | number | boolean | string[] | Money | null;

/** An item's whole field state, by field id; a missing key is an empty field. */
export type Fields = Record<string, Value>;

/** Types whose values are sets of ids or options: order and repeats mean nothing. */
export const isSetType = (type: FieldType): boolean => type === 'choices' || type === 'people' || type === 'links';

export const isTextType = (type: FieldType): boolean =>
  type === 'text' || type === 'longText' || type === 'url' || type === 'email';

export const fieldOf = (source: Source, id: string): Field | undefined =>
  source.fields.find((field) => field.id === id);

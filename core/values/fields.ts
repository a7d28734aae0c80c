import type { FieldType } from './field-types.ts';

/** One field of a source. `options` belongs to choices, `to` (a source's id) to links. */
export interface Field {
  id: string;
  name: string;
  type: FieldType;
  options?: string[];
  /** What options are called that were made as something else, by what they were made as. */
  optionNames?: Record<string, string>;
  to?: string;
}

/** What sort of source it is: what it holds and how its changes come. */
export type SourceKind = 'folders' | 'list' | 'records' | 'stream';

/** What can be watched. `titleField` names the field that items go by. */
export interface Source {
  id: string;
  kind: SourceKind;
  name: string;
  titleField: string;
  fields: Field[];
}

/** An amount as an exact decimal, with the code of its currency (ISO 4217). */
export interface Money {
  amount: string;
  currency: string;
}

/** A field's value as it stands in a document; what is empty is said by `isEmpty`. */
export type Value = string | number | boolean | string[] | Money | null;

/** An item's whole field state, by field id; a missing key is an empty field. */
export type Fields = Record<string, Value>;

/** The field of an id; `undefined` where the source has none. */
export const fieldOf = (source: Source, id: string): Field | undefined =>
  source.fields.find((field) => field.id === id);

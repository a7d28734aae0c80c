import { useId } from 'react';
import { Form } from 'react-bootstrap';
import type { FieldPath, FieldValues } from 'react-hook-form';
import { z } from 'zod';
import { faultOf, type Field, type Fields, sameValue, type Source, type Value } from '../../../core/values/index.ts';
import { followsFromActs } from '../../../core/documents/index.ts';
import { Controlled, type Sending } from '../../forms/index.ts';
import { ValueInput } from '../../parts/index.ts';

/** What stands in a form for an item: a value for each of its source's fields, in their order. */
export const valuesOf = (source: Source, fields: Fields): Value[] =>
  source.fields.map((field) => fields[field.id] ?? null);

/** Those of the values that differ from what the form began with, by the field's id. */
export function editsIn(source: Source, fields: Fields, values: readonly Value[]): Fields {
  const edited = source.fields.flatMap((field, at): [string, Value][] => {
    const value = values[at] ?? null;
    return sameValue(field.type, value, fields[field.id]) ? [] : [[field.id, value]];
  });
  return Object.fromEntries(edited);
}

/** Values as an item may have them. What the form began with is not asked again. */
export const valuesShape = (source: Source, fields: Fields) =>
  z.array(z.custom<Value>()).superRefine((values, context) => {
    const edits = editsIn(source, fields, values);
    for (const [at, field] of source.fields.entries()) {
      const fault = field.id in edits ? faultOf(field, edits[field.id] ?? null) : null;
      if (fault) context.addIssue({ code: 'custom', path: [at], params: fault });
    }
  });

/** The form's name for a field that the server speaks of by its id. */
export const fieldIn = (source: Source) => (path: string) => {
  const at = source.fields.findIndex((field) => field.id === path);
  return at < 0 ? null : `values.${at}`;
};

interface ItemFieldsProps<V extends FieldValues> {
  sending: Sending<V>;
  source: Source;
  isEdited?: (field: Field) => boolean;
}

/** All fields of a source that are typed, each with its value and what is wrong with it. */
export const ItemFields = <V extends FieldValues>({ sending, source, isEdited }: ItemFieldsProps<V>) =>
  source.fields.map((field, at) =>
    followsFromActs(source, field.id) ? null : (
      <ItemField
        key={field.id}
        sending={sending}
        field={field}
        name={`values.${at}` as FieldPath<V>}
        isEdited={isEdited?.(field) ?? false}
      />
    ),
  );

interface ItemFieldProps<V extends FieldValues> {
  sending: Sending<V>;
  field: Field;
  name: FieldPath<V>;
  isEdited: boolean;
}

function ItemField<V extends FieldValues>({ sending, field, name, isEdited }: ItemFieldProps<V>) {
  const id = useId();
  return (
    <div className={isEdited ? 'is-edited' : ''}>
      <Form.Label htmlFor={id}>{field.name}</Form.Label>
      <Controlled sending={sending} name={name} id={id}>
        {(value, onChange, isInvalid) => (
          <ValueInput
            id={id}
            field={field}
            value={(value ?? null) as Value}
            onChange={onChange}
            isInvalid={isInvalid}
          />
        )}
      </Controlled>
    </div>
  );
}

import { useId } from 'react';
import { Form } from 'react-bootstrap';
import type { FieldPath, FieldValues } from 'react-hook-form';
import { faultId } from '../parts/index.ts';
import { Controlled } from './fields.tsx';
import type { Sending } from './sending.ts';

interface SelectFieldProps<V extends FieldValues> {
  sending: Sending<V>;
  name: FieldPath<V>;
  label: string;
  options: readonly (readonly [value: string, words: string])[];
  /** What is called nothing chosen; left out, something always is. */
  empty?: string;
}

/** One of many, from a list that opens, with its label and what is wrong with what was chosen. */
export function SelectField<V extends FieldValues>({ sending, name, label, options, empty }: SelectFieldProps<V>) {
  const id = useId();
  return (
    <div className="field">
      <Form.Label htmlFor={id}>{label}</Form.Label>
      <Controlled sending={sending} name={name} id={id}>
        {(value, onChange, isInvalid) => (
          <Form.Select
            id={id}
            value={value ?? ''}
            isInvalid={isInvalid}
            aria-describedby={faultId(id)}
            onChange={(event) => onChange(event.target.value)}
          >
            {empty !== undefined && <option value="">{empty}</option>}
            {options.map(([one, words]) => (
              <option key={one} value={one}>
                {words}
              </option>
            ))}
          </Form.Select>
        )}
      </Controlled>
    </div>
  );
}

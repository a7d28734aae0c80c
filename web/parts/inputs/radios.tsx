import type { ReactNode } from 'react';
import { Form } from 'react-bootstrap';

interface RadiosProps<T> {
  /** Tells these from others on the page. */
  name: string;
  options: readonly (readonly [value: T, label: ReactNode, isDisabled?: boolean])[];
  chosen: T;
  onChange: (value: T) => void;
}

/** One of several, each in a line of its own. */
export const Radios = <T extends string | boolean | null>({ name, options, chosen, onChange }: RadiosProps<T>) =>
  options.map(([value, label, isDisabled = false]) => (
    <Form.Check
      key={String(value)}
      type="radio"
      name={name}
      id={`${name}-${value}`}
      label={label}
      disabled={isDisabled}
      checked={chosen === value}
      onChange={() => onChange(value)}
    />
  ));

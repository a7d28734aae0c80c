import { type ReactElement, type ReactNode, type Ref, useEffect, useId } from 'react';
import { Button, Form, type FormControlProps } from 'react-bootstrap';
import { type FieldPath, type FieldPathValue, type FieldValues, get, useController } from 'react-hook-form';
import { faultId, FromBefore, ProblemNote } from '../parts/index.ts';
import type { Sending } from './sending.ts';

interface SendFormProps<V extends FieldValues> {
  sending: Sending<V>;
  className?: string;
  place?: Ref<HTMLFormElement>;
  children: ReactNode;
}

/** A form by the one pattern: the browser itself refuses nothing in it. */
export const SendForm = <V extends FieldValues>({ sending, className, place, children }: SendFormProps<V>) => (
  <Form ref={place} noValidate className={className} onSubmit={sending.submit}>
    {sending.isFromBefore && <FromBefore onGiveUp={sending.giveUp} />}
    {children}
  </Form>
);

/** What stood against sending and belongs to no field; it stands above the buttons. */
export function Refused<V extends FieldValues>({ sending }: { sending: Sending<V> }) {
  const { root } = sending.form.formState.errors;
  return (
    <>
      {root?.message && (
        <p className="fault small" role="alert">
          {root.message}
        </p>
      )}
      {sending.refusal !== null && <ProblemNote error={sending.refusal} />}
    </>
  );
}

interface EndsProps<V extends FieldValues> {
  sending: Sending<V>;
  /** What sending it is called, and leaving it. */
  words: ReactNode;
  leave: string;
  onLeave: () => void;
  /** What else can be done, last in the row. */
  children?: ReactNode;
}

/** How a form ends: it is sent, or left and what was typed given up. */
export const Ends = <V extends FieldValues>({ sending, words, leave, onLeave, children }: EndsProps<V>) => (
  <div className="acts">
    <Button type="submit" disabled={sending.isPending}>
      {words}
    </Button>
    <Button
      variant="quiet"
      onClick={() => {
        sending.giveUp();
        onLeave();
      }}
    >
      {leave}
    </Button>
    {children}
  </div>
);

/** What is wrong with a field, in words; nothing while nothing is. */
const faultAt = <V extends FieldValues>({ form }: Sending<V>, name: string): string | undefined =>
  (get(form.formState.errors, name) as { message?: string } | undefined)?.message;

interface TextFieldProps<V extends FieldValues> extends Omit<FormControlProps, 'name' | 'onChange' | 'value'> {
  sending: Sending<V>;
  name: FieldPath<V>;
  label: string;
  /** The label is heard and not seen. */
  isBare?: boolean;
  /** What is right, before anything is wrong. */
  hint?: ReactNode;
  rows?: number;
  autoFocus?: boolean;
  inputMode?: 'numeric';
}

/** A text to be typed, with its label, what is right, and what is wrong with what stands there. */
export function TextField<V extends FieldValues>(props: TextFieldProps<V>) {
  const { sending, name, label, isBare = false, hint, ...rest } = props;
  const id = useId();
  const fault = faultAt(sending, name);
  const described = [hint && `${id}-hint`, fault && faultId(id)].filter(Boolean).join(' ');
  return (
    <div className="field">
      <Form.Label htmlFor={id} visuallyHidden={isBare}>
        {label}
      </Form.Label>
      <Form.Control
        id={id}
        isInvalid={fault !== undefined}
        aria-describedby={described || undefined}
        {...sending.form.register(name)}
        {...rest}
      />
      <FieldFault id={faultId(id)} words={fault} />
      {hint && (
        <p id={`${id}-hint`} className="small quiet mt-1">
          {hint}
        </p>
      )}
    </div>
  );
}

/** What is wrong with a field, below it. */
const FieldFault = ({ id, words }: { id?: string; words: string | undefined }) =>
  words === undefined ? null : (
    <p id={id} className="fault small mt-1" role="alert">
      {words}
    </p>
  );

interface ControlledProps<V extends FieldValues, N extends FieldPath<V>> {
  sending: Sending<V>;
  name: N;
  /** The id of the control, which is focused where something is wrong with it. */
  id: string;
  children: (value: FieldPathValue<V, N>, onChange: (value: unknown) => void, isInvalid: boolean) => ReactElement;
}

/** A field whose control is more than a text to type, with what is wrong with it. */
export function Controlled<V extends FieldValues, N extends FieldPath<V>>({
  sending,
  name,
  id,
  children,
}: ControlledProps<V, N>) {
  const { field } = useController({ control: sending.form.control, name });
  const { ref, value, onChange } = field;
  useEffect(() => ref({ focus: () => document.getElementById(id)?.focus() }), [ref, id]);
  const fault = faultAt(sending, name);
  return (
    <>
      {children(value, onChange, fault !== undefined)}
      <FieldFault id={faultId(id)} words={fault} />
    </>
  );
}

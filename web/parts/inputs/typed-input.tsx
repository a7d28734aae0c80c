import { type ReactNode, useEffect, useId, useRef, useState } from 'react';
import { Form } from 'react-bootstrap';
import { holdUnread } from './unread.ts';
import { faultId } from './fault-id.ts';

/** What somebody meant by what they typed, or what is wrong with it, in words. */
export type Read<T> = { value: T } | { fault: string };

export interface TypedProps<T> {
  /** `null` where nothing stands there. */
  value: T | null;
  onChange: (value: T | null) => void;
  /** How a value is written where it is not being typed. */
  write: (value: T) => string;
  read: (text: string) => Read<T>;
  /** Whether a text says all it will say, so that it counts before it is left. */
  isOut?: (text: string) => boolean;
  /** There is always a value: an empty box goes back to it when it is left. */
  isNeeded?: boolean;
  /** Somebody else says what is wrong with what stands there. */
  isInvalid?: boolean;
  /** Gets what cannot be read as it was typed, once it is left; whoever takes it says what is wrong with it where it is used. */
  onWrong?: (typed: string) => void;
  label?: string;
  id?: string;
  className?: string;
  inputMode?: 'numeric' | 'decimal' | 'text';
  placeholder?: string;
  disabled?: boolean;
  /** More ways to a value, beside the box. */
  children?: ReactNode;
}

const always = () => true;

/** Stands for the value that somebody makes of what could not be read: whatever it is, it was given here. */
const WHATEVER = '';

/** Whether leaving a box goes to the button that sends what stands in it. */
const isSending = ({ relatedTarget }: { relatedTarget: EventTarget | null }) =>
  relatedTarget instanceof HTMLButtonElement && relatedTarget.type === 'submit';

/** What is being typed in a box, and what is wrong with it. */
function useTyping<T>(props: TypedProps<T>) {
  const { value, onChange, read, isOut = always, isNeeded = false, onWrong } = props;
  const [typed, setTyped] = useState<string | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  // A value that comes from elsewhere, as by an undo, is shown in place of what is being typed.
  const said = JSON.stringify(value);
  const given = useRef(said);
  useEffect(() => {
    if (given.current === WHATEVER) given.current = said;
    if (given.current === said) return;
    given.current = said;
    setTyped(null);
    setFault(null);
  }, [said]);
  const give = (next: T | null) => {
    given.current = JSON.stringify(next);
    if (given.current !== said) onChange(next);
  };
  const take = (text: string): string | null => {
    const found = read(text);
    if ('fault' in found) return found.fault;
    give(found.value);
    return null;
  };
  const type = (text: string) => {
    setTyped(text);
    setFault(null);
    if (text.trim() === '') {
      if (!isNeeded) give(null);
    } else if (isOut(text)) take(text);
  };
  const leave = (isSent: boolean) => {
    if (typed === null) return;
    const found = typed.trim() === '' ? null : take(typed);
    if (found === null) setTyped(null);
    else if (onWrong) {
      given.current = WHATEVER;
      onWrong(typed);
    }
    // A note that comes up while the button is being pressed would move it away: what is sent is refused in words anyway.
    setFault(onWrong && isSent ? null : found);
  };
  return { typed, fault, type, leave };
}

/**
 * A value that is typed as people write it. What stands there while it is typed is what was typed; it is read at each key
 * as far as it says something, and once more when it is left, and then written as a value. What cannot be read stays as
 * it was typed, and is said to be wrong in words once it is left.
 */
export function TypedInput<T>(props: TypedProps<T>) {
  const { value, write, isInvalid = false, onWrong } = props;
  const { typed, fault, type, leave } = useTyping(props);
  const control = useRef<HTMLInputElement>(null);
  const own = useId();
  // What is said around the box goes before what it says itself.
  const ownFault = fault === null ? undefined : own;
  const describedBy = isInvalid ? faultId(props.id ?? own) : ownFault;
  const isHeld = fault !== null && !onWrong;
  useEffect(() => {
    const box = control.current;
    if (!box) return;
    holdUnread(box, isHeld);
    return () => holdUnread(box, false);
  }, [isHeld]);
  return (
    <span className={`typed-input ${props.className ?? ''}`}>
      <Form.Control
        ref={control}
        id={props.id}
        inputMode={props.inputMode}
        autoComplete="off"
        aria-label={props.label}
        aria-describedby={describedBy}
        isInvalid={fault !== null || isInvalid}
        placeholder={props.placeholder}
        disabled={props.disabled}
        value={typed ?? (value === null ? '' : write(value))}
        onChange={(event) => type(event.target.value)}
        onBlur={(event) => leave(isSending(event))}
        onKeyDown={(event) => {
          if (event.key === 'Enter') leave(true);
        }}
      />
      {props.children}
      {fault !== null && !isInvalid && (
        <Form.Control.Feedback type="invalid" id={own} role="alert">
          {fault}
        </Form.Control.Feedback>
      )}
    </span>
  );
}

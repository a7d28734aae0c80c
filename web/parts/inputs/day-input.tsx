import { useId, useRef, useState } from 'react';
import { Form } from 'react-bootstrap';
import { type CivilDate, isCivilDate } from '../../../core/time/index.ts';
import { locale } from '../../words/index.ts';
import { t } from '../../words/parts.ts';
import { dayText, isWrittenOut, readDay } from './day-text.ts';

interface DayInputProps {
  value: CivilDate | null;
  onChange: (day: CivilDate | null) => void;
  label?: string;
  id?: string;
  /** No day before this one. */
  min?: CivilDate;
  /** There is always a day: an empty box goes back to it when it is left. */
  isNeeded?: boolean;
  className?: string;
  /** Somebody else says what is wrong with what stands there. */
  isInvalid?: boolean;
  /** Gets what is no day as it was typed, once it is left; whoever takes it says what is wrong with it where it is used. */
  onWrong?: (typed: string) => void;
}

/** A day, typed as people write one in their language, or picked. What is no day stays as it was typed, and says so once it is left. */
export function DayInput(props: DayInputProps) {
  const { value, onChange, label, id, min, isNeeded = false, className, isInvalid = false, onWrong } = props;
  const [typed, setTyped] = useState<string | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const native = useRef<HTMLInputElement>(null);
  const own = useId();
  const known = value !== null && isCivilDate(value) ? value : null;
  const shown = known === null ? (value ?? '') : dayText(known, locale());
  const take = (text: string): string | null => {
    const day = readDay(text, locale());
    if (day === null) return t('noDay', { example: dayText(min ?? known ?? '2026-03-04', locale()) });
    if (min !== undefined && day < min) return t('dayTooEarly', { day: dayText(min, locale()) });
    if (day !== value) onChange(day);
    return null;
  };
  const type = (text: string) => {
    setTyped(text);
    setFault(null);
    if (text.trim() === '' && !isNeeded) onChange(null);
    else if (isWrittenOut(text)) take(text);
  };
  const leave = (isSent: boolean) => {
    if (typed === null) return;
    const found = typed.trim() === '' ? null : take(typed);
    if (found === null) setTyped(null);
    else onWrong?.(typed);
    // A note that comes up while the button is being pressed would move it away: what is sent is refused in words anyway.
    setFault(onWrong && isSent ? null : found);
  };
  return (
    <span className={`day-input ${className ?? ''}`}>
      <Form.Control
        id={id}
        inputMode="numeric"
        autoComplete="off"
        aria-label={label}
        aria-describedby={fault === null ? undefined : own}
        isInvalid={fault !== null || isInvalid}
        placeholder={t('dayPattern')}
        value={typed ?? shown}
        onChange={(event) => type(event.target.value)}
        onBlur={({ relatedTarget }) =>
          leave(relatedTarget instanceof HTMLButtonElement && relatedTarget.type === 'submit')
        }
        onKeyDown={(event) => {
          if (event.key === 'Enter') leave(true);
        }}
      />
      <button
        type="button"
        aria-label={t('pickADay')}
        title={t('pickADay')}
        onClick={() => native.current?.showPicker()}
      >
        <i aria-hidden="true" />
      </button>
      <input
        ref={native}
        type="date"
        tabIndex={-1}
        aria-hidden="true"
        min={min}
        value={value ?? ''}
        onChange={({ target }) => {
          setTyped(null);
          setFault(null);
          if (target.value !== '' || !isNeeded) onChange(target.value || null);
        }}
      />
      {fault !== null && !isInvalid && (
        <Form.Control.Feedback type="invalid" id={own}>
          {fault}
        </Form.Control.Feedback>
      )}
    </span>
  );
}

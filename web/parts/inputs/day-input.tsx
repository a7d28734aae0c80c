import { useRef } from 'react';
import { type CivilDate, isCivilDate } from '../../../core/time/index.ts';
import { locale } from '../../words/index.ts';
import { t } from '../../words/parts.ts';
import { dayText, isWrittenOut, readDay } from '../../../core/values/index.ts';
import { type Read, TypedInput, type TypedProps } from './typed-input.tsx';

interface DayInputProps
  extends Pick<TypedProps<CivilDate>, 'value' | 'onChange' | 'label' | 'id' | 'isNeeded' | 'isInvalid' | 'onWrong'> {
  /** No day before this one. */
  min?: CivilDate;
  className?: string;
}

/** A day, typed as people write one in their language, or picked. */
export function DayInput({ min, className = '', ...typed }: DayInputProps) {
  const { value, isNeeded = false, onChange } = typed;
  const native = useRef<HTMLInputElement>(null);
  const known = value !== null && isCivilDate(value) ? value : null;
  const read = (text: string): Read<CivilDate> => {
    const day = readDay(text, locale());
    if (day === null) return { fault: t('noDay', { example: dayText(min ?? known ?? '2026-03-04', locale()) }) };
    return min !== undefined && day < min
      ? { fault: t('dayTooEarly', { day: dayText(min, locale()) }) }
      : { value: day };
  };
  return (
    <TypedInput
      {...typed}
      className={`day-input ${className}`}
      inputMode="numeric"
      placeholder={t('dayPattern')}
      write={(day) => (isCivilDate(day) ? dayText(day, locale()) : day)}
      read={read}
      isOut={isWrittenOut}
    >
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
        value={known ?? ''}
        onChange={({ target }) => {
          if (target.value !== '' || !isNeeded) onChange(target.value || null);
        }}
      />
    </TypedInput>
  );
}

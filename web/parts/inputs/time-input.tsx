import type { CivilTime } from '../../../core/time/index.ts';
import { t } from '../../words/parts.ts';
import { isTimeOut, readTime } from './time-text.ts';
import { TypedInput, type TypedProps } from './typed-input.tsx';

type TimeInputProps = Pick<TypedProps<CivilTime>, 'value' | 'onChange' | 'label' | 'id' | 'isNeeded' | 'disabled'>;

/** A time of day, typed as people write one. */
export const TimeInput = (props: TimeInputProps) => (
  <TypedInput
    {...props}
    className="time-input"
    placeholder="08:30"
    write={(time) => time}
    read={(text) => {
      const time = readTime(text);
      return time === null ? { fault: t('noTime') } : { value: time };
    }}
    isOut={isTimeOut}
  />
);

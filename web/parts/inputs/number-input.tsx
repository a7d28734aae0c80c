import { decimalOf } from '../../../core/values/index.ts';
import { figure, locale } from '../../words/index.ts';
import { t } from '../../words/parts.ts';
import { numberText, readNumber } from '../../../core/values/index.ts';
import { TypedInput, type TypedProps } from './typed-input.tsx';

type Common = 'label' | 'id' | 'isInvalid' | 'placeholder';

/** A decimal, typed with the signs of the person's language; kept with every digit. */
export const NumberInput = (
  props: Pick<TypedProps<string>, Common | 'value' | 'onChange' | 'isNeeded' | 'onWrong'>,
) => (
  <TypedInput
    {...props}
    inputMode="decimal"
    write={(value) => (decimalOf(value) === null ? value : numberText(value, locale()))}
    read={(text) => {
      const value = readNumber(text, locale());
      return value === null ? { fault: t('noNumber', { example: numberText('1250.5', locale()) }) } : { value };
    }}
  />
);

interface CountInputProps extends Pick<TypedProps<string>, Common> {
  value: number;
  onChange: (count: number) => void;
  /** The least and the most that mean something. */
  min: number;
  max: number;
}

/** How many: a whole number that is always there, never less or more than means something. */
export const CountInput = ({ min, max, ...props }: CountInputProps) => (
  <TypedInput<number>
    {...props}
    onChange={(count) => count !== null && props.onChange(count)}
    isNeeded
    className="count-input"
    inputMode="numeric"
    write={(count) => figure(count)}
    read={(text) => {
      const count = Number(readNumber(text, locale()) ?? Number.NaN);
      return Number.isInteger(count) && count >= min && count <= max
        ? { value: count }
        : { fault: t('noCount', { min, max }) };
    }}
  />
);

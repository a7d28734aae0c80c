import { useState } from 'react';
import { Form } from 'react-bootstrap';
import { decimalOf, type Money } from '../../../core/values/index.ts';
import { locale } from '../../words/index.ts';
import { t } from '../../words/parts.ts';
import { numberText, readAmount } from '../../../core/values/index.ts';
import { TypedInput, type TypedProps } from './typed-input.tsx';

const CURRENCIES = ['EUR', 'GBP', 'USD', 'JPY'];

interface AmountInputProps
  extends Pick<TypedProps<Money>, 'value' | 'onChange' | 'onWrong' | 'label' | 'id' | 'isInvalid'> {
  /** Of what the amount is, in words. */
  name: string;
}

/** An amount, typed with the signs of the person's language, and its currency, typed with it or chosen. */
export function AmountInput({ name, ...typed }: AmountInputProps) {
  const { value, onChange } = typed;
  // The currency stays where the amount is emptied, or not there yet.
  const [chosen, setChosen] = useState(value?.currency ?? 'EUR');
  const currency = value?.currency ?? chosen;
  const currencies = CURRENCIES.includes(currency) ? CURRENCIES : [...CURRENCIES, currency];
  return (
    <div className="amount-input">
      <TypedInput<Money>
        {...typed}
        inputMode="decimal"
        write={({ amount }) => (decimalOf(amount) === null ? amount : numberText(amount, locale()))}
        read={(text) => {
          const read = readAmount(text, locale());
          if (read) return { value: { amount: read.amount, currency: read.currency ?? currency } };
          return { fault: t('noAmount', { example: numberText('1250.5', locale()) }) };
        }}
      />
      <Form.Select
        aria-label={t('currency', { name })}
        value={currency}
        onChange={(event) => {
          setChosen(event.target.value);
          if (value) onChange({ ...value, currency: event.target.value });
        }}
      >
        {currencies.map((one) => (
          <option key={one}>{one}</option>
        ))}
      </Form.Select>
    </div>
  );
}

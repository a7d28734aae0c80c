import { Form } from 'react-bootstrap';
import { atLocal, dateIn, parseInstant, printInstant, timeIn } from '../../core/time/index.ts';
import { type Field, isMoney, membersOf, type Value } from '../../core/values/index.ts';
import { useViewer } from './viewer.tsx';

interface InputParts {
  field: Field;
  value: Value;
  onChange: (value: Value) => void;
  id: string;
  isInvalid?: boolean;
  label?: string;
}

/** An input that fits a field's type; empty stands for no value. */
export function ValueInput({ field, value, onChange, id, isInvalid, label }: InputParts) {
  const { directory, me } = useViewer();
  const common = { id, isInvalid, 'aria-label': label };
  const text = (event: { target: { value: string } }) =>
    onChange(event.target.value === '' ? null : event.target.value);
  switch (field.type) {
    case 'longText':
      return <Form.Control {...common} as="textarea" rows={3} value={String(value ?? '')} onChange={text} />;
    case 'choice':
      return (
        <Options
          {...common}
          value={String(value ?? '')}
          onChange={onChange}
          options={(field.options ?? []).map((one) => [one, one])}
        />
      );
    case 'person':
      return (
        <Options
          {...common}
          value={String(value ?? '')}
          onChange={onChange}
          options={directory.people.filter((one) => one.isActive || one.id === value).map((one) => [one.id, one.name])}
        />
      );
    case 'boolean':
      return (
        <Options
          {...common}
          value={value === true ? 'yes' : value === false ? 'no' : ''}
          onChange={(next) => onChange(next === null ? null : next === 'yes')}
          options={[
            ['yes', 'yes'],
            ['no', 'no'],
          ]}
        />
      );
    case 'date':
      return <Form.Control {...common} type="date" value={String(value ?? '')} onChange={text} />;
    case 'dateTime': {
      const instant = typeof value === 'string' ? parseInstant(value) : null;
      const shown = instant === null ? '' : `${dateIn(instant, me.zone)}T${timeIn(instant, me.zone)}`;
      return (
        <Form.Control
          {...common}
          type="datetime-local"
          value={shown}
          onChange={(event) =>
            onChange(
              event.target.value
                ? printInstant(atLocal(event.target.value.slice(0, 10), event.target.value.slice(11, 16), me.zone))
                : null,
            )
          }
        />
      );
    }
    case 'number':
      return (
        <Form.Control
          {...common}
          inputMode="decimal"
          value={String(value ?? '')}
          onChange={(event) => onChange(event.target.value === '' ? null : event.target.value)}
        />
      );
    case 'money': {
      const money = isMoney(value) ? value : { amount: '', currency: 'EUR' };
      const put = (next: typeof money) => onChange(next.amount === '' ? null : next);
      return (
        <div style={{ display: 'flex', gap: '0.4rem' }}>
          <Form.Control
            {...common}
            inputMode="decimal"
            value={money.amount}
            onChange={(event) => put({ ...money, amount: event.target.value })}
          />
          <Form.Select
            aria-label={`${field.name}, currency`}
            style={{ width: '6rem' }}
            value={money.currency}
            onChange={(event) => put({ ...money, currency: event.target.value })}
          >
            {[
              'EUR',
              'GBP',
              'USD',
              'JPY',
              ...(['EUR', 'GBP', 'USD', 'JPY'].includes(money.currency) ? [] : [money.currency]),
            ].map((one) => (
              <option key={one}>{one}</option>
            ))}
          </Form.Select>
        </div>
      );
    }
    case 'choices':
      return (
        <Several
          name={id}
          label={label ?? field.name}
          chosen={membersOf(value)}
          onChange={onChange}
          options={(field.options ?? []).map((one) => [one, one])}
        />
      );
    case 'people':
      return (
        <Several
          name={id}
          label={label ?? field.name}
          chosen={membersOf(value)}
          onChange={onChange}
          options={directory.people.filter((one) => one.isActive).map((one) => [one.id, one.name])}
        />
      );
    case 'links':
      return (
        <Form.Control
          {...common}
          value={membersOf(value).join(', ')}
          onChange={(event) =>
            onChange(
              event.target.value
                .split(',')
                .map((one) => one.trim())
                .filter(Boolean),
            )
          }
        />
      );
    default:
      return (
        <Form.Control
          {...common}
          type={field.type === 'email' ? 'email' : field.type === 'url' ? 'url' : 'text'}
          value={String(value ?? '')}
          onChange={text}
        />
      );
  }
}

const Options = ({
  options,
  value,
  onChange,
  ...common
}: {
  id: string;
  isInvalid?: boolean;
  'aria-label'?: string;
  options: [string, string][];
  value: string;
  onChange: (value: string | null) => void;
}) => (
  <Form.Select {...common} value={value} onChange={(event) => onChange(event.target.value || null)}>
    <option value="">empty</option>
    {options.map(([id, name]) => (
      <option key={id} value={id}>
        {name}
      </option>
    ))}
  </Form.Select>
);

export const Several = ({
  name,
  label,
  options,
  chosen,
  onChange,
}: {
  name: string;
  label: string;
  options: [string, string][];
  chosen: string[];
  onChange: (chosen: string[]) => void;
}) => (
  <fieldset className="choices" aria-label={label}>
    {options.map(([id, words]) => (
      <Form.Check
        key={id}
        id={`${name}-${id}`}
        label={words}
        checked={chosen.includes(id)}
        onChange={(event) => onChange(event.target.checked ? [...chosen, id] : chosen.filter((one) => one !== id))}
      />
    ))}
  </fieldset>
);

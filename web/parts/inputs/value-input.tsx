import type { ReactNode } from 'react';
import { Form } from 'react-bootstrap';
import {
  atLocal,
  type CivilDate,
  type CivilTime,
  dateIn,
  MIDNIGHT,
  parseInstant,
  printInstant,
  timeIn,
} from '../../../core/time/index.ts';
import { type Field, type FieldType, isMoney, membersOf, type Value, optionName } from '../../../core/values/index.ts';
import { ChosenItems, ItemFinder } from '../items.tsx';
import { useViewer } from '../viewer.tsx';
import { t } from '../../words/parts.ts';
import { AmountInput } from './amount-input.tsx';
import { DayInput } from './day-input.tsx';
import { faultId } from './fault-id.ts';
import { NumberInput } from './number-input.tsx';
import { TimeInput } from './time-input.tsx';

interface InputParts {
  field: Field;
  value: Value;
  onChange: (value: Value) => void;
  id: string;
  isInvalid?: boolean;
  label?: string;
}

type Input = (parts: InputParts) => ReactNode;

const commonOf = ({ id, isInvalid, label }: InputParts) => ({
  id,
  isInvalid,
  'aria-label': label,
  'aria-describedby': isInvalid ? faultId(id) : undefined,
});
const orNothing = (text: string): string | null => (text === '' ? null : text);

const textInput =
  (type: 'text' | 'email' | 'url'): Input =>
  (parts) => (
    <Form.Control
      {...commonOf(parts)}
      type={type}
      value={String(parts.value ?? '')}
      onChange={(event) => parts.onChange(orNothing(event.target.value))}
    />
  );

const LongText: Input = (parts) => (
  <Form.Control
    {...commonOf(parts)}
    as="textarea"
    rows={3}
    value={String(parts.value ?? '')}
    onChange={(event) => parts.onChange(orNothing(event.target.value))}
  />
);

const DecimalInput: Input = ({ value, field: _, ...parts }) => (
  <NumberInput {...parts} value={value === null ? null : String(value)} onWrong={parts.onChange} />
);

const MoneyInput: Input = ({ value, field, ...parts }) => (
  <AmountInput
    {...parts}
    name={field.name}
    value={isMoney(value) ? value : null}
    onWrong={(amount) => parts.onChange({ amount, currency: isMoney(value) ? value.currency : 'EUR' })}
  />
);

const TruthInput: Input = (parts) => (
  <Options
    {...commonOf(parts)}
    value={typeof parts.value === 'boolean' ? String(parts.value) : ''}
    onChange={(next) => parts.onChange(next === null ? null : next === 'true')}
    options={[
      ['true', t('yes')],
      ['false', t('no')],
    ]}
  />
);

const DateInput: Input = ({ value, field: _, ...parts }) => (
  <DayInput {...parts} value={typeof value === 'string' && value !== '' ? value : null} onWrong={parts.onChange} />
);

/** A day and an hour of the reader's zone; a day alone is its midnight, and an hour waits for its day. */
function DateTimeInput({ field, value, id, label, isInvalid, onChange }: InputParts) {
  const { zone } = useViewer().me;
  const instant = typeof value === 'string' ? parseInstant(value) : null;
  const day = instant === null ? null : dateIn(instant, zone);
  const time = instant === null ? MIDNIGHT : timeIn(instant, zone);
  const put = (on: CivilDate | null, at: CivilTime) =>
    onChange(on === null ? null : printInstant(atLocal(on, at, zone)));
  return (
    <span className="day-and-time">
      <DayInput
        id={id}
        label={label}
        value={day}
        isInvalid={isInvalid}
        onChange={(on) => put(on, time)}
        onWrong={onChange}
      />
      <TimeInput
        label={t('timeOf', { label: label ?? field.name })}
        disabled={day === null}
        value={time}
        isNeeded
        onChange={(at) => at !== null && put(day, at)}
      />
    </span>
  );
}

const named = (field: Field): [string, string][] => (field.options ?? []).map((one) => [one, optionName(field, one)]);

const ChoiceInput: Input = (parts) => (
  <Options
    {...commonOf(parts)}
    value={String(parts.value ?? '')}
    onChange={parts.onChange}
    options={named(parts.field)}
  />
);

const ChoicesInput: Input = (parts) => (
  <Several
    name={parts.id}
    label={parts.label ?? parts.field.name}
    chosen={membersOf(parts.value)}
    onChange={parts.onChange}
    options={named(parts.field)}
  />
);

function PersonInput(parts: InputParts) {
  const { people } = useViewer().directory;
  return (
    <Options
      {...commonOf(parts)}
      value={String(parts.value ?? '')}
      onChange={parts.onChange}
      options={people.filter((one) => one.isActive || one.id === parts.value).map((one) => [one.id, one.name])}
    />
  );
}

function PeopleInput(parts: InputParts) {
  const { people } = useViewer().directory;
  return (
    <Several
      name={parts.id}
      label={parts.label ?? parts.field.name}
      chosen={membersOf(parts.value)}
      onChange={parts.onChange}
      options={people.filter((one) => one.isActive).map((one) => [one.id, one.name])}
    />
  );
}

/** Links to items of another source: found by their titles. One link is replaced by the next; of several one is added. */
const linkInput =
  (isOne: boolean): Input =>
  (parts) => {
    const { field, id, label = field.name, onChange } = parts;
    const chosen = membersOf(parts.value);
    const put = (ids: string[]) => onChange(isOne ? (ids.at(-1) ?? null) : ids);
    return (
      <div className="link-input">
        <ChosenItems
          ids={chosen}
          label={t('chosen', { label })}
          onRemove={(gone) => put(chosen.filter((one) => one !== gone))}
        />
        <ItemFinder
          id={id}
          isQuiet
          source={field.to ?? ''}
          but={chosen}
          label={isOne && chosen.length > 0 ? t('anotherFor', { label }) : t('findFor', { label })}
          onAdd={(item) => put([...chosen, item])}
        />
      </div>
    );
  };

const INPUTS = {
  text: textInput('text'),
  longText: LongText,
  number: DecimalInput,
  money: MoneyInput,
  boolean: TruthInput,
  date: DateInput,
  dateTime: (parts) => <DateTimeInput {...parts} />,
  choice: ChoiceInput,
  choices: ChoicesInput,
  person: (parts) => <PersonInput {...parts} />,
  people: (parts) => <PeopleInput {...parts} />,
  link: linkInput(true),
  links: linkInput(false),
  url: textInput('url'),
  email: textInput('email'),
} satisfies Record<FieldType, Input>;

/** An input that fits a field's type; empty stands for no value. */
export const ValueInput = (parts: InputParts) => INPUTS[parts.field.type](parts);

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
    <option value="">{t('empty')}</option>
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

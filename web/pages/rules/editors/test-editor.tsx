import { Form } from 'react-bootstrap';
import { operatorWords } from '../../../../core/messages/index.ts';
import {
  COMPARES_FIELDS,
  type FieldTest,
  type Operand,
  type Operator,
  operatorsOf,
  otherField,
} from '../../../../core/rules/index.ts';
import {
  type Field,
  isPersonType,
  isSetType,
  isTextType,
  membersOf,
  type Source,
  type Value,
} from '../../../../core/values/index.ts';
import { Several, useViewer, ValueInput } from '../../../parts/index.ts';
import { DurationInput } from './duration-input.tsx';
import { t } from '../../../words/editors.ts';
import { phrases } from '../../../words/index.ts';

/** A first test of a field: the operator one most often wants, with a value that can be. */
export function firstTest(field: Field): FieldTest {
  if (field.type === 'choice') return { field: field.id, op: 'is', value: field.options?.[0] ?? '' };
  if (field.type === 'boolean') return { field: field.id, op: 'is', value: true };
  return { field: field.id, op: 'filled' };
}

const takesList = (op: Operator, field: Field) =>
  op === 'oneOf' ||
  op === 'noneOf' ||
  op === 'includesAny' ||
  op === 'includesAll' ||
  (isSetType(field.type) && op !== 'empty' && op !== 'filled');

/** The operator and the value of a test, as the field's type has them. */
export function TestEditor({
  test,
  field,
  source,
  tense,
  onChange,
}: {
  test: FieldTest;
  field: Field;
  source: Source;
  tense: 'is' | 'was' | 'becomes';
  onChange: (test: FieldTest) => void;
}) {
  const operators = operatorsOf(field.type);
  const setOp = (op: Operator) => onChange({ field: field.id, op, ...valueFor(op, field, test) });
  return (
    <>
      <Form.Select
        aria-label={t('howItIsTested')}
        value={test.op}
        onChange={(event) => setOp(event.target.value as Operator)}
      >
        {operators.map((op) => (
          <option key={op} value={op}>
            {operatorWords(op, tense, phrases())}
          </option>
        ))}
      </Form.Select>
      <BesideWhat test={test} field={field} source={source} onChange={(value) => onChange({ ...test, value })} />
      {otherField(test) === null && (
        <OperandInput test={test} field={field} onChange={(value) => onChange({ ...test, value })} />
      )}
      {isTextType(field.type) && test.op !== 'empty' && test.op !== 'filled' && (
        <Form.Check
          id={`case-${field.id}`}
          label={t('capitalsCount')}
          checked={test.matchCase === true}
          onChange={(event) => {
            const { matchCase: _, ...rest } = test;
            onChange(event.target.checked ? { ...rest, matchCase: true } : rest);
          }}
        />
      )}
    </>
  );
}

/** A value that fits the operator: the one that was there if it can stay. */
function valueFor(op: Operator, field: Field, test: FieldTest): { value?: Operand } {
  if (op === 'empty' || op === 'filled') return {};
  if (op === 'withinNext' || op === 'withinLast') return { value: 'P7D' };
  if (otherField(test) !== null && COMPARES_FIELDS.has(op)) return { value: test.value as Operand };
  const single = singleOf(test);
  const usable =
    single === undefined || test.op === 'withinNext' || test.op === 'withinLast'
      ? ((firstTest(field).value as Value | undefined) ?? '')
      : single;
  if (op === 'between') return { value: [usable, usable] as Operand };
  if (takesList(op, field)) return { value: usable === '' ? [] : membersOf(usable as Value) };
  return { value: usable as Operand };
}

/** The one value that a test compares with, or the first of several; `undefined` where it compares with none. */
function singleOf(test: FieldTest): Value | undefined {
  if (otherField(test) !== null) return undefined;
  return (Array.isArray(test.value) ? test.value[0] : test.value) as Value | undefined;
}

/** Whether a field is compared with a value, or with another field of its type: which. */
function BesideWhat({
  test,
  field,
  source,
  onChange,
}: {
  test: FieldTest;
  field: Field;
  source: Source;
  onChange: (value: Operand) => void;
}) {
  const others = source.fields.filter((one) => one.type === field.type && one.id !== field.id);
  if (others.length === 0 || !COMPARES_FIELDS.has(test.op)) return null;
  return (
    <Form.Select
      aria-label={t('besideWhat')}
      value={otherField(test) ?? ''}
      onChange={({ target }) =>
        onChange(
          target.value === '' ? (valueFor(test.op, field, firstTest(field)).value ?? '') : { field: target.value },
        )
      }
    >
      <option value="">{t('aValue')}</option>
      {others.map((one) => (
        <option key={one.id} value={one.id}>
          {t('theField', { field: one.name })}
        </option>
      ))}
    </Form.Select>
  );
}

function OperandInput({
  test,
  field,
  onChange,
}: {
  test: FieldTest;
  field: Field;
  onChange: (value: Operand) => void;
}) {
  const { op } = test;
  if (op === 'empty' || op === 'filled') return null;
  if (op === 'withinNext' || op === 'withinLast') {
    return (
      <DurationInput
        label={t('howLong')}
        units={['hours', 'days', 'weeks', 'months']}
        value={String(test.value)}
        onChange={onChange}
      />
    );
  }
  if (op === 'between') {
    const [low, high] = test.value as [Value, Value];
    return (
      <>
        {(
          [
            [t('lowest'), low, 0],
            [t('highest'), high, 1],
          ] as const
        ).map(([label, value, at]) => (
          <ValueInput
            key={label}
            id={`between-${at}`}
            label={label}
            field={field}
            value={value}
            onChange={(next) => onChange((at === 0 ? [next, high] : [low, next]) as Operand)}
          />
        ))}
      </>
    );
  }
  if (takesList(op, field)) {
    return <Members field={field} chosen={membersOf(test.value as Value)} onChange={onChange} />;
  }
  const shown = field.type === 'longText' ? { ...field, type: 'text' as const } : field;
  return (
    <ValueInput
      id="operand"
      label={t('theValueOf', { field: field.name })}
      field={shown}
      value={(test.value ?? null) as Value}
      onChange={(value) => onChange(value ?? '')}
    />
  );
}

/** What a field's values are chosen among, each with its name; `null` where they are written. */
function optionsOf(field: Field, people: readonly { id: string; name: string }[]): [string, string][] | null {
  if (field.options) return field.options.map((one) => [one, one]);
  return isPersonType(field.type) ? people.map((one) => [one.id, one.name]) : null;
}

/** Several values of a field: its options, people, or what is written. */
export function Members({
  field,
  chosen,
  onChange,
}: {
  field: Field;
  chosen: string[];
  onChange: (chosen: string[]) => void;
}) {
  const { directory } = useViewer();
  const options = optionsOf(field, directory.people);
  if (options)
    return (
      <Several name={`operand-${field.id}`} label={field.name} options={options} chosen={chosen} onChange={onChange} />
    );
  return (
    <Form.Control
      aria-label={t('valuesPartedByCommas')}
      value={chosen.join(', ')}
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
}

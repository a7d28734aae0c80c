import { Form } from 'react-bootstrap';
import { type Duration, isDuration } from '../../../../core/time/index.ts';
import { CountInput, TypedInput } from '../../../parts/index.ts';
import { t } from '../../../words/editors.ts';

const UNITS = [
  ['minutes', 'PT', 'M'],
  ['hours', 'PT', 'H'],
  ['days', 'P', 'D'],
  ['weeks', 'P', 'W'],
  ['months', 'P', 'M'],
] as const;
export type Unit = (typeof UNITS)[number][0];

/** A duration of one unit, taken apart; `null` where it has several, or a sign. */
export function readDuration(duration: Duration): { count: number; unit: Unit } | null {
  for (const [unit, start, letter] of UNITS) {
    const found = new RegExp(`^${start}(\\d+)${letter}$`).exec(duration);
    if (found) return { count: Number(found[1]), unit };
  }
  return null;
}

export function writeDuration(count: number, unit: Unit): Duration {
  const [, start, letter] = UNITS.find(([name]) => name === unit) ?? UNITS[0];
  return `${start}${count}${letter}`;
}

/** So many minutes, hours, days, weeks or months. A duration of several units stays as it was written, and is edited so. */
export function DurationInput({
  value,
  onChange,
  label,
  units = ['minutes', 'hours', 'days', 'weeks', 'months'],
  least = 1,
}: {
  value: Duration;
  onChange: (value: Duration) => void;
  label: string;
  units?: Unit[];
  least?: number;
}) {
  const read = readDuration(value);
  if (!read)
    return (
      <TypedInput<Duration>
        label={t('asAnISO8601Duration', { label })}
        value={value}
        isNeeded
        write={(written) => written}
        read={(text) => (isDuration(text) ? { value: text } : { fault: t('noDuration') })}
        isOut={() => false}
        onChange={(next) => next !== null && onChange(next)}
      />
    );
  const { count, unit } = read;
  const offered = units.includes(unit) ? units : [...units, unit];
  return (
    <div className="row-of">
      <CountInput
        label={t('howMany', { label })}
        value={count}
        min={least}
        max={10_000}
        onChange={(next) => onChange(writeDuration(next, unit))}
      />
      <Form.Select
        aria-label={t('unit', { label })}
        value={unit}
        onChange={(event) => onChange(writeDuration(count, event.target.value as Unit))}
      >
        {offered.map((one) => (
          <option key={one} value={one}>
            {t(`unit.${one}`)}
          </option>
        ))}
      </Form.Select>
    </div>
  );
}

import { Form } from 'react-bootstrap';
import { WEEKDAYS, type Weekday } from '../../../../core/time/index.ts';
import { CountInput, Several } from '../../../parts/index.ts';
import { t } from '../../../words/editors.ts';

type Days = (Weekday | number)[];

const dayNames = () => [
  t('monday'),
  t('tuesday'),
  t('wednesday'),
  t('thursday'),
  t('friday'),
  t('saturday'),
  t('sunday'),
];

/** On which days of the week; at least one. */
export function DaysOfWeek({ on = ['MO'], onChange }: { on?: Days | undefined; onChange: (on: Days) => void }) {
  return (
    <Several
      name="pace-on"
      label={t('on')}
      options={WEEKDAYS.map((day, index) => [day, dayNames()[index] ?? day])}
      chosen={on.map(String)}
      onChange={(chosen) => {
        const days = WEEKDAYS.filter((day) => chosen.includes(day));
        onChange(days.length > 0 ? days : ['MO']);
      }}
    />
  );
}

/** On which day of the month. */
export const DaysOfMonth = ({ on = [1], onChange }: { on?: Days | undefined; onChange: (on: Days) => void }) => (
  <div>
    <Form.Label htmlFor="pace-day">{t('onDay')}</Form.Label>
    <CountInput id="pace-day" min={1} max={31} value={Number(on[0] ?? 1)} onChange={(day) => onChange([day])} />
  </div>
);

import { Form } from 'react-bootstrap';
import { durationWords } from '../../../../core/messages/index.ts';
import { formatDay } from '../../../../core/values/index.ts';
import { useViewer, DayInput } from '../../../parts/index.ts';
import { Chip } from './chip.tsx';
import { DurationInput } from './duration-input.tsx';
import { datesOf, mark, Part, type PartProps } from './part.tsx';
import { phrases } from '../../../words/index.ts';
import { t } from '../../../words/editors.ts';
import type { Rule } from '../../../../core/rules/index.ts';
import type { CivilDate } from '../../../../core/time/index.ts';

/** The days between which the rule looks at all, and the time around a date of the item. */
export function OnlyWhile(props: PartProps) {
  const { from, until, near } = props.rule.during;
  const hasDays = from !== null || until !== null;
  if (!hasDays && !near) return null;
  return (
    <Part title={t('onlyWhile')} faults={props.faults} path={['during']}>
      {hasDays && <DaysChip {...props} />}
      {near && <NearChip {...props} near={near} />}
    </Part>
  );
}

function DaysChip({ rule, edited, isFixed, onChange }: PartProps) {
  const { from, until } = rule.during;
  const put = (part: Partial<Rule['during']>) => onChange({ ...rule, during: { ...rule.during, ...part } });
  return (
    <Chip
      label={t('betweenWhichDays')}
      className={mark(edited, 'during')}
      disabled={isFixed}
      onRemove={() => put({ from: null, until: null })}
      editor={() => (
        <>
          <div>
            <Form.Label htmlFor="during-from">{t('from')}</Form.Label>
            <DayInput id="during-from" value={from} onChange={(day) => put({ from: day })} />
          </div>
          <div>
            <Form.Label htmlFor="during-until">{t('untilThatDayIncluded')}</Form.Label>
            <DayInput id="during-until" value={until} onChange={(day) => put({ until: day })} />
          </div>
        </>
      )}
    >
      <DayWords name="from2" day={from} /> <DayWords name="until" day={until} />
    </Chip>
  );
}

function DayWords({ name, day }: { name: 'from2' | 'until'; day: CivilDate | null }) {
  const { me } = useViewer();
  return day && t.rich(name, { day: formatDay(day, me.locale) });
}

const isZero = (duration: string): boolean => !/[1-9]/.test(duration);

type Near = NonNullable<Rule['during']['near']>;

function NearChip({ rule, source, near, edited, isFixed, onChange }: PartProps & { near: Near }) {
  const put = (next: Near | null) => onChange({ ...rule, during: { ...rule.during, near: next } });
  const { field, ahead, behind } = near;
  return (
    <Chip
      label={t('nearWhichDate')}
      className={mark(edited, 'during')}
      disabled={isFixed}
      onRemove={() => put(null)}
      editor={() => (
        <>
          <Form.Select
            aria-label={t('date')}
            value={field}
            onChange={(event) => put({ ...near, field: event.target.value })}
          >
            {datesOf(source).map((one) => (
              <option key={one.id} value={one.id}>
                {one.name}
              </option>
            ))}
          </Form.Select>
          <div className="small quiet">{t('fromSoLongBefore')}</div>
          <DurationInput
            label={t('before')}
            least={0}
            value={ahead}
            onChange={(next) => put({ ...near, ahead: next })}
          />
          <div className="small quiet">{t('toSoLongAfter')}</div>
          <DurationInput
            label={t('after')}
            least={0}
            value={isZero(behind) ? 'PT0H' : behind}
            onChange={(next) => put({ ...near, behind: next })}
          />
        </>
      )}
    >
      {t.rich(isZero(behind) ? 'inTheBefore' : 'inTheBeforeAndAfter', {
        duration: durationWords(ahead, phrases()),
        behind: durationWords(behind, phrases()),
        name: source.fields.find((one) => one.id === field)?.name ?? field,
      })}
    </Chip>
  );
}

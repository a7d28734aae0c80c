import { Form } from 'react-bootstrap';
import { durationWords } from '../../../../core/messages/index.ts';
import { formatValue } from '../../../../core/values/index.ts';
import { useViewer } from '../../../parts/index.ts';
import { Chip } from './chip.tsx';
import { DurationInput } from './duration-input.tsx';
import { datesOf, mark, Part, type PartProps } from './part.tsx';
import { phrases } from '../../../words/index.ts';
import { t } from '../../../words/editors.ts';

/** The days between which the rule looks at all, and the time around a date of the item. */
export function OnlyWhile({ rule, source, faults, edited, isFixed, onChange }: PartProps) {
  const { me } = useViewer();
  const { from, until, near } = rule.during;
  const className = mark(edited, 'during');
  const put = (part: Partial<typeof rule.during>) => onChange({ ...rule, during: { ...rule.during, ...part } });
  const dates = datesOf(source);
  const hasDays = from !== null || until !== null;
  const day = (date: string) =>
    formatValue({ id: 'day', name: t('day'), type: 'date' }, date, me, { person: String, item: String });
  const name = (id: string) => source.fields.find((field) => field.id === id)?.name ?? id;
  const isZero = (duration: string) => !/[1-9]/.test(duration);
  if (!hasDays && !near) return null;
  return (
    <Part title={t('onlyWhile')} faults={faults} path={['during']}>
      {hasDays && (
        <Chip
          label={t('betweenWhichDays')}
          className={className}
          disabled={isFixed}
          onRemove={() => put({ from: null, until: null })}
          editor={() => (
            <>
              <div>
                <Form.Label htmlFor="during-from">{t('from')}</Form.Label>
                <Form.Control
                  id="during-from"
                  type="date"
                  value={from ?? ''}
                  onChange={(event) => put({ from: event.target.value || null })}
                />
              </div>
              <div>
                <Form.Label htmlFor="during-until">{t('untilThatDayIncluded')}</Form.Label>
                <Form.Control
                  id="during-until"
                  type="date"
                  value={until ?? ''}
                  onChange={(event) => put({ until: event.target.value || null })}
                />
              </div>
            </>
          )}
        >
          {from && <>{t.rich('from2', { day: day(from) })}</>} {until && <>{t.rich('until', { day: day(until) })}</>}
        </Chip>
      )}
      {near && (
        <Chip
          label={t('nearWhichDate')}
          className={className}
          disabled={isFixed}
          onRemove={() => put({ near: null })}
          editor={() => (
            <>
              <Form.Select
                aria-label={t('date')}
                value={near.field}
                onChange={(event) => put({ near: { ...near, field: event.target.value } })}
              >
                {dates.map((field) => (
                  <option key={field.id} value={field.id}>
                    {field.name}
                  </option>
                ))}
              </Form.Select>
              <div className="small quiet">{t('fromSoLongBefore')}</div>
              <DurationInput
                label={t('before')}
                least={0}
                value={near.ahead}
                onChange={(ahead) => put({ near: { ...near, ahead } })}
              />
              <div className="small quiet">{t('toSoLongAfter')}</div>
              <DurationInput
                label={t('after')}
                least={0}
                value={isZero(near.behind) ? 'PT0H' : near.behind}
                onChange={(behind) => put({ near: { ...near, behind } })}
              />
            </>
          )}
        >
          {t.rich(isZero(near.behind) ? 'inTheBefore' : 'inTheBeforeAndAfter', {
            duration: durationWords(near.ahead, phrases()),
            behind: durationWords(near.behind, phrases()),
            name: name(near.field),
          })}
        </Chip>
      )}
    </Part>
  );
}

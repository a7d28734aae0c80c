import { Form } from 'react-bootstrap';
import { durationWords } from '../../../../core/messages/index.ts';
import { formatValue } from '../../../../core/values/index.ts';
import { useViewer } from '../../../parts/index.ts';
import { Chip } from './chip.tsx';
import { DurationInput } from './duration-input.tsx';
import { datesOf, mark, Part, type PartProps } from './part.tsx';

/** The days between which the rule looks at all, and the time around a date of the item. */
export function OnlyWhile({ rule, source, faults, edited, isFixed, onChange }: PartProps) {
  const { me } = useViewer();
  const { from, until, near } = rule.during;
  const className = mark(edited, 'during');
  const put = (part: Partial<typeof rule.during>) => onChange({ ...rule, during: { ...rule.during, ...part } });
  const dates = datesOf(source);
  const hasDays = from !== null || until !== null;
  const day = (date: string) =>
    formatValue({ id: 'day', name: 'Day', type: 'date' }, date, me, { person: String, item: String });
  const name = (id: string) => source.fields.find((field) => field.id === id)?.name ?? id;
  const isZero = (duration: string) => !/[1-9]/.test(duration);
  if (!hasDays && !near) return null;
  return (
    <Part title="Only while" faults={faults} path={['during']}>
      {hasDays && (
        <Chip
          label="Between which days"
          className={className}
          disabled={isFixed}
          onRemove={() => put({ from: null, until: null })}
          editor={() => (
            <>
              <div>
                <Form.Label htmlFor="during-from">from</Form.Label>
                <Form.Control
                  id="during-from"
                  type="date"
                  value={from ?? ''}
                  onChange={(event) => put({ from: event.target.value || null })}
                />
              </div>
              <div>
                <Form.Label htmlFor="during-until">until, that day included</Form.Label>
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
          {from && (
            <>
              from <strong>{day(from)}</strong>
            </>
          )}{' '}
          {until && (
            <>
              until <strong>{day(until)}</strong>
            </>
          )}
        </Chip>
      )}
      {near && (
        <Chip
          label="Near which date"
          className={className}
          disabled={isFixed}
          onRemove={() => put({ near: null })}
          editor={() => (
            <>
              <Form.Select
                aria-label="Date"
                value={near.field}
                onChange={(event) => put({ near: { ...near, field: event.target.value } })}
              >
                {dates.map((field) => (
                  <option key={field.id} value={field.id}>
                    {field.name}
                  </option>
                ))}
              </Form.Select>
              <div className="small quiet">from so long before</div>
              <DurationInput
                label="Before"
                least={0}
                value={near.ahead}
                onChange={(ahead) => put({ near: { ...near, ahead } })}
              />
              <div className="small quiet">to so long after</div>
              <DurationInput
                label="After"
                least={0}
                value={isZero(near.behind) ? 'PT0H' : near.behind}
                onChange={(behind) => put({ near: { ...near, behind } })}
              />
            </>
          )}
        >
          in the <strong>{durationWords(near.ahead)}</strong> before <strong>{name(near.field)}</strong>
          {!isZero(near.behind) && <> and {durationWords(near.behind)} after</>}
        </Chip>
      )}
    </Part>
  );
}

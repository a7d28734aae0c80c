import { Button, Form } from 'react-bootstrap';
import { LIMITS } from '../../../../contract/limits.ts';
import { durationWords, occasionWords } from '../../../../core/messages/index.ts';
import { type Due, type Idle, isOpen, leadsOf, type Repeat, type StateTest } from '../../../../core/rules/index.ts';
import type { Duration } from '../../../../core/time/index.ts';
import { phrases } from '../../../words/index.ts';
import { t } from '../../../words/editors.ts';
import { TimeInput } from '../../../parts/index.ts';
import { Chip } from './chip.tsx';
import { ConditionTree } from './condition-tree.tsx';
import { Counted } from './counted.tsx';
import { DurationInput } from './duration-input.tsx';
import { datesOf, mark, type PartProps } from './part.tsx';

/** A date that comes near: which, how long before or after it, and while what is so. */
export function DateThat(props: PartProps & { due: Due }) {
  const { rule, due, source, edited, isFixed, onChange } = props;
  const put = (part: Partial<Due>) => onChange({ ...rule, due: { ...due, ...part } });
  const className = mark(edited, 'due');
  const field = source.fields.find((one) => one.id === due.field);
  const leads = leadsOf(due);
  const putLeads = (next: Duration[]) => put({ offset: next.length === 1 ? (next[0] ?? 'PT0S') : next });
  return (
    <>
      <Chip
        label={t('whichDateAndHowLong')}
        className={className}
        disabled={isFixed}
        editor={() => (
          <>
            <Form.Select
              aria-label={t('date')}
              value={due.field}
              onChange={(event) => put({ field: event.target.value })}
            >
              {datesOf(source).map((one) => (
                <option key={one.id} value={one.id}>
                  {one.name}
                </option>
              ))}
            </Form.Select>
            {leads.map((lead, at) => (
              <Lead
                key={at}
                lead={lead}
                nth={at}
                onChange={(next) => putLeads(leads.map((one, other) => (other === at ? next : one)))}
                onDrop={leads.length > 1 ? () => putLeads(leads.filter((_, other) => other !== at)) : null}
              />
            ))}
            {leads.length < LIMITS.leads && (
              <Button variant="link" size="sm" onClick={() => putLeads([...leads, freshLead(leads)])}>
                {t('anotherLead')}
              </Button>
            )}
            <div className="row-of">
              <span className="beside">{t('at')}</span>
              <TimeInput
                label={t('atThisTimeOfDay')}
                value={due.at ?? (field?.type === 'date' ? '09:00' : null)}
                isNeeded={field?.type === 'date'}
                onChange={(at) => put({ at })}
              />
            </div>
            <Form.Check
              id="due-late"
              label={t('toldEvenIfTheDate')}
              checked={due.late === 'now'}
              onChange={(event) => put({ late: event.target.checked ? 'now' : 'skip' })}
            />
          </>
        )}
      >
        <strong>{occasionWords(rule, source, phrases())}</strong>
        {(due.at ?? (field?.type === 'date' ? '09:00' : null)) && t('at2', { at: due.at ?? '09:00' })}
      </Chip>
      <AsLongAs {...props} test={due.if} className={className} onPut={(test) => put({ if: test })} />
      <RepeatChip repeat={due.repeat} className={className} isFixed={isFixed} onChange={(repeat) => put({ repeat })} />
    </>
  );
}

/** A lead time that is not there yet: two days before, or the next number of days that is free. */
function freshLead(leads: readonly Duration[]): Duration {
  for (let days = 2; ; days++) if (!leads.includes(`-P${days}D`)) return `-P${days}D`;
}

interface LeadProps {
  lead: Duration;
  nth: number;
  onChange: (lead: Duration) => void;
  /** Left out where it is the only one. */
  onDrop: (() => void) | null;
}

/** How long before or after the date. */
function Lead({ lead, nth, onChange, onDrop }: LeadProps) {
  const isBefore = lead.startsWith('-');
  const isZero = /^-?PT?0+[A-Z]$/.test(lead);
  const side = isBefore ? 'before' : 'after';
  const setWay = (next: string) =>
    onChange(next === 'on' ? 'PT0S' : `${next === 'before' ? '-' : ''}${isZero ? 'P14D' : lead.replace(/^-/, '')}`);
  return (
    <fieldset className="lead" aria-label={t('leadNth', { nth: nth + 1 })}>
      <Form.Select
        aria-label={t('beforeOrAfter')}
        value={isZero ? 'on' : side}
        onChange={(event) => setWay(event.target.value)}
      >
        <option value="before">{t('beforeIt')}</option>
        <option value="on">{t('atTheDateItself')}</option>
        <option value="after">{t('afterIt')}</option>
      </Form.Select>
      {!isZero && (
        <DurationInput
          label={t('howLong')}
          value={lead.replace(/^-/, '')}
          onChange={(next) => onChange(isBefore ? `-${next}` : next)}
        />
      )}
      {onDrop && (
        <Button variant="link" size="sm" onClick={onDrop}>
          {t('takeLeadAway')}
        </Button>
      )}
    </fieldset>
  );
}

/** Nothing for a while: for how long, and while what is so. */
export function StandstillThat(props: PartProps & { idle: Idle }) {
  const { rule, idle, edited, isFixed, onChange } = props;
  const put = (part: Partial<Idle>) => onChange({ ...rule, idle: { ...idle, ...part } });
  const className = mark(edited, 'idle');
  return (
    <>
      <Chip
        label={t('forHowLongNothingChanges')}
        className={className}
        disabled={isFixed}
        editor={() => (
          <DurationInput label={t('for')} value={idle.for} onChange={(duration) => put({ for: duration })} />
        )}
      >
        {t.rich('noChangeFor', { duration: durationWords(idle.for, phrases()) })}
      </Chip>
      <AsLongAs {...props} test={idle.if} className={className} onPut={(test) => put({ if: test })} />
      <RepeatChip repeat={idle.repeat} className={className} isFixed={isFixed} onChange={(repeat) => put({ repeat })} />
    </>
  );
}

/** What has to be so of the item at the instant of a date, a standstill or a report. */
export function AsLongAs({
  test,
  source,
  className,
  isFixed,
  onPut,
  words = 'while',
}: PartProps & {
  test: StateTest;
  className: string;
  onPut: (test: StateTest) => void;
  words?: 'while' | 'report';
}) {
  return (
    <>
      {words === 'while' && !isOpen(test) && t('while')}
      <ConditionTree
        node={test}
        source={source}
        className={className}
        isFixed={isFixed}
        isOfState
        onChange={(next) => onPut(next as StateTest)}
        addWords={(joiner) =>
          joiner ? t('addJoined', { joiner }) : t(words === 'while' ? 'onlyWhile2' : 'anyThatAre')
        }
      />
    </>
  );
}

function RepeatChip({
  repeat,
  className,
  isFixed,
  onChange,
}: {
  repeat: Repeat | null;
  className: string;
  isFixed: boolean;
  onChange: (repeat: Repeat | null) => void;
}) {
  if (!repeat)
    return isFixed ? null : (
      <button type="button" className="chip is-adding" onClick={() => onChange({ every: 'P1D', times: 3 })}>
        {t('andAgain')}
      </button>
    );
  return (
    <Chip
      label={t('howOftenAgain')}
      className={className}
      disabled={isFixed}
      onRemove={() => onChange(null)}
      editor={() => (
        <>
          <div className="small quiet">{t('againEvery')}</div>
          <DurationInput label={t('every')} value={repeat.every} onChange={(every) => onChange({ ...repeat, every })} />
          <Counted
            label={t('howManyTimesMore')}
            value={repeat.times}
            before={t('upTo')}
            after={t('timesMore')}
            max={1000}
            onChange={(times) => onChange({ ...repeat, times })}
          />
        </>
      )}
    >
      {t.rich('againEveryUpToMore', { duration: durationWords(repeat.every, phrases()), times: repeat.times })}
    </Chip>
  );
}

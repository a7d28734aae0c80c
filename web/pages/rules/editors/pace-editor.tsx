import { Form } from 'react-bootstrap';
import type { Channel, Pace } from '../../../../core/people/index.ts';
import { Several, TimeInput, byWhat } from '../../../parts/index.ts';
import { DaysOfMonth, DaysOfWeek } from './days.tsx';
import { DurationInput } from './duration-input.tsx';
import { RhythmHint } from './rhythm-hint.tsx';
import { t } from '../../../words/editors.ts';

const paces = () =>
  [
    ['now', t('atOnce')],
    ['settled', t('onceItHasSettled')],
    ['hour', t('inAnHourlyDigest')],
    ['day', t('inADailyDigest')],
    ['week', t('inAWeeklyDigest')],
    ['month', t('inAMonthlyDigest')],
  ] as const;
function paceOf(kind: string, at: string): Pace {
  if (kind === 'now') return { kind };
  return kind === 'settled' ? { kind, quiet: 'PT10M', most: 'PT2H' } : { kind: 'digest', every: kind as 'day', at };
}

/** How soon: at once, or gathered for a digest at a set time of the reader's own day. */
export function PaceEditor({
  pace,
  maySettle = true,
  mayGather = true,
  of,
  onChange,
}: {
  pace: Pace;
  maySettle?: boolean;
  mayGather?: boolean;
  /** What is told of, so that waiting for it to settle can go by its own past; left out where that is nothing in particular. */
  of?: { source: string; item: string | null };
  onChange: (pace: Pace) => void;
}) {
  const kind = pace.kind === 'digest' ? pace.every : pace.kind;
  const at = pace.kind === 'digest' ? pace.at : '08:30';
  return (
    <>
      <Form.Select
        aria-label={t('howSoon')}
        value={kind}
        onChange={(event) => onChange(paceOf(event.target.value, at))}
      >
        {paces()
          .filter(([value]) => value === kind || value === 'now' || (value === 'settled' ? maySettle : mayGather))
          .map(([value, words]) => (
            <option key={value} value={value}>
              {words}
            </option>
          ))}
      </Form.Select>
      {!maySettle && <p className="small quiet">{t('datesStandstillsAndWhatPiles')}</p>}
      {!mayGather && <p className="small quiet">{t('whatHasToBeAcknowledged')}</p>}
      {pace.kind === 'settled' && (
        <>
          <div className="small quiet">{t('onceNothingMoreHasChanged')}</div>
          <DurationInput
            label={t('quietFor')}
            units={['minutes', 'hours', 'days']}
            value={pace.quiet}
            onChange={(quiet) => onChange({ ...pace, quiet })}
          />
          {of && <RhythmHint {...of} quiet={pace.quiet} onChange={(quiet) => onChange({ ...pace, quiet })} />}
          <div className="small quiet">{t('atTheLatestAfter2')}</div>
          <DurationInput
            label={t('atTheLatestAfter3')}
            units={['minutes', 'hours', 'days']}
            value={pace.most}
            onChange={(most) => onChange({ ...pace, most })}
          />
        </>
      )}
      {pace.kind === 'digest' && (
        <div>
          <Form.Label htmlFor="pace-at">{pace.every === 'hour' ? t('atThisMinute') : t('atInEachOnesOwn')}</Form.Label>
          <TimeInput
            id="pace-at"
            value={at}
            isNeeded
            onChange={(time) => time !== null && onChange({ ...pace, at: time })}
          />
        </div>
      )}
      {pace.kind === 'digest' && pace.every === 'week' && (
        <DaysOfWeek on={pace.on} onChange={(on) => onChange({ ...pace, on })} />
      )}
      {pace.kind === 'digest' && pace.every === 'month' && (
        <DaysOfMonth on={pace.on} onChange={(on) => onChange({ ...pace, on })} />
      )}
    </>
  );
}

const CHANNELS: Channel[] = ['inApp', 'email', 'text'];

/** By what: as each one's plan says, or by these channels at once. */
export function ChannelsEditor({
  channels,
  onChange,
}: {
  channels: Channel[] | null;
  onChange: (channels: Channel[] | null) => void;
}) {
  return (
    <>
      <Form.Check
        type="radio"
        id="by-plan"
        name="by-what"
        label={t('asEachOnesDeliveryPlan')}
        checked={channels === null}
        onChange={() => onChange(null)}
      />
      <Form.Check
        type="radio"
        id="by-these"
        name="by-what"
        label={t('byTheseWhateverTheirPlan')}
        checked={channels !== null}
        onChange={() => onChange(['inApp', 'email'])}
      />
      {channels !== null && (
        <div style={{ paddingLeft: '1.5rem' }}>
          <Several
            name="channel"
            label={t('channels')}
            options={CHANNELS.map((one) => [one, byWhat(one)])}
            chosen={channels}
            onChange={(chosen) => onChange(chosen.length === 0 ? null : CHANNELS.filter((one) => chosen.includes(one)))}
          />
        </div>
      )}
    </>
  );
}

import { Form } from 'react-bootstrap';
import type { Channel, Pace } from '../../../../core/people/index.ts';
import { WEEKDAYS } from '../../../../core/time/index.ts';
import { CHANNEL_WORDS } from '../../../../contract/words.ts';
import { Several } from '../../../parts/index.ts';
import { DurationInput } from './duration-input.tsx';

const PACES = [
  ['now', 'at once'],
  ['settled', 'once it has settled'],
  ['hour', 'in an hourly digest'],
  ['day', 'in a daily digest'],
  ['week', 'in a weekly digest'],
  ['month', 'in a monthly digest'],
] as const;
const DAY_NAMES = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'];

function paceOf(kind: string, at: string): Pace {
  if (kind === 'now') return { kind };
  return kind === 'settled' ? { kind, quiet: 'PT10M', most: 'PT2H' } : { kind: 'digest', every: kind as 'day', at };
}

/** How soon: at once, or gathered for a digest at a set time of the reader's own day. */
export function PaceEditor({
  pace,
  maySettle = true,
  mayGather = true,
  onChange,
}: {
  pace: Pace;
  maySettle?: boolean;
  mayGather?: boolean;
  onChange: (pace: Pace) => void;
}) {
  const kind = pace.kind === 'digest' ? pace.every : pace.kind;
  const at = pace.kind === 'digest' ? pace.at : '08:30';
  return (
    <>
      <Form.Select aria-label="How soon" value={kind} onChange={(event) => onChange(paceOf(event.target.value, at))}>
        {PACES.filter(
          ([value]) => value === kind || value === 'now' || (value === 'settled' ? maySettle : mayGather),
        ).map(([value, words]) => (
          <option key={value} value={value}>
            {words}
          </option>
        ))}
      </Form.Select>
      {!maySettle && (
        <p className="small quiet">
          Dates, standstills and what piles up are told at their instant: they do not settle.
        </p>
      )}
      {!mayGather && <p className="small quiet">What has to be acknowledged cannot wait for a digest.</p>}
      {pace.kind === 'settled' && (
        <>
          <div className="small quiet">once nothing more has changed for</div>
          <DurationInput
            label="Quiet for"
            units={['minutes', 'hours', 'days']}
            value={pace.quiet}
            onChange={(quiet) => onChange({ ...pace, quiet })}
          />
          <div className="small quiet">at the latest after</div>
          <DurationInput
            label="At the latest after"
            units={['minutes', 'hours', 'days']}
            value={pace.most}
            onChange={(most) => onChange({ ...pace, most })}
          />
        </>
      )}
      {pace.kind === 'digest' && (
        <div>
          <Form.Label htmlFor="pace-at">
            {pace.every === 'hour' ? 'at this minute' : 'at, in each one’s own zone'}
          </Form.Label>
          <Form.Control
            id="pace-at"
            type="time"
            required
            value={at}
            onChange={(event) => event.target.value && onChange({ ...pace, at: event.target.value })}
          />
        </div>
      )}
      {pace.kind === 'digest' && pace.every === 'week' && (
        <Several
          name="pace-on"
          label="On"
          options={WEEKDAYS.map((day, index) => [day, DAY_NAMES[index] ?? day])}
          chosen={(pace.on ?? ['MO']).map(String)}
          onChange={(on) =>
            onChange({
              ...pace,
              on:
                WEEKDAYS.filter((day) => on.includes(day)).length > 0
                  ? WEEKDAYS.filter((day) => on.includes(day))
                  : ['MO'],
            })
          }
        />
      )}
      {pace.kind === 'digest' && pace.every === 'month' && (
        <div>
          <Form.Label htmlFor="pace-day">on day</Form.Label>
          <Form.Control
            id="pace-day"
            type="number"
            min={1}
            max={31}
            value={String(pace.on?.[0] ?? 1)}
            onChange={(event) =>
              onChange({ ...pace, on: [Math.min(31, Math.max(1, Number(event.target.value) || 1))] })
            }
          />
        </div>
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
        label="as each one’s delivery plan says"
        checked={channels === null}
        onChange={() => onChange(null)}
      />
      <Form.Check
        type="radio"
        id="by-these"
        name="by-what"
        label="by these, whatever their plan says"
        checked={channels !== null}
        onChange={() => onChange(['inApp', 'email'])}
      />
      {channels !== null && (
        <div style={{ paddingLeft: '1.5rem' }}>
          <Several
            name="channel"
            label="Channels"
            options={CHANNELS.map((one) => [one, CHANNEL_WORDS[one]])}
            chosen={channels}
            onChange={(chosen) => onChange(chosen.length === 0 ? null : CHANNELS.filter((one) => chosen.includes(one)))}
          />
        </div>
      )}
    </>
  );
}

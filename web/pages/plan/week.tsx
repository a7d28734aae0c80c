import type { ReplayedMessage } from '../../../contract/wire/index.ts';
import { quietEnd } from '../../../core/pace/index.ts';
import type { Pace, QuietHours, Urgency } from '../../../core/people/index.ts';
import {
  addDays,
  atLocal,
  type CivilDate,
  dateIn,
  instantOf,
  timeIn,
  WEEKDAYS,
  weekday,
} from '../../../core/time/index.ts';
import { useViewer } from '../../parts/index.ts';
import { t } from '../../words/plan.ts';
import type { DrawnAway } from './away-days.ts';

const dayNames = () => [
  t('monday'),
  t('tuesday'),
  t('wednesday'),
  t('thursday'),
  t('friday'),
  t('saturday'),
  t('sunday'),
];
const WIDTH = 700;
const HOURS = [0, 3, 6, 9, 12, 15, 18, 21, 24];
const ROW = 28;
/** The line of hours above the days. */
const HEAD = 22;
const OPEN = 170;

const minutes = (time: string) => Number(time.slice(0, 2)) * 60 + Number(time.slice(3, 5));
const x = (minute: number) => (minute / 1440) * WIDTH;

/** The quiet hours of one day as spans of its minutes: a window that runs into the next day belongs to the day it began. */
export function quietOn(day: CivilDate, quiet: readonly QuietHours[]): [number, number][] {
  const name = (date: CivilDate) => WEEKDAYS[weekday(date) - 1] as (typeof WEEKDAYS)[number];
  const spans = quiet.flatMap(({ days, from, to }): [number, number][] => {
    const [start, end] = [minutes(from), minutes(to)];
    if (start === end) return [];
    const own: [number, number][] = days.includes(name(day)) ? [[start, end > start ? end : 1440]] : [];
    const before: [number, number][] = end < start && days.includes(name(addDays(day, -1))) ? [[0, end]] : [];
    return [...before, ...own];
  });
  // Hours that never end are none, as the engine has it.
  return spans.filter(([from]) => quietEnd(quiet, atLocal(day, '00:00', 'UTC') + from * 60_000, 'UTC') !== null);
}

interface WeekProps {
  rows: ReplayedMessage[];
  quiet: readonly QuietHours[];
  digests: readonly Pace[];
  days: CivilDate[];
  absence: DrawnAway;
  open: CivilDate;
  onOpen: (day: CivilDate) => void;
}

/** A week at a glance: quiet hours shaded, digests as lines, days away hatched with who hears then; the open day shows what happened above, what was sent below, and the waiting between as slanted lines. */
export function Week({ rows, quiet, digests, days, absence, open, onOpen }: WeekProps) {
  const { me } = useViewer();
  const heights = days.map((day) => (day === open ? OPEN : ROW));
  const tops = days.map((day, at) => ({
    day,
    height: heights[at] ?? ROW,
    top: heights.slice(0, at).reduce((sum, one) => sum + one, 0),
  }));
  const height = heights.reduce((sum, one) => sum + one, 0);
  const sent = rows.filter((row) => row.channel !== 'inApp');
  const minuteIn = (at: string, day: CivilDate) => {
    const date = dateIn(instantOf(at), me.zone);
    if (date !== day) return date < day ? -60 : 1500;
    return minutes(timeIn(instantOf(at), me.zone));
  };
  return (
    <div className="week">
      <div className="week-names">
        {tops.map(({ day, top, height: own }) => (
          <button
            key={day}
            type="button"
            style={{ top: `${((top + HEAD) / (height + HEAD)) * 100}%`, height: `${(own / (height + HEAD)) * 100}%` }}
            aria-pressed={day === open}
            onClick={() => onOpen(day)}
          >
            {dayNames()[weekday(day) - 1]}
          </button>
        ))}
      </div>
      <svg
        className="week-picture"
        viewBox={`0 ${-HEAD} ${WIDTH} ${height + HEAD}`}
        role="img"
        aria-label={t('theWeekFromOnEmails', { days: days[0] ?? '', sent: sent.length })}
      >
        <defs>
          <pattern id="week-away" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
            <path className="hatch" d="M0 0V7" />
          </pattern>
        </defs>
        {HOURS.map((hour) => (
          <text key={hour} x={Math.min(WIDTH - 14, x(hour * 60) + (hour === 0 ? 0 : -7))} y={-8}>
            {String(hour).padStart(2, '0')}
          </text>
        ))}
        {tops.map(({ day, top, height: own }) => (
          <g key={day} transform={`translate(0 ${top})`} className={absence.away.has(day) ? 'is-away' : undefined}>
            <rect className="waking" x={0} y={1} width={WIDTH} height={own - 2} />
            {quietOn(day, quiet).map(([from, to]) => (
              <rect key={from} className="quiet-hours" x={x(from)} y={1} width={x(to) - x(from)} height={own - 2} />
            ))}
            {absence.away.has(day) && <rect fill="url(#week-away)" x={0} y={1} width={WIDTH} height={own - 2} />}
            {digests
              .flatMap((pace) => (pace.kind === 'digest' && pace.every === 'day' ? [pace.at] : []))
              .map((at) => (
                <path key={at} className="digest-line" d={`M${x(minutes(at))} 1V${own - 1}`} />
              ))}
            {day === open ? (
              <Slanted
                rows={sent}
                inOjo={rows.filter((row) => row.channel === 'inApp')}
                day={day}
                minuteIn={minuteIn}
              />
            ) : (
              sent
                .filter((row) => dateIn(instantOf(row.at), me.zone) === day)
                .map((row) => (
                  <circle
                    key={`${row.at} ${row.channel} ${row.subject}`}
                    cx={x(minuteIn(row.at, day))}
                    cy={own / 2}
                    r={3}
                    className={`dot-${row.urgency}`}
                  />
                ))
            )}
            <WhoHears words={absence.away.get(day) ?? absence.also.get(day)} y={day === open ? 12 : own / 2 + 4} />
          </g>
        ))}
      </svg>
    </div>
  );
}

/** Who hears on a day away, or for whom one hears too; in the small hours, where it stands out of the way. */
const WhoHears = ({ words, y }: { words: string | undefined; y: number }) =>
  words === undefined ? null : (
    <text className="who-hears" x={4} y={y}>
      {words}
    </text>
  );

const HAPPENED = 40;
const SENT = 130;

function Slanted({
  rows,
  inOjo,
  day,
  minuteIn,
}: {
  rows: ReplayedMessage[];
  inOjo: ReplayedMessage[];
  day: CivilDate;
  minuteIn: (at: string, day: CivilDate) => number;
}) {
  const { me } = useViewer();
  const shown = rows.filter((row) =>
    [row.at, ...row.arose].some((at) => minuteIn(at, day) >= 0 && minuteIn(at, day) <= 1440),
  );
  return (
    <>
      <path className="base" d={`M0 ${HAPPENED}H${WIDTH}M0 ${SENT}H${WIDTH}`} />
      {shown.map((row) => (
        <g key={`${row.at} ${row.channel} ${row.subject}`} className={`of-${row.urgency satisfies Urgency}`}>
          {row.arose.map((at, index) => (
            <path
              key={`${at} ${index + 1}`}
              className="slant"
              d={`M${x(minuteIn(at, day))} ${HAPPENED}L${x(minuteIn(row.at, day))} ${SENT}`}
            />
          ))}
          {row.arose.map((at, index) => (
            <path
              key={`${at} ${index + 1} tick`}
              className="tick"
              d={`M${x(minuteIn(at, day))} ${HAPPENED - 12}V${HAPPENED}`}
            />
          ))}
          {minuteIn(row.at, day) >= 0 && minuteIn(row.at, day) <= 1440 && (
            <circle cx={x(minuteIn(row.at, day))} cy={SENT} r={4.5} />
          )}
        </g>
      ))}
      {inOjo
        .filter((row) => dateIn(instantOf(row.at), me.zone) === day)
        .map((row) => (
          <path
            key={`${row.at} ${row.subject}`}
            className={`tick of-${row.urgency}`}
            d={`M${x(minuteIn(row.at, day))} ${HAPPENED - 8}V${HAPPENED}`}
          />
        ))}
      <text x={4} y={HAPPENED - 16}>
        {t('happensAndStandsInOjo')}
      </text>
      <text x={4} y={SENT + 18}>
        {t('sentToYou')}
      </text>
    </>
  );
}

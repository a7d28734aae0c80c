import { Line, LineChart, ReferenceDot, ReferenceLine, ResponsiveContainer, XAxis, YAxis } from 'recharts';
import type { MessagePage } from '../../../contract/wire/index.ts';
import { instantOf } from '../../../core/time/index.ts';
import { formatInstant } from '../../../core/values/index.ts';
import { shortTime, useViewer } from '../../parts/index.ts';
import { t } from '../../words/inbox.ts';
import { phrases } from '../../words/index.ts';

type Reading = NonNullable<MessagePage['reading']>;

/** The readings around a figure that a rule compares them with: the line, the figure, and where the message arose. */
export default function ReadingLine({ reading, name, at }: { reading: Reading; name: string; at: string }) {
  const { me } = useViewer();
  const points = reading.points.map((point) => ({ at: instantOf(point.at), value: point.value }));
  const told = points.findLast((point) => point.at <= instantOf(at)) ?? points.at(-1);
  const [first, last] = [points[0], points.at(-1)];
  if (!first || !last || !told) return null;
  const figures = [...points.map((point) => point.value), ...reading.lines];
  const [low, high] = [Math.min(...figures), Math.max(...figures)];
  const room = (high - low || 1) * 0.12;
  const number = new Intl.NumberFormat(me.locale, { maximumFractionDigits: 2 });
  const words = t('fromToLowestHighestAgainst', {
    name,
    start: formatInstant(first.at, me),
    end: formatInstant(last.at, me),
    lowest: number.format(Math.min(...points.map((point) => point.value))),
    highest: number.format(Math.max(...points.map((point) => point.value))),
    lines: phrases().and(reading.lines.map((line) => number.format(line))),
  });
  return (
    <figure className="reading-line" aria-label={words}>
      <ResponsiveContainer width="100%" height={132}>
        <LineChart data={points} margin={{ top: 10, right: 8, bottom: 0, left: 0 }} accessibilityLayer={false}>
          <XAxis
            dataKey="at"
            type="number"
            domain={['dataMin', 'dataMax']}
            tick={false}
            tickLine={false}
            axisLine={{ stroke: 'var(--line)' }}
            height={4}
          />
          <YAxis
            domain={[low - room, high + room]}
            ticks={reading.lines}
            tickFormatter={(figure: number) => number.format(figure)}
            width={34}
            tickLine={false}
            axisLine={false}
            tick={{ fill: 'var(--ink)', fontSize: 12, fontWeight: 600 }}
          />
          {reading.lines.map((line) => (
            <ReferenceLine key={line} y={line} stroke="var(--ink)" strokeDasharray="4 3" />
          ))}
          <Line
            dataKey="value"
            type="linear"
            stroke="var(--ink-2)"
            strokeWidth={1.5}
            dot={false}
            isAnimationActive={false}
          />
          <ReferenceDot x={told.at} y={told.value} r={5} fill="var(--saffron)" stroke="#17211c" />
        </LineChart>
      </ResponsiveContainer>
      <div className="ends">
        <time>{shortTime(first.at, instantOf(me.now), me)}</time>
        <time>{shortTime(last.at, instantOf(me.now), me)}</time>
      </div>
      <figcaption className="small quiet">
        {t('atAgainst', {
          name,
          value: number.format(told.value),
          time: shortTime(told.at, instantOf(me.now), me),
          lines: phrases().and(reading.lines.map((line) => number.format(line))),
        })}
      </figcaption>
    </figure>
  );
}

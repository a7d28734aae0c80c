import { type KeyboardEvent, type PointerEvent, useRef } from 'react';
import type { TallyLine } from '../../../../contract/wire/index.ts';
import type { Rule, Tally } from '../../../../core/rules/index.ts';
import { instantOf } from '../../../../core/time/index.ts';
import { isMoney } from '../../../../core/values/index.ts';
import { shortTime, useViewer } from '../../../parts/index.ts';
import { useTally } from '../../../queries/index.ts';
import { t } from '../../../words/editors.ts';
import { rangeOf, timesTold } from './tally-line.ts';

const WIDTH = 600;
const HEIGHT = 150;

/** The last 90 days of a tally with its mark, which is dragged to where it would have told as often as it should. */
export function TallyChart({
  rule,
  tally,
  isFixed,
  onMark,
}: {
  rule: Rule;
  tally: Tally;
  isFixed: boolean;
  onMark: (value: Tally['becomes']['value']) => void;
}) {
  const { data } = useTally(rule);
  const { value, op } = tally.becomes;
  const mark = Number(isMoney(value) ? value.amount : value);
  if (!data || Number.isNaN(mark)) return data ? null : <p className="hint">{t('tallyCounting')}</p>;
  if (data.parts.length === 0) return <p className="hint">{t('tallyNothingYet')}</p>;
  const put = (next: number) => onMark(isMoney(value) ? { ...value, amount: String(next) } : next);
  return (
    <figure className="tally-line">
      <Drawn line={data} mark={mark} isFixed={isFixed} onMark={put} />
      <figcaption className="small">
        {t('tallyWouldHaveTold', { times: timesTold(data, op, mark) })}{' '}
        {data.parts.length > 1 && (
          <span className="quiet">
            {t('tallyParts', {
              parts: data.parts.length + data.more,
              most: data.parts[0]?.name || t('tallyEmpty'),
            })}
          </span>
        )}
      </figcaption>
    </figure>
  );
}

function Drawn({
  line,
  mark,
  isFixed,
  onMark,
}: {
  line: TallyLine;
  mark: number;
  isFixed: boolean;
  onMark: (mark: number) => void;
}) {
  const { me } = useViewer();
  const drawing = useRef<SVGSVGElement>(null);
  const { low, high, step } = rangeOf(line, mark);
  const [from, until] = [instantOf(line.from), instantOf(line.until)];
  const x = (at: number) => ((at - from) / (until - from || 1)) * WIDTH;
  const y = (figure: number) => HEIGHT - ((figure - low) / (high - low)) * HEIGHT;
  const number = new Intl.NumberFormat(me.locale);
  /** A part as steps: it stays what it is until it moves. */
  const path = (moves: TallyLine['parts'][number]['moves']) => {
    const drawn = moves.map(({ at, value }, nth) => {
      const place = `${x(Math.max(from, instantOf(at))).toFixed(1)}`;
      return nth === 0 ? `M${place},${y(value).toFixed(1)}` : `H${place}V${y(value).toFixed(1)}`;
    });
    return `${drawn.join('')}H${WIDTH}`;
  };
  const bounded = (figure: number) => Math.min(high, Math.max(low, Math.round(figure / step) * step));
  const drag = (event: PointerEvent<SVGGElement>) => {
    const box = drawing.current?.getBoundingClientRect();
    if (!box || event.buttons === 0) return;
    onMark(bounded(low + (1 - (event.clientY - box.top) / box.height) * (high - low)));
  };
  const keys: Record<string, number> = { ArrowUp: step, ArrowDown: -step, PageUp: 10 * step, PageDown: -10 * step };
  const press = (event: KeyboardEvent) => {
    const by = keys[event.key];
    if (by === undefined) return;
    event.preventDefault();
    onMark(bounded(mark + by));
  };
  return (
    <>
      <svg ref={drawing} viewBox={`0 0 ${WIDTH} ${HEIGHT}`} preserveAspectRatio="none">
        <title>{t('tallyOver90Days')}</title>
        {line.parts.map(({ part, moves }, nth) => (
          <path key={part} d={path(moves)} className={nth === 0 ? 'is-first' : ''} vectorEffect="non-scaling-stroke" />
        ))}
        <g
          className={isFixed ? 'mark' : 'mark is-dragged'}
          {...(isFixed
            ? {}
            : {
                role: 'slider',
                tabIndex: 0,
                'aria-label': t('theMark'),
                'aria-valuenow': mark,
                'aria-valuemin': low,
                'aria-valuemax': high,
                'aria-orientation': 'vertical' as const,
                onKeyDown: press,
                onPointerDown: (event: PointerEvent<SVGGElement>) => {
                  event.currentTarget.setPointerCapture(event.pointerId);
                  drag(event);
                },
                onPointerMove: drag,
              })}
        >
          <rect x={0} y={y(mark) - 9} width={WIDTH} height={18} />
          <line x1={0} x2={WIDTH} y1={y(mark)} y2={y(mark)} vectorEffect="non-scaling-stroke" />
        </g>
      </svg>
      <div className="ends">
        <time>{shortTime(from, instantOf(me.now), me)}</time>
        <strong>
          {t('tallyMark', {
            mark: number.format(mark),
            most: number.format(Math.max(...line.parts.flatMap(({ moves }) => moves.map(({ value }) => value)))),
          })}
        </strong>
        <time>{shortTime(until, instantOf(me.now), me)}</time>
      </div>
    </>
  );
}

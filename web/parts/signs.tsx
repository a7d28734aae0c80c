import type { CSSProperties } from 'react';
import type { RuleRow } from '../../contract/wire/index.ts';
import type { Urgency } from '../../core/people/index.ts';
import { DAY_MS, instantOf } from '../../core/time/index.ts';
import { t } from '../words/parts.ts';

/** *critical*, in the middle of a line. */
export const urgencyName = (urgency: Urgency): string => t(`urgency.${urgency}`);
/** *Critical*, at its beginning. */
export const urgencyWords = (urgency: Urgency): string =>
  urgencyName(urgency).replace(/^./, (first) => first.toUpperCase());

/** Urgency is the thickness of the margin bar; its name is there for those who cannot see it. */
export const UrgencyBar = ({ urgency }: { urgency: Urgency }) => (
  <span className={`bar bar-${urgency}`} title={urgencyName(urgency)}>
    <span className="visually-hidden">{urgencyName(urgency)}: </span>
  </span>
);

const stateWords = () => ({ draft: t('draft'), live: t('live'), ended: t('ended') });

/** How a rule stands; in other words than the state's own where they say more. */
export const RuleState = ({ state, words }: { state: RuleRow['state']; words?: string }) => (
  <span>
    <span className={`state-dot is-${state}`} aria-hidden="true" />
    <strong>{words ?? stateWords()[state]}</strong>
  </span>
);

/** Days along a line, `width` pixels of them: every change a grey tick, every caught one saffron. A wide one stretches to its place. */
export function Timeline({
  all,
  caught,
  now,
  days = 30,
  width = 176,
  height = 24,
  isWide = false,
  label,
}: {
  all: string[];
  caught: string[];
  now: string;
  days?: number;
  width?: number;
  height?: number;
  isWide?: boolean;
  label?: string;
}) {
  const end = instantOf(now);
  const span = days * DAY_MS;
  const places = (instants: string[]) =>
    instants.map((at) => ((instantOf(at) - (end - span)) / span) * (width - MARK)).filter((x) => x >= 0 && x <= width);
  return (
    <svg
      className={`timeline${isWide ? ' is-wide' : ''}`}
      width={width}
      height={height}
      viewBox={`0 0 ${width} ${height}`}
      preserveAspectRatio="none"
      role="img"
      aria-label={label ?? t('daysCaught', { days, caught: caught.length })}
    >
      {all.length > 0 && (
        <path
          className="all"
          d={thin(places(all))
            .map((x) => `M${x} ${height * 0.35}V${height - 1}`)
            .join('')}
          vectorEffect="non-scaling-stroke"
          strokeWidth="1"
        />
      )}
      {merge(places(caught)).map(([from, to]) => (
        <rect
          key={from}
          className="caught"
          x={from}
          y={1}
          width={to - from}
          height={height - 2}
          vectorEffect="non-scaling-stroke"
        />
      ))}
      <path className="base" d={`M0 ${height - 0.5}H${width}`} vectorEffect="non-scaling-stroke" />
    </svg>
  );
}

/** How wide one caught change is drawn, in pixels. */
const MARK = 4;

/** Ticks on the same pixel would only darken the line. */
const thin = (places: number[]) => [...new Set(places.map((x) => Math.round(x) + 0.5))];

/** Marks that touch become one. */
function merge(places: number[]): [number, number][] {
  const merged: [number, number][] = [];
  for (const at of [...places].sort((a, b) => a - b)) {
    const last = merged.at(-1);
    if (last && at <= last[1] + 1) last[1] = Math.max(last[1], at + MARK);
    else merged.push([at, at + MARK]);
  }
  return merged;
}

/** How much of what was told was read. */
export const ShareRead = ({ told, read }: { told: number; read: number }) => {
  if (told === 0) return <span className="quiet">{t('none')}</span>;
  const share = Math.round((read / told) * 100);
  return (
    <span className="share num" style={{ '--share': `${share}%` } as CSSProperties}>
      <i aria-hidden="true" />
      {share} %
    </span>
  );
};

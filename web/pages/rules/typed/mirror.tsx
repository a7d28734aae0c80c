import { forwardRef } from 'react';
import type { TypedRule } from '../../../../contract/wire/index.ts';

interface MirrorProps {
  text: string;
  cursor: number;
  reading: Pick<TypedRule, 'names' | 'marks'> | null;
}

/** The same text behind the field, with lines under what is understood as a name and under what is not; it marks where the cursor stands. */
export const Mirror = forwardRef<HTMLSpanElement, MirrorProps>(({ text, cursor, reading }, ref) => {
  const stretches = [
    ...(reading?.names ?? []).map(({ from, to }) => ({ from, to, className: 'is-named' })),
    ...(reading?.marks ?? [])
      .filter(({ code }) => code !== 'unfinished')
      .map(({ from, to }) => ({ from, to, className: 'is-marked' })),
  ];
  const edges = new Set([0, cursor, text.length, ...stretches.flatMap(({ from, to }) => [from, to])]);
  const places = [...edges].filter((at) => at >= 0 && at <= text.length).sort((a, b) => a - b);
  return (
    <div className="typed-mirror" aria-hidden="true">
      {places.map((from, at) => {
        const to = places[at + 1] ?? from;
        const over = stretches.filter((one) => one.from <= from && one.to >= to && to > from);
        const className = over.map((one) => one.className).join(' ');
        return (
          <span key={from}>
            {from === cursor && <span ref={ref} />}
            <span className={className}>{text.slice(from, to)}</span>
          </span>
        );
      })}
      {/* A last line that is empty has its height, too. */}
      {'\u200b'}
    </div>
  );
});
Mirror.displayName = 'Mirror';

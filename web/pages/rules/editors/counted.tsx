import type { ComponentProps } from 'react';
import { CountInput } from '../../../parts/index.ts';

interface CountedProps extends Omit<ComponentProps<typeof CountInput>, 'min'> {
  /** Stand before and after it in the sentence. */
  before?: string;
  after: string;
  min?: number;
}

/** How many times, as part of a sentence. */
export const Counted = ({ before, after, min = 1, ...count }: CountedProps) => (
  <div className="row-of">
    {before && <span className="beside">{before}</span>}
    <CountInput {...count} min={min} />
    <span className="beside">{after}</span>
  </div>
);

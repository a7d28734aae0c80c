import type { ReactNode } from 'react';
import { faultWords } from '../../../../contract/words/faults.ts';
import type { Fault, Rule } from '../../../../core/rules/index.ts';
import type { Source } from '../../../../core/values/index.ts';
import { locale } from '../../../words/index.ts';

/** What each part of the rule page is given. */
export interface PartProps {
  rule: Rule;
  source: Source;
  faults: Fault[];
  edited: readonly string[];
  isFixed: boolean;
  onChange: (rule: Rule) => void;
}

/** One row of the rule: its name, its sentence, and what is wrong with it where it stands. */
export function Part({
  title,
  faults,
  path,
  children,
  hint,
}: {
  title: string;
  faults: Fault[];
  path: string[];
  children: ReactNode;
  hint?: ReactNode;
}) {
  const own = faults.filter((fault) =>
    path.some((start) => fault.path === start || fault.path.startsWith(`${start}.`)),
  );
  return (
    <section className="part">
      <h2>{title}</h2>
      <div>
        <div className="say">{children}</div>
        {hint && <p className="hint">{hint}</p>}
        {own.map((fault) => (
          <p key={`${fault.path} ${fault.code}`} className="hint fault" role="alert">
            {faultWords(fault, locale())}
          </p>
        ))}
      </div>
    </section>
  );
}

/** How a chip looks whose part differs from what is live. */
export const mark = (edited: readonly string[], part: string) => (edited.includes(part) ? 'is-edited' : '');

/** The fields of a source that a rule can count from. */
export const datesOf = (source: Source) =>
  source.fields.filter((field) => field.type === 'date' || field.type === 'dateTime');

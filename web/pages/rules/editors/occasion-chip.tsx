import type { ReactNode } from 'react';
import type { Idle, Rule } from '../../../../core/rules/index.ts';
import { Radios } from '../../../parts/index.ts';
import { t } from '../../../words/editors.ts';
import { Chip } from './chip.tsx';
import { datesOf, mark, type PartProps } from './part.tsx';

const FIRST_WHEN: NonNullable<Rule['when']> = { kinds: [], if: { all: [] }, burst: null };
const FIRST_IDLE: Idle = { for: 'P5D', if: { all: [] }, repeat: null };

type Happening = 'when' | 'due' | 'idle';

function happeningOf({ due, idle }: Rule): Happening {
  if (due) return 'due';
  return idle ? 'idle' : 'when';
}

/** Which of the three occasions it is. Another one drops what cannot stand with it. */
export function OccasionChip({ rule, source, edited, isFixed, onChange, words }: PartProps & { words: ReactNode }) {
  const [date] = datesOf(source);
  const kind = happeningOf(rule);
  const choose = (next: Happening) => {
    if (next === 'when') return onChange({ ...rule, when: FIRST_WHEN, due: null, idle: null });
    const calm = {
      ...rule,
      when: null,
      by: { only: [], except: [] },
      pace: rule.pace.kind === 'settled' ? ({ kind: 'now' } as const) : rule.pace,
    };
    if (next === 'idle') return onChange({ ...calm, due: null, idle: FIRST_IDLE });
    if (date)
      onChange({
        ...calm,
        idle: null,
        due: { field: date.id, offset: '-P14D', at: '09:00', if: { all: [] }, repeat: null, late: 'now' },
      });
  };
  return (
    <Chip
      label={t('whatItWaitsFor')}
      className={mark(edited, kind)}
      disabled={isFixed}
      editor={() => (
        <fieldset className="choices">
          <Radios
            name="occasion"
            chosen={kind}
            options={[
              ['when', t('aChangeWhenItIs')],
              ['due', date ? t('aDateThatComesNear') : t('aDateThisSourceHas'), !date],
              ['idle', t('nothingForAWhileNo')],
            ]}
            onChange={choose}
          />
        </fieldset>
      )}
    >
      {words}
    </Chip>
  );
}

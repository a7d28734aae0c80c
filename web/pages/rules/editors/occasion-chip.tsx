import type { ReactNode } from 'react';
import type { Idle, Report, Rule, Tally } from '../../../../core/rules/index.ts';
import { Radios } from '../../../parts/index.ts';
import { t } from '../../../words/editors.ts';
import { Chip } from './chip.tsx';
import { datesOf, mark, type PartProps } from './part.tsx';

const FIRST_WHEN: NonNullable<Rule['when']> = { kinds: [], if: { all: [] }, burst: null };
const FIRST_IDLE: Idle = { for: 'P5D', if: { all: [] }, repeat: null };

const FIRST_TALLY: Tally = { of: 'items', per: null, becomes: { op: 'above', value: 10 }, kinds: [] };
const FIRST_REPORT: Report = { every: 'week', at: '08:00', on: ['MO'], if: { all: [] }, empty: false };

const HAPPENINGS = ['when', 'due', 'idle', 'tally', 'report'] as const;
type Happening = (typeof HAPPENINGS)[number];

const happeningOf = (rule: Rule): Happening => HAPPENINGS.find((one) => rule[one] !== null) ?? 'when';
const NOTHING = { when: null, due: null, idle: null, tally: null, report: null };

/** The rule waiting for something else: what cannot stand with that is left out of it. */
function turnedTo(rule: Rule, next: Happening, date: string | undefined): Rule {
  const calm = { ...rule, ...NOTHING, pace: rule.pace.kind === 'settled' ? ({ kind: 'now' } as const) : rule.pace };
  const ofNobody = { by: { only: [], except: [] } };
  switch (next) {
    case 'when':
      return { ...rule, ...NOTHING, when: FIRST_WHEN };
    case 'due':
      if (date === undefined) return rule;
      return {
        ...calm,
        ...ofNobody,
        due: { field: date, offset: '-P14D', at: '09:00', if: { all: [] }, repeat: null, late: 'now' },
      };
    case 'idle':
      return { ...calm, ...ofNobody, idle: FIRST_IDLE };
    case 'tally':
      return { ...calm, tally: FIRST_TALLY };
    case 'report':
      return {
        ...calm,
        ...ofNobody,
        pace: { kind: 'now' },
        limit: null,
        ack: null,
        about: 'any',
        during: { ...rule.during, near: null },
        report: FIRST_REPORT,
      };
    default:
      return next satisfies never;
  }
}

/** Which of the five occasions it is. Another one drops what cannot stand with it. */
export function OccasionChip({ rule, source, edited, isFixed, onChange, words }: PartProps & { words: ReactNode }) {
  const [date] = datesOf(source);
  const kind = happeningOf(rule);
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
              ['tally', t('aTallyThatPasses')],
              ['report', t('theHourOfAReport')],
            ]}
            onChange={(next) => onChange(turnedTo(rule, next, date?.id))}
          />
        </fieldset>
      )}
    >
      {words}
    </Chip>
  );
}

import {
  DEFAULT_REACH,
  planUpon,
  type Plan,
  type QuietHours,
  type Step,
  type Urgency,
} from '../../../core/people/index.ts';
import { WEEKDAYS } from '../../../core/time/index.ts';
import { Radios, Several, TimeInput, UrgencyBar } from '../../parts/index.ts';
import { phrases } from '../../words/index.ts';
import { t } from '../../words/plan.ts';
import { Chip } from '../rules/editors/chip.tsx';
import { Steps } from './steps.tsx';

const urgencies = (): [Urgency, string, string][] => [
  ['critical', t('critical'), t('passesQuietHours')],
  ['important', t('important'), t('heldInQuietHours')],
  ['routine', t('routine'), t('heldInQuietHours')],
];

/** The steps of a plan for an urgency: its own, else those of the plan beneath it, else the standard's. */
export const stepsIn = (plan: Plan | null, beneath: Plan | null, urgency: Urgency): Step[] =>
  planUpon(plan, beneath)?.reach?.[urgency] ?? DEFAULT_REACH[urgency];

interface PlanReachProps {
  plan: Plan;
  /** What holds where the plan says nothing. */
  beneath: Plan | null;
  /** The plan as it is kept, to show what differs. */
  before: Plan | null;
  /** Tells it from others on the page. */
  name?: string;
  onChange: (plan: Plan) => void;
}

/** How a plan reaches: by what for each urgency, when nothing may come, and in what form. */
export function PlanReach({ plan, beneath, before, name = '', onChange }: PlanReachProps) {
  const whole = planUpon(plan, beneath) ?? {};
  const label = (words: string) => [name, words].filter(Boolean).join(', ');
  return (
    <div className="plan-reach">
      {urgencies().map(([urgency, words, note]) => (
        <section key={urgency} aria-label={label(words)}>
          <h2>{words}</h2>
          <div className="say">
            <UrgencyBar urgency={urgency} />
            <Steps
              steps={stepsIn(plan, beneath, urgency)}
              before={stepsIn(before, beneath, urgency)}
              label={label(words)}
              onChange={(steps) => onChange({ ...plan, reach: { ...plan.reach, [urgency]: steps } })}
            />
            <span className="quiet small">{note}</span>
          </div>
        </section>
      ))}
      <section aria-label={label(t('quiet'))}>
        <h2>{t('quiet')}</h2>
        <Quiet quiet={whole.quiet ?? []} onChange={(quiet) => onChange({ ...plan, quiet })} />
      </section>
      <section aria-label={label(t('also'))}>
        <h2>{t('also')}</h2>
        <Also plan={whole} onChange={(part) => onChange({ ...plan, ...part })} />
      </section>
    </div>
  );
}

const ownChoice = (own: boolean | null): 'each' | 'yes' | 'no' => {
  if (own === null) return 'each';
  return own ? 'yes' : 'no';
};

function Quiet({ quiet, onChange }: { quiet: QuietHours[]; onChange: (quiet: QuietHours[]) => void }) {
  const names = [t('mon'), t('tue'), t('wed'), t('thu'), t('fri'), t('sat'), t('sun')];
  const put = (at: number, part: Partial<QuietHours>) =>
    onChange(quiet.map((one, index) => (index === at ? { ...one, ...part } : one)));
  return (
    <div className="say">
      {quiet.length === 0 && <span>{t('noQuietHours')}</span>}
      {quiet.map((one, at) => (
        <Chip
          key={`${at} ${quiet.length}`}
          label={t('quietHours')}
          onRemove={() => onChange(quiet.filter((_, index) => index !== at))}
          editor={() => (
            <>
              <div className="row-of">
                <TimeInput
                  label={t('from')}
                  value={one.from}
                  isNeeded
                  onChange={(from) => from !== null && put(at, { from })}
                />
                <span className="beside">{t('to')}</span>
                <TimeInput label={t('to2')} value={one.to} isNeeded onChange={(to) => to !== null && put(at, { to })} />
              </div>
              <Several
                name="quiet-days"
                label={t('onTheseDays')}
                options={WEEKDAYS.map((day, index) => [day, names[index] ?? day])}
                chosen={one.days}
                onChange={(days) => days.length > 0 && put(at, { days: WEEKDAYS.filter((day) => days.includes(day)) })}
              />
            </>
          )}
        >
          <strong>{t('to3', { from: one.from, to: one.to })}</strong>{' '}
          {one.days.length === 7 ? t('everyDay') : one.days.map((day) => names[WEEKDAYS.indexOf(day)]).join(', ')}
        </Chip>
      ))}
      <button
        type="button"
        className="chip is-adding"
        onClick={() => onChange([...quiet, { days: [...WEEKDAYS], from: '19:00', to: '07:30' }])}
      >
        {t('quietHours2')}
      </button>
    </div>
  );
}

/** What of a plan is neither steps nor hours. */
type AlsoPart = Pick<Plan, 'emailFormat' | 'ownChanges' | 'off'>;

function Also({ plan, onChange }: { plan: Plan; onChange: (part: AlsoPart) => void }) {
  const off = plan.off ?? [];
  const own = plan.ownChanges ?? null;
  return (
    <div className="say">
      <Chip
        label={t('emailAs')}
        editor={() => (
          <Radios
            name="email-format"
            options={[
              ['html', t('withMarksAndColours')],
              ['text', t('asPlainText')],
            ]}
            chosen={plan.emailFormat ?? 'html'}
            onChange={(emailFormat) => onChange({ emailFormat })}
          />
        )}
      >
        {t.rich(plan.emailFormat === 'text' ? 'emailAsPlainText' : 'emailWithMarks')}
      </Chip>
      <Chip
        label={t('myOwnChanges')}
        editor={() => (
          <Radios
            name="own-changes"
            options={[
              [null, t('asEachRuleSays')],
              [true, t('always')],
              [false, t('never')],
            ]}
            chosen={own}
            onChange={(ownChanges) => onChange({ ownChanges })}
          />
        )}
      >
        {t.rich(`own.${ownChoice(own)}`)}
      </Chip>
      <Chip label={t('switchedOff')} editor={() => <SwitchedOff plan={plan} onChange={onChange} />}>
        {off.length === 0
          ? t('nothingSwitchedOff')
          : t.rich('channelsOff', { off: phrases().and(off.map((one) => t(`off.${one}`))) })}
      </Chip>
    </div>
  );
}

const SwitchedOff = ({ plan, onChange }: { plan: Plan; onChange: (part: AlsoPart) => void }) => (
  <Several
    name="off"
    label={t('switchedOff')}
    options={[
      ['email', t('emailItself')],
      ['text', t('textMessages')],
    ]}
    chosen={plan.off ?? []}
    onChange={(chosen) => onChange({ off: (['email', 'text'] as const).filter((one) => chosen.includes(one)) })}
  />
);

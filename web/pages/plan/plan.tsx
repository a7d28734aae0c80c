import { useEffect, useState } from 'react';
import { Button } from 'react-bootstrap';
import type { ReplayedMessage, PlanPage as Page } from '../../../contract/wire/index.ts';
import {
  type Channel,
  DEFAULT_REACH,
  type Mute,
  type Plan,
  type QuietHours,
  type Step,
  type Urgency,
} from '../../../core/people/index.ts';
import { addDays, dateIn, instantOf, WEEKDAYS } from '../../../core/time/index.ts';
import {
  Hour,
  Loaded,
  ProblemNote,
  Several,
  UrgencyBar,
  useNotice,
  useViewer,
  useSettled,
  Radios,
  TimeInput,
  goToUnread,
  forgetDraft,
  FromBefore,
  readDraft,
  useDraftKey,
  writeDraft,
} from '../../parts/index.ts';
import { useKeepPlan, usePlan, usePlanWeek } from '../../queries/index.ts';
import { Addresses } from './addresses.tsx';
import { ByItself } from './by-itself.tsx';
import { Muted } from './muted.tsx';
import { OwnWays } from './own-ways.tsx';
import { Steps } from './steps.tsx';
import { Week } from './week.tsx';
import { Chip } from '../rules/editors/chip.tsx';
import { t } from '../../words/plan.ts';
import { phrases } from '../../words/index.ts';

const urgencies = (): [Urgency, string, string][] => [
  ['critical', t('critical'), t('passesQuietHours')],
  ['important', t('important'), t('heldInQuietHours')],
  ['routine', t('routine'), t('heldInQuietHours')],
];

/** How somebody wants to be reached, drawn as a week, and what the last one would have been under it. */
export function PlanPage() {
  const plan = usePlan();
  return (
    <Loaded query={plan} what={t('yourDeliveryPlan')}>
      {(page) => <Planned key={JSON.stringify([page.plan, page.mutes])} page={page} />}
    </Loaded>
  );
}

/** A plan with what is muted, as it is edited. */
interface Preferences {
  plan: Plan;
  mutes: Mute[];
}

function Planned({ page }: { page: Page }) {
  const { me } = useViewer();
  const notice = useNotice();
  const keep = useKeepPlan();
  const key = useDraftKey('plan');
  const kept = { plan: page.plan ?? {}, mutes: page.mutes };
  const [before] = useState(() => readDraft<Preferences>(key));
  const [isFromBefore, setFromBefore] = useState(before !== null);
  const [plan, setPlan] = useState<Plan>(before?.value.plan ?? kept.plan);
  const [mutes, setMutes] = useState<Mute[]>(before?.value.mutes ?? kept.mutes);
  const preferences = { plan, mutes };
  const json = JSON.stringify(preferences);
  const isEdited = json !== JSON.stringify(kept);
  useEffect(() => {
    if (isEdited) writeDraft(key, { base: '', value: JSON.parse(json) as Preferences });
    else forgetDraft(key);
  }, [isEdited, json, key]);
  const dropEdits = () => {
    setPlan(kept.plan);
    setMutes(kept.mutes);
    setFromBefore(false);
  };
  const week = usePlanWeek(useSettled(preferences));
  const today = dateIn(instantOf(me.now), me.zone);
  const days = Array.from({ length: 7 }, (_, at) => addDays(today, at - 7));
  const [open, setOpen] = useState(addDays(today, -1));
  const stepsOf = (urgency: Urgency): Step[] => plan.reach?.[urgency] ?? DEFAULT_REACH[urgency];
  const putSteps = (urgency: Urgency, steps: Step[]) =>
    setPlan({ ...plan, reach: { ...plan.reach, [urgency]: steps } });
  const save = () => {
    if (goToUnread()) return;
    keep.mutate(preferences, {
      onSuccess: () =>
        notice({ words: t('yourPlanIsKeptIt'), undo: () => keep.mutate({ plan: page.plan, mutes: page.mutes }) }),
    });
  };
  const digests = urgencies().flatMap(([urgency]) => stepsOf(urgency).flatMap((step) => step.pace ?? []));
  return (
    <div className="with-sheet is-open plan">
      <main className="page">
        <p className="crumbs">{t('howOjoReachesYou', { name: me.name })}</p>
        <div className="page-head">
          <h1>{t('deliveryPlan')}</h1>
          <div className="acts">
            {isEdited && (
              <Button variant="quiet" onClick={dropEdits}>
                {t('dropEdits')}
              </Button>
            )}
            <Button disabled={!isEdited || keep.isPending} onClick={save}>
              {t('keepThisPlan')}
            </Button>
          </div>
        </div>
        {isFromBefore && isEdited && <FromBefore onGiveUp={dropEdits} />}
        {keep.error && <ProblemNote error={keep.error} />}
        <div className="plan-reach">
          {urgencies().map(([urgency, words, note]) => (
            <section key={urgency}>
              <h2>{words}</h2>
              <div className="say">
                <UrgencyBar urgency={urgency} />
                <Steps
                  steps={stepsOf(urgency)}
                  before={page.plan?.reach?.[urgency] ?? DEFAULT_REACH[urgency]}
                  label={words}
                  onChange={(steps) => putSteps(urgency, steps)}
                />
                <span className="quiet small">{note}</span>
              </div>
            </section>
          ))}
          <section>
            <h2>{t('quiet')}</h2>
            <Quiet quiet={plan.quiet ?? []} onChange={(quiet) => setPlan({ ...plan, quiet })} />
          </section>
          <section>
            <h2>{t('also')}</h2>
            <Also plan={plan} onChange={setPlan} />
          </section>
        </div>
        <h2 className="mt-4">{t('yourWeek')}</h2>
        <Week
          rows={week.data?.planned ?? []}
          quiet={plan.quiet ?? []}
          digests={digests}
          days={days}
          open={open}
          onOpen={setOpen}
        />
        <div className="plan-own">
          <OwnWays plan={plan} onChange={setPlan} />
          <div>
            <Muted mutes={mutes} titles={page.titles} onChange={setMutes} />
            <ByItself />
          </div>
        </div>
      </main>
      <aside className="sheet" aria-label={t('asItWouldHaveReached')}>
        <LastDays
          present={week.data?.present ?? []}
          planned={week.data?.planned ?? []}
          open={open}
          isCounting={week.isFetching}
        />
        <Addresses page={page} />
      </aside>
    </div>
  );
}

const ownChoice = (own: boolean | null): 'each' | 'yes' | 'no' => {
  if (own === null) return 'each';
  return own ? 'yes' : 'no';
};

const CHANNELS = ['inApp', 'email', 'text'] as const;

/** How many would have come by each channel, and each of them on the open day. */
function LastDays({
  present,
  planned,
  open,
  isCounting,
}: {
  present: ReplayedMessage[];
  planned: ReplayedMessage[];
  open: string;
  isCounting: boolean;
}) {
  const { me } = useViewer();
  const ofDay = (rows: ReplayedMessage[]) => rows.filter((row) => dateIn(instantOf(row.at), me.zone) === open);
  const count = (rows: ReplayedMessage[], channel: Channel) => rows.filter((row) => row.channel === channel).length;
  const day = new Intl.DateTimeFormat(me.locale, {
    weekday: 'long',
    day: 'numeric',
    month: 'long',
    timeZone: 'UTC',
  }).format(new Date(`${open}T12:00:00Z`));
  const figures = (rows: ReplayedMessage[], others: ReplayedMessage[]) =>
    CHANNELS.map((channel) => {
      const [before, after] = [count(others, channel), count(rows, channel)];
      return (
        <div key={channel}>
          <b className="change">
            {before !== after && <s>{before}</s>} {before !== after ? <mark>{after}</mark> : after}
          </b>
          <span className="quiet">{t(`figure.${channel}`, { count: after })}</span>
        </div>
      );
    });
  return (
    <>
      <p className="quiet small">{day}</p>
      <h2>{t('asItWouldHaveReachedYou')}</h2>
      <div className="plan-figures" aria-live="polite" aria-busy={isCounting}>
        {figures(ofDay(planned), ofDay(present))}
      </div>
      <ol className="plain-list plan-day">
        {ofDay(planned)
          .slice(0, 40)
          .map((row) => (
            <li key={`${row.at} ${row.channel} ${row.subject}`}>
              <Hour at={row.at} />
              <UrgencyBar urgency={row.urgency} />
              <span className="quiet">{t(`channel.${row.channel}`)}</span>
              <span>{row.subject}</span>
            </li>
          ))}
        {ofDay(planned).length === 0 && !isCounting && <li className="quiet">{t('nothing')}</li>}
      </ol>
      <section>
        <h3>{t('theWholeWeek')}</h3>
        <div className="plan-figures is-small">{figures(planned, present)}</div>
      </section>
    </>
  );
}

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

function Also({ plan, onChange }: { plan: Plan; onChange: (plan: Plan) => void }) {
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
            onChange={(emailFormat) => onChange({ ...plan, emailFormat })}
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
            onChange={(ownChanges) => onChange({ ...plan, ownChanges })}
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

const SwitchedOff = ({ plan, onChange }: { plan: Plan; onChange: (plan: Plan) => void }) => (
  <Several
    name="off"
    label={t('switchedOff')}
    options={[
      ['email', t('emailItself')],
      ['text', t('textMessages')],
    ]}
    chosen={plan.off ?? []}
    onChange={(chosen) =>
      onChange({ ...plan, off: (['email', 'text'] as const).filter((one) => chosen.includes(one)) })
    }
  />
);

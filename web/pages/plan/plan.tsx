import { useEffect, useState } from 'react';
import { Button } from 'react-bootstrap';
import type { ReplayedMessage, PlanPage as Page } from '../../../contract/wire/index.ts';
import { type Channel, planUpon, type Mute, type Plan } from '../../../core/people/index.ts';
import { addDays, dateIn, instantOf } from '../../../core/time/index.ts';
import {
  Hour,
  Loaded,
  ProblemNote,
  UrgencyBar,
  useNotice,
  useViewer,
  useSettled,
  goToUnread,
  forgetDraft,
  FromBefore,
  readDraft,
  useDraftKey,
  writeDraft,
} from '../../parts/index.ts';
import { useKeepPlan, usePlan, usePlanWeek } from '../../queries/index.ts';
import { Addresses } from './addresses.tsx';
import { Away, InPlace, useDrawnAway } from './away.tsx';
import { awayOn } from './away-days.ts';
import { ByItself } from './by-itself.tsx';
import { ByWhatItIs } from './by-what-it-is.tsx';
import { FurtherAddresses } from './further-addresses.tsx';
import { Muted } from './muted.tsx';
import { OwnWays } from './own-ways.tsx';
import { PlanReach, stepsIn } from './plan-reach.tsx';
import { Week } from './week.tsx';
import { t } from '../../words/plan.ts';

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
  const absence = useDrawnAway(plan, page, days, today);
  // What comes on days away comes to somebody else.
  const heard = (rows: ReplayedMessage[], under: Plan | null) => {
    const away = under?.absent ? awayOn(under.absent, days, today) : [];
    return rows.filter(({ at }) => !away.includes(dateIn(instantOf(at), me.zone)));
  };
  const save = () => {
    if (goToUnread()) return;
    keep.mutate(preferences, {
      onSuccess: () =>
        notice({ words: t('yourPlanIsKeptIt'), undo: () => keep.mutate({ plan: page.plan, mutes: page.mutes }) }),
    });
  };
  const whole = planUpon(plan, page.start) ?? {};
  const digests = (['critical', 'important', 'routine'] as const).flatMap((urgency) =>
    stepsIn(plan, page.start, urgency).flatMap((step) => step.pace ?? []),
  );
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
        {page.start !== null && (
          <p className="quiet small">
            {t('houseStartsYou')}{' '}
            {page.plan !== null && (
              <Button variant="link" size="sm" onClick={() => setPlan({})}>
                {t('backToTheStart')}
              </Button>
            )}
          </p>
        )}
        <PlanReach plan={plan} beneath={page.start} before={page.plan} onChange={setPlan} />
        <h2 className="mt-4">{t('yourWeek')}</h2>
        <Week
          absence={absence}
          rows={week.data?.planned ?? []}
          quiet={whole.quiet ?? []}
          digests={digests}
          days={days}
          open={open}
          onOpen={setOpen}
        />
        {plan.absent && <InPlace absent={plan.absent} inPlace={week.data?.inPlace ?? null} />}
        <div className="plan-own">
          <div>
            <Away plan={plan} page={page} onChange={setPlan} />
            <ByWhatItIs plan={plan} beneath={page.start} onChange={setPlan} />
            <OwnWays plan={plan} beneath={page.start} onChange={setPlan} />
            <FurtherAddresses plan={plan} page={page} onChange={setPlan} />
          </div>
          <div>
            <Muted mutes={mutes} titles={page.titles} onChange={setMutes} />
            <ByItself />
          </div>
        </div>
      </main>
      <aside className="sheet" aria-label={t('asItWouldHaveReached')}>
        <LastDays
          present={heard(week.data?.present ?? [], page.plan)}
          planned={heard(week.data?.planned ?? [], plan)}
          elsewhere={absence.away.get(open)}
          open={open}
          isCounting={week.isFetching}
        />
        <Addresses page={page} />
      </aside>
    </div>
  );
}

const CHANNELS = ['inApp', 'email', 'text'] as const;

/** How many would have come by each channel, and each of them on the open day. */
function LastDays({
  present,
  planned,
  elsewhere,
  open,
  isCounting,
}: {
  present: ReplayedMessage[];
  planned: ReplayedMessage[];
  /** Who hears on the open day, where one is away. */
  elsewhere: string | undefined;
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
        {ofDay(planned).length === 0 && !isCounting && <li className="quiet">{elsewhere ?? t('nothing')}</li>}
      </ol>
      <section>
        <h3>{t('theWholeWeek')}</h3>
        <div className="plan-figures is-small">{figures(planned, present)}</div>
      </section>
    </>
  );
}

import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { Link } from 'react-router';
import type { HeardRow, PlanPage as Page } from '../../contract/api.ts';
import { CHANNEL_WORDS } from '../../contract/words.ts';
import { rulePath } from '../../core/messages/index.ts';
import { type Channel, DEFAULT_REACH, type Mute, type Plan, type QuietHours, type Step, type Urgency } from '../../core/people/index.ts';
import { addDays, dateIn, instantOf, WEEKDAYS } from '../../core/time/index.ts';
import { Hour, Loaded, ProblemNote, Several, UrgencyBar, useNotice, useReading, useSettled } from '../parts/index.ts';
import { useKeepPlan, usePlan, usePlanWeek, useRules } from '../queries/index.ts';
import { AddStep, StepEditor, stepWords } from './plan-parts/steps-editor.tsx';
import { Week } from './plan-parts/week.tsx';
import { Chip } from './rule-parts/chip.tsx';
import { moved } from './rule-parts/condition-groups.ts';

const URGENCIES: [Urgency, string, string][] = [['critical', 'Critical', 'passes quiet hours'], ['important', 'Important', 'held in quiet hours'], ['routine', 'Routine', 'held in quiet hours']];

/** How somebody wants to be reached, drawn as a week, and what the last one would have been under it. */
export function PlanPage() {
  const plan = usePlan();
  return <Loaded query={plan} what="your delivery plan">{(page) => <Planned key={JSON.stringify([page.plan, page.mutes])} page={page} />}</Loaded>;
}

function Planned({ page }: { page: Page }) {
  const { me } = useReading();
  const notice = useNotice();
  const keep = useKeepPlan();
  const [plan, setPlan] = useState<Plan>(page.plan ?? {});
  const [mutes, setMutes] = useState<Mute[]>(page.mutes);
  const hearing = { plan, mutes };
  const isEdited = JSON.stringify(hearing) !== JSON.stringify({ plan: page.plan ?? {}, mutes: page.mutes });
  const week = usePlanWeek(useSettled(hearing));
  const today = dateIn(instantOf(me.now), me.zone);
  const days = Array.from({ length: 7 }, (_, at) => addDays(today, at - 7));
  const [open, setOpen] = useState(addDays(today, -1));
  const stepsOf = (urgency: Urgency): Step[] => plan.reach?.[urgency] ?? DEFAULT_REACH[urgency];
  const putSteps = (urgency: Urgency, steps: Step[]) => setPlan({ ...plan, reach: { ...plan.reach, [urgency]: steps } });
  const before = { plan: page.plan, mutes: page.mutes };
  const save = () => keep.mutate(hearing, { onSuccess: () => notice({ words: 'Your plan is kept. It holds from now on.', undo: () => keep.mutate(before) }) });
  const digests = URGENCIES.flatMap(([urgency]) => stepsOf(urgency).flatMap((step) => step.pace ?? []));
  return (
    <div className="with-sheet is-open plan">
      <main className="page">
        <p className="crumbs">{me.name} / how Ojo reaches you</p>
        <div className="page-head">
          <h1>Delivery plan</h1>
          <div className="acts">{isEdited && <Button variant="quiet" onClick={() => { setPlan(page.plan ?? {}); setMutes(page.mutes); }}>Drop edits</Button>}<Button disabled={!isEdited || keep.isPending} onClick={save}>Keep this plan</Button></div>
        </div>
        {keep.error && <ProblemNote error={keep.error} />}
        <div className="plan-reach">
          {URGENCIES.map(([urgency, words, note]) => (
            <section key={urgency}>
              <h2>{words}</h2>
              <div className="say">
                <UrgencyBar urgency={urgency} />
                {stepsOf(urgency).map((step, at) => {
                  const steps = stepsOf(urgency);
                  const isChanged = JSON.stringify(step) !== JSON.stringify((page.plan?.reach?.[urgency] ?? DEFAULT_REACH[urgency])[at]);
                  return (
                    <Chip key={`${at} ${steps.length}`} label={`${words}, step ${at + 1}`} className={isChanged ? 'is-edited' : ''} onRemove={steps.length > 1 ? () => putSteps(urgency, steps.filter((_, index) => index !== at)) : undefined} editor={() => (
                      <>
                        <StepEditor step={step} onChange={(next) => putSteps(urgency, steps.map((one, index) => (index === at ? next : one)))} />
                        {at > 0 && <Button variant="link" size="sm" onClick={() => putSteps(urgency, moved(steps, at, at - 1))}>Earlier</Button>}
                      </>
                    )}>{stepWords(step)}</Chip>
                  );
                })}
                <AddStep onAdd={(step) => putSteps(urgency, [...stepsOf(urgency), step])} />
                <span className="quiet small">{note}</span>
              </div>
            </section>
          ))}
          <section><h2>Quiet</h2><Quiet quiet={plan.quiet ?? []} onChange={(quiet) => setPlan({ ...plan, quiet })} /></section>
          <section><h2>Also</h2><Also plan={plan} onChange={setPlan} /></section>
        </div>
        <h2 className="mt-4">Your week</h2>
        <Week rows={week.data?.planned ?? []} quiet={plan.quiet ?? []} digests={digests} days={days} open={open} onOpen={setOpen} />
        <div className="plan-own">
          <OwnWays plan={plan} onChange={setPlan} />
          <Muted mutes={mutes} titles={page.titles} onChange={setMutes} />
        </div>
      </main>
      <aside className="sheet" aria-label="As it would have reached you">
        <LastDays present={week.data?.present ?? []} planned={week.data?.planned ?? []} open={open} isCounting={week.isFetching} />
        <section>
          <h3>Where you can be reached</h3>
          <p>{page.email ?? <span className="fault">no email address</span>}</p>
          <p>{page.phone ?? <span className="quiet">no telephone; texts cannot reach you</span>}</p>
        </section>
      </aside>
    </div>
  );
}

const CHANNELS: Channel[] = ['inApp', 'email', 'text'];
const NOUNS: Record<Channel, string> = { inApp: 'in Ojo', email: 'emails', text: 'texts', webhook: 'webhooks' };

/** How many would have come by each channel, and each of them on the open day. */
function LastDays({ present, planned, open, isCounting }: { present: HeardRow[]; planned: HeardRow[]; open: string; isCounting: boolean }) {
  const { me } = useReading();
  const ofDay = (rows: HeardRow[]) => rows.filter((row) => dateIn(instantOf(row.at), me.zone) === open);
  const count = (rows: HeardRow[], channel: Channel) => rows.filter((row) => row.channel === channel).length;
  const day = new Intl.DateTimeFormat(me.locale, { weekday: 'long', day: 'numeric', month: 'long', timeZone: 'UTC' }).format(new Date(`${open}T12:00:00Z`));
  const figures = (rows: HeardRow[], others: HeardRow[]) => CHANNELS.map((channel) => {
    const [before, after] = [count(others, channel), count(rows, channel)];
    return <div key={channel}><b className="change">{before !== after && <s>{before}</s>} {before !== after ? <mark>{after}</mark> : after}</b><span className="quiet">{NOUNS[channel]}</span></div>;
  });
  return (
    <>
      <p className="quiet small">{day}</p>
      <h2>as it would have reached you</h2>
      <div className="plan-figures" aria-live="polite" aria-busy={isCounting}>{figures(ofDay(planned), ofDay(present))}</div>
      <ol className="plain-list plan-day">
        {ofDay(planned).slice(0, 40).map((row) => <li key={`${row.at} ${row.channel} ${row.subject}`}><Hour at={row.at} /><UrgencyBar urgency={row.urgency} /><span className="quiet">{CHANNEL_WORDS[row.channel].replace('by ', '')}</span><span>{row.subject}</span></li>)}
        {ofDay(planned).length === 0 && !isCounting && <li className="quiet">Nothing.</li>}
      </ol>
      <section><h3>The whole week</h3><div className="plan-figures is-small">{figures(planned, present)}</div></section>
    </>
  );
}

function Quiet({ quiet, onChange }: { quiet: QuietHours[]; onChange: (quiet: QuietHours[]) => void }) {
  const names = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];
  const put = (at: number, part: Partial<QuietHours>) => onChange(quiet.map((one, index) => (index === at ? { ...one, ...part } : one)));
  return (
    <div className="say">
      {quiet.length === 0 && <span>no quiet hours</span>}
      {quiet.map((one, at) => (
        <Chip key={`${at} ${quiet.length}`} label="Quiet hours" onRemove={() => onChange(quiet.filter((_, index) => index !== at))} editor={() => (
          <>
            <div className="row-of"><Form.Control type="time" aria-label="From" value={one.from} onChange={(event) => event.target.value && put(at, { from: event.target.value })} /><span className="beside">to</span><Form.Control type="time" aria-label="To" value={one.to} onChange={(event) => event.target.value && put(at, { to: event.target.value })} /></div>
            <Several name="quiet-days" label="On these days" options={WEEKDAYS.map((day, index) => [day, names[index] ?? day])} chosen={one.days} onChange={(days) => days.length > 0 && put(at, { days: WEEKDAYS.filter((day) => days.includes(day)) })} />
          </>
        )}><strong>{one.from} to {one.to}</strong> {one.days.length === 7 ? 'every day' : one.days.map((day) => names[WEEKDAYS.indexOf(day)]).join(', ')}</Chip>
      ))}
      <button type="button" className="chip is-adding" onClick={() => onChange([...quiet, { days: [...WEEKDAYS], from: '19:00', to: '07:30' }])}>+ quiet hours</button>
    </div>
  );
}

function Also({ plan, onChange }: { plan: Plan; onChange: (plan: Plan) => void }) {
  const off = plan.off ?? [];
  const own = plan.ownChanges ?? null;
  return (
    <div className="say">
      <Chip label="Email as" editor={() => (
        <>
          <Form.Check type="radio" name="email-format" id="format-html" label="with marks and colours" checked={(plan.emailFormat ?? 'html') === 'html'} onChange={() => onChange({ ...plan, emailFormat: 'html' })} />
          <Form.Check type="radio" name="email-format" id="format-text" label="as plain text" checked={plan.emailFormat === 'text'} onChange={() => onChange({ ...plan, emailFormat: 'text' })} />
        </>
      )}>email <strong>{plan.emailFormat === 'text' ? 'as plain text' : 'with marks and colours'}</strong></Chip>
      <Chip label="My own changes" editor={() => ([[null, 'as each rule says'], [true, 'always'], [false, 'never']] as const).map(([value, words]) => <Form.Check key={words} type="radio" name="own-changes" id={`own-${words}`} label={words} checked={own === value} onChange={() => onChange({ ...plan, ownChanges: value })} />)}>my own changes <strong>{own === null ? 'as each rule says' : own ? 'too' : 'never'}</strong></Chip>
      <Chip label="Switched off" editor={() => <Several name="off" label="Switched off" options={[['email', 'email'], ['text', 'text messages']]} chosen={off} onChange={(chosen) => onChange({ ...plan, off: (['email', 'text'] as const).filter((one) => chosen.includes(one)) })} />}>{off.length === 0 ? 'nothing switched off' : <><strong>{off.map((one) => (one === 'text' ? 'texts' : one)).join(' and ')}</strong> off</>}</Chip>
    </div>
  );
}

/** Rules for which somebody has steps of their own. */
function OwnWays({ plan, onChange }: { plan: Plan; onChange: (plan: Plan) => void }) {
  const rules = useRules();
  const own = Object.entries(plan.own ?? {});
  const nameOf = (id: string) => (rules.data ?? []).find((row) => row.id === id)?.live?.name ?? id;
  const back = (id: string) => onChange({ ...plan, own: Object.fromEntries(own.filter(([rule]) => rule !== id)) });
  return (
    <section>
      <h2>Rules that go another way</h2>
      {own.length === 0 ? <p className="quiet small">None. “Less of this” on a message sends its rule another way.</p> : <ul className="plain-list">{own.map(([id, steps]) => <li key={id}><span><Link to={rulePath(id)}>{nameOf(id)}</Link><small>{steps.map(stepWords).join(', then ')}</small></span><Button variant="link" size="sm" onClick={() => back(id)}>as all others</Button></li>)}</ul>}
    </section>
  );
}

function Muted({ mutes, titles, onChange }: { mutes: Mute[]; titles: Record<string, string>; onChange: (mutes: Mute[]) => void }) {
  const rules = useRules();
  const { me } = useReading();
  const ruleName = (id: string) => (rules.data ?? []).find((row) => row.id === id)?.live?.name ?? id;
  const said = (mute: Mute) => [mute.item && (titles[mute.item] ?? 'an item'), mute.rule && ruleName(mute.rule)].filter(Boolean).join(', by ') || 'Everything';
  const week = addDays(dateIn(instantOf(me.now), me.zone), 7);
  return (
    <section>
      <h2>Muted</h2>
      {mutes.length === 0 ? <p className="quiet small">Nothing is muted.</p> : <ul className="plain-list">{mutes.map((mute, at) => <li key={JSON.stringify(mute)}><span><strong>{said(mute)}</strong><small>{mute.until ? `until ${mute.until}` : 'for good'}</small></span><Button variant="link" size="sm" onClick={() => onChange(mutes.filter((_, index) => index !== at))}>hear again</Button></li>)}</ul>}
      {!mutes.some((mute) => !mute.rule && !mute.item) && <Button variant="link" size="sm" onClick={() => onChange([...mutes, { until: week }])}>Mute everything for a week</Button>}
    </section>
  );
}

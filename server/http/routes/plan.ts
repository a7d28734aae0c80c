import { DAY_MS, dateIn } from '../../../core/time/index.ts';
import { Refusal } from '../../../contract/problems.ts';
import type { LessPage, PlanPage, ReplayedMessage, WeekPage } from '../../../contract/wire/index.ts';
import { type ReachingMessage, turnedToBecome } from '../../../core/decide/index.ts';
import { LESS_WAYS, type Plan, stepsFor, withLess } from '../../../core/people/index.ts';
import type { Rule } from '../../../core/rules/index.ts';
import {
  type Caller,
  cameBackOf,
  looksAfter,
  readableAmong,
  readableItem,
  readRule,
  titlesOf,
  when,
} from '../../access/index.ts';
import { putInPlace, savePreferences } from '../../acts/index.ts';
import { type DeliveryPreferences, replayPreferences } from '../../replay/index.ts';
import { livePhases, type Profile, rows, store } from '../../store/index.ts';
import type { Context } from '../context.ts';
import type { Handlers } from '../register.ts';

const WEEK = 7;

/** How somebody is reached: their plan, what they muted, and what the last days would have been. */
export const planHandlers: Handlers<'plan.read' | 'plan.save' | 'plan.week'> = {
  async 'plan.read'(context, { asking }) {
    return planPage(context, asking);
  },

  async 'plan.save'(context, { body, asking: { me, directory } }) {
    expectSound(context, body.plan, { me, directory });
    await savePreferences(context, me, body, directory);
    return planPage(context, { me: { ...me, chosen: body.plan, mutes: body.mutes }, directory });
  },

  /** The last week as it would have been under another plan, and as it would have been under the present one; as if nobody had been away. */
  async 'plan.week'(context, { body, asking }) {
    const [present = [], planned = []] = await replayPreferences(
      context,
      asking,
      [preferencesOf(asking), body].map((one) => ({ ...one, plan: asIfHere(one.plan) })),
      WEEK,
    );
    return {
      present: present.map(replayed),
      planned: planned.map(replayed),
      from: when(context.clock.now() - WEEK * DAY_MS),
      inPlace: await heardInPlace(context, body.plan, planned, asking),
    };
  },
};

const preferencesOf = ({ me }: Caller): DeliveryPreferences => ({ plan: me.chosen, mutes: me.mutes ?? [] });

/** What a plan names besides rules and sources, each as it has to be. */
function expectSound({ clock }: Context, plan: Plan | null, asking: Caller): void {
  expectConfirmed(plan, asking.me);
  expectDeputy(plan, dateIn(clock.now(), asking.me.zone), asking);
}

/** Email goes to addresses that somebody has confirmed, and to no others. */
function expectConfirmed(plan: Plan | null, { further = [] }: Profile): void {
  const { rules = {}, sources = {} } = plan?.emailTo ?? {};
  const unknown = [...Object.values(rules), ...Object.values(sources)].find((address) => !further.includes(address));
  if (unknown !== undefined)
    throw new Refusal('badRequest', { because: { code: 'addressUnconfirmed', params: { address: unknown } } });
}

/** Whoever hears in somebody's place is another, and has an account that is in use; of days that are over it is all the same. */
function expectDeputy(plan: Plan | null, today: string, { me, directory }: Caller): void {
  const { deputy = null, until = today } = plan?.absent ?? {};
  if (deputy === null || until < today) return;
  if (deputy === me.id || directory.people.get(deputy)?.active !== true)
    throw new Refusal('badRequest', { faults: [{ code: 'noDeputy', path: 'plan.absent.deputy', params: {} }] });
}

/** A plan without the days away, which are no week like any other. */
function asIfHere(plan: Plan | null): Plan | null {
  const { absent: _, ...rest } = plan ?? {};
  return plan && rest;
}

/** How much of what somebody is told the one who hears in their place may read nothing of, as far as days ahead go. */
async function heardInPlace(
  { pool, clock }: Context,
  plan: Plan | null,
  messages: readonly ReachingMessage[],
  { me, directory }: Caller,
): Promise<WeekPage['inPlace']> {
  const absent = plan?.absent;
  const deputy = directory.people.get(absent?.deputy ?? '');
  if (!absent || !deputy?.active || absent.until < dateIn(clock.now(), me.zone)) return null;
  const told = new Map(
    messages.flatMap(({ alerts }) => alerts.map(({ rule, at, items }) => [`${rule} ${at} ${items.join(' ')}`, items])),
  );
  const items = [...told.values()];
  const readable = await readableAmong(pool, items.flat(), deputy.id, directory);
  const theirs = deputy.plan?.absent;
  return {
    person: deputy.id,
    told: items.length,
    unheard: items.filter((ids) => ids.length > 0 && !ids.some((id) => readable.has(id))).length,
    isAway: theirs !== undefined && theirs.from <= absent.until && theirs.until >= absent.from,
  };
}

/** In whose place somebody hears, from today on, in order of time. */
const standsInFor = ({ me, directory }: Caller, today: string): PlanPage['standsInFor'] =>
  [...directory.people.values()]
    .flatMap(({ id, plan, active }) =>
      active && plan?.absent?.deputy === me.id && plan.absent.until >= today
        ? [{ person: id, from: plan.absent.from, until: plan.absent.until }]
        : [],
    )
    .sort((a, b) => a.from.localeCompare(b.from));

async function planPage({ pool, clock }: Context, { me, directory }: Caller): Promise<PlanPage> {
  const mutes = me.mutes ?? [];
  const items = await readableAmong(
    pool,
    mutes.flatMap((mute) => mute.item ?? []),
    me.id,
    directory,
  );
  const asks = await rows(pool, store.addresses.asksOf('person', me.id));
  return {
    plan: me.chosen,
    start: me.start,
    further: [...(me.further ?? [])],
    mutes: [...mutes],
    email: me.email,
    mailTo: me.mailTo ?? null,
    phone: me.phone,
    silenced: me.silenced ?? null,
    cameBack: (me.suspended ?? []).flatMap((address) => cameBackOf(address, directory) ?? []),
    asks: asks.map(({ channel, address, askedAt, isFurther }) => ({
      channel,
      address,
      askedAt: when(askedAt),
      isFurther,
    })),
    titles: titlesOf(items),
    standsInFor: standsInFor({ me, directory }, dateIn(clock.now(), me.zone)),
  };
}

const replayed = ({ at, channel, form, urgency, subject, alerts }: ReachingMessage): ReplayedMessage => ({
  at: when(at),
  channel,
  form,
  urgency,
  subject,
  rules: [...new Set(alerts.map((alert) => alert.rule))],
  arose: alerts.map((alert) => when(alert.at)),
});

/** What ways to hear less would have left is counted over so many days. */
const LESS_DAYS = 30;

/** The ways to hear less of a rule or an item: each with what it would have left of the last month, taken and brought back by one press. */
export const lessHandlers: Handlers<'less.read' | 'less.take' | 'less.back'> = {
  async 'less.read'(context, { query: { rule: id, item: about }, asking }) {
    const { me, directory } = asking;
    const rule = liveRule(context, id, asking);
    const readable = about === undefined ? new Map() : await readableAmong(context.pool, [about], me.id, directory);
    const item = about !== undefined && readable.has(about) ? about : null;
    return {
      rule: rule ? { id, name: rule.name } : null,
      item: item === null ? null : { id: item, title: String(readable.get(item)?.title ?? '') },
      days: LESS_DAYS,
      ...(rule ? await countedWays(context, rule, item, asking) : { before: 0, ways: [] }),
    };
  },

  /** Takes a way to hear less. The answer holds how it was before, so that one press can bring that back. */
  async 'less.take'(context, { body: { way, rule: id, item, until }, asking }) {
    const { me } = asking;
    if (item !== null) await readableItem(context.pool, item, asking);
    const before = { plan: me.chosen, mutes: [...(me.mutes ?? [])] };
    const rule = liveRule(context, id, asking);
    if (way !== 'becomes') {
      await savePreferences(
        context,
        me,
        withLess(before, way, { rule: id, item, until, steps: rule ? stepsFor(me, rule) : [] }),
        asking.directory,
      );
      return { ...before, rule: null };
    }
    const turned = rule && turnedToBecome(rule);
    if (!rule || !turned) throw new Refusal('badRequest', { because: 'onlyWhenItBecomesSoAlready' });
    await putInPlace(context, turned, asking);
    return { ...before, rule };
  },

  /** Brings back how it was. */
  async 'less.back'(context, { body: { plan, mutes, rule }, asking }) {
    if (rule) await putInPlace(context, readRule(rule, asking), asking);
    else {
      expectSound(context, plan, asking);
      await savePreferences(context, asking.me, { plan, mutes }, asking.directory);
    }
  },
};

const liveRule = ({ clock }: Context, id: string, { directory }: Caller): Rule | undefined =>
  livePhases(directory, clock.now()).find(({ compiled }) => compiled.rule.id === id)?.compiled.rule;

/** The ways that there are for somebody, each with what it would have left. */
async function countedWays(
  context: Context,
  rule: Rule,
  item: string | null,
  asking: Caller,
): Promise<Pick<LessPage, 'before' | 'ways'>> {
  const { me } = asking;
  const hearsOwn = me.plan?.ownChanges ?? rule.ownChanges;
  const ways = LESS_WAYS.filter(
    (way) => (way !== 'notThisItem' || item !== null) && (way !== 'othersOnly' || hearsOwn),
  );
  // A rule is changed for everybody it tells: only whoever may edit it is offered that.
  const turned = looksAfter(rule, asking) ? turnedToBecome(rule) : null;
  const present = preferencesOf(asking);
  const counted = await replayPreferences(
    context,
    asking,
    [
      present,
      ...(turned ? [{ ...present, instead: turned }] : []),
      ...ways.map((way) => withLess(present, way, { rule: rule.id, item, until: null, steps: stepsFor(me, rule) })),
    ],
    LESS_DAYS,
    rule.id,
  );
  const [before = 0, ...after] = counted.map((messages) => messages.length);
  const offered = [...(turned ? (['becomes'] as const) : []), ...ways];
  return { before, ways: offered.map((way, at) => ({ way, after: after[at] ?? 0 })) };
}

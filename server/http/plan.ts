import { type Response, Router } from 'express';
import { hearingSchema, lessQuerySchema, lessSchema, type HeardRow, type LessPage, type PlanPage, type WeekPage } from '../../contract/api.ts';
import type { HeardMessage, ScenarioInput } from '../../core/decide/index.ts';
import { LESS_WAYS, type Mute, type Person, type Plan, withLess } from '../../core/people/index.ts';
import { asksOfQuery, inTransaction, livePhases, raiseWorldQuery, readInstantsQuery, replaceMutesQueries, rows, runAll, savePlanQuery, toAsk } from '../store/index.ts';
import { type Caller, caller, type Context, readableAmong, take, when } from './context.ts';
import { pastOfAll } from './past.ts';

const DAY = 86_400_000;

interface Hearing {
  plan: Plan | null;
  mutes: readonly Mute[];
}

/** How somebody is reached: their plan, what they muted, what the last days would have been, and the ways to hear less. */
export function planRoutes(context: Context): Router {
  const routes = Router();
  const { pool } = context;

  routes.get('/me/plan', async (_request, response) => {
    response.json(await planPage(caller(response)));
  });

  routes.put('/me/plan', async (request, response) => {
    const { plan, mutes } = take(hearingSchema, request.body);
    await keep({ plan, mutes }, response);
    response.json(await planPage({ ...caller(response), me: { ...caller(response).me, plan, mutes } }));
  });

  /** The last week as it would have been under another plan, and as it would have been under the present one. */
  routes.post('/me/plan/week', async (request, response) => {
    const asking = caller(response);
    const hearing = take(hearingSchema, request.body);
    const [present = [], planned = []] = await heardUnder(asking, [{ plan: asking.me.plan, mutes: asking.me.mutes ?? [] }, hearing], 7);
    response.json({ present: present.map(heardRow), planned: planned.map(heardRow), from: when(context.clock.now() - 7 * DAY) } satisfies WeekPage);
  });

  /** What each way to hear less of a rule, or of an item, would have made of the last month. */
  routes.get('/less', async (request, response) => {
    const asking = caller(response);
    const { rule: id, item = null } = take(lessQuerySchema, request.query);
    const rule = livePhases(asking.directory, context.clock.now()).find(({ compiled }) => compiled.rule.id === id)?.compiled.rule;
    const readable = item === null ? new Map() : await readableAmong(pool, [item], asking.me.id, asking.directory);
    const known = item !== null && readable.has(item) ? item : null;
    const ways = LESS_WAYS.filter((way) => (way !== 'notThisItem' || known !== null) && (way !== 'othersOnly' || (rule?.ownChanges ?? asking.me.plan?.ownChanges ?? false)));
    const present = { plan: asking.me.plan, mutes: asking.me.mutes ?? [] };
    const counted = rule ? await heardUnder(asking, [present, ...ways.map((way) => withLess(present, way, { rule: id, item: known, until: null }))], 30, id) : [];
    const [before = [], ...after] = counted.map((heard) => heard.length);
    response.json({ rule: rule ? { id, name: rule.name } : null, item: known ? { id: known, title: String(readable.get(known)?.title ?? '') } : null, days: 30, before: Number(before), ways: rule ? ways.map((way, at) => ({ way, after: Number(after[at] ?? 0) })) : [] } satisfies LessPage);
  });

  /** Takes a way to hear less. The answer holds how it was before, so that one press can bring that back. */
  routes.post('/less', async (request, response) => {
    const { me } = caller(response);
    const { way, rule, item, until } = take(lessSchema, request.body);
    const before = { plan: me.plan, mutes: [...(me.mutes ?? [])] };
    await keep(withLess(before, way, { rule, item, until }), response);
    response.json(before);
  });

  async function keep({ plan, mutes }: Hearing, response: Response): Promise<void> {
    const { me } = caller(response);
    await inTransaction(pool, (on) => runAll(on, [savePlanQuery(me.id, plan), ...replaceMutesQueries(me.id, mutes), raiseWorldQuery()]));
  }

  /** What would have reached somebody in the last days under each of several ways of hearing: of all live rules, or of one. */
  async function heardUnder({ me, directory }: Caller, hearings: Hearing[], days: number, only?: string): Promise<HeardMessage[][]> {
    const rules = livePhases(directory, context.clock.now()).filter(({ isPaused }) => !isPaused).map(({ compiled }) => compiled.rule).filter((rule) => only === undefined || rule.id === only);
    const { setting, changes } = await pastOfAll(context, directory, rules, days);
    const reads = (await rows<{ read_at: number }>(pool, readInstantsQuery(me.id, setting.start))).map((row): ScenarioInput => ({ do: 'read', at: row.read_at, person: me.id }));
    const inputs = [...changes, ...reads].sort((a, b) => a.at - b.at);
    const settings = hearings.map((hearing) => ({ ...setting, people: setting.people.map((person): Person => (person.id === me.id ? { ...person, plan: hearing.plan, mutes: hearing.mutes } : person)) }));
    return context.counter.ask('heard', { person: me.id, settings, inputs });
  }

  async function planPage({ me, directory }: Caller): Promise<PlanPage> {
    const items = await readableAmong(pool, (me.mutes ?? []).flatMap((mute) => mute.item ?? []), me.id, directory);
    const asks = (await rows(pool, asksOfQuery('person', me.id))).map(toAsk);
    return { plan: me.plan, mutes: (me.mutes ?? []).map((mute) => ({ ...mute })), email: me.email, mailTo: me.mailTo ?? null, phone: me.phone, silenced: me.silenced ?? null, asks: asks.map(({ channel, address, askedAt }) => ({ channel, address, askedAt: when(askedAt) })), titles: Object.fromEntries([...items.values()].map((item) => [item.id, item.title])) };
  }

  return routes;
}

const heardRow = ({ at, channel, form, urgency, subject, alerts }: HeardMessage): HeardRow => ({
  at: when(at), channel, form, urgency, subject, rules: [...new Set(alerts.map((alert) => alert.rule))], arose: alerts.map((alert) => when(alert.at)),
});

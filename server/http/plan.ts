import { Router } from 'express';
import { hearingSchema, type HeardRow, type PlanPage, type WeekPage } from '../../contract/api.ts';
import type { ReachingMessage } from '../../core/decide/index.ts';
import { asksOfQuery, rows, toAsk } from '../store/index.ts';
import { type Caller, caller, type Context, readableAmong, take, when } from './context.ts';
import { heardUnder, keepHearing } from './hearing.ts';

const DAY = 86_400_000;

/** How somebody is reached: their plan, what they muted, and what the last days would have been. */
export function planRoutes(context: Context): Router {
  const routes = Router();
  const { pool } = context;

  routes.get('/me/plan', async (_request, response) => {
    response.json(await planPage(caller(response)));
  });

  routes.put('/me/plan', async (request, response) => {
    const { plan, mutes } = take(hearingSchema, request.body);
    await keepHearing(context, caller(response).me.id, { plan, mutes });
    response.json(await planPage({ ...caller(response), me: { ...caller(response).me, plan, mutes } }));
  });

  /** The last week as it would have been under another plan, and as it would have been under the present one. */
  routes.post('/me/plan/week', async (request, response) => {
    const asking = caller(response);
    const hearing = take(hearingSchema, request.body);
    const [present = [], planned = []] = await heardUnder(
      context,
      asking,
      [{ plan: asking.me.plan, mutes: asking.me.mutes ?? [] }, hearing],
      7,
    );
    response.json({
      present: present.map(heardRow),
      planned: planned.map(heardRow),
      from: when(context.clock.now() - 7 * DAY),
    } satisfies WeekPage);
  });

  async function planPage({ me, directory }: Caller): Promise<PlanPage> {
    const items = await readableAmong(
      pool,
      (me.mutes ?? []).flatMap((mute) => mute.item ?? []),
      me.id,
      directory,
    );
    const asks = (await rows(pool, asksOfQuery('person', me.id))).map(toAsk);
    return {
      plan: me.plan,
      mutes: (me.mutes ?? []).map((mute) => ({ ...mute })),
      email: me.email,
      mailTo: me.mailTo ?? null,
      phone: me.phone,
      silenced: me.silenced ?? null,
      asks: asks.map(({ channel, address, askedAt }) => ({ channel, address, askedAt: when(askedAt) })),
      titles: Object.fromEntries([...items.values()].map((item) => [item.id, item.title])),
    };
  }

  return routes;
}

const heardRow = ({ at, channel, form, urgency, subject, alerts }: ReachingMessage): HeardRow => ({
  at: when(at),
  channel,
  form,
  urgency,
  subject,
  rules: [...new Set(alerts.map((alert) => alert.rule))],
  arose: alerts.map((alert) => when(alert.at)),
});

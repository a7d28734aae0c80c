import { Router } from 'express';
import { type LessPage, type LessTaken, lessBackSchema, lessQuerySchema, lessSchema } from '../../contract/api.ts';
import { Refusal } from '../../contract/problems.ts';
import { turnedToBecome } from '../../core/decide/index.ts';
import { LESS_WAYS, withLess } from '../../core/people/index.ts';
import type { Rule } from '../../core/rules/index.ts';
import { publishRule } from '../intake/index.ts';
import { inTransaction, livePhases, one, raiseWorldQuery, ruleQuery, run, toStoredRule } from '../store/index.ts';
import { type Caller, caller, type Context, readableAmong, take } from './context.ts';
import { type Hearing, heardUnder, keepHearing } from './hearing.ts';
import { coordinates, mayEdit, readRule } from './rule-documents.ts';

const DAYS = 30;

/** The ways to hear less of a rule or an item: each with what it would have left of the last month, taken and brought back by one press. */
export function lessRoutes(context: Context): Router {
  const routes = Router();
  const { pool } = context;

  routes.get('/less', async (request, response) => {
    const asking = caller(response);
    const { me, directory } = asking;
    const { rule: id, item = null } = take(lessQuerySchema, request.query);
    const rule = liveRule(id, asking);
    const readable = item === null ? new Map() : await readableAmong(pool, [item], me.id, directory);
    const known = item !== null && readable.has(item) ? item : null;
    const ways = LESS_WAYS.filter(
      (way) =>
        (way !== 'notThisItem' || known !== null) &&
        (way !== 'othersOnly' || (me.plan?.ownChanges ?? rule?.ownChanges ?? false)),
    );
    const present: Hearing = { plan: me.plan, mutes: me.mutes ?? [] };
    // A rule is changed for everybody it tells: only whoever may edit it is offered that.
    const turned =
      rule && (rule.owner === me.id || coordinates(me, rule.scope.sources, directory)) ? turnedToBecome(rule) : null;
    const counted = rule
      ? await heardUnder(
          context,
          asking,
          [
            present,
            ...(turned ? [{ ...present, instead: turned }] : []),
            ...ways.map((way) => withLess(me, way, { rule: id, item: known, until: null })),
          ],
          DAYS,
          id,
        )
      : [];
    const [before = 0, ...after] = counted.map((heard) => heard.length);
    const offered = [...(turned ? (['becomes'] as const) : []), ...ways];
    response.json({
      rule: rule ? { id, name: rule.name } : null,
      item: known ? { id: known, title: String(readable.get(known)?.title ?? '') } : null,
      days: DAYS,
      before,
      ways: rule ? offered.map((way, at) => ({ way, after: after[at] ?? 0 })) : [],
    } satisfies LessPage);
  });

  /** Takes a way to hear less. The answer holds how it was before, so that one press can bring that back. */
  routes.post('/less', async (request, response) => {
    const asking = caller(response);
    const { me } = asking;
    const { way, rule: id, item, until } = take(lessSchema, request.body);
    const before = { plan: me.plan, mutes: [...(me.mutes ?? [])] };
    if (way !== 'becomes') {
      await keepHearing(context, me.id, withLess(before, way, { rule: id, item, until }));
      return void response.json({ ...before, rule: null } satisfies LessTaken);
    }
    const rule = liveRule(id, asking);
    const turned = rule && turnedToBecome(rule);
    if (!rule || !turned)
      throw new Refusal('badRequest', { detail: 'The rule tells only when something becomes so already.' });
    await putInPlace(turned, asking);
    response.json({ ...before, rule } satisfies LessTaken);
  });

  /** Brings back how it was. */
  routes.post('/less/back', async (request, response) => {
    const asking = caller(response);
    const { plan, mutes, rule } = take(lessBackSchema, request.body);
    if (rule) await putInPlace(readRule(rule, asking), asking);
    else await keepHearing(context, asking.me.id, { plan, mutes });
    response.status(204).end();
  });

  const liveRule = (id: string, { directory }: Caller): Rule | undefined =>
    livePhases(directory, context.clock.now()).find(({ compiled }) => compiled.rule.id === id)?.compiled.rule;

  /** Puts a rule's next version live; edits that gather beside it are kept. */
  async function putInPlace(rule: Rule, asking: Caller): Promise<void> {
    await inTransaction(pool, async (on) => {
      await run(on, raiseWorldQuery());
      const row = await one(on, ruleQuery(rule.id, { lock: true }));
      const stored = row && toStoredRule(row);
      if (stored?.state !== 'live' || !mayEdit(stored, asking.me, asking.directory))
        throw new Refusal('notAllowed', {
          detail: 'Only the rule’s owner, who coordinates what it looks at, and stewards may edit it.',
        });
      // It stays its owner's, whatever was handed in: what a rule may tell goes by them.
      await publishRule(
        on,
        readRule({ ...rule, id: stored.id, owner: stored.owner }, asking),
        stored.version + 1,
        asking.me.id,
        context.clock.now(),
        null,
        stored.draft,
      );
    });
    context.wake();
  }

  return routes;
}

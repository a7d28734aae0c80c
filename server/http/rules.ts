import { Router } from 'express';
import { documentSchema, draftSchema, resumeSchema, revisionSchema, type RuleRow } from '../../contract/api.ts';
import { ruleSchema, schemaFaults } from '../../contract/documents/index.ts';
import { type FaultAt, Refusal } from '../../contract/problems.ts';
import { checkMessage } from '../../core/messages/index.ts';
import { mayReadSome } from '../../core/people/index.ts';
import { checkRule, type Rule } from '../../core/rules/index.ts';
import { endRule, pauseRule, publishRule, resumeRule } from '../intake/index.ts';
import {
  catchesQuery, createRuleQuery, type Directory, deleteDraftRuleQuery, dropDraftQuery, inTransaction, keepDraftQuery, newId, one, type Profile, raiseWorldQuery,
  ruleFiguresQuery, ruleQuery, rows, rulesQuery, run, type StoredRule, toStoredRule, worldOf,
} from '../store/index.ts';
import { type Caller, caller, type Context, param, take, when, whenOrNull } from './context.ts';
import { costOf } from './cost.ts';

const DAY = 86_400_000;

export function ruleRoutes(context: Context): Router {
  const routes = Router();
  const { pool } = context;

  routes.get('/rules', async (_request, response) => {
    const asking = caller(response);
    const from = context.clock.now() - 30 * DAY;
    const stored = (await rows(pool, rulesQuery())).map(toStoredRule).filter((rule) => maySee(rule, asking));
    const figures = new Map((await rows<Figures>(pool, ruleFiguresQuery(from))).map((row) => [row.id, row]));
    const catches = await rows<{ rule_id: string; at: number }>(pool, catchesQuery(from));
    response.json(stored.map((rule) => ruleRow(rule, figures.get(rule.id), catches.filter((row) => row.rule_id === rule.id).map((row) => row.at), asking)));
  });

  routes.post('/rules', async (request, response) => {
    const asking = caller(response);
    const { document } = take(documentSchema, request.body);
    const now = context.clock.now();
    const rule = readRule({ ...document, id: newId(now), owner: asking.me.id }, asking);
    await run(pool, createRuleQuery(rule, asking.me.id, now));
    response.status(201).json(await readRow(rule.id, asking));
  });

  routes.post('/rules/cost', async (request, response) => {
    const asking = caller(response);
    const { document } = take(documentSchema, request.body);
    // What it would catch is worth knowing before it is said who hears.
    const rule = readRule({ id: 'draft', ...document, owner: asking.me.id }, asking, ['nobodyHears']);
    response.json(await costOf(context, rule, asking, 30));
  });

  routes.get('/rules/:id', async (request, response) => {
    response.json(await readRow(param(request, 'id'), caller(response)));
  });

  routes.put('/rules/:id/draft', async (request, response) => {
    const asking = caller(response);
    const stored = await editable(param(request, 'id'), asking);
    const { revision, document } = take(draftSchema, request.body);
    const rule = readRule({ ...document, id: stored.id, owner: stored.owner }, asking);
    const kept = await run(pool, keepDraftQuery(rule, revision, asking.me.id, context.clock.now()));
    if (kept.affectedRows === 0) {
      const now = await editable(stored.id, asking);
      throw new Refusal('editedMeanwhile', { conflict: { revision: now.draftRevision, draft: now.draft ?? now.live, by: now.draftBy ?? now.putLiveBy } });
    }
    response.json(await readRow(stored.id, asking));
  });

  routes.delete('/rules/:id/draft', async (request, response) => {
    const asking = caller(response);
    const stored = await editable(param(request, 'id'), asking);
    if (stored.version === 0) await run(pool, deleteDraftRuleQuery(stored.id));
    else await run(pool, dropDraftQuery(stored.id));
    tellAll();
    response.status(204).end();
  });

  routes.post('/rules/:id/live', async (request, response) => {
    const asking = caller(response);
    const id = (await editable(param(request, 'id'), asking)).id;
    const { revision } = take(revisionSchema, request.body);
    await inTransaction(pool, async (on) => {
      // Deciding holds this row: the new version begins after all that was being decided.
      await run(on, raiseWorldQuery());
      const row = await one(on, ruleQuery(id, true));
      const stored = row && toStoredRule(row);
      if (!stored?.draft) throw new Refusal('badRequest', { detail: 'There are no edits to put live.' });
      if (stored.draftRevision !== revision) throw new Refusal('editedMeanwhile', { conflict: { revision: stored.draftRevision, draft: stored.draft, by: stored.draftBy } });
      const rule = readRule({ ...stored.draft }, asking);
      await publishRule(on, rule, stored.version + 1, asking.me.id, context.clock.now());
    });
    context.wake();
    tellAll();
    response.json(await readRow(id, asking));
  });

  routes.post('/rules/:id/end', async (request, response) => {
    const asking = caller(response);
    const stored = await editable(param(request, 'id'), asking);
    if (stored.state !== 'live') throw new Refusal('badRequest', { detail: 'Only a live rule can be ended.' });
    await inTransaction(pool, (on) => endRule(on, stored.id, context.clock.now()));
    tellAll();
    response.json(await readRow(stored.id, asking));
  });

  routes.post('/rules/:id/pause', async (request, response) => {
    const asking = caller(response);
    const stored = await editable(param(request, 'id'), asking);
    await inTransaction(pool, (on) => pauseRule(on, stored.id, asking.me.id, context.clock.now()));
    tellAll();
    response.json(await readRow(stored.id, asking));
  });

  routes.post('/rules/:id/resume', async (request, response) => {
    const asking = caller(response);
    const stored = await editable(param(request, 'id'), asking);
    const { catchUp } = take(resumeSchema, request.body);
    await inTransaction(pool, (on) => resumeRule(on, stored.id, catchUp, asking.me.id, context.clock.now()));
    context.wake();
    tellAll();
    response.json(await readRow(stored.id, asking));
  });

  function tellAll(): void {
    for (const person of context.hub.present()) context.hub.tell(person, { event: 'rules' });
  }

  async function stored(id: string, asking: Caller): Promise<StoredRule> {
    const row = await one(pool, ruleQuery(id));
    const rule = row && toStoredRule(row);
    if (!rule || !maySee(rule, asking)) throw new Refusal('notFound');
    return rule;
  }

  async function editable(id: string, asking: Caller): Promise<StoredRule> {
    const rule = await stored(id, asking);
    if (!mayEdit(rule, asking.me)) throw new Refusal('notAllowed', { detail: 'Only the rule’s owner, coordinators and stewards may edit it.' });
    return rule;
  }

  async function readRow(id: string, asking: Caller): Promise<RuleRow> {
    const from = context.clock.now() - 30 * DAY;
    const rule = await stored(id, asking);
    const figures = (await rows<Figures>(pool, ruleFiguresQuery(from))).find((row) => row.id === id);
    const catches = await rows<{ rule_id: string; at: number }>(pool, catchesQuery(from));
    return ruleRow(rule, figures, catches.filter((row) => row.rule_id === id).map((row) => row.at), asking);
  }

  return routes;
}

type Figures = { id: string; alerts: number; told: number; seen: number; last_at: number | null };

function ruleRow(rule: StoredRule, figures: Figures | undefined, catches: number[], { me }: Caller): RuleRow {
  return {
    id: rule.id, state: rule.state, version: rule.version, owner: rule.owner, live: rule.live, liveFrom: whenOrNull(rule.liveFrom), liveUntil: whenOrNull(rule.liveUntil), isPaused: rule.isPaused, kept: rule.kept,
    draft: rule.draft, draftRevision: rule.draftRevision, draftBy: rule.draftBy, draftAt: whenOrNull(rule.draftAt),
    alerts: Number(figures?.alerts ?? 0), told: Number(figures?.told ?? 0), read: Number(figures?.seen ?? 0), lastAt: whenOrNull(figures?.last_at ?? null),
    caught: catches.map(when), mayEdit: mayEdit(rule, me),
  };
}

const mayEdit = (rule: StoredRule, me: Profile) => rule.owner === me.id || me.role !== 'member';

/** A rule is seen by those who may read something of each source it looks at; a draft by those who may edit it. */
function maySee(rule: StoredRule, { me, directory }: Caller): boolean {
  const sources = (rule.live ?? rule.draft)?.scope.sources ?? [];
  return (rule.state !== 'draft' || mayEdit(rule, me)) && sources.every((id) => mayReadSome(me.id, id, directory));
}

/** Reads a rule's document, or refuses it with all that is wrong with it: its shape first, then its sense. */
function readRule(document: Record<string, unknown>, asking: Caller, allowed: string[] = []): Rule {
  const parsed = ruleSchema.safeParse(document);
  if (!parsed.success) throw new Refusal('badRule', { faults: schemaFaults(parsed.error, ruleSchema) });
  const rule = parsed.data;
  const world = worldOf(readableWorld(asking), new Map());
  const faults: FaultAt[] = [...checkRule(rule, world), ...checkMessage(rule, world.sources, new Set(world.wordings.keys())), ...rightsFaults(rule, asking)];
  const counted = faults.filter((fault) => !allowed.includes(fault.code));
  if (counted.length > 0) throw new Refusal('badRule', { faults: counted });
  return rule;
}

/** The directory with only what the caller may read: a rule must not tell what its maker may not see. */
function readableWorld({ me, directory }: Caller): Directory {
  return { ...directory, sources: new Map([...directory.sources].filter(([id]) => mayReadSome(me.id, id, directory))) };
}

/** Members make rules for themselves; coordinators and stewards for others too. */
function rightsFaults(rule: Rule, { me }: Caller): FaultAt[] {
  if (me.role !== 'member') return [];
  const lists: [path: string, selectors: Rule['to']][] = [['to', rule.to], ...(rule.ack?.escalate ?? []).map(({ to }, at): [string, Rule['to']] => [`ack.escalate.${at}.to`, to])];
  const isMe = (selector: Rule['to'][number]) => typeof selector === 'object' && 'person' in selector && selector.person === me.id;
  return lists.flatMap(([path, selectors]) => selectors.flatMap((selector, at) => (isMe(selector) ? [] : [{ code: 'onlyYourself', path: `${path}.${at}`, params: {} }])));
}

import { Router } from 'express';
import {
  documentSchema,
  draftSchema,
  eyeSchema,
  putLiveSchema,
  type RuleRow,
  type RuleVersion,
} from '../../contract/api.ts';
import { Refusal } from '../../contract/problems.ts';
import { mayReadAll } from '../../core/people/index.ts';
import type { Rule } from '../../core/rules/index.ts';
import { publishRule, tellListeners } from '../intake/index.ts';
import {
  createRuleQuery,
  deleteDraftRuleQuery,
  dropDraftQuery,
  editingQuery,
  editorsQuery,
  inTransaction,
  keepDraftQuery,
  newId,
  one,
  raiseWorldQuery,
  readableItems,
  type RuleFigures,
  ruleFigures,
  ruleQuery,
  rows,
  rulesQuery,
  run,
  type StoredRule,
  toStoredRule,
  toTrouble,
  toVersion,
  troublesQuery,
  versionsQuery,
} from '../store/index.ts';
import { type Caller, caller, type Context, param, take, when, whenOrNull } from './context.ts';
import { pastOf } from './past.ts';
import { actRoutes } from './rule-acts.ts';
import { mayEdit, maySee, readRule, ruleRow } from './rule-documents.ts';
import { messagesIn, tryingRoutes } from './trying.ts';

const DAY = 86_400_000;
/** A rule that would send more messages a day than this, counted over the last week, is looked at twice. */
const MANY_A_DAY = 60;
/** How long somebody counts as editing a rule after their page last said so, in milliseconds. */
const EDITING = 45_000;

export function ruleRoutes(context: Context): Router {
  const routes = Router();
  const { pool } = context;
  routes.use(tryingRoutes(context), actRoutes(context, { editable, readRow, tellAll }));

  routes.get('/rules', async (_request, response) => {
    const asking = caller(response);
    const from = context.clock.now() - 30 * DAY;
    const stored = (await rows(pool, rulesQuery())).map(toStoredRule).filter((rule) => maySee(rule, asking));
    const [figures, troubles] = await Promise.all([figuresFor(stored, asking, from), rows(pool, troublesQuery())]);
    response.json(stored.map((rule) => ruleRow(rule, figures.get(rule.id), asking, troubles.map(toTrouble))));
  });

  routes.post('/rules', async (request, response) => {
    const asking = caller(response);
    const { document } = take(documentSchema, request.body);
    const now = context.clock.now();
    const rule = readRule({ ...document, id: newId(now), owner: asking.me.id }, asking);
    await run(pool, createRuleQuery(rule, asking.me.id, now));
    response.status(201).json(await readRow(rule.id, asking));
  });

  /** Keeps an eye on something: a rule that is live at once, for whoever asks, or for somebody else by those who may. */
  routes.post('/eyes', async (request, response) => {
    const asking = caller(response);
    const { document, person = asking.me.id } = take(eyeSchema, request.body);
    const now = context.clock.now();
    const rule = readRule({ ...document, id: newId(now), owner: person, to: [{ person }] }, asking);
    if (!asking.directory.people.get(person)?.active)
      throw new Refusal('badRequest', { detail: 'Somebody who is here can keep an eye on it.' });
    await inTransaction(pool, async (on) => {
      await run(on, createRuleQuery(rule, asking.me.id, now));
      await publishRule(on, rule, 1, asking.me.id, now);
      // Whoever is given an eye by somebody else is told of it; of one's own one knows.
      if (person !== asking.me.id) await tellListeners(on, rule, 1, asking.me.id, now, asking.directory);
    });
    context.wake();
    tellAll();
    response.status(201).json(await readRow(rule.id, asking));
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
    for (const person of context.hub.present())
      if (person !== asking.me.id) context.hub.tell(person, { event: 'rules' });
    if (kept.affectedRows === 0) {
      const now = await editable(stored.id, asking);
      throw new Refusal('editedMeanwhile', {
        conflict: { revision: now.draftRevision, draft: now.draft ?? now.live, by: now.draftBy ?? now.putLiveBy },
      });
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
    const { revision, why, isSure } = take(putLiveSchema, request.body);
    if (!isSure) await lookTwice(id, asking);
    await inTransaction(pool, async (on) => {
      // Deciding holds this row: the new version begins after all that was being decided.
      await run(on, raiseWorldQuery());
      const row = await one(on, ruleQuery(id, { lock: true }));
      const stored = row && toStoredRule(row);
      if (!stored?.draft) throw new Refusal('badRequest', { detail: 'There are no edits to put live.' });
      if (stored.draftRevision !== revision)
        throw new Refusal('editedMeanwhile', {
          conflict: { revision: stored.draftRevision, draft: stored.draft, by: stored.draftBy },
        });
      const rule = readRule({ ...stored.draft }, asking);
      await publishRule(on, rule, stored.version + 1, asking.me.id, context.clock.now(), why);
      await tellListeners(on, rule, stored.version + 1, asking.me.id, context.clock.now(), asking.directory);
    });
    context.wake();
    tellAll();
    response.json(await readRow(id, asking));
  });

  routes.get('/rules/:id/versions', async (request, response) => {
    const { id } = await stored(param(request, 'id'), caller(response));
    response.json(
      (await rows(pool, versionsQuery(id)))
        .map(toVersion)
        .map((one): RuleVersion => ({ ...one, from: when(one.from), until: whenOrNull(one.until) })),
    );
  });

  /** Says that somebody has the rule open to edit it, and who else has. */
  routes.put('/rules/:id/editing', async (request, response) => {
    const { me } = caller(response);
    const { id } = await editable(param(request, 'id'), caller(response));
    const now = context.clock.now();
    await run(pool, editingQuery(id, me.id, now + EDITING));
    response.json(
      (await rows<{ person_id: string }>(pool, editorsQuery(id, now)))
        .map((row) => row.person_id)
        .filter((person) => person !== me.id),
    );
  });

  /** Refuses what would flood people, with how much it would have been, unless it was live already and was no quieter. */
  async function lookTwice(id: string, asking: Caller): Promise<void> {
    const { draft, live } = await editable(id, asking);
    if (!draft) return;
    const dailyOf = async (rule: Rule) => {
      return (
        messagesIn(
          await context.counter.ask(asking.me.id, 'funnel', { rule, ...(await pastOf(context, rule, asking, 7)) }),
        ) / 7
      );
    };
    const daily = await dailyOf(draft);
    if (daily <= MANY_A_DAY || (live && (await dailyOf(live)) >= daily)) return;
    throw new Refusal('secondLook', {
      detail: `Last week it would have sent ${Math.round(daily)} messages a day. From ${MANY_A_DAY} a day on, Ojo asks twice.`,
    });
  }

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
    if (!mayEdit(rule, asking.me, asking.directory))
      throw new Refusal('notAllowed', {
        detail: 'Only the rule’s owner, who coordinates what it looks at, and stewards may edit it.',
      });
    return rule;
  }

  async function readRow(id: string, asking: Caller): Promise<RuleRow> {
    const from = context.clock.now() - 30 * DAY;
    const rule = await stored(id, asking);
    const [figures, troubles] = await Promise.all([figuresFor([rule], asking, from), rows(pool, troublesQuery())]);
    return ruleRow(rule, figures.get(id), asking, troubles.map(toTrouble));
  }

  /** What rules came to, counted over what the asker may read: nobody learns from a count what is kept from them. */
  function figuresFor(
    stored: readonly StoredRule[],
    { me, directory }: Caller,
    from: number,
  ): Promise<Map<string, RuleFigures>> {
    const isOpen = (rule: StoredRule) =>
      ((rule.live ?? rule.draft)?.scope.sources ?? []).every((source) => mayReadAll(me.id, source, directory));
    const [open, others] = [stored.filter(isOpen), stored.filter((rule) => !isOpen(rule))];
    return ruleFigures(
      pool,
      [
        { rules: open.map(({ id }) => id), may: null },
        { rules: others.map(({ id }) => id), may: readableItems(me.id, directory) },
      ],
      from,
    );
  }

  return routes;
}

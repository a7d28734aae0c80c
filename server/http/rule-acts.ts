import { Router } from 'express';
import { actsSchema, type RuleRow } from '../../contract/api.ts';
import { Refusal } from '../../contract/problems.ts';
import type { Rule } from '../../core/rules/index.ts';
import { endRule, handOverRule, pauseRule, publishRule, resumeRule } from '../intake/index.ts';
import { deleteRuleQuery, inTransaction, one, ruleQuery, run, type StoredRule, toStoredRule, undeleteRuleQuery } from '../store/index.ts';
import { type Caller, caller, type Context, take } from './context.ts';
import { readRule } from './rule-documents.ts';

interface Parts {
  editable(id: string, asking: Caller): Promise<StoredRule>;
  readRow(id: string, asking: Caller): Promise<RuleRow>;
  tellAll(): void;
}

/** What is done to rules, one or several at once: pausing, going on, ending, handing over, another pace, deleting and its undoing. */
export function actRoutes(context: Context, { editable, readRow, tellAll }: Parts): Router {
  const routes = Router();
  const { pool } = context;

  routes.post('/rules/acts', async (request, response) => {
    const asking = caller(response);
    const act = take(actsSchema, request.body);
    // All of them may be acted on before any is.
    const rules = await Promise.all(act.ids.map((id) => (act.act === 'undelete' ? deleted(id, asking) : editable(id, asking))));
    for (const rule of rules) await apply(act, rule, asking);
    context.wake();
    tellAll();
    response.json(act.act === 'delete' ? [] : await Promise.all(act.ids.map((id) => readRow(id, asking))));
  });

  async function apply(act: ReturnType<typeof take<typeof actsSchema>>, stored: StoredRule, asking: Caller): Promise<void> {
    const { me } = asking;
    const now = context.clock.now();
    switch (act.act) {
      case 'pause':
        return inTransaction(pool, (on) => pauseRule(on, stored.id, me.id, now));
      case 'resume':
        return inTransaction(pool, (on) => resumeRule(on, stored.id, act.catchUp, me.id, now));
      case 'end':
        return inTransaction(pool, (on) => endRule(on, stored.id, now));
      case 'handOver': {
        const to = asking.directory.people.get(act.to);
        if (!to?.active) throw new Refusal('badRequest', { detail: 'A rule is handed over to somebody who is here.' });
        return inTransaction(pool, (on) => handOverRule(on, stored, to.id, me.id, now));
      }
      case 'pace':
        return withLive(stored, asking, (rule) => ({ ...rule, pace: act.pace }));
      case 'delete':
        return inTransaction(pool, async (on) => {
          if (stored.state === 'live') await endRule(on, stored.id, now);
          await run(on, deleteRuleQuery(stored.id, now));
        });
      case 'undelete':
        return inTransaction(pool, async (on) => {
          await run(on, undeleteRuleQuery(stored.id));
          // What was live when it was deleted goes on, as a version of its own.
          if (stored.live && stored.liveUntil !== null && stored.liveUntil === stored.deletedAt) await publishRule(on, stored.live, stored.version + 1, me.id, now, null, stored.draft);
        });
      default:
        return act satisfies never;
    }
  }

  /** A change of the live version that is live at once; edits that gather get it too. */
  async function withLive(stored: StoredRule, asking: Caller, alter: (rule: Rule) => Rule): Promise<void> {
    if (!stored.live || stored.state !== 'live') throw new Refusal('badRequest', { detail: 'Only a live rule can be given another pace from here.' });
    const rule = readRule({ ...alter(stored.live) }, asking);
    await inTransaction(pool, (on) => publishRule(on, rule, stored.version + 1, asking.me.id, context.clock.now(), null, stored.draft && alter(stored.draft)));
  }

  async function deleted(id: string, asking: Caller): Promise<StoredRule> {
    const row = await one(pool, ruleQuery(id, { withDeleted: true }));
    const rule = row && toStoredRule(row);
    if (!rule || rule.deletedAt === null || (rule.owner !== asking.me.id && asking.me.role === 'member')) throw new Refusal('notFound');
    return rule;
  }

  return routes;
}

import { Router } from 'express';
import type { PoolConnection } from 'mysql2/promise';
import { actsSchema, type RuleRow } from '../../contract/api.ts';
import { Refusal } from '../../contract/problems.ts';
import { endRule, handOverRule, pauseRule, publishRule, resumeRule } from '../intake/index.ts';
import {
  deleteRuleQuery,
  inTransaction,
  one,
  ruleQuery,
  run,
  type StoredRule,
  toStoredRule,
  undeleteRuleQuery,
} from '../store/index.ts';
import { type Caller, caller, type Context, take } from './context.ts';
import { mayEdit, readRule, reachesFarther } from './rule-documents.ts';

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
    // All or nothing: where one of them cannot be acted on, none is.
    const rules = await Promise.all(
      act.ids.map((id) => (act.act === 'undelete' ? deleted(id, asking) : editable(id, asking))),
    );
    await inTransaction(pool, async (on) => {
      for (const rule of rules) await apply(on, act, rule, asking);
    });
    context.wake();
    tellAll();
    response.json(act.act === 'delete' ? [] : await Promise.all(act.ids.map((id) => readRow(id, asking))));
  });

  async function apply(
    on: PoolConnection,
    act: ReturnType<typeof take<typeof actsSchema>>,
    stored: StoredRule,
    asking: Caller,
  ): Promise<void> {
    const { me } = asking;
    const now = context.clock.now();
    switch (act.act) {
      case 'pause':
        return pauseRule(on, stored.id, me.id, now);
      case 'resume':
        return resumeRule(on, stored.id, act.catchUp, me.id, now);
      case 'end':
        await endRule(on, stored.id, now);
        return;
      case 'handOver': {
        const to = asking.directory.people.get(act.to);
        if (!to?.active) throw new Refusal('badRequest', { detail: 'A rule is handed over to somebody who is here.' });
        const handed = stored.live ?? stored.draft;
        if (handed && reachesFarther(handed, to.id, asking))
          throw new Refusal('badRequest', {
            detail:
              'It tells people outside, who are told what its owner may read. Handed over, it would reach farther than you may read: take them out first, or let somebody hand it over who may read all of it.',
          });
        return handOverRule(on, stored, to.id, me.id, now);
      }
      case 'pace': {
        if (!stored.live || stored.state !== 'live')
          throw new Refusal('badRequest', { detail: 'Only a live rule can be given another pace from here.' });
        // Live at once; edits that gather get it too.
        const rule = readRule({ ...stored.live, pace: act.pace }, asking);
        return publishRule(
          on,
          rule,
          stored.version + 1,
          me.id,
          now,
          null,
          stored.draft && { ...stored.draft, pace: rule.pace },
        );
      }
      case 'delete':
        // Undoing it knows by the instant that it was this which ended the rule.
        await run(on, deleteRuleQuery(stored.id, stored.state === 'live' ? await endRule(on, stored.id, now) : now));
        return;
      case 'undelete':
        await run(on, undeleteRuleQuery(stored.id));
        // What was live when it was deleted goes on, as a version of its own.
        if (stored.live && stored.liveUntil !== null && stored.liveUntil === stored.deletedAt)
          await publishRule(on, stored.live, stored.version + 1, me.id, now, null, stored.draft);
        return;
      default:
        return act satisfies never;
    }
  }

  async function deleted(id: string, asking: Caller): Promise<StoredRule> {
    const row = await one(pool, ruleQuery(id, { withDeleted: true }));
    const rule = row && toStoredRule(row);
    if (!rule || rule.deletedAt === null || !mayEdit(rule, asking.me, asking.directory)) throw new Refusal('notFound');
    return rule;
  }

  return routes;
}

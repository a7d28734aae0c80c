import type { PoolConnection } from 'mysql2/promise';
import { Refusal } from '../../contract/problems.ts';
import { afterPausing, afterPublishing, type CatchUp, firstPhase } from '../../core/decide/index.ts';
import { eyeOf, type Rule } from '../../core/rules/index.ts';
import type { Instant } from '../../core/time/index.ts';
import { beginPhaseQueries, endRuleQueries, followQuery, handOverQuery, lastPhaseQuery, one, putLiveQueries, queueActQuery, raiseWorldQuery, run, runAll, type StoredPhase, type StoredRule, toPhase, endFollowQuery } from '../store/index.ts';

/**
 * The door for rules: a version goes live, pauses, goes on or ends at one instant, in the caller's transaction. It
 * waits until whatever is being decided is decided, so that each change meets one version.
 */
async function lastPhase(on: PoolConnection, rule: string): Promise<StoredPhase | null> {
  await run(on, raiseWorldQuery());
  const row = await one(on, lastPhaseQuery(rule));
  return row ? toPhase(row) : null;
}

/** Puts a rule's version live; a paused rule stays paused. `why` is kept with it, and edits that go on gathering as `draft`. */
export async function publishRule(on: PoolConnection, rule: Rule, version: number, by: string, at: Instant, why: string | null = null, draft: Rule | null = null): Promise<void> {
  const before = await lastPhase(on, rule.id);
  const compiled = { rule, version };
  const phase = before && before.until === null ? afterPublishing(before, compiled) : { ...firstPhase(compiled), epoch: (before?.epoch ?? 0) + 1 };
  const isScheduled = rule.due !== null || rule.idle !== null;
  await runAll(on, [...putLiveQueries(rule, version, by, at, why, draft), ...beginPhaseQueries(phase, by, at), ...(isScheduled ? [queueActQuery({ input: 'goLive', at, rule: rule.id })] : [])]);
  if (before && before.until === null) await follow(on, before.compiled.rule, false);
  await follow(on, rule, true);
}

/** Whoever keeps an eye on items follows them, for as long as the rule is live. */
async function follow(on: PoolConnection, rule: Rule, isLive: boolean): Promise<void> {
  const person = eyeOf(rule);
  if (person !== null && rule.scope.items.length > 0) await run(on, isLive ? followQuery(rule.scope.items, person) : endFollowQuery(rule.scope.items, person));
}

export async function pauseRule(on: PoolConnection, id: string, by: string, at: Instant): Promise<void> {
  const before = await livePhase(on, id);
  if (before.isPaused) throw new Refusal('badRequest', { detail: 'The rule is paused already.' });
  await runAll(on, beginPhaseQueries(afterPausing(before, true), by, at));
}

/** Lets a paused rule go on; what it matched meanwhile is told, summed up or skipped. */
export async function resumeRule(on: PoolConnection, id: string, catchUp: CatchUp, by: string, at: Instant): Promise<void> {
  const before = await livePhase(on, id);
  if (!before.isPaused) throw new Refusal('badRequest', { detail: 'The rule is not paused.' });
  await runAll(on, [...beginPhaseQueries(afterPausing(before, false), by, at), queueActQuery({ input: 'resume', at, rule: id, catchUp })]);
}

export async function endRule(on: PoolConnection, id: string, at: Instant): Promise<void> {
  const { compiled: { rule } } = await livePhase(on, id);
  await runAll(on, endRuleQueries(id, at));
  await follow(on, rule, false);
}

/** Gives a rule another owner: a live one as a version of its own, since what it may tell outside goes by its owner. */
export async function handOverRule(on: PoolConnection, { id, state, live, draft, version }: StoredRule, to: string, by: string, at: Instant): Promise<void> {
  const edits = draft && { ...draft, owner: to };
  if (state === 'live' && live) await publishRule(on, { ...live, owner: to }, version + 1, by, at, null, edits);
  else await run(on, handOverQuery(id, to, edits));
}

async function livePhase(on: PoolConnection, id: string): Promise<StoredPhase> {
  const phase = await lastPhase(on, id);
  if (!phase || phase.until !== null) throw new Refusal('badRequest', { detail: 'The rule is not live.' });
  return phase;
}

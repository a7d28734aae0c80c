import type { PoolConnection } from 'mysql2/promise';
import { Refusal } from '../../contract/problems.ts';
import { afterPausing, afterPublishing, type CatchUp, firstPhase } from '../../core/decide/index.ts';
import { eyeOf, hasBeginning, type Rule } from '../../core/rules/index.ts';
import type { Instant } from '../../core/time/index.ts';
import { originNow } from '../kit/index.ts';
import { one, run, runAll, type StoredPhase, type StoredRule, store } from '../store/index.ts';

/**
 * The door for rules: a version goes live, pauses, goes on or ends at one instant, in the caller's transaction. It
 * waits until whatever is being decided is decided, so that each change meets one version. The instant is fixed
 * there: not before the one asked for, and after all that is decided.
 */
async function takeTurn(
  on: PoolConnection,
  rule: string,
  asked: Instant,
): Promise<{ before: StoredPhase | null; at: Instant }> {
  await run(on, store.world.raise());
  const turn = await one(on, store.turns.place());
  const row = await one(on, store.rules.lastPhase(rule));
  return { before: row ? row : null, at: Math.max(asked, (turn?.decided.at ?? 0) + 1) };
}

/** Puts a rule's version live; a paused rule stays paused. `why` is kept with it, and edits that go on gathering as `draft`. */
export async function publishRule(
  on: PoolConnection,
  rule: Rule,
  version: number,
  by: string,
  asked: Instant,
  why: string | null = null,
  draft: Rule | null = null,
): Promise<void> {
  const { before, at } = await takeTurn(on, rule.id, asked);
  const compiled = { rule, version };
  const phase =
    before && before.until === null
      ? afterPublishing(before, compiled)
      : { ...firstPhase(compiled), epoch: (before?.epoch ?? 0) + 1 };
  await runAll(on, [
    ...store.rules.putLive(rule, version, by, at, why, draft),
    ...store.rules.beginPhase(phase, by, at),
    store.audit.add({ at, kind: 'ruleLive', actor: by, origin: originNow(), about: { rule: rule.name, version } }),
    ...(hasBeginning(rule) ? [store.acts.queue({ input: 'goLive', at, rule: rule.id })] : []),
  ]);
  if (before && before.until === null) await follow(on, before.compiled.rule, false);
  await follow(on, rule, true);
}

/** Whoever keeps an eye on items follows them, for as long as the rule is live. */
async function follow(on: PoolConnection, rule: Rule, isLive: boolean): Promise<void> {
  const person = eyeOf(rule);
  if (person !== null && rule.scope.items.length > 0)
    await run(
      on,
      isLive ? store.followers.follow(rule.scope.items, person) : store.followers.leave(rule.scope.items, person),
    );
}

export async function pauseRule(on: PoolConnection, id: string, by: string, asked: Instant): Promise<void> {
  const { before, at } = await livePhase(on, id, asked);
  if (before.isPaused) throw new Refusal('badRequest', { because: 'pausedAlready' });
  await runAll(on, store.rules.beginPhase(afterPausing(before, true), by, at));
}

/** Lets a paused rule go on; what it matched meanwhile is told, summed up or skipped. */
export async function resumeRule(
  on: PoolConnection,
  id: string,
  catchUp: CatchUp,
  by: string,
  asked: Instant,
): Promise<void> {
  const { before, at } = await livePhase(on, id, asked);
  if (!before.isPaused) throw new Refusal('badRequest', { because: 'notPaused' });
  await runAll(on, [
    ...store.rules.beginPhase(afterPausing(before, false), by, at),
    store.acts.queue({ input: 'resume', at, rule: id, catchUp }),
  ]);
}

export async function endRule(on: PoolConnection, id: string, asked: Instant): Promise<Instant> {
  const {
    before: {
      compiled: { rule },
    },
    at,
  } = await livePhase(on, id, asked);
  await runAll(on, store.rules.end(id, at));
  await follow(on, rule, false);
  return at;
}

/** Gives a rule another owner: a live one as a version of its own, since what it may tell outside goes by its owner. */
export async function handOverRule(
  on: PoolConnection,
  { id, state, live, draft, version }: StoredRule,
  to: string,
  by: string,
  at: Instant,
): Promise<void> {
  await run(on, store.rules.dropOffer(id));
  const edits = draft && { ...draft, owner: to };
  if (state === 'live' && live) await publishRule(on, { ...live, owner: to }, version + 1, by, at, null, edits);
  else await run(on, store.rules.handOver(id, to, edits));
}

async function livePhase(
  on: PoolConnection,
  id: string,
  asked: Instant,
): Promise<{ before: StoredPhase; at: Instant }> {
  const { before, at } = await takeTurn(on, id, asked);
  if (!before || before.until !== null) throw new Refusal('badRequest', { because: 'notLive' });
  return { before, at };
}

import type { PoolConnection } from 'mysql2/promise';
import { Refusal } from '../../contract/problems.ts';
import { offerNotice } from '../../core/messages/index.ts';
import type { Instant } from '../../core/time/index.ts';
import type { Caller } from '../access/index.ts';
import { type Directory, run, runAll, type Statement, store, type StoredRule, worldOf } from '../store/index.ts';
import { noticeOf } from './listeners.ts';
import { handOverRule } from './publishing.ts';

/** Asks somebody to look after a rule; it stays as it is until they answer. */
export async function offerRule(
  on: PoolConnection,
  rule: StoredRule,
  to: string,
  { me, directory }: Caller,
  at: Instant,
): Promise<void> {
  await runAll(on, [
    store.rules.offer(rule.id, { to, by: me.id, at }),
    ...told('asked', rule, { to, by: me.id, at }, directory),
  ]);
}

/** Whoever was asked to look after a rule does from now on; whoever asked hears of it. */
export async function takeOver(
  on: PoolConnection,
  rule: StoredRule,
  offer: { by: string },
  { me, directory }: Caller,
  at: Instant,
): Promise<void> {
  // Two answers at once, or one while it is taken back: the first stands.
  if ((await run(on, store.rules.answerOffer(rule.id, me.id))).affectedRows === 0)
    throw new Refusal('badRequest', { because: 'nobodyAsked' });
  await handOverRule(on, rule, me.id, me.id, at);
  await runAll(on, told('taken', rule, { to: offer.by, by: me.id, at }, directory));
}

/** Whoever was asked says no, and whoever asked hears of it; or somebody takes it back. */
export async function leaveOffer(
  on: PoolConnection,
  rule: StoredRule,
  { me, directory }: Caller,
  at: Instant,
): Promise<void> {
  await run(on, store.rules.dropOffer(rule.id));
  if (rule.offer?.to === me.id) await runAll(on, told('left', rule, { to: rule.offer.by, by: me.id, at }, directory));
}

function told(
  what: 'asked' | 'taken' | 'left',
  { id, live, draft }: StoredRule,
  { to, by, at }: { to: string; by: string; at: Instant },
  directory: Directory,
): Statement[] {
  const [reader, rule] = [directory.people.get(to), live ?? draft];
  if (!reader?.active || !rule) return [];
  const content = offerNotice(what, { rule, by, at, reader, world: worldOf(directory, new Map()) });
  return noticeOf(reader, content, `offer|${what}|${id}|${to}|${at}`, at);
}

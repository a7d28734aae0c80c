import type { PoolConnection } from 'mysql2/promise';
import { Refusal } from '../../contract/problems.ts';
import type { RuleAct } from '../../contract/wire/index.ts';
import type { Instant } from '../../core/time/index.ts';
import { type Caller, editableRule, mayEdit, maySee, readRule, reachesFarther, visibleRule } from '../access/index.ts';
import { inTransaction, one, run, store, type StoredRule } from '../store/index.ts';
import type { ActContext } from './context.ts';
import { leaveOffer, offerRule, takeOver } from './offers.ts';
import { expectNoEyes } from './second-eyes.ts';
import { endRule, handOverRule, pauseRule, publishRule, resumeRule } from './publishing.ts';

/** Does something to rules, one or several at once; all or nothing: where one of them cannot be acted on, none is. */
export async function actOnRules(context: ActContext, act: RuleAct, asking: Caller): Promise<void> {
  const { pool, clock, hub } = context;
  const rules = await Promise.all(act.ids.map((id) => actedOn(context, act, id, asking)));
  await inTransaction(pool, async (on) => {
    for (const rule of rules) await apply(on, act, rule, asking, clock.now());
  });
  context.wake();
  hub.announce({ event: 'rules' });
}

/** The rule that an act is about, where the caller may act so on it. */
function actedOn(context: ActContext, { act }: RuleAct, id: string, asking: Caller): Promise<StoredRule> {
  if (act === 'undelete') return deletedRule(context, id, asking);
  return act === 'takeOver' || act === 'leaveOffer'
    ? offeredRule(context, id, asking)
    : editableRule(context.pool, id, asking);
}

/** A rule that somebody was asked to look after: the caller, or somebody else by whom they may edit it. */
async function offeredRule({ pool }: ActContext, id: string, asking: Caller): Promise<StoredRule> {
  const rule = await visibleRule(pool, id, asking);
  if (!rule.offer || !(rule.offer.to === asking.me.id || mayEdit(rule, asking.me, asking.directory)))
    throw new Refusal('badRequest', { because: 'nobodyAsked' });
  return rule;
}

/** A rule that was deleted and that the caller could edit. */
async function deletedRule({ pool }: ActContext, id: string, { me, directory }: Caller): Promise<StoredRule> {
  const rule = await one(pool, store.rules.byId(id, { withDeleted: true }));
  if (!rule || rule.deletedAt === null || !mayEdit(rule, me, directory)) throw new Refusal('notFound');
  return rule;
}

async function apply(
  on: PoolConnection,
  act: RuleAct,
  stored: StoredRule,
  asking: Caller,
  now: Instant,
): Promise<void> {
  const by = asking.me.id;
  switch (act.act) {
    case 'pause':
      return pauseRule(on, stored.id, by, now);
    case 'resume':
      return resumeRule(on, stored.id, act.catchUp, by, now);
    case 'end':
      await endRule(on, stored.id, now);
      return;
    case 'revive':
      if (stored.state !== 'ended' || !stored.live) throw new Refusal('badRequest', { because: 'notEnded' });
      return publishRule(on, stored.live, stored.version + 1, by, now, null, stored.draft);
    case 'handOver':
      expectHandOver(stored, act.to, asking);
      return act.to === by ? handOverRule(on, stored, by, by, now) : offerRule(on, stored, act.to, asking, now);
    case 'takeOver':
      // Only whoever was asked says yes.
      if (stored.offer?.to !== by) throw new Refusal('badRequest', { because: 'nobodyAsked' });
      return takeOver(on, stored, stored.offer, asking, now);
    case 'leaveOffer':
      return leaveOffer(on, stored, asking, now);
    case 'pace':
      return givePace(on, act.pace, stored, asking, now);
    case 'delete':
      // Undoing it knows by the instant that it was this which ended the rule.
      await run(on, store.rules.remove(stored.id, stored.state === 'live' ? await endRule(on, stored.id, now) : now));
      return;
    case 'undelete':
      return bringBack(on, stored, by, now);
    default:
      act satisfies never;
  }
}

/** Refuses to hand a rule to somebody who is not here, or so that it would tell more than whoever hands it over may read. */
function expectHandOver(stored: StoredRule, to: string, asking: Caller): void {
  const heir = asking.directory.people.get(to);
  if (!heir?.active) throw new Refusal('badRequest', { because: 'heirHasLeft' });
  // Whoever is asked sees the whole rule.
  const offer = { to, by: asking.me.id, at: 0 };
  if (!maySee({ ...stored, offer }, { me: heir, directory: asking.directory }))
    throw new Refusal('badRequest', { because: 'heirMayNotSee' });
  const handed = stored.live ?? stored.draft;
  if (handed && reachesFarther(handed, to, asking)) throw new Refusal('badRequest', { because: 'reachesFarther' });
}

/** Another pace, live at once; edits that gather get it too. */
async function givePace(
  on: PoolConnection,
  pace: Extract<RuleAct, { act: 'pace' }>['pace'],
  { state, live, draft, version }: StoredRule,
  asking: Caller,
  now: Instant,
): Promise<void> {
  if (!live || state !== 'live') throw new Refusal('badRequest', { because: 'paceOfLiveOnly' });
  const rule = readRule({ ...live, pace }, asking);
  expectNoEyes(rule, asking);
  await publishRule(on, rule, version + 1, asking.me.id, now, null, draft && { ...draft, pace: rule.pace });
}

/** Brings a deleted rule back; what was live when it was deleted goes on, as a version of its own. */
async function bringBack(
  on: PoolConnection,
  { id, live, liveUntil, deletedAt, draft, version }: StoredRule,
  by: string,
  now: Instant,
): Promise<void> {
  await run(on, store.rules.bringBack(id));
  if (live && liveUntil !== null && liveUntil === deletedAt)
    await publishRule(on, live, version + 1, by, now, null, draft);
}

import type { PoolConnection } from 'mysql2/promise';
import { Refusal } from '../../contract/problems.ts';
import { eyesNotice } from '../../core/messages/index.ts';
import { eyedAs, type Rule } from '../../core/rules/index.ts';
import type { Instant } from '../../core/time/index.ts';
import { type Caller, mayEdit, savedRule, visibleRule } from '../access/index.ts';
import { originNow } from '../kit/index.ts';
import {
  type Ask,
  type Directory,
  inTransaction,
  one,
  run,
  runAll,
  store,
  type StoredRule,
  worldOf,
} from '../store/index.ts';
import type { ActContext } from './context.ts';
import { noticeOf, tellListeners } from './listeners.ts';
import { publishRule } from './publishing.ts';

/** The stewards who may look at what somebody asks for: all others that are here. */
const lookers = (by: string, { people }: Directory) =>
  [...people.values()].filter(({ id, role, active }) => role === 'steward' && active && id !== by);

/** Whether a rule has to be looked at before it is live by somebody else than whoever asks; not where there is nobody else. */
export const wantsEyes = (rule: Rule, { me, directory }: Caller): boolean =>
  eyedAs(rule, directory.house.secondEyes).length > 0 && lookers(me.id, directory).length > 0;

/** Refuses what would put a rule live at once that has to be looked at first. */
export function expectNoEyes(rule: Rule, asking: Caller): void {
  if (wantsEyes(rule, asking)) throw new Refusal('badRequest', { because: 'wantsSecondEyes' });
}

/** Lets a rule's edits wait for a second pair of eyes, and tells the stewards. */
export async function askForEyes(on: PoolConnection, rule: Rule, ask: Ask, { directory }: Caller): Promise<void> {
  await runAll(on, [
    store.rules.askForEyes(rule.id, ask),
    ...lookers(ask.by, directory).flatMap((reader) => told('asked', rule, ask, reader.id, ask.by, ask.at, directory)),
  ]);
}

/** A steward has looked at a rule's edits: they are live, as they stood when they were asked for, in the name of whoever asked. */
export async function approveRule(
  context: ActContext,
  id: string,
  { revision }: { revision: number },
  asking: Caller,
): Promise<void> {
  const { pool, clock, hub } = context;
  const { me, directory } = asking;
  if (me.role !== 'steward') throw new Refusal('notAllowed', { because: 'eyesOfStewards' });
  await visibleRule(pool, id, asking);
  await inTransaction(pool, async (on) => {
    await run(on, store.world.raise());
    const stored = await one(on, store.rules.byId(id, { lock: true }));
    const { ask, draft } = askedIn(stored);
    if (ask.by === me.id) throw new Refusal('notAllowed', { because: 'eyesOfAnother' });
    if (stored && ask.revision !== revision)
      throw new Refusal('editedMeanwhile', { conflict: { revision: ask.revision, draft, by: ask.by } });
    const now = clock.now();
    const asker = directory.people.get(ask.by);
    // It may tell what whoever asked may, now as well as then.
    const rule = await savedRule(on, { ...draft }, asker?.active ? { me: asker, directory } : asking, now);
    const version = (stored?.version ?? 0) + 1;
    await publishRule(on, rule, version, ask.by, now, ask.why);
    await runAll(on, [
      store.rules.answerAsk(id, ask.revision),
      store.rules.noteApproval(id, version, me.id),
      store.audit.add({
        at: now,
        kind: 'ruleApproved',
        actor: me.id,
        origin: originNow(),
        about: { rule: rule.name, version },
      }),
      ...told('approved', rule, ask, ask.by, me.id, now, directory),
    ]);
    await tellListeners(on, rule, version, ask.by, now, directory);
  });
  context.wake();
  hub.announce({ event: 'rules' });
}

/** A steward does not let a rule's edits live, and says why to whoever asked; or whoever may edit it takes back that it waits. */
export async function sendBack(
  { pool, clock, hub }: ActContext,
  id: string,
  why: string | null,
  asking: Caller,
): Promise<void> {
  const { me, directory } = asking;
  const seen = await visibleRule(pool, id, asking);
  if (me.role !== 'steward' && !mayEdit(seen, me, directory))
    throw new Refusal('notAllowed', { because: 'eyesOfStewards' });
  await inTransaction(pool, async (on) => {
    const { ask, draft } = askedIn(await one(on, store.rules.byId(id, { lock: true })));
    if (ask.by !== me.id && (why === null || why === ''))
      throw new Refusal('badRequest', { because: 'sendBackSaysWhy' });
    await runAll(on, [
      store.rules.answerAsk(id, ask.revision),
      ...(ask.by === me.id ? [] : told('sentBack', draft, { ...ask, why }, ask.by, me.id, clock.now(), directory)),
    ]);
  });
  hub.announce({ event: 'rules' });
}

function askedIn(stored: StoredRule | undefined): { ask: Ask; draft: Rule } {
  if (!stored?.ask || !stored.draft) throw new Refusal('badRequest', { because: 'nothingToLookAt' });
  return { ask: stored.ask, draft: stored.draft };
}

function told(
  what: 'asked' | 'approved' | 'sentBack',
  rule: Rule,
  ask: Ask,
  to: string,
  by: string,
  at: Instant,
  directory: Directory,
) {
  const reader = directory.people.get(to);
  if (!reader?.active) return [];
  const content = eyesNotice(what, { rule, by, at, reader, world: worldOf(directory, new Map()) }, ask.why);
  return noticeOf(reader, content, `eyes|${what}|${rule.id}|${ask.revision}|${to}|${at}`, at);
}

import { type FaultAt, Refusal } from '../../contract/problems.ts';
import type { Rule } from '../../core/rules/index.ts';
import { type Caller, editableRule, freeName, mayEdit, notYoursToEdit, readRule, savedRule } from '../access/index.ts';
import { inTransaction, newId, one, rows, run, store } from '../store/index.ts';
import type { ActContext } from './context.ts';
import { tellListeners } from './listeners.ts';
import { publishRule } from './publishing.ts';
import { askForEyes, expectNoEyes, wantsEyes } from './second-eyes.ts';

/** Makes a rule of somebody's own, as a draft; its id. */
export async function createRule(
  { pool, clock }: ActContext,
  document: Record<string, unknown>,
  asking: Caller,
): Promise<string> {
  const now = clock.now();
  const rule = await savedRule(pool, { ...document, id: newId(now), owner: asking.me.id }, asking, now);
  await run(pool, store.rules.create(rule, asking.me.id, now));
  return rule.id;
}

/**
 * Makes rules of somebody's own of several documents, each a draft; their ids in the order of the documents. All or none:
 * what is wrong with any of them is refused, each fault with the place of its document before its path (`2.when.if`).
 */
export async function importRules(
  { pool, clock, hub }: ActContext,
  documents: readonly Record<string, unknown>[],
  asking: Caller,
): Promise<string[]> {
  const now = clock.now();
  const ids = await inTransaction(pool, async (on) => {
    const faults: FaultAt[] = [];
    const made: string[] = [];
    for (const [at, document] of documents.entries())
      try {
        const rule = await savedRule(on, { ...document, id: newId(now), owner: asking.me.id }, asking, now);
        // The next is read beside this one, so that two of one name within the file are found too.
        await run(on, store.rules.create(rule, asking.me.id, now));
        made.push(rule.id);
      } catch (error) {
        if (!(error instanceof Refusal) || !error.grounds.faults) throw error;
        faults.push(...error.grounds.faults.map((fault) => ({ ...fault, path: `${at}.${fault.path}` })));
      }
    if (faults.length > 0) throw new Refusal('badRule', { faults });
    return made;
  });
  hub.announce({ event: 'rules' });
  return ids;
}

/** Keeps an eye on something: a rule that is live at once, for whoever asks, or for somebody else by those who may; its id. */
export async function keepAnEye(
  context: ActContext,
  document: Record<string, unknown>,
  person: string,
  asking: Caller,
): Promise<string> {
  const { pool, clock, hub } = context;
  const now = clock.now();
  // An eye is named by what it looks at, not by whoever keeps it: a second one is told apart by a number.
  const taken = (await rows(pool, store.rules.names(person))).map(({ name }) => name);
  const name = typeof document.name === 'string' ? freeName(document.name, taken) : document.name;
  const rule = await savedRule(
    pool,
    { ...document, name, id: newId(now), owner: person, to: [{ person }] },
    asking,
    now,
  );
  expectNoEyes(rule, asking);
  if (!asking.directory.people.get(person)?.active) throw new Refusal('badRequest', { because: 'keeperHasLeft' });
  await inTransaction(pool, async (on) => {
    await run(on, store.rules.create(rule, asking.me.id, now));
    await publishRule(on, rule, 1, asking.me.id, now);
    // Whoever is given an eye by somebody else is told of it; of one's own one knows.
    if (person !== asking.me.id) await tellListeners(on, rule, 1, asking.me.id, now, asking.directory);
  });
  context.wake();
  hub.announce({ event: 'rules' });
  return rule.id;
}

/** Keeps edits beside what is live, unless somebody else has kept others since `revision`. */
export async function keepDraft(
  { pool, clock, hub }: ActContext,
  id: string,
  { revision, document }: { revision: number; document: Record<string, unknown> },
  asking: Caller,
): Promise<void> {
  const stored = await editableRule(pool, id, asking);
  const now = clock.now();
  const rule = await savedRule(pool, { ...document, id: stored.id, owner: stored.owner }, asking, now);
  const kept = await run(pool, store.rules.keepDraft(rule, revision, asking.me.id, now));
  hub.announce({ event: 'rules' });
  if (kept.affectedRows > 0) return;
  const other = await editableRule(pool, id, asking);
  throw new Refusal('editedMeanwhile', {
    conflict: { revision: other.draftRevision, draft: other.draft ?? other.live, by: other.draftBy ?? other.putLiveBy },
  });
}

/** Drops edits; a rule that was never live goes with them. */
export async function dropDraft({ pool, hub }: ActContext, id: string, asking: Caller): Promise<void> {
  const stored = await editableRule(pool, id, asking);
  await run(pool, stored.version === 0 ? store.rules.removeDraft(stored.id) : store.rules.dropDraft(stored.id));
  hub.announce({ event: 'rules' });
}

/** Puts edits live, as they stood at `revision`; or lets them wait for a second pair of eyes, where the house wants that. */
export async function putLive(
  context: ActContext,
  id: string,
  { revision, why }: { revision: number; why: string | null },
  asking: Caller,
): Promise<void> {
  const { pool, clock, hub } = context;
  await inTransaction(pool, async (on) => {
    // Deciding holds this row: the new version begins after all that was being decided.
    await run(on, store.world.raise());
    const stored = await one(on, store.rules.byId(id, { lock: true }));
    if (!stored?.draft) throw new Refusal('badRequest', { because: 'noEdits' });
    if (stored.draftRevision !== revision)
      throw new Refusal('editedMeanwhile', {
        conflict: { revision: stored.draftRevision, draft: stored.draft, by: stored.draftBy },
      });
    const rule = await savedRule(on, { ...stored.draft }, asking, clock.now());
    if (wantsEyes(rule, asking)) {
      await askForEyes(on, rule, { revision, by: asking.me.id, at: clock.now(), why }, asking);
      return;
    }
    await publishRule(on, rule, stored.version + 1, asking.me.id, clock.now(), why);
    await tellListeners(on, rule, stored.version + 1, asking.me.id, clock.now(), asking.directory);
  });
  context.wake();
  hub.announce({ event: 'rules' });
}

/** Puts another rule in a live one's place as its next version; edits that gather beside it are kept. */
export async function putInPlace(context: ActContext, rule: Rule, asking: Caller): Promise<void> {
  const { pool, clock, hub } = context;
  await inTransaction(pool, async (on) => {
    await run(on, store.world.raise());
    const stored = await one(on, store.rules.byId(rule.id, { lock: true }));
    if (stored?.state !== 'live' || !mayEdit(stored, asking.me, asking.directory)) throw notYoursToEdit();
    // It stays its owner's, whatever was handed in: what a rule may tell goes by them.
    const own = readRule({ ...rule, id: stored.id, owner: stored.owner }, asking);
    expectNoEyes(own, asking);
    await publishRule(on, own, stored.version + 1, asking.me.id, clock.now(), null, stored.draft);
  });
  context.wake();
  hub.announce({ event: 'rules' });
}

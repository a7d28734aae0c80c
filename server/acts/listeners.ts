import type { PoolConnection } from 'mysql2/promise';
import { previewRecipients } from '../../core/decide/index.ts';
import { type Content, listenerNotice, ownerNotice } from '../../core/messages/index.ts';
import { quietEnd } from '../../core/pace/index.ts';
import {
  addressOf,
  kindOfSelector,
  membersOfGroup,
  namedIn,
  type Person,
  type Reached,
  type SelectorKind,
  stepsFor,
  type World,
} from '../../core/people/index.ts';
import { type CompiledRule, compileRule, type Rule } from '../../core/rules/index.ts';
import type { Instant } from '../../core/time/index.ts';
import { asChange, type ItemState } from '../../core/values/index.ts';
import { type Directory, rows, runAll, shortKey, type Statement, store, worldOf } from '../store/index.ts';

/**
 * Tells those whom a rule begins to tell, once each, and its owner that it is live; in the transaction that puts it
 * live. Who they are is judged by the items that stand in its scope.
 */
export async function tellListeners(
  on: PoolConnection,
  rule: Rule,
  version: number,
  by: string,
  at: Instant,
  directory: Directory,
): Promise<void> {
  const items = await rows(on, store.items.ofSources(rule.scope.sources));
  const followers = items.length === 0 ? [] : await rows(on, store.followers.of(items.map((item) => item.id)));
  const world: World = {
    ...worldOf(directory, new Map(items.map((item) => [item.id, item]))),
    followersOf: (item) => followers.filter((row) => row.item === item).map((row) => row.person),
  };
  const reached = reachedBy(compileRule(rule, directory.sources), items, at, world);
  const known = new Set(await rows(on, store.rules.listeners(rule.id)));
  const fresh = [...reached.values()].filter((one) => !known.has(one.id));
  const notices: { to: string; content: Content }[] = fresh.flatMap((one) => {
    const reader = directory.people.get(one.id);
    return reader && one.id !== rule.owner && one.id !== by
      ? [{ to: one.id, content: listenerNotice({ rule, by, at, reader, world }, one.reasons) }]
      : [];
  });
  const owner = directory.people.get(rule.owner);
  const confirmed = owner?.active
    ? { owner, content: ownerNotice({ rule, by, at, reader: owner, world }, version, reached.size) }
    : null;
  const gone = [...known].filter((id) => !reached.has(id));
  await runAll(on, [
    ...(fresh.length > 0
      ? [
          store.rules.addListeners(
            rule.id,
            fresh.map((one) => one.id),
            at,
          ),
        ]
      : []),
    ...(gone.length > 0 ? [store.rules.dropListeners(rule.id, gone)] : []),
    ...notices.map(({ to, content }) =>
      store.messages.notice(shortKey(`notice|${rule.id}|${version}|${to}`), to, content, at),
    ),
    ...(confirmed
      ? noticeOf(confirmed.owner, confirmed.content, `notice|${rule.id}|${version}|${confirmed.owner.id}`, at)
      : []),
  ]);
}

/** A notice to somebody: in Ojo, and by email too where their plan brings routine matters by email, after their quiet hours. */
export function noticeOf(reader: Person, content: Content, key: string, at: Instant): Statement[] {
  const inOjo = store.messages.notice(shortKey(key), reader.id, content, at);
  const address = addressOf(reader, 'email');
  const steps = stepsFor(reader, { urgency: 'routine', channels: null, pace: { kind: 'now' } });
  if (address === null || !steps.some(({ channel }) => channel === 'email')) return [inOjo];
  const heldUntil = quietEnd(reader.plan?.quiet ?? [], at, reader.zone);
  const email = { to: reader.id, toKind: 'person', channel: 'email', address, heldUntil } as const;
  return [inOjo, store.messages.sendDirect(shortKey(`${key}|email`), email, content, at)];
}

/** The people whom a rule tells of one item or another, with every reason. Their own changes and mutes are theirs to know of. */
function reachedBy(
  compiled: CompiledRule,
  items: readonly ItemState[],
  at: Instant,
  world: World,
): Map<string, Reached> {
  const found = new Map<string, Reached>();
  const isFixed = compiled.rule.to.every((selector) => BY_NAME.includes(kindOfSelector(selector)));
  for (const item of items) {
    if (!compiled.inScope(asChange(item, at), world)) continue;
    for (const { to, reason } of previewRecipients(compiled, item, at, world)) {
      if (to.kind !== 'person' || (reason !== null && reason !== 'ownChange')) continue;
      const before = found.get(to.id);
      const reasons = [...(before?.reasons ?? []), ...to.reasons];
      found.set(to.id, { ...to, reasons: [...new Map(reasons.map((one) => [JSON.stringify(one), one])).values()] });
    }
    // Whom it names by name it names of each item: those who may read one are all there are, once all are found.
    if (isFixed && found.size === fixedSize(compiled.rule, world)) break;
  }
  return found;
}

/** Kinds of selectors that name the same people whatever the item is. */
const BY_NAME: readonly SelectorKind[] = ['person', 'group'];

/** How many people a rule names by name or by group, groups within groups too. */
const fixedSize = ({ to }: Rule, world: World): number =>
  new Set([...namedIn(to, 'person'), ...namedIn(to, 'group').flatMap((group) => [...membersOfGroup(group, world)])])
    .size;

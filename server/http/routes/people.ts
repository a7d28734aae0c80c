import { DAY_MS } from '../../../core/time/index.ts';
import { Refusal } from '../../../contract/problems.ts';
import type { HearsPage, PersonRow } from '../../../contract/wire/index.ts';
import { previewRecipients } from '../../../core/decide/index.ts';
import { asKind, membersOfGroup, type Reason, type Selector, type World } from '../../../core/people/index.ts';
import type { CompiledRule } from '../../../core/rules/index.ts';
import { asChange } from '../../../core/values/index.ts';
import { type Caller, looksAfter, readsAll } from '../../access/index.ts';
import {
  type Directory,
  livePhases,
  readableItems,
  rows,
  several,
  store,
  type StoredItem,
  worldOf,
} from '../../store/index.ts';
import type { Context } from '../context.ts';
import type { Handlers } from '../register.ts';

const DAYS = 30;
/** So many of a source's items are asked whether they reach somebody. */
const SAMPLED = 120;

/** Who there is, and for each everything they hear, why, and how much of it they read. */
export const peopleHandlers: Handlers<'people.list' | 'people.hears'> = {
  async 'people.list'({ pool, clock }, { asking: { me, directory } }) {
    const now = clock.now();
    const counts = new Map(
      (await rows(pool, store.messages.toldCounts(now - DAYS * DAY_MS))).map((row) => [row.person, row]),
    );
    const shown = [...directory.people.values()].filter((person) => me.role !== 'member' || person.id === me.id);
    const ids = shown.map((person) => person.id);
    const here = new Set(await rows(pool, store.presence.among(ids, now)));
    return shown.map(
      ({ id, name, title, role, active, manager }): PersonRow => ({
        id,
        name,
        title,
        role,
        isActive: active,
        isHere: here.has(id),
        manager,
        groups: [...directory.groups.values()].filter(({ members }) => members.includes(id)).map((group) => group.id),
        told: counts.get(id)?.told ?? 0,
        read: counts.get(id)?.seen ?? 0,
      }),
    );
  },

  async 'people.hears'(context, { params, asking }) {
    const { pool, clock } = context;
    const { me, directory } = asking;
    const person = directory.people.get(params.id);
    if (!person || (me.role === 'member' && person.id !== me.id)) throw new Refusal('notFound');
    const now = clock.now();
    const counts = new Map(
      (await rows(pool, store.messages.toldByRule(person.id, now - DAYS * DAY_MS))).map((row) => [row.rule, row]),
    );
    const reasons = await reasonsFor(context, person.id, asking);
    const hears = livePhases(directory, now).flatMap(({ compiled: { rule }, isPaused }): HearsPage['hears'] => {
      // A rule is seen by those who may read something of all that it looks at, and by whoever it tells.
      const isSeen = person.id === me.id || readsAll(rule, asking);
      const count = counts.get(rule.id);
      const why = reasons.get(rule.id) ?? [];
      if (!isSeen || (why.length === 0 && !count)) return [];
      const mayEdit = looksAfter(rule, asking);
      return [{ rule, isPaused, reasons: why, told: count?.told ?? 0, read: count?.seen ?? 0, mayEdit }];
    });
    return { person: person.id, days: DAYS, hears: hears.sort((a, b) => b.told - a.told) };
  },
};

/** Why each live rule would tell somebody of one of the items that changed last and that the asker may read. */
async function reasonsFor(
  { pool, clock }: Context,
  person: string,
  { me, directory }: Caller,
): Promise<Map<string, Reason[]>> {
  const now = clock.now();
  const may = readableItems(me.id, directory);
  const sources = [...directory.sources.keys()];
  const lists = await several(
    pool,
    sources.map((source) => store.items.last([source], may, SAMPLED)),
  );
  const bySource = new Map(sources.map((source, at): [string, StoredItem[]] => [source, lists[at] ?? []]));
  const items = lists.flat();
  const followers = items.length === 0 ? [] : await rows(pool, store.followers.of(items.map((item) => item.id)));
  const world: World = {
    ...worldOf(directory, new Map(items.map((item) => [item.id, item]))),
    followersOf: (item) => followers.filter((row) => row.item === item).map((row) => row.person),
  };
  const found = new Map<string, Reason[]>();
  for (const { compiled } of livePhases(directory, now)) {
    if (!mayReach(compiled.rule.to, person, directory)) continue;
    const own = compiled.rule.scope.sources.flatMap((source) => bySource.get(source) ?? []);
    const reasons = reasonAmong(compiled, own, person, now, world);
    if (reasons) found.set(compiled.rule.id, reasons);
  }
  return found;
}

/** Why a rule tells somebody of the first of these items of which it does. */
function reasonAmong(
  compiled: CompiledRule,
  items: readonly StoredItem[],
  person: string,
  now: number,
  world: World,
): Reason[] | null {
  for (const item of items) {
    if (!compiled.inScope(asChange(item, now), world)) continue;
    const verdicts = previewRecipients(compiled, item, now, world);
    const told = verdicts.find(({ to, reason }) => to.id === person && reason === null);
    if (told) return told.to.reasons;
  }
  return null;
}

/** Whether selectors could reach a person at all: those that name people and groups say so whatever the item is. */
const mayReach = (selectors: readonly Selector[], person: string, directory: Directory): boolean =>
  selectors.some((selector) => {
    const named = asKind(selector, 'person')?.person;
    if (named !== undefined) return named === person;
    const group = asKind(selector, 'group')?.group;
    if (group !== undefined) return membersOfGroup(group, directory).has(person);
    return !asKind(selector, 'contact') && !asKind(selector, 'webhook');
  });

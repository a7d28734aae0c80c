import { Router } from 'express';
import type { HearsPage, PersonRow } from '../../contract/api.ts';
import { Refusal } from '../../contract/problems.ts';
import { previewRecipients } from '../../core/decide/index.ts';
import { mayReadSome, membersOfGroup, type Reason, type Selector, type World } from '../../core/people/index.ts';
import { asChange } from '../../core/values/index.ts';
import {
  type Directory,
  followersQuery,
  heardByRuleQuery,
  heardQuery,
  lastItemsQuery,
  livePhases,
  presentQuery,
  readableItems,
  rows,
  several,
  type StoredItem,
  toItem,
  worldOf,
} from '../store/index.ts';
import { type Caller, caller, type Context, param } from './context.ts';
import { coordinates } from './rule-documents.ts';

const DAYS = 30;
const DAY = 86_400_000;
/** So many of a source's items are asked whether they reach somebody. */
const SAMPLED = 120;

/** Who there is, and for each everything they hear, why, and how much of it they read. */
export function peopleRoutes({ pool, clock }: Context): Router {
  const routes = Router();

  routes.get('/people', async (_request, response) => {
    const { me, directory } = caller(response);
    const heard = new Map(
      (await rows<{ person_id: string; told: number; seen: number }>(pool, heardQuery(clock.now() - DAYS * DAY))).map(
        (row) => [row.person_id, row],
      ),
    );
    const shown = [...directory.people.values()].filter((person) => me.role !== 'member' || person.id === me.id);
    const here = new Set(
      (
        await rows<{ person_id: string }>(
          pool,
          presentQuery(
            shown.map((person) => person.id),
            clock.now(),
          ),
        )
      ).map((row) => row.person_id),
    );
    response.json(
      shown.map(
        (person): PersonRow => ({
          id: person.id,
          name: person.name,
          title: person.title,
          role: person.role,
          isActive: person.active,
          isHere: here.has(person.id),
          manager: person.manager,
          groups: [...directory.groups.values()]
            .filter((group) => group.members.includes(person.id))
            .map((group) => group.id),
          told: Number(heard.get(person.id)?.told ?? 0),
          read: Number(heard.get(person.id)?.seen ?? 0),
        }),
      ),
    );
  });

  routes.get('/people/:id/hears', async (request, response) => {
    const asking = caller(response);
    const person = asking.directory.people.get(param(request, 'id'));
    if (!person || (asking.me.role === 'member' && person.id !== asking.me.id)) throw new Refusal('notFound');
    const counts = new Map(
      (
        await rows<{ rule_id: string; told: number; seen: number }>(
          pool,
          heardByRuleQuery(person.id, clock.now() - DAYS * DAY),
        )
      ).map((row) => [row.rule_id, row]),
    );
    const reasons = await reasonsFor(person.id, asking);
    const hears = livePhases(asking.directory, clock.now()).flatMap(
      ({ compiled: { rule }, isPaused }): HearsPage['hears'] => {
        // A rule is seen by those who may read something of all that it looks at, and by whoever it tells.
        if (
          person.id !== asking.me.id &&
          !rule.scope.sources.every((id) => mayReadSome(asking.me.id, id, asking.directory))
        )
          return [];
        const count = counts.get(rule.id);
        const why = reasons.get(rule.id) ?? [];
        return why.length === 0 && !count
          ? []
          : [
              {
                rule,
                isPaused,
                reasons: why,
                told: Number(count?.told ?? 0),
                read: Number(count?.seen ?? 0),
                mayEdit: rule.owner === asking.me.id || coordinates(asking.me, rule.scope.sources, asking.directory),
              },
            ];
      },
    );
    response.json({ person: person.id, days: DAYS, hears: hears.sort((a, b) => b.told - a.told) } satisfies HearsPage);
  });

  /** Why each live rule would tell somebody of one of the items that changed last and that the asker may read. */
  async function reasonsFor(person: string, { me, directory }: Caller): Promise<Map<string, Reason[]>> {
    const now = clock.now();
    const may = readableItems(me.id, directory);
    const bySource = new Map<string, StoredItem[]>();
    const sources = [...directory.sources.keys()];
    const lists = await several(
      pool,
      sources.map((source) => lastItemsQuery([source], may, SAMPLED)),
    );
    for (const [at, source] of sources.entries()) bySource.set(source, (lists[at] ?? []).map(toItem));
    const items = [...bySource.values()].flat();
    const followers =
      items.length === 0
        ? []
        : await rows<{ item_id: string; person_id: string }>(pool, followersQuery(items.map((item) => item.id)));
    const world: World = {
      ...worldOf(directory, new Map(items.map((item) => [item.id, item]))),
      followersOf: (item) => followers.filter((row) => row.item_id === item).map((row) => row.person_id),
    };
    const found = new Map<string, Reason[]>();
    for (const { compiled } of livePhases(directory, now)) {
      if (!mayReach(compiled.rule.to, person, directory)) continue;
      const own = compiled.rule.scope.sources.flatMap((source) => bySource.get(source) ?? []);
      for (const item of own) {
        if (!compiled.inScope(asChange(item, now), world)) continue;
        const heard = previewRecipients(compiled, item, now, world).find(
          ({ to, reason }) => to.id === person && reason === null,
        );
        if (!heard) continue;
        found.set(compiled.rule.id, heard.to.reasons);
        break;
      }
    }
    return found;
  }

  return routes;
}

/** Whether selectors could reach a person at all: those that name people and groups say so whatever the item is. */
const mayReach = (selectors: readonly Selector[], person: string, directory: Directory): boolean =>
  selectors.some(
    (one) =>
      typeof one !== 'object' ||
      ('person' in one
        ? one.person === person
        : 'group' in one
          ? membersOfGroup(one.group, directory).has(person)
          : !('contact' in one || 'webhook' in one)),
  );

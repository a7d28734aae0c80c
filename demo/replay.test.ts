import { fromJson, raw } from '../server/testing/raw.ts';
import type { Pool } from 'mysql2/promise';
import { expect, it } from 'vitest';
import { type ScenarioInput, type Setting, simulate } from '../core/decide/index.ts';
import { DAY_MS, instantOf, printInstant } from '../core/time/index.ts';
import { publishRule } from '../server/acts/index.ts';
import { inTransaction, query, rows, run, runAll, type StoredItem, store } from '../server/store/index.ts';
import { breakingPool, makeRunner, setUpMuseum } from '../server/testing/museum.ts';
import { Chance } from './chance.ts';
import { enact, type Made } from './history.ts';
import { layOut } from './lay-out.ts';
import { CONTACTS, FOLLOWERS, GROUPS, PEOPLE } from './people.ts';
import { RULES, WORDINGS } from './rules.ts';
import { SENDERS, USUAL } from './voice.ts';
import { ACCESS, FOLDERS, SOURCES } from './sources.ts';
import { tellStory } from './story.ts';

const NOW = instantOf('2026-03-04T18:00:00Z');
const SPAN = 9 * DAY_MS;
const museum = setUpMuseum();

/** How every item stood before the span, as its last change left it, and that change. */
function standingAt(made: readonly Made[], at: number): { items: StoredItem[]; last: Made[] } {
  const items = new Map<string, StoredItem>();
  const last = new Map<string, Made>();
  for (const { change, version } of made) {
    if (change.at >= at) break;
    if (version === null) continue;
    last.set(change.item, { change, version });
    items.set(change.item, {
      id: change.item,
      source: change.source,
      folder: change.folder,
      title: change.item,
      fields: change.after ?? change.before ?? {},
      version,
      isDeleted: change.after === null,
      createdBy: change.previous?.createdBy ?? change.actor,
      createdAt: change.at,
      lastBy: change.actor,
      lastAt: change.at,
    });
  }
  return { items: [...items.values()], last: [...last.values()] };
}

async function enter(pool: Pool, { change, version }: Made): Promise<void> {
  const { item, folder, before, after, actor, at } = change;
  await inTransaction(pool, async (on) => {
    if (version === 1)
      await run(
        on,
        store.items.insert([
          {
            id: item,
            source: change.source,
            folder,
            title: item,
            fields: after ?? {},
            version,
            isDeleted: false,
            createdBy: actor,
            createdAt: at,
            lastBy: actor,
            lastAt: at,
          },
        ]),
      );
    else
      await run(
        on,
        query(
          'UPDATE items SET folder_id = ?, fields = ?, version = ?, is_deleted = ?, last_by = ?, last_at = FROM_UNIXTIME(? / 1000) WHERE id = ?',
          folder,
          JSON.stringify(after ?? before),
          version,
          after === null ? 1 : 0,
          actor,
          at,
          item,
        ),
      );
    await runAll(on, store.changes.save(change, version));
  });
}

it('the runner over the demo’s last days, cut off now and then, gives what the engine gives on virtual time', async () => {
  const { pool, clock } = museum;
  for (const table of ['people', 'groups_of_people', 'group_members', 'sources', 'access_entries'])
    await run(pool, query(`DELETE FROM ${table}`));
  await layOut(pool, { password: 'only-for-tests', hook: 'http://localhost/', hookSecret: 'secret', feedKey: 'key' });
  const { made } = enact(tellStory(NOW, new Chance(20260304)));
  const start = NOW - SPAN;
  const { items, last } = standingAt(made, start);
  for (let at = 0; at < items.length; at += 500)
    await runAll(pool, [
      store.items.insert(items.slice(at, at + 500)),
      store.changes.saveDecided(last.slice(at, at + 500)),
    ]);
  clock.set(start);
  for (const { rule } of RULES) {
    await inTransaction(pool, async (on) => {
      await run(on, store.rules.create(rule, rule.owner, start));
      await publishRule(on, rule, 1, rule.owner, start);
    });
  }
  const late = made.filter(({ change }) => change.at >= start);
  const chance = new Chance(4);
  let next = 0;
  for (let at = start; at <= NOW; at += 3 * 3_600_000) {
    for (let one = late[next]; one && one.change.at <= at; one = late[++next]) await enter(pool, one);
    clock.set(at + 300);
    if (chance.isLikely(0.5))
      await makeRunner(breakingPool(pool, chance.whole(1, 12)).pool, clock)
        .drain()
        .catch(() => undefined);
    if (chance.isLikely(0.7)) await makeRunner(pool, clock).drain();
  }
  clock.set(NOW + 300);
  await makeRunner(pool, clock).drain();

  const inputs: ScenarioInput[] = late.slice(0, next).map(({ change }) => change);
  const setting: Setting = {
    start,
    end: NOW,
    people: PEOPLE,
    groups: GROUPS,
    contacts: CONTACTS,
    sources: SOURCES,
    folders: FOLDERS,
    followers: FOLLOWERS,
    wordings: WORDINGS,
    voice: { usual: USUAL, senders: SENDERS },
    access: ACCESS,
    items: items.filter((item) => !item.isDeleted),
    rules: RULES.map(({ rule }) => ({ rule, from: start })),
  };
  const outcome = simulate({ ...setting, inputs });
  const alerts = await rows(
    pool,
    raw<{ rule_id: string; at: number; items: string; changes: string }>(
      'SELECT rule_id, at, items, changes FROM alerts',
    ),
  );
  expect(
    alerts
      .map(
        (row) =>
          `${printInstant(row.at)} ${row.rule_id} ${fromJson<string[]>(row.items)} ${fromJson<string[]>(row.changes)}`,
      )
      .sort(),
  ).toEqual(outcome.alerts.map((one) => `${one.at} ${one.rule} ${one.items} ${one.changes}`).sort());
  const messages = await rows(
    pool,
    raw<{ person_id: string; channel: string; at: number; form: string; subject: string }>(
      'SELECT person_id, channel, at, form, subject FROM messages',
    ),
  );
  expect(
    messages.map((row) => `${printInstant(row.at)} ${row.person_id} ${row.channel} ${row.form} ${row.subject}`).sort(),
  ).toEqual(outcome.messages.map((one) => `${one.at} ${one.to} ${one.channel} ${one.form} ${one.subject}`).sort());
  const withheld = await rows(
    pool,
    raw<{ person_id: string; rule_id: string; item_id: string; reason: string }>(
      'SELECT person_id, rule_id, item_id, reason FROM withheld',
    ),
  );
  expect(withheld.map((row) => `${row.rule_id} ${row.item_id} ${row.person_id} ${row.reason}`).sort()).toEqual(
    outcome.withheld.map((one) => `${one.rule} ${one.item} ${one.person} ${one.reason}`).sort(),
  );
  expect(inputs.length).toBeGreaterThan(800);
  expect(new Set(outcome.alerts.map((one) => one.rule)).size).toBeGreaterThan(14);
}, 300_000);

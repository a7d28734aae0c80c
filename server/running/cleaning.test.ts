import { beforeEach, describe, expect, it } from 'vitest';
import { DAY_MS } from '../../core/time/index.ts';
import { DirectoryCache, query, rows, run, store } from '../store/index.ts';
import { askMuseum } from '../testing/asking.ts';
import { clearAway, edit, newLoan, NOON, ON_VIEW, putLive, rule } from '../testing/museum.ts';
import { raw } from '../testing/raw.ts';
import { clean } from './index.ts';

const { museum, ask, settle, forget } = askMuseum();
const counted = async (table: string): Promise<number> =>
  Number((await rows(museum.pool, raw<{ n: number }>(`SELECT COUNT(*) AS n FROM ${table}`)))[0]?.n);
async function cleanAll(at: number): Promise<number> {
  let turns = 1;
  while (await clean(museum.pool, at)) turns += 1;
  return turns;
}

beforeEach(async () => {
  await clearAway(museum.pool);
  await run(museum.pool, query('DELETE FROM cleanings'));
  museum.clock.set(NOON);
});

describe('what is old', () => {
  it('goes after the days that stewards chose, and how much went is said', async () => {
    await putLive(
      museum.pool,
      rule({ ...ON_VIEW, id: 'old', to: [{ person: 'mei' }], channels: ['inApp', 'email'] }),
      NOON - 1000,
    );
    const loan = await newLoan(museum.pool, { title: 'Tidal Loom', status: 'Agreed' });
    museum.clock.set(NOON + 60_000);
    await edit(museum.pool, loan, { status: 'On view' }, { at: museum.clock.now() });
    await settle();
    expect(await counted('messages')).toBeGreaterThan(1);
    const later = NOON + 200 * DAY_MS;
    await cleanAll(later);
    expect(await counted('messages')).toBeGreaterThan(1);

    const body = { messages: 180, trail: 366, engine: 90, sessions: 14 };
    expect((await ask('/running/keeping', { as: 'mei', method: 'PUT', body })).status).toBe(403);
    expect((await ask('/running/keeping', { as: 'marisol', method: 'PUT', body: { ...body, trail: 30 } })).status).toBe(
      400,
    );
    expect((await ask('/running/keeping', { as: 'marisol', method: 'PUT', body })).status).toBe(204);
    const had = await counted('messages');
    await cleanAll(later);
    expect([await counted('messages'), await counted('message_alerts'), await counted('attempts')]).toEqual([0, 0, 0]);
    expect(await counted('changes')).toBe(2);
    museum.clock.set(later);
    forget('marisol');
    const { keeping } = (await ask('/running', { as: 'marisol' })).body;
    expect(keeping.days).toEqual(body);
    expect(keeping.cleaned).toContainEqual({ day: '2026-09-20', what: 'messages', count: had });

    // Of the trail the last change of each item stays, and the item is as it was.
    await cleanAll(NOON + 400 * DAY_MS);
    const left = await rows(museum.pool, raw<{ kind: string }>('SELECT kind FROM changes'));
    expect(left).toEqual([{ kind: 'changed' }]);
    museum.clock.set(NOON + 400 * DAY_MS);
    forget('mei');
    expect((await ask(`/items/${loan}`, { as: 'mei' })).body.item.fields.status).toBe('On view');
  });

  it('stays while it waits, shows somebody’s words, or the engine works with it', async () => {
    await run(museum.pool, store.keeping.save('messages', 90));
    await run(museum.pool, store.keeping.save('trail', 366));
    const message = (id: string, more: string) =>
      run(
        museum.pool,
        query(
          `INSERT INTO messages (id, person_id, recipient, channel, address, form, urgency, subject, ${more.split('|')[0]}) VALUES (?, 'mei', 'person', 'email', 'a@b', 'single', 'routine', 's', ${more.split('|')[1]})`,
          id,
        ),
      );
    await message('waits', "content, at, fate, retry_at|'{}', '2020-01-01', 'waiting', '2099-01-01'");
    await message('shown', "content, at, fate|'{}', '2020-01-01', 'delivered'");
    await message('shows', "content_of, at, fate|'shown', '2026-03-03', 'delivered'");
    await message('gone', "content, at, fate|'{}', '2020-01-01', 'delivered'");
    // An alert that nobody has taken on has its change at work.
    await putLive(
      museum.pool,
      rule({
        ...ON_VIEW,
        id: 'acked',
        to: [{ person: 'mei' }],
        channels: ['inApp'],
        ack: { by: 'anyone', remind: null, escalate: [], closeWhenCeased: false, allClear: false },
      }),
      NOON - 1000,
    );
    const loan = await newLoan(museum.pool, { title: 'Reed Gate', status: 'Agreed' });
    museum.clock.set(NOON + 60_000);
    await edit(museum.pool, loan, { status: 'On view' }, { at: museum.clock.now() });
    await settle();
    museum.clock.set(NOON + 120_000);
    await edit(museum.pool, loan, { note: 'Later' }, { at: museum.clock.now() });
    await settle();
    await cleanAll(NOON + 80 * DAY_MS);
    const left = await rows(
      museum.pool,
      raw<{ id: string }>('SELECT id FROM messages WHERE LENGTH(id) < 10 ORDER BY id'),
    );
    expect(left.map(({ id }) => id)).toEqual(['shown', 'shows', 'waits']);
    await cleanAll(NOON + 500 * DAY_MS);
    const kinds = await rows(
      museum.pool,
      raw<{ item_version: number }>('SELECT item_version FROM changes ORDER BY seq'),
    );
    // The second is in an alert that nobody has taken on, the third is the item's last.
    expect(kinds.map(({ item_version }) => item_version)).toEqual([2, 3]);
  });

  it('goes in small steps, however much there is', async () => {
    await run(museum.pool, store.keeping.save('messages', 90));
    await run(
      museum.pool,
      query(
        "INSERT INTO messages (id, person_id, recipient, channel, address, form, urgency, subject, content, at, fate) SELECT CONCAT('many', seq), 'mei', 'person', 'inApp', 'mei', 'single', 'routine', 's', '{}', '2020-01-01', 'delivered' FROM seq_1_to_450",
      ),
    );
    expect(await cleanAll(NOON)).toBe(3);
    expect(await counted('messages')).toBe(0);
  });
});

it('what is remembered of a rule goes once that has been ended for long', async () => {
  await run(
    museum.pool,
    query(
      "INSERT INTO engine_rows (id, shelf, of_group, rule_id, value) VALUES ('e1', 'coolDowns', 'g', 'over', '{}'), ('e2', 'coolDowns', 'g', 'live', '{}')",
    ),
  );
  const phase = (id: string, until: string) =>
    run(
      museum.pool,
      query(
        `INSERT INTO rule_phases (rule_id, epoch, version, since, until, burst_since, schedule_since, put_by) VALUES (?, 1, 1, '2025-01-01', ${until}, 1, 1, 'ines')`,
        id,
      ),
    );
  await phase('over', "'2025-06-01'");
  await phase('live', 'NULL');
  await cleanAll(NOON);
  expect(
    (await rows(museum.pool, raw<{ rule_id: string }>("SELECT rule_id FROM engine_rows WHERE of_group = 'g'"))).map(
      ({ rule_id }) => rule_id,
    ),
  ).toEqual(['live']);
  expect(await new DirectoryCache().current(museum.pool)).toBeDefined();
});

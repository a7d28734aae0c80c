import { DAY_MS, printInstant } from '../../core/time/index.ts';
import type { Coming } from '../../contract/wire/index.ts';
import { describe, expect, it } from 'vitest';
import { askMuseum } from '../testing/asking.ts';
import { edit, newLoan, NOON, ON_VIEW, putLive } from '../testing/museum.ts';

const { museum, ask, ojo } = askMuseum();
const put = (plan: object | null, mutes: object[] = [], as = 'ines') =>
  ask('/me/plan', { as, method: 'PUT', body: { plan, mutes } });

describe('a delivery plan', () => {
  it('is kept whole, refused with its path where it cannot be, and one’s own', async () => {
    expect((await ask('/me/plan', { as: 'ines' })).body).toMatchObject({
      plan: null,
      mutes: [],
      email: 'ines@marisma.example',
    });
    expect((await put({ off: ['inApp'] })).body.faults[0]).toMatchObject({ path: 'plan.off' });
    const plan = { quiet: [{ days: ['MO'], from: '19:00', to: '07:30' }], reach: { routine: [{ channel: 'inApp' }] } };
    expect((await put(plan, [{ item: 'x', until: '2026-04-01' }])).body).toMatchObject({
      plan,
      mutes: [{ item: 'x', until: '2026-04-01' }],
    });
    expect((await ask('/me/plan', { as: 'mei' })).body.plan).toBeNull();
    await put(null);
  });

  it('shows the last week as the engine would have it, under it and under another', async () => {
    await putLive(museum.pool, { ...ON_VIEW, id: 'week', channels: null, to: [{ field: 'registrar' }] }, NOON - 1000);
    for (const title of ['Tidal Loom', 'Reed Boat']) {
      const loan = await newLoan(museum.pool, { title, status: 'Agreed', registrar: 'ines' }, NOON - 900);
      await edit(museum.pool, loan, { status: 'On view' }, { actor: 'mei', at: NOON - 800 });
    }
    await ojo().runner.drain();
    museum.clock.set(NOON + DAY_MS);
    const digest = {
      reach: { important: [{ channel: 'email', pace: { kind: 'digest', every: 'day', at: '18:00' } }] },
    };
    const week = (await ask('/me/plan/week', { as: 'ines', method: 'POST', body: { plan: digest, mutes: [] } })).body;
    const said = (rows: { channel: string; form: string; at: string }[]) =>
      rows.map((row) => `${row.channel} ${row.form} ${row.at.slice(0, 16)}`);
    expect(said(week.present)).toEqual([
      'inApp single 2026-03-04T11:59',
      'inApp single 2026-03-04T11:59',
      'email single 2026-03-04T12:14',
      'email single 2026-03-04T12:14',
    ]);
    expect(said(week.planned)).toEqual(['email digest 2026-03-04T17:00']);
    expect(week.planned[0]).toMatchObject({
      rules: ['week'],
      arose: ['2026-03-04T11:59:59.2Z', '2026-03-04T11:59:59.2Z'],
    });
    expect(
      (await ask('/me/plan/week', { as: 'petra', method: 'POST', body: { plan: null, mutes: [] } })).body.present,
    ).toEqual([]);
  });
});

describe('less of this', () => {
  it('counts each way over the last month, takes one, and gives back how it was', async () => {
    const page = (await ask('/less?rule=week', { as: 'ines' })).body;
    expect(page).toMatchObject({ rule: { id: 'week' }, before: 4 });
    expect(Object.fromEntries(page.ways.map(({ way, after }: { way: string; after: number }) => [way, after]))).toEqual(
      { daily: 2, noEmail: 2, notThisRule: 0 },
    );
    const before = (
      await ask('/less', {
        as: 'ines',
        method: 'POST',
        body: { way: 'notThisRule', rule: 'week', until: '2026-04-01' },
      })
    ).body;
    expect(before).toEqual({ plan: null, mutes: [], rule: null });
    expect((await ask('/me/plan', { as: 'ines' })).body.mutes).toEqual([{ rule: 'week', until: '2026-04-01' }]);
    expect((await ask('/less?rule=week', { as: 'ines' })).body.before).toBe(0);
    await ask('/less/back', { as: 'ines', method: 'POST', body: before });
    expect((await ask('/less?rule=week', { as: 'ines' })).body.before).toBe(4);
  });

  it('offers whoever may edit a rule to have it tell only when its state comes about, and takes that back', async () => {
    await putLive(
      museum.pool,
      {
        ...ON_VIEW,
        id: 'each-save',
        owner: 'ines',
        to: [{ person: 'ines' }, { person: 'mei' }],
        channels: ['inApp'],
        when: { kinds: [], if: { field: 'status', op: 'is', value: 'On view' }, burst: null },
      },
      museum.clock.now() - 1000,
    );
    const loan = await newLoan(museum.pool, { title: 'Salt Basket', status: 'Agreed' }, museum.clock.now() - 900);
    for (const [at, set] of (
      [{ status: 'On view' }, { note: 'a' }, { note: 'b' }] as Record<string, string>[]
    ).entries())
      await edit(museum.pool, loan, set, { actor: 'wren', at: museum.clock.now() - 800 + at });
    await ojo().runner.drain();
    const becomes = (page: { ways: { way: string; after: number }[] }) =>
      page.ways.find(({ way }) => way === 'becomes');
    const [mine, theirs] = [
      (await ask('/less?rule=each-save', { as: 'ines' })).body,
      (await ask('/less?rule=each-save', { as: 'mei' })).body,
    ];
    // The month has the two loans of before as well, each on view by one change.
    expect([mine.before, becomes(mine)?.after, becomes(theirs)]).toEqual([5, 3, undefined]);
    expect(
      (await ask('/less', { as: 'mei', method: 'POST', body: { way: 'becomes', rule: 'each-save' } })).status,
    ).toBe(403);
    const before = (await ask('/less', { as: 'ines', method: 'POST', body: { way: 'becomes', rule: 'each-save' } }))
      .body;
    expect((await ask('/rules/each-save', { as: 'ines' })).body).toMatchObject({
      version: 2,
      live: { when: { if: { became: { value: 'On view' } } } },
    });
    expect(becomes((await ask('/less?rule=each-save', { as: 'ines' })).body)).toBeUndefined();
    await ask('/less/back', { as: 'ines', method: 'POST', body: before });
    expect((await ask('/rules/each-save', { as: 'ines' })).body).toMatchObject({
      version: 3,
      live: { when: { if: { op: 'is' } } },
    });
  });

  it('of an item names it only to who may read it', async () => {
    const { items } = (await ask('/sources/loans/items?text=Tidal', { as: 'ines' })).body;
    const page = (await ask(`/less?rule=week&item=${items[0].id}`, { as: 'ines' })).body;
    expect(page.ways.find((one: { way: string }) => one.way === 'notThisItem')).toMatchObject({ after: 2 });
    expect((await ask(`/less?rule=week&item=${items[0].id}`, { as: 'petra' })).body).toMatchObject({ item: null });
  });
});

describe('today', () => {
  it('has what waits, what others did to what one keeps an eye on since, and what gathers', async () => {
    const { items } = (await ask('/sources/loans/items?text=Tidal', { as: 'ines' })).body;
    await ask('/eyes', {
      as: 'ines',
      method: 'POST',
      body: {
        document: {
          name: 'An eye',
          scope: { sources: ['loans'], items: [items[0].id] },
          when: {},
          pace: { kind: 'digest', every: 'day', at: '18:00' },
          channels: ['inApp'],
        },
      },
    });
    const now = museum.clock.now();
    await edit(museum.pool, items[0].id, { note: 'moved by Mei' }, { actor: 'mei', at: now + 10 });
    await edit(museum.pool, items[0].id, { note: 'and by myself' }, { actor: 'ines', at: now + 20 });
    museum.clock.set(now + 1000);
    await ojo().runner.drain();
    const since = new Date(now).toISOString();
    const page = (await ask(`/today?since=${since}`, { as: 'ines' })).body;
    expect(page).toMatchObject({
      hears: true,
      waiting: [],
      moved: [
        {
          by: ['mei'],
          entry: { item: { title: 'Tidal Loom' }, isBack: false, fields: [{ id: 'note', after: 'moved by Mei' }] },
        },
      ],
      more: 0,
      others: 0,
      digests: [{ channels: ['inApp'], items: 1, first: 'Tidal Loom' }],
    });
    // What gathers is read as it would be told now, with how it stands since.
    const gathering = (as: string) => ask(`/today/gathering?at=${page.digests[0].at}`, { as });
    expect((await gathering('ines')).body).toMatchObject([
      { item: { title: 'Tidal Loom' }, now: [{ label: 'Note', value: 'and by myself' }] },
    ]);
    expect((await gathering('petra')).body).toEqual([]);
    expect((await ask(`/today?since=${since}`, { as: 'petra' })).body).toMatchObject({
      hears: false,
      moved: [],
      others: 0,
      coming: [],
      digests: [],
    });
    expect((await ask('/today?since=soon', { as: 'ines' })).status).toBe(400);
  });

  it('draws the dates of what names one, and what rules will tell one of, in the two weeks ahead', async () => {
    const now = museum.clock.now();
    const day = (days: number) => printInstant(now + days * DAY_MS).slice(0, 10);
    const rule = {
      name: 'A week before it is due',
      scope: { sources: ['loans'] },
      due: { field: 'due', offset: '-P7D', at: '09:00' },
      to: [{ field: 'registrar' }],
    };
    const { id, draftRevision } = (await ask('/rules', { as: 'ines', method: 'POST', body: { document: rule } })).body;
    await ask(`/rules/${id}/live`, { as: 'ines', method: 'POST', body: { revision: draftRevision } });
    for (const [title, days, registrar] of [
      ['Due soon', 3, 'ines'],
      ['Due in ten days', 10, 'ines'],
      ['Due too late', 30, 'ines'],
      ['Somebody else’s', 3, 'wren'],
    ] as const)
      await newLoan(museum.pool, { title, status: 'Agreed', due: day(days), registrar }, museum.clock.now());
    museum.clock.set(museum.clock.now() + 1000);
    await ojo().runner.drain();
    const { coming } = (await ask(`/today?since=${printInstant(now)}`, { as: 'ines' })).body;
    expect(
      coming.map((one: Coming) => [
        one.what,
        one.items.map((item) => item.title).join(),
        one.at.slice(0, 10),
        one.rule?.name,
      ]),
    ).toEqual([
      ['date', 'Due soon', expect.any(String), undefined],
      ['due', 'Due in ten days', day(3), 'A week before it is due'],
      ['date', 'Due in ten days', expect.any(String), undefined],
    ]);
    expect((await ask(`/today?since=${printInstant(now)}`, { as: 'petra' })).body.coming).toEqual([]);
  });
});

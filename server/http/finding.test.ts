import { raw } from '../testing/raw.ts';
import { beforeAll, describe, expect, it } from 'vitest';
import { query, rows, run } from '../store/index.ts';
import { askMuseum } from '../testing/asking.ts';
import { edit, newLoan, NOON } from '../testing/museum.ts';

const { museum, ask } = askMuseum();
const list = async (asked: Record<string, string>, as = 'ines') =>
  ask(`/sources/loans/items?${new URLSearchParams(asked)}`, { as });
const titles = async (asked: Record<string, string>) =>
  (await list(asked)).body.items.map((item: { title: string }) => item.title);
const where = (test: object) => JSON.stringify(test);

beforeAll(async () => {
  await newLoan(
    museum.pool,
    {
      title: 'Tidal Loom',
      status: 'Agreed',
      registrar: 'ines',
      insured: { amount: '100.00', currency: 'EUR' },
      due: '2026-03-18',
    },
    NOON - 9000,
  );
  await newLoan(
    museum.pool,
    { title: 'Reed Boat', status: 'On view', registrar: 'mei', insured: { amount: '2500', currency: 'EUR' } },
    NOON - 8000,
  );
  await newLoan(
    museum.pool,
    {
      title: 'Ember Bowl',
      status: 'Agreed',
      registrar: 'wren',
      insured: { amount: '900', currency: 'GBP' },
      due: '2026-09-01',
    },
    NOON - 7000,
  );
});

describe('a list', () => {
  it('is narrowed by the state items are in, exactly as the engine sees it', async () => {
    expect(await titles({ where: where({ field: 'status', op: 'is', value: 'Agreed' }) })).toEqual([
      'Ember Bowl',
      'Tidal Loom',
    ]);
    expect(
      await titles({
        where: where({
          all: [
            { field: 'insured', op: 'above', value: { amount: '99.99', currency: 'EUR' } },
            { field: 'title', op: 'contains', value: 'BOAT' },
          ],
        }),
      }),
    ).toEqual(['Reed Boat']);
    expect(await titles({ where: where({ field: 'due', op: 'withinNext', value: 'P30D' }) })).toEqual(['Tidal Loom']);
    expect((await list({ where: where({ none: [{ field: 'due', op: 'filled' }] }) })).body.total).toBe(1);
  });

  it('stands in the order of any field, empty ones last', async () => {
    expect(await titles({ sort: 'insured' })).toEqual(['Tidal Loom', 'Ember Bowl', 'Reed Boat']);
    expect(await titles({ sort: 'due', down: '1' })).toEqual(['Ember Bowl', 'Tidal Loom', 'Reed Boat']);
    expect(await titles({ sort: 'registrar' })).toEqual(['Tidal Loom', 'Reed Boat', 'Ember Bowl']);
  });

  it('refuses a state that cannot be, with what would be allowed', async () => {
    expect((await list({ where: '{"field"' })).body.faults[0]).toMatchObject({
      path: 'where',
      words: expect.stringContaining('state test as JSON'),
    });
    expect((await list({ where: where({ field: 'status', op: 'is', value: 'Lost' }) })).body.faults[0].words).toContain(
      'It has: Requested',
    );
  });

  it('gets a name that all can use, and that its maker takes away', async () => {
    const view = (
      await ask('/sources/loans/views', {
        as: 'ines',
        method: 'POST',
        body: { name: 'Agreed', asked: { where: where({ field: 'status', op: 'is', value: 'Agreed' }) } },
      })
    ).body;
    expect((await ask('/sources/loans/views', { as: 'mei' })).body).toMatchObject([{ name: 'Agreed', owner: 'ines' }]);
    expect((await ask(`/views/${view.id}`, { as: 'mei', method: 'DELETE' })).status).toBe(403);
    expect((await ask(`/views/${view.id}`, { as: 'ines', method: 'DELETE' })).status).toBe(204);
  });
});

describe('the trail', () => {
  const trail = async (asked: Record<string, string> = {}, as = 'ines') =>
    (await ask(`/trail?${new URLSearchParams(asked)}`, { as })).body;
  const said = (page: { entries: { title: string; row: { kind: string } }[] }) =>
    page.entries.map((entry) => `${entry.title} ${entry.row.kind}`);

  it('has every change, newest first, by who, what and field, of what one may read', async () => {
    const { id } = (await list({ text: 'Tidal' })).body.items[0];
    await edit(museum.pool, id, { status: 'On view' }, { actor: 'mei', at: NOON - 1000 });
    await edit(museum.pool, id, { note: 'hung' }, { actor: 'wren', at: NOON - 500 });
    expect(said(await trail())).toEqual([
      'Tidal Loom changed',
      'Tidal Loom changed',
      'Ember Bowl created',
      'Reed Boat created',
      'Tidal Loom created',
    ]);
    expect(said(await trail({ person: 'mei', kind: 'changed' }))).toEqual(['Tidal Loom changed']);
    expect(said(await trail({ source: 'loans', field: 'note' }))).toEqual(['Tidal Loom changed']);
    expect(said(await trail({ from: '2026-03-05' }))).toEqual([]);
    expect(said(await trail({ until: '2026-03-04', item: id }))).toHaveLength(3);
    expect((await trail({}, 'petra')).entries).toEqual([]);
  });

  it('shows a batch as one, which opens, and goes on page by page', async () => {
    for (let at = 0; at < 130; at++) await newLoan(museum.pool, { title: `Shawl ${at}` }, NOON + at);
    await run(
      museum.pool,
      query(
        "UPDATE changes SET batch = 'b1', at = '2026-03-04 12:00:00.050' WHERE kind = 'created' AND at > '2026-03-04 12:00:00.010'",
      ),
    );
    const first = await trail({ kind: 'created' });
    expect(first.entries[0].batch).toEqual({ id: 'b1', count: 119 });
    expect(first.entries).toHaveLength(1 + 11 + 3);
    expect((await trail({ batch: 'b1' })).entries).toHaveLength(80);
    const rest = await trail({ batch: 'b1', before: (await trail({ batch: 'b1' })).next });
    expect(rest).toMatchObject({ next: null });
    expect(rest.entries).toHaveLength(39);
  });

  it('starts a rule from any change that one may read', async () => {
    const [entry] = (await trail({ person: 'mei', kind: 'changed' })).entries;
    expect((await ask(`/changes/loans/${entry.row.id}`, { as: 'ines' })).body).toMatchObject({
      title: 'Tidal Loom',
      row: { fields: [{ field: 'status', after: 'On view' }] },
    });
    expect((await ask(`/changes/loans/${entry.row.id}`, { as: 'petra' })).status).toBe(404);
  });
});

describe('keeping an eye on something', () => {
  const eye = (item: string) => ({
    name: 'An eye',
    scope: { sources: ['loans'], items: [item] },
    when: {},
    channels: ['inApp'],
  });
  const followers = async () =>
    (await rows(museum.pool, raw<{ person_id: string }>('SELECT person_id FROM followers'))).map(
      (row) => row.person_id,
    );

  it('is live at once, shows at the item, makes a follower, and ends', async () => {
    const { id } = (await list({ text: 'Reed' })).body.items[0];
    const made = await ask('/eyes', { as: 'mei', method: 'POST', body: { document: eye(id) } });
    expect(made).toMatchObject({
      status: 201,
      body: { state: 'live', owner: 'mei', live: { to: [{ person: 'mei' }] } },
    });
    expect((await ask(`/items/${id}`, { as: 'mei' })).body.eyes).toMatchObject([{ person: 'mei', mayEdit: true }]);
    expect(await followers()).toEqual(['mei']);
    await ask('/rules/acts', { as: 'mei', method: 'POST', body: { act: 'delete', ids: [made.body.id] } });
    expect(await followers()).toEqual([]);
    expect((await ask(`/items/${id}`, { as: 'mei' })).body.eyes).toEqual([]);
  });

  it('for somebody else is for those who coordinate, and is theirs then', async () => {
    const { id } = (await list({ text: 'Reed' })).body.items[0];
    expect(
      (await ask('/eyes', { as: 'mei', method: 'POST', body: { document: eye(id), person: 'wren' } })).body.faults,
    ).toMatchObject([{ code: 'onlyYourself' }]);
    expect(
      (await ask('/eyes', { as: 'ines', method: 'POST', body: { document: eye(id), person: 'wren' } })).body,
    ).toMatchObject({ owner: 'wren', live: { to: [{ person: 'wren' }] } });
    expect((await ask(`/items/${id}`, { as: 'wren' })).body.eyes).toMatchObject([{ person: 'wren', mayEdit: true }]);
    expect((await ask('/inbox', { as: 'wren' })).body.messages).toMatchObject([
      { form: 'notice', subject: 'Your rule is live: An eye' },
    ]);
  });
});

describe('how edits follow each other', () => {
  it('is read from the past of what one may read, and from nothing else', async () => {
    const { id } = (await list({ text: 'Ember' })).body.items[0];
    for (let at = 0; at < 9; at++)
      await edit(museum.pool, id, { note: `part ${at}` }, { actor: 'wren', at: NOON + at * 3 * 60_000 });
    const rhythm = async (as: string, of = '') => (await ask(`/sources/loans/rhythm${of}`, { as })).body;
    expect(await rhythm('ines')).toEqual({ within: 3, quiet: 5 });
    expect(await rhythm('ines', `?item=${id}`)).toEqual({ within: 3, quiet: 5 });
    const { id: other } = (await list({ text: 'Reed Boat' })).body.items[0];
    expect(await rhythm('ines', `?item=${other}`)).toBeNull();
    expect(await rhythm('petra', `?item=${id}`)).toEqual(await rhythm('petra', '?item=no-such-item'));
  });
});

import { beforeEach, describe, expect, it } from 'vitest';
import { query, run, store } from '../store/index.ts';
import { askMuseum, documentOf } from '../testing/asking.ts';
import { clearAway, edit, newLoan, NOON, ON_VIEW, putLive, rule } from '../testing/museum.ts';

const { museum, ask, settle, carried } = askMuseum();
beforeEach(() => clearAway(museum.pool));

describe('somebody who may read little', () => {
  it('learns nothing of an item by trying a rule on it', async () => {
    const hidden = await newLoan(museum.pool, { status: 'On view', registrar: 'ines', due: '2026-06-01' });
    const own = await newLoan(museum.pool, { status: 'On view', registrar: 'petra', due: '2026-06-01' });
    const document = documentOf({
      when: undefined,
      due: { field: 'due', offset: '-P1D', if: { field: 'status', op: 'is', value: 'On view' } },
      to: [{ person: 'petra' }],
    });
    const tried = (item: string) => ask('/rules/try', { as: 'petra', method: 'POST', body: { document, item } });
    expect((await tried(own)).body.item?.id).toBe(own);
    for (const item of [hidden, 'no-such-item'])
      expect((await tried(item)).body).toMatchObject({ item: null, messages: [], withheld: [] });
  });

  it('sees of a rule only what it came to among what they may read', async () => {
    await putLive(museum.pool, rule({ ...ON_VIEW, to: [{ person: 'mei' }, { person: 'petra' }] }), NOON - 1000);
    for (const registrar of ['ines', 'ines', 'petra']) {
      const loan = await newLoan(museum.pool, { status: 'Agreed', registrar });
      await edit(museum.pool, loan, { status: 'On view' });
    }
    await settle();
    const figures = async (as: string) =>
      (await ask('/rules', { as })).body.map(({ alerts, told, withheld, caught }: Record<string, unknown>) => [
        alerts,
        told,
        withheld,
        (caught as string[]).length,
      ])[0];
    expect(await figures('mei')).toEqual([3, 4, 2, 1]);
    expect(await figures('petra')).toEqual([1, 2, 0, 1]);
  });

  it('reads no words, of Ojo or of the rule, in a message about what they may read no more', async () => {
    await putLive(
      museum.pool,
      rule({
        ...ON_VIEW,
        to: [{ field: 'registrar' }],
        message: { subject: 'Secret {{ item.title }}', body: 'It is worth {{ item.fields.note }}' },
      }),
      NOON - 1000,
    );
    const loan = await newLoan(museum.pool, { status: 'Agreed', registrar: 'petra', note: 'a fortune' });
    await edit(museum.pool, loan, { status: 'On view' });
    await settle();
    const inbox = async () =>
      JSON.stringify((await ask('/inbox', { as: 'petra' })).body.messages.map((message: { id: string }) => message));
    expect(await inbox()).toContain('a fortune');
    await edit(museum.pool, loan, { registrar: 'ines' });
    await settle();
    const text = await inbox();
    for (const word of ['fortune', 'Secret', loan]) expect(text).not.toContain(word);
    const [message] = (await ask('/inbox', { as: 'petra' })).body.messages;
    const page = JSON.stringify((await ask(`/messages/${message.id}`, { as: 'petra' })).body);
    for (const word of ['fortune', 'Secret', loan]) expect(page).not.toContain(word);
  });
});

describe('what others do not want to hear', () => {
  it('is known to themselves and to who looks after the rule, and the rule’s other readers are not told of it', async () => {
    await putLive(museum.pool, rule({ ...ON_VIEW, to: [{ person: 'mei' }, { person: 'wren' }] }), NOON - 1000);
    const loan = await newLoan(museum.pool, { status: 'Agreed' });
    await run(museum.pool, query("INSERT INTO mutes (person_id, rule_id) VALUES ('wren', ?)", ON_VIEW.id));
    await run(museum.pool, store.world.raise());
    const hears = async (as: string) =>
      ((await ask(`/items/${loan}`, { as })).body.hears as { person: string; withheld: string | null }[]).map(
        ({ person, withheld }) => [person, withheld],
      );
    const all = [
      ['mei', null],
      ['wren', 'muted'],
    ];
    expect(await hears('wren')).toEqual(all);
    expect(await hears('ines')).toEqual(all);
    expect(await hears('mei')).toEqual([['mei', null]]);
    await run(museum.pool, query('DELETE FROM mutes'));
    await run(museum.pool, store.world.raise());
  });
});

describe('the Outbox', () => {
  it('shows a coordinator what goes out by the rules that they look after, and by no other', async () => {
    await putLive(museum.pool, rule({ ...ON_VIEW, owner: 'mei', to: [{ person: 'wren' }] }), NOON - 1000);
    const loan = await newLoan(museum.pool, { status: 'Agreed' });
    await edit(museum.pool, loan, { status: 'On view' });
    await settle();
    const lines = async (as: string) => (await ask('/outbox', { as })).body as unknown[];
    expect(await lines('ines')).not.toEqual([]);
    // Somebody else coordinates loans, and Inés does not any more.
    await run(museum.pool, query("INSERT INTO source_coordinators VALUES ('loans', 'marisol')"));
    await run(museum.pool, store.world.raise());
    expect(await lines('ines')).toEqual([]);
    expect(await lines('marisol')).not.toEqual([]);
    await run(museum.pool, query('DELETE FROM source_coordinators'));
    await run(museum.pool, store.world.raise());
  });
});

describe('a rule reaches no farther than its maker', () => {
  const outside = { id: 'outside', owner: 'mei', to: [{ contact: 'ferro' }], channels: null };

  it('by being put live by somebody who may read less than its owner, nor once its owner has left', async () => {
    await run(
      museum.pool,
      query(
        "INSERT INTO contacts (id, name, email, is_confirmed) VALUES ('ferro', 'Ana Ferro', 'ana@ferro.example', 1) ON DUPLICATE KEY UPDATE is_confirmed = 1",
      ),
    );
    await putLive(museum.pool, rule({ ...ON_VIEW, ...outside }), NOON - 1000);
    const carriedTo = async (by: string, isOwnerHere: boolean) => {
      await run(museum.pool, query("UPDATE rule_versions SET put_live_by = ? WHERE rule_id = 'outside'", by));
      await run(museum.pool, query("UPDATE people SET is_active = ? WHERE id = 'mei'", isOwnerHere ? 1 : 0));
      await run(museum.pool, store.world.raise());
      carried.email.taken.length = 0;
      const loan = await newLoan(museum.pool, { status: 'Agreed' });
      await edit(museum.pool, loan, { status: 'On view' });
      await settle();
      return carried.email.taken.filter(({ address }) => address === 'ana@ferro.example').length;
    };
    expect(await carriedTo('mei', true)).toBe(1);
    expect(await carriedTo('petra', true)).toBe(0);
    expect(await carriedTo('mei', false)).toBe(0);
    expect(await carriedTo('ines', true)).toBe(1);
  });

  it('by being handed to somebody who may read more', async () => {
    await run(
      museum.pool,
      query(
        "INSERT INTO contacts (id, name, email, is_confirmed) VALUES ('ferro', 'Ana Ferro', 'ana@ferro.example', 1) ON DUPLICATE KEY UPDATE is_confirmed = 1",
      ),
    );
    // From now on somebody may read less than somebody else who coordinates.
    await run(museum.pool, query("UPDATE people SET role = 'coordinator' WHERE id = 'petra'"));
    await run(museum.pool, store.world.raise());
    await putLive(museum.pool, rule({ ...ON_VIEW, ...outside, owner: 'petra' }), NOON - 1000);
    const act = (as: string, to: string) =>
      ask('/rules/acts', { as, method: 'POST', body: { act: 'handOver', ids: ['outside'], to } });
    expect((await act('petra', 'ines')).status).toBe(400);
    expect((await ask('/rules/outside', { as: 'petra' })).body.owner).toBe('petra');
    await run(museum.pool, query("UPDATE people SET role = 'member' WHERE id = 'petra'"));
    await run(museum.pool, store.world.raise());
  });

  it('by being brought back under another owner', async () => {
    await putLive(museum.pool, rule({ ...ON_VIEW, id: 'mine', owner: 'mei', to: [{ person: 'mei' }] }), NOON - 1000);
    const { live } = (await ask('/rules/mine', { as: 'mei' })).body;
    const back = await ask('/less/back', {
      as: 'mei',
      method: 'POST',
      body: { plan: null, mutes: [], rule: { ...live, owner: 'ines' } },
    });
    expect([204, 422]).toContain(back.status);
    expect((await ask('/rules/mine', { as: 'mei' })).body.live.owner).toBe('mei');
  });
});

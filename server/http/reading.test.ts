import { beforeEach, describe, expect, it } from 'vitest';
import { query, run, store } from '../store/index.ts';
import { askMuseum, documentOf } from '../testing/asking.ts';
import { clearAway, edit, newLoan, NOON, ON_VIEW, putLive, rule } from '../testing/museum.ts';

const { museum, ask, settle } = askMuseum();
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

describe('a rule reaches no farther than its maker', () => {
  const outside = { id: 'outside', owner: 'mei', to: [{ contact: 'ferro' }], channels: null };

  it('by being handed to somebody who may read more', async () => {
    await run(
      museum.pool,
      query(
        "INSERT INTO contacts (id, name, email, is_confirmed) VALUES ('ferro', 'Ana Ferro', 'ana@ferro.example', 1)",
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

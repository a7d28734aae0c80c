import { beforeEach, describe, expect, it } from 'vitest';
import { editItem } from '../intake/index.ts';
import { query, run, store } from '../store/index.ts';
import { askMuseum, documentOf } from '../testing/asking.ts';
import { clearAway, edit, newLoan, NOON, ON_VIEW, putLive, rule } from '../testing/museum.ts';

const { museum, ask, settle } = askMuseum();
const inboxOf = async (as: string, search = '') => (await ask(`/inbox${search}`, { as })).body.messages;
const pageOf = async (as: string) => (await ask(`/messages/${(await inboxOf(as))[0].id}`, { as })).body;

beforeEach(async () => {
  await clearAway(museum.pool);
  museum.clock.set(NOON);
});

describe('acknowledging', () => {
  it('is asked of those told, and stops once one has it', async () => {
    const document = documentOf({
      name: 'Somebody take it',
      to: [{ person: 'mei' }, { person: 'ines' }],
      channels: ['inApp'],
      when: { if: { became: { field: 'status', op: 'is', value: 'Requested' } } },
      ack: { remind: { after: 'PT1H', times: 2 }, escalate: [{ after: 'PT2H', to: [{ person: 'marisol' }] }] },
    });
    const made = (await ask('/rules', { as: 'ines', method: 'POST', body: { document } })).body;
    await ask(`/rules/${made.id}/live`, { as: 'ines', method: 'POST', body: { revision: made.draftRevision } });
    const loan = await newLoan(museum.pool, { status: 'Agreed' }, museum.clock.now());
    await edit(museum.pool, loan, { status: 'Requested' }, { at: museum.clock.now() });
    await settle();
    const messageOf = async (as: string) =>
      (await ask('/inbox', { as })).body.messages.find(
        (one: { content: { entries: { rules: { name: string }[] }[] } }) =>
          one.content.entries[0]?.rules[0]?.name === 'Somebody take it',
      );
    const [mine, theirs] = [await messageOf('ines'), await messageOf('mei')];
    const waiting = (await ask(`/messages/${theirs.id}`, { as: 'mei' })).body;
    expect(waiting).toMatchObject({
      waits: true,
      answered: [],
      next: [{ what: 'remind' }, { what: 'escalate', to: ['marisol'] }],
    });
    expect((await ask('/inbox?waits=1', { as: 'mei' })).body.messages.map((one: { id: string }) => one.id)).toEqual([
      theirs.id,
    ]);
    expect(
      (await ask(`/inbox?rule=${made.id}&urgency=routine&source=loans`, { as: 'mei' })).body.messages.map(
        (one: { id: string }) => one.id,
      ),
    ).toEqual([theirs.id]);
    expect((await ask(`/inbox?rule=${made.id}&urgency=critical`, { as: 'mei' })).body.messages).toEqual([]);
    const today = async () => (await ask(`/today?since=${new Date(NOON).toISOString()}`, { as: 'mei' })).body.waiting;
    expect(await today()).toMatchObject([
      { id: theirs.id, next: [{ what: 'remind' }, { what: 'escalate', to: ['marisol'] }] },
    ]);
    expect(
      (await ask('/inbox/acknowledge', { as: 'ines', method: 'POST', body: { ids: [mine.id, theirs.id] } })).status,
    ).toBe(404);
    expect((await ask('/inbox/acknowledge', { as: 'ines', method: 'POST', body: { ids: [mine.id] } })).body).toEqual({
      unread: 1,
    });
    // At once, whether or not it has been decided yet.
    expect((await ask(`/messages/${theirs.id}`, { as: 'mei' })).body).toMatchObject({
      waits: false,
      answered: ['ines'],
      next: [],
    });
    expect(await today()).toEqual([]);
    await settle();
    expect((await ask(`/messages/${theirs.id}`, { as: 'mei' })).body).toMatchObject({
      waits: false,
      answered: ['ines'],
      next: [],
    });
    expect((await ask('/inbox?waits=1', { as: 'mei' })).body.messages).toEqual([]);
  });
});

describe('many messages', () => {
  it('come page by page, each once, and are read, chosen and taken on several at a time', async () => {
    await putLive(museum.pool, { ...ON_VIEW, to: [{ person: 'mei' }], channels: ['inApp'] }, NOON - 1000);
    for (let at = 0; at < 130; at += 1)
      await edit(
        museum.pool,
        await newLoan(museum.pool, { title: `Loan ${at}`, status: 'Agreed' }),
        { status: 'On view' },
        { at: NOON + Math.floor(at / 3) },
      );
    museum.clock.set(NOON + 10_000);
    await settle();
    const ids: string[] = [];
    for (let next: string | null = ''; next !== null; ) {
      const read: { messages: { id: string }[]; next: string | null } = (
        await ask(`/inbox?${new URLSearchParams(next ? { before: next } : {})}`, { as: 'mei' })
      ).body;
      ids.push(...read.messages.map((one) => one.id));
      next = read.next;
    }
    expect([ids.length, new Set(ids).size]).toEqual([130, 130]);
    const post = (path: string, some: string[], as = 'mei') => ask(path, { as, method: 'POST', body: { ids: some } });
    expect((await post('/inbox/read', ids.slice(0, 100))).body).toEqual({ unread: 30 });
    expect((await post('/inbox/unread', ids.slice(0, 10))).body).toEqual({ unread: 40 });
    expect((await post('/inbox/acknowledge', ids.slice(0, 5))).body).toEqual({ unread: 35 });
    // Nobody reads or takes on what is another's.
    expect((await post('/inbox/unread', ids.slice(0, 10), 'ines')).status).toBe(200);
    expect((await ask('/session', { as: 'mei' })).body.unread).toBe(35);
    expect((await post('/inbox/acknowledge', ids.slice(0, 1), 'ines')).status).toBe(404);
  });
});

describe('a message', () => {
  it('tells what happened to its item since, and that it is back where it was', async () => {
    await putLive(museum.pool, ON_VIEW, NOON - 1000);
    const loan = await newLoan(museum.pool, { title: 'Tidal Loom', status: 'Agreed' });
    await edit(museum.pool, loan, { status: 'On view' }, { at: NOON + 1000 });
    await settle();
    expect(await pageOf('mei')).toMatchObject({ since: [] });
    await edit(museum.pool, loan, { note: 'a look' }, { actor: 'ines', at: NOON + 2000 });
    expect(await pageOf('mei')).toMatchObject({ since: [{ item: loan, isBack: false, rows: [{ actor: 'ines' }] }] });
    await edit(museum.pool, loan, { status: 'Agreed' }, { at: NOON + 3000 });
    expect(await pageOf('mei')).toMatchObject({
      since: [
        {
          isBack: true,
          rows: [{ actor: 'ines' }, { actor: 'wren', fields: [{ before: 'On view', after: 'Agreed' }] }],
        },
      ],
    });
  });

  it('tells why others did not hear to whoever looks after the rule alone', async () => {
    await putLive(museum.pool, ON_VIEW, NOON - 1000);
    const loan = await newLoan(museum.pool, { title: 'Tidal Loom', status: 'Agreed', registrar: 'ines' });
    await edit(museum.pool, loan, { status: 'On view' });
    await settle();
    expect((await pageOf('ines')).withheld).toContainEqual({ person: 'petra', reason: 'noAccess' });
    expect(await pageOf('mei')).toMatchObject({ withheld: [], others: [{ person: 'ines' }] });
  });

  it('is found by who did what it tells of', async () => {
    await putLive(museum.pool, ON_VIEW, NOON - 1000);
    for (const actor of ['wren', 'ines'])
      await edit(
        museum.pool,
        await newLoan(museum.pool, { title: `By ${actor}`, status: 'Agreed' }),
        { status: 'On view' },
        { actor },
      );
    await settle();
    expect(await inboxOf('mei', '?by=wren')).toMatchObject([{ subject: expect.stringContaining('By wren') }]);
    expect(await inboxOf('mei', '?by=petra')).toEqual([]);
  });

  it('shows the readings around the figure that its rule compares them with', async () => {
    const cases = {
      id: 'cases',
      kind: 'records' as const,
      name: 'Cases',
      titleField: 'title',
      fields: [
        { id: 'title', name: 'Case', type: 'text' as const },
        { id: 'humidity', name: 'Humidity', type: 'number' as const },
      ],
    };
    await run(
      museum.pool,
      query('INSERT INTO sources (id, kind, name, about, title_field, fields, position) VALUES (?)', [
        cases.id,
        cases.kind,
        cases.name,
        '',
        cases.titleField,
        JSON.stringify(cases.fields),
        1,
      ]),
    );
    await run(museum.pool, store.world.raise());
    await putLive(
      museum.pool,
      rule({
        id: 'damp',
        name: 'Too damp',
        owner: 'ines',
        scope: { sources: ['cases'] },
        when: {
          if: {
            all: [
              { became: { field: 'humidity', op: 'above', value: 55 } },
              { field: 'humidity', op: 'below', value: 90 },
            ],
          },
        },
        to: [{ person: 'mei' }],
      }),
      NOON - 1000,
    );
    for (const [at, humidity] of [48, 52, 57].entries())
      await editItem(museum.pool, {
        actor: 'system:sensors',
        source: cases,
        item: 'C-4',
        kind: at === 0 ? 'created' : 'changed',
        set: { title: 'Case 4', humidity },
        at: NOON + at * 60_000,
      });
    museum.clock.set(NOON + 200_000);
    await settle();
    expect((await pageOf('mei')).reading).toMatchObject({
      item: 'C-4',
      field: 'humidity',
      lines: [55, 90],
      points: [{ value: 48 }, { value: 52 }, { value: 57 }],
    });
  });
});

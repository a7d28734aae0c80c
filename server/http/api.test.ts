import { describe, expect, it } from 'vitest';
import { query, run } from '../store/index.ts';
import { askMuseum, documentOf } from '../testing/asking.ts';
import { edit, newLoan, NOON, ON_VIEW, PASSWORD, putLive } from '../testing/museum.ts';

const { museum, ask, cookieOf, forget, ojo } = askMuseum();
const act = (as: string, body: Record<string, unknown>) => ask('/rules/acts', { as, method: 'POST', body });

describe('signing in', () => {
  it('takes the right password by name or address, and no other', async () => {
    expect((await ask('/session', { method: 'POST', body: { name: 'ines', password: PASSWORD } })).status).toBe(204);
    expect(
      (await ask('/session', { method: 'POST', body: { name: 'ines@marisma.example', password: PASSWORD } })).status,
    ).toBe(204);
    for (const body of [
      { name: 'ines', password: 'wrong' },
      { name: 'nobody', password: PASSWORD },
    ]) {
      expect(await ask('/session', { method: 'POST', body })).toMatchObject({
        status: 401,
        body: { code: 'badSignIn', title: expect.any(String) },
      });
    }
    expect((await ask('/session', { as: 'ines' })).body).toMatchObject({ id: 'ines', role: 'coordinator', unread: 0 });
  });

  it('lets nobody in without a session, and no other site write with one', async () => {
    for (const path of ['/inbox', '/sources', '/rules', '/outbox', '/directory', '/events'])
      expect((await ask(path)).status).toBe(401);
    const forged = await ask('/inbox/read', {
      as: 'ines',
      method: 'POST',
      body: { all: true },
      headers: { 'sec-fetch-site': 'cross-site' },
    });
    expect(forged.status).toBe(403);
  });

  it('forgets a session that was closed', async () => {
    const cookie = await cookieOf('marisol');
    forget('marisol');
    await ask('/session', { method: 'DELETE', headers: { cookie } });
    expect((await ask('/session', { headers: { cookie } })).status).toBe(401);
  });
});

describe('what somebody may not read', () => {
  it('is in no list, page, search, count, rule or Outbox that they can get', async () => {
    await putLive(museum.pool, { ...ON_VIEW, id: 'watch' }, NOON - 1000);
    const id = await newLoan(museum.pool, { title: 'Secret Shawl', status: 'Agreed', registrar: 'ines' });
    await edit(museum.pool, id, { status: 'On view' }, { actor: 'mei' });
    await ojo().runner.drain();
    expect((await ask('/sources/loans/items', { as: 'wren' })).body.total).toBe(1);
    expect((await ask('/outbox', { as: 'ines' })).body.length).toBeGreaterThan(3);

    expect((await ask('/sources/loans/items', { as: 'petra' })).body.total).toBe(0);
    expect((await ask('/sources', { as: 'petra' })).body).toMatchObject([{ id: 'loans', items: 0, lastAt: null }]);
    expect((await ask(`/items/${id}`, { as: 'petra' })).status).toBe(404);
    expect(
      (await ask(`/items/${id}`, { as: 'petra', method: 'PATCH', body: { from: 2, set: { note: 'mine' } } })).status,
    ).toBe(404);
    expect((await ask('/find?text=Secret', { as: 'petra' })).body.items).toEqual([]);
    expect((await ask('/outbox', { as: 'petra' })).body).toEqual([]);
    expect(
      (
        await ask('/rules/cost', {
          as: 'petra',
          method: 'POST',
          body: { document: documentOf({ to: [{ person: 'petra' }] }) },
        })
      ).body.steps[0].left,
    ).toBe(0);
    const text = JSON.stringify([
      (await ask('/inbox', { as: 'petra' })).body,
      (await ask('/rules', { as: 'petra' })).body,
    ]);
    expect(text).not.toContain('Secret');
  });

  it('leaves the inbox when the right to read it goes', async () => {
    const [message] = (await ask('/inbox', { as: 'wren' })).body.messages;
    expect(message.subject).toContain('Secret Shawl');
    await run(museum.pool, query("DELETE FROM group_members WHERE group_id = 'readers' AND member_id = 'wren'"));
    await run(museum.pool, query('UPDATE world_version SET version = version + 1'));
    const page = await ask('/inbox', { as: 'wren' });
    expect(JSON.stringify(page.body)).not.toContain('Secret');
    expect(JSON.stringify((await ask(`/messages/${message.id}`, { as: 'wren' })).body)).not.toContain('Secret');
    await run(
      museum.pool,
      query("INSERT INTO group_members (group_id, kind, member_id) VALUES ('readers', 'person', 'wren')"),
    );
    await run(museum.pool, query('UPDATE world_version SET version = version + 1'));
  });

  it('keeps one person’s messages from another', async () => {
    const [message] = (await ask('/inbox', { as: 'ines' })).body.messages;
    expect((await ask(`/messages/${message.id}`, { as: 'ines' })).body.withheld).toEqual(
      expect.arrayContaining([{ person: 'petra', reason: 'noAccess' }]),
    );
    expect((await ask(`/messages/${message.id}`, { as: 'mei' })).status).toBe(404);
  });
});

describe('rules', () => {
  it('are refused with every fault, its path, and what would be allowed', async () => {
    const refused = await ask('/rules', {
      as: 'ines',
      method: 'POST',
      body: {
        document: documentOf({
          to: [],
          when: { if: { any: [{ became: { field: 'status', op: 'above', value: 3 } }, { changed: 'colour' }] } },
        }),
      },
    });
    expect(refused.status).toBe(422);
    expect(refused.body.faults.map((fault: { path: string; code: string }) => [fault.path, fault.code])).toEqual([
      ['when.if.any.0.became.op', 'unknownOperator'],
      ['when.if.any.1.changed', 'unknownField'],
      ['to', 'nobodyHears'],
    ]);
    for (const fault of refused.body.faults) expect(fault.words).toMatch(/[.]$/);
    expect(
      (await ask('/rules', { as: 'ines', method: 'POST', body: { document: documentOf({ pase: { kind: 'now' } }) } }))
        .body.faults[0].words,
    ).toContain('pase');
  });

  it('let members tell themselves, and coordinators others', async () => {
    expect(
      (
        await ask('/rules', {
          as: 'mei',
          method: 'POST',
          body: { document: documentOf({ to: [{ group: 'insurers' }] }) },
        })
      ).body.faults,
    ).toMatchObject([{ code: 'onlyYourself' }]);
    expect((await ask('/rules', { as: 'mei', method: 'POST', body: { document: documentOf() } })).status).toBe(201);
    expect(
      (
        await ask('/rules', {
          as: 'ines',
          method: 'POST',
          body: { document: documentOf({ to: [{ group: 'insurers' }] }) },
        })
      ).status,
    ).toBe(201);
  });

  it('gather edits beside the live version, and tell two editors of each other', async () => {
    const made = (await ask('/rules', { as: 'ines', method: 'POST', body: { document: documentOf() } })).body;
    const live = (
      await ask(`/rules/${made.id}/live`, { as: 'ines', method: 'POST', body: { revision: made.draftRevision } })
    ).body;
    expect(live).toMatchObject({ state: 'live', version: 1, draft: null });
    const edited = (
      await ask(`/rules/${made.id}/draft`, {
        as: 'marisol',
        method: 'PUT',
        body: { revision: live.draftRevision, document: { ...live.live, urgency: 'critical' } },
      })
    ).body;
    expect(edited).toMatchObject({
      state: 'live',
      version: 1,
      live: { urgency: 'routine' },
      draft: { urgency: 'critical' },
      draftBy: 'marisol',
    });
    const late = await ask(`/rules/${made.id}/draft`, {
      as: 'ines',
      method: 'PUT',
      body: { revision: live.draftRevision, document: { ...live.live, name: 'Mine' } },
    });
    expect(late).toMatchObject({
      status: 409,
      body: { code: 'editedMeanwhile', conflict: { by: 'marisol', draft: { urgency: 'critical' } } },
    });
    expect(
      (await ask(`/rules/${made.id}/live`, { as: 'ines', method: 'POST', body: { revision: edited.draftRevision } }))
        .body,
    ).toMatchObject({ version: 2, live: { urgency: 'critical' } });
    expect(
      (await ask(`/rules/${made.id}/draft`, { as: 'petra', method: 'PUT', body: { revision: 1, document: live.live } }))
        .status,
    ).toBe(403);
    expect((await act('ines', { act: 'end', ids: [made.id] })).body).toMatchObject([{ state: 'ended' }]);
  });
});

describe('an open page', () => {
  it('is told of a message the moment it is there', async () => {
    const controller = new AbortController();
    const stream = await fetch(`http://127.0.0.1:${ojo().port}/api/events`, {
      headers: { cookie: await cookieOf('ines') },
      signal: controller.signal,
    });
    const reader = stream.body?.getReader();
    const id = await newLoan(museum.pool, { title: 'Ferry Shawl', status: 'Agreed', registrar: 'ines' });
    await edit(museum.pool, id, { status: 'On view' }, { actor: 'mei' });
    ojo().runner.wake();
    let text = '';
    // What earlier tests brought about may arrive in between: the message is known by its subject.
    const arrived = () =>
      [...text.matchAll(/event: message\ndata: (.*)\n/g)]
        .map(([, data]) => JSON.parse(data ?? '{}') as { message: { id: string; subject: string } })
        .find(({ message }) => message.subject.startsWith('Ferry Shawl'));
    while (!arrived()) text += new TextDecoder().decode((await reader?.read())?.value);
    controller.abort();
    const told = arrived() as { message: { id: string } };
    expect(told.message).toMatchObject({
      subject: 'Ferry Shawl: Status Agreed → On view',
      readAt: null,
      content: { entries: [{ item: { id } }] },
    });
    const { unread } = (await ask('/session', { as: 'ines' })).body;
    await ask('/inbox/read', { as: 'ines', method: 'POST', body: { ids: [told.message.id] } });
    expect((await ask('/session', { as: 'ines' })).body.unread).toBe(unread - 1);
  });
});

describe('pausing', () => {
  it('keeps what is caught, says how much, and tells it on resuming; only those may who may edit', async () => {
    const made = (
      await ask('/rules', {
        as: 'ines',
        method: 'POST',
        body: { document: documentOf({ name: 'Paused for a while', to: [{ person: 'mei' }] }) },
      })
    ).body;
    await ask(`/rules/${made.id}/live`, { as: 'ines', method: 'POST', body: { revision: made.draftRevision } });
    expect((await act('petra', { act: 'pause', ids: [made.id] })).status).not.toBe(200);
    expect((await act('ines', { act: 'pause', ids: [made.id] })).body).toMatchObject([{ isPaused: true, kept: 0 }]);
    expect((await act('ines', { act: 'pause', ids: [made.id] })).status).toBe(400);
    const loan = await newLoan(museum.pool, { status: 'Agreed' }, museum.clock.now());
    await edit(museum.pool, loan, { status: 'Returned' }, { at: museum.clock.now() });
    await ojo().runner.drain();
    expect((await ask(`/rules/${made.id}`, { as: 'ines' })).body).toMatchObject({ isPaused: true, kept: 2, alerts: 0 });
    expect((await act('ines', { act: 'resume', ids: [made.id] })).status).toBe(400);
    expect((await act('ines', { act: 'resume', ids: [made.id], catchUp: 'summary' })).body).toMatchObject([
      { isPaused: false },
    ]);
    await ojo().runner.drain();
    expect((await ask(`/rules/${made.id}`, { as: 'ines' })).body).toMatchObject({
      isPaused: false,
      kept: 0,
      alerts: 1,
    });
    await act('ines', { act: 'end', ids: [made.id] });
  });
});

import { describe, expect, it } from 'vitest';
import { askMuseum, documentOf } from '../testing/asking.ts';
import { edit, newLoan, NOON, ON_VIEW, putLive } from '../testing/museum.ts';

const { museum, ask, ojo } = askMuseum();

describe('what somebody hears', () => {
  it('is every rule that tells them, why, and how much of it they read; for themselves and those who coordinate', async () => {
    await putLive(museum.pool, { ...ON_VIEW, id: 'hears' }, NOON - 1000);
    const loan = await newLoan(museum.pool, { title: 'Tidal Loom', status: 'Agreed', registrar: 'ines' });
    await edit(museum.pool, loan, { status: 'On view' }, { actor: 'mei' });
    await ojo().runner.drain();
    const page = (await ask('/people/ines/hears', { as: 'ines' })).body;
    expect(page.hears).toMatchObject([
      { rule: { id: 'hears' }, reasons: [{ kind: 'field', field: 'registrar' }], told: 1, read: 0, mayEdit: true },
    ]);
    await ask('/inbox/read', { as: 'ines', method: 'POST', body: { all: true } });
    expect((await ask('/people/ines/hears', { as: 'marisol' })).body.hears[0]).toMatchObject({ told: 1, read: 1 });
    expect((await ask('/people/ines/hears', { as: 'mei' })).status).toBe(404);
    expect((await ask('/people', { as: 'ines' })).body.find((one: { id: string }) => one.id === 'ines')).toMatchObject({
      told: 1,
      read: 1,
    });
    expect((await ask('/people', { as: 'mei' })).body.map((one: { id: string }) => one.id)).toEqual(['mei']);
  });
});

describe('shared wordings', () => {
  const wording = (more: Record<string, unknown> = {}) => ({
    name: 'Look',
    subject: '{{ item.title }}',
    body: 'Do look, {{ recipient.name }}.',
    ...more,
  });

  it('are written by coordinators, checked against every rule that uses them, and kept while one does', async () => {
    expect((await ask('/wordings', { as: 'mei', method: 'POST', body: wording() })).status).toBe(403);
    expect(
      (await ask('/wordings', { as: 'ines', method: 'POST', body: wording({ body: '{{ item.colour }}' }) })).body
        .faults,
    ).toMatchObject([{ code: 'unknownName', path: 'body' }]);
    const { id } = (await ask('/wordings', { as: 'ines', method: 'POST', body: wording() })).body;
    const made = (
      await ask('/rules', { as: 'ines', method: 'POST', body: { document: documentOf({ message: { wording: id } }) } })
    ).body;
    await ask(`/rules/${made.id}/live`, { as: 'ines', method: 'POST', body: { revision: made.draftRevision } });
    expect(
      (
        await ask(`/wordings/${id}`, {
          as: 'ines',
          method: 'PUT',
          body: wording({ subject: '{{ item.fields.colour }}' }),
        })
      ).body.faults,
    ).toMatchObject([{ path: 'subject' }]);
    expect(
      (
        await ask(`/wordings/${id}`, {
          as: 'ines',
          method: 'PUT',
          body: wording({ subject: '{{ item.fields.status }}' }),
        })
      ).status,
    ).toBe(200);
    expect((await ask(`/wordings/${id}`, { as: 'ines', method: 'DELETE' })).body.detail).toContain(
      `“${made.draft.name}” uses it`,
    );
    await ask('/rules/acts', { as: 'ines', method: 'POST', body: { act: 'end', ids: [made.id] } });
    expect((await ask(`/wordings/${id}`, { as: 'ines', method: 'DELETE' })).status).toBe(204);
  });
});

import { beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { query, run } from '../store/index.ts';
import { askMuseum } from '../testing/asking.ts';
import { ON_VIEW } from '../testing/museum.ts';

const { museum, ask } = askMuseum();

const want = (kinds: string[], as = 'marisol') => ask('/house/second-eyes', { as, method: 'PUT', body: { kinds } });
let count = 0;
/** A rule of Inés that she wants live, and what came of it. */
async function wanted(more: object = {}, why: string | null = null) {
  count += 1;
  const document = { ...ON_VIEW, name: `Wanted ${count}`, ...more };
  const { id, draftRevision } = (await ask('/rules', { as: 'ines', method: 'POST', body: { document } })).body;
  const revision: number = draftRevision;
  const live = await ask(`/rules/${id}/live`, { as: 'ines', method: 'POST', body: { revision, why } });
  return { id: id as string, revision, name: document.name, row: live.body };
}
const approve = (id: string, revision: number, as = 'marisol') =>
  ask(`/rules/${id}/approved`, { as, method: 'POST', body: { revision } });
const back = (id: string, why: string | null, as = 'marisol') =>
  ask(`/rules/${id}/sent-back`, { as, method: 'POST', body: { why } });
const headlines = async (as: string): Promise<string[]> =>
  (await ask('/inbox', { as })).body.messages.map((one: { content: { headline: string } }) => one.content.headline);

beforeAll(async () => {
  await run(museum.pool, query("UPDATE people SET role = 'steward' WHERE id = 'wren'"));
});
beforeEach(async () => {
  expect((await want(['critical'])).status).toBe(204);
});

describe('a second pair of eyes', () => {
  it('is wanted by stewards alone, and said to everybody', async () => {
    expect((await want(['groups'], 'ines')).status).toBe(403);
    expect((await want(['loud'])).status).toBe(400);
    expect((await ask('/directory', { as: 'mei' })).body.house.secondEyes).toEqual(['critical']);
  });

  it('looks before a rule of that sort is live; the others go live at once', async () => {
    expect((await wanted()).row).toMatchObject({ state: 'live', ask: null });
    const { id, revision, name, row } = await wanted({ urgency: 'critical' }, 'Season opens');
    expect(row).toMatchObject({ state: 'draft', version: 0, ask: { by: 'ines', revision, why: 'Season opens' } });
    for (const steward of ['marisol', 'wren'])
      expect(await headlines(steward)).toContainEqual(
        expect.stringContaining(`asks you to look at “${name}” before it is live`),
      );
    // Neither whoever asked, nor somebody who is no steward, nor at another state than was asked for.
    expect((await approve(id, revision, 'ines')).status).toBe(403);
    expect((await approve(id, revision, 'petra')).status).toBe(403);
    expect((await approve(id, revision + 1)).status).toBe(409);
    expect((await approve(id, revision)).body).toMatchObject({ state: 'live', version: 1, ask: null });
    expect((await ask(`/rules/${id}/versions`, { as: 'ines' })).body).toMatchObject([
      { version: 1, by: 'ines', approvedBy: 'marisol', why: 'Season opens' },
    ]);
    expect(await headlines('ines')).toContainEqual(expect.stringContaining(`has looked at “${name}”: it is live`));
    // Once is enough.
    expect((await approve(id, revision, 'wren')).body.because.code).toBe('nothingToLookAt');
  });

  it('sees what was asked for: edited since, it has to be asked for anew', async () => {
    const { id, revision } = await wanted({ urgency: 'critical' });
    const document = { ...ON_VIEW, name: `Wanted ${count}`, urgency: 'critical', to: [{ person: 'mei' }] };
    const kept = await ask(`/rules/${id}/draft`, { as: 'ines', method: 'PUT', body: { revision, document } });
    expect(kept.body.ask).toBeNull();
    expect((await approve(id, revision)).body.because.code).toBe('nothingToLookAt');
  });

  it('sends it back with a word, or whoever asked takes it back', async () => {
    const sent = await wanted({ urgency: 'critical' });
    expect((await back(sent.id, ' ')).body.because.code).toBe('sendBackSaysWhy');
    expect((await back(sent.id, 'Too loud', 'petra')).status).toBe(404);
    expect((await back(sent.id, 'Too loud')).body).toMatchObject({ state: 'draft', ask: null });
    expect(await headlines('ines')).toContainEqual(expect.stringContaining(`does not let “${sent.name}” live yet`));
    const taken = await wanted({ urgency: 'critical' });
    expect((await back(taken.id, null, 'ines')).body.ask).toBeNull();
    expect((await approve(taken.id, taken.revision)).status).toBe(400);
  });

  it('cannot be gone round: by another pace, by an eye for somebody else, by a token', async () => {
    await want([]);
    const { id } = await wanted({ urgency: 'critical' });
    await want(['critical']);
    const pace = { act: 'pace', ids: [id], pace: { kind: 'digest', every: 'day', at: '09:00' } };
    expect((await ask('/rules/acts', { as: 'ines', method: 'POST', body: pace })).body.because.code).toBe(
      'wantsSecondEyes',
    );
    const made = await ask('/me/tokens', {
      as: 'wren',
      method: 'POST',
      body: { name: 'Eyes', scope: 'write', days: 1 },
    });
    const waiting = await wanted({ urgency: 'critical' });
    const byToken = await ask(`/rules/${waiting.id}/approved`, {
      method: 'POST',
      body: { revision: waiting.revision },
      headers: { authorization: `Bearer ${made.body.token}` },
    });
    expect(byToken.body.because.code).toBe('notByToken');
  });

  it('is nobody’s where there is no other steward, and of no rule that tells its owner alone', async () => {
    await want(['every']);
    expect((await wanted({ to: [{ person: 'ines' }], urgency: 'critical' })).row.state).toBe('live');
    await run(museum.pool, query("UPDATE people SET role = 'member' WHERE id = 'wren'"));
    await want(['every']);
    const document = { ...ON_VIEW, name: 'The steward’s own' };
    const { id } = (await ask('/rules', { as: 'marisol', method: 'POST', body: { document } })).body;
    expect((await ask(`/rules/${id}/live`, { as: 'marisol', method: 'POST', body: { revision: 1 } })).body.state).toBe(
      'live',
    );
  });
});

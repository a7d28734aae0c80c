import { beforeEach, describe, expect, it } from 'vitest';
import { DAY_MS, HOUR_MS, printInstant } from '../../core/time/index.ts';
import { askMuseum } from '../testing/asking.ts';
import { clearAway, edit, newLoan, NOON, ON_VIEW, putLive, rule } from '../testing/museum.ts';

const { museum, ask, page, settle, carried } = askMuseum();
const TOLD = rule({ ...ON_VIEW, id: 'told', to: [{ person: 'mei' }], channels: ['inApp', 'email'] });
const at = (instant: number) => printInstant(instant);

beforeEach(async () => {
  await clearAway(museum.pool);
  museum.clock.set(NOON);
  carried.email.taken.length = 0;
  await putLive(museum.pool, TOLD, NOON - 1000);
  const loan = await newLoan(museum.pool, { title: 'Tidal Loom', status: 'Agreed' });
  await edit(museum.pool, loan, { status: 'On view' });
  await settle();
});

const inboxOf = async (as: string): Promise<{ id: string; form: string }[]> =>
  (await ask('/inbox', { as })).body.messages;
const again = (as: string, id: string, when: string) =>
  ask('/inbox/again', { as, method: 'POST', body: { ids: [id], when } });

describe('told once more', () => {
  it('comes at its instant, in Ojo, and stands on the message and on Today before', async () => {
    const [message] = await inboxOf('mei');
    const id = message?.id ?? '';
    expect(await again('mei', id, at(NOON + HOUR_MS))).toMatchObject({ status: 200 });
    await settle();
    expect((await ask(`/messages/${id}`, { as: 'mei' })).body.again).toBe(at(NOON + HOUR_MS));
    const { coming } = (await ask(`/today?since=${at(NOON - DAY_MS)}`, { as: 'mei' })).body;
    expect(coming).toContainEqual(expect.objectContaining({ what: 'again', rule: { id: 'told', name: TOLD.name } }));
    const emails = carried.email.taken.length;
    museum.clock.set(NOON + HOUR_MS + 1000);
    await settle();
    const forms = (await inboxOf('mei')).map(({ form }) => form);
    expect(forms).toEqual(['again', 'single']);
    expect(carried.email.taken.length).toBe(emails);
    expect((await ask(`/messages/${id}`, { as: 'mei' })).body.again).toBeNull();
  });

  it('is refused for an instant that is none, for one that has been, and for what is another’s', async () => {
    const id = (await inboxOf('mei'))[0]?.id ?? '';
    expect((await again('mei', id, 'soon')).status).toBe(400);
    expect((await again('mei', id, at(NOON))).body.faults).toMatchObject([{ code: 'notLater', path: 'when' }]);
    expect((await again('mei', id, at(NOON + 400 * DAY_MS))).body.faults).toMatchObject([{ code: 'tooFarAhead' }]);
    expect((await again('ines', id, at(NOON + HOUR_MS))).status).toBe(404);
  });

  it('is asked on a page behind an email’s link, which does nothing until it is pressed', async () => {
    const link = /https:\/\/ojo\.example\/again\/[\w.-]+/.exec(carried.email.taken[0]?.html ?? '')?.[0] ?? '';
    const shown = await page(link);
    expect(shown).toMatchObject({ status: 200, text: expect.stringContaining('In an hour') });
    expect(await page(link, { do: 'day', day: '2026-03-01' })).toMatchObject({ status: 422 });
    expect(await page(link, { do: 'day', day: 'next week' })).toMatchObject({ status: 422 });
    expect(await page(link, { do: 'nonsense' })).toMatchObject({ status: 422 });
    await settle();
    expect((await ask(`/messages/${(await inboxOf('mei'))[0]?.id}`, { as: 'mei' })).body.again).toBeNull();
    expect(await page(link, { do: 'day', day: '2026-03-09' })).toMatchObject({
      status: 200,
      text: expect.stringContaining('It comes again on'),
    });
    await settle();
    museum.clock.set(NOON + 6 * DAY_MS);
    await settle();
    expect((await inboxOf('mei')).map(({ form }) => form)).toEqual(['again', 'single']);
    expect((await page(link.replace('/again/', '/quiet/'))).status).toBe(404);
  });
});

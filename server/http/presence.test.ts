import { raw } from '../testing/raw.ts';
import { describe, expect, it } from 'vitest';
import { rows } from '../store/index.ts';
import { askMuseum } from '../testing/asking.ts';
import { edit, makeRunner, newLoan, NOON, ON_VIEW, putLive } from '../testing/museum.ts';

const { museum, ask, cookieOf, ojo } = askMuseum();

/** Opens a page of somebody's at the server and gives what closes it again. */
async function openPage(as: string): Promise<() => Promise<void>> {
  const page = new AbortController();
  await fetch(`http://127.0.0.1:${ojo().port}/api/events`, {
    headers: { cookie: await cookieOf(as) },
    signal: page.signal,
  });
  const isHere = async () =>
    (await rows(museum.pool, raw('SELECT person_id FROM presence WHERE person_id = ?', as))).length > 0;
  await expect.poll(isHere).toBe(true);
  return async () => {
    page.abort();
    await expect.poll(isHere).toBe(false);
  };
}

describe('presence', () => {
  it('at one server keeps another from sending what is for those away', async () => {
    await putLive(museum.pool, { ...ON_VIEW, channels: null, to: [{ person: 'mei' }] }, NOON - 1000);
    await ask('/me/plan', {
      as: 'mei',
      method: 'PUT',
      body: { plan: { reach: { important: [{ channel: 'inApp' }, { channel: 'email', when: 'away' }] } }, mutes: [] },
    });
    const other = makeRunner(museum.pool, museum.clock);
    const emailsAfter = async (title: string) => {
      const loan = await newLoan(museum.pool, { title, status: 'Agreed' });
      await edit(museum.pool, loan, { status: 'On view' });
      await other.drain();
      return (
        await rows(
          museum.pool,
          raw("SELECT id FROM messages WHERE person_id = 'mei' AND channel = 'email' AND subject LIKE ?", `${title}%`),
        )
      ).length;
    };
    // The other server decides alone: this one's runner would do it as well as any.
    await ojo().runner.stop();
    const close = await openPage('mei');
    expect(await emailsAfter('Tidal Loom')).toBe(0);
    expect((await ask('/people', { as: 'ines' })).body.find((one: { id: string }) => one.id === 'mei')).toMatchObject({
      isHere: true,
    });
    await close();
    expect(await emailsAfter('Reed Coat')).toBe(1);
  });
});

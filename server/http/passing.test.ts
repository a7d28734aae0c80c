import { beforeEach, describe, expect, it } from 'vitest';
import { query, run } from '../store/index.ts';
import { askMuseum } from '../testing/asking.ts';
import { clearAway, edit, newLoan, NOON } from '../testing/museum.ts';

const { museum, ask, settle, carried } = askMuseum();
const post = (as: string, path: string, body: unknown) => ask(path, { as, method: 'POST', body });
const inboxOf = async (person: string) => (await ask('/inbox', { as: person })).body.messages;

describe('passing something on', () => {
  let item = '';
  beforeEach(async () => {
    await clearAway(museum.pool);
    museum.clock.set(NOON);
    carried.email.taken.length = 0;
    await run(museum.pool, query("UPDATE people SET locale = 'es' WHERE id = 'mei'"));
    item = await newLoan(museum.pool, { title: 'Tidal Loom', status: 'Agreed' });
    await edit(museum.pool, item, { status: 'On view' });
    await settle();
  });

  it('names whoever may not read it before anything is sent, and sends to the others: what happened, by whom, with a word', async () => {
    const wanted = { item, people: ['mei', 'petra'], groups: ['insurers'], word: 'Can you look?' };
    expect((await post('ines', '/pass/check', wanted)).body).toEqual({ may: ['mei', 'wren'], mayNot: ['petra'] });
    expect(await inboxOf('mei')).toEqual([]);
    expect((await post('ines', '/pass', wanted)).body).toMatchObject({ told: ['mei', 'wren'], mayNot: ['petra'] });
    await settle();
    expect(await inboxOf('mei')).toMatchObject([
      {
        form: 'passed',
        subject: 'Tidal Loom: Ines quiere que lo veas',
        content: {
          lead: '«Can you look?»',
          entries: [{ fields: [{ label: 'Status', before: 'Agreed', after: 'On view' }], steps: [{ actor: 'Wren' }] }],
        },
      },
    ]);
    expect(await inboxOf('petra')).toEqual([]);
    // Nobody is in Ojo just then: it comes by email as well.
    expect(carried.email.taken.map((one) => one.subject).sort()).toEqual([
      'Tidal Loom: Ines quiere que lo veas',
      'Tidal Loom: Ines wants you to see this',
    ]);
  });

  it('has a thread in which answers reach everybody but who gave them, and nobody else', async () => {
    const { thread } = (await post('ines', '/pass', { item, people: ['mei', 'wren'], word: 'Can you look?' })).body;
    expect((await post('mei', `/threads/${thread}`, { words: 'I am on it.' })).body).toMatchObject({
      beganBy: 'ines',
      words: [{ person: 'ines' }, { person: 'mei', words: 'I am on it.' }],
    });
    expect((await inboxOf('ines'))[0]).toMatchObject({ subject: 'Mei answers: Tidal Loom', content: { thread } });
    expect((await inboxOf('mei')).length).toBe(1);
    expect((await ask(`/threads/${thread}`, { as: 'marisol' })).status).toBe(404);
    expect((await post('marisol', `/threads/${thread}`, { words: 'May I?' })).status).toBe(404);
  });

  it('is refused where nobody named may read it, and of an item that one may not read oneself', async () => {
    expect(await post('ines', '/pass', { item, people: ['petra'] })).toMatchObject({
      status: 400,
      body: { detail: 'Nobody of those named may read it.' },
    });
    expect((await post('petra', '/pass', { item, people: ['mei'] })).status).toBe(404);
  });
});

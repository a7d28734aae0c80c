import { DAY_MS } from '../../core/time/index.ts';
import { beforeEach, describe, expect, it } from 'vitest';
import { DeliveryError } from '../delivery/index.ts';
import { query, rows, run, store } from '../store/index.ts';
import { askMuseum } from '../testing/asking.ts';
import { clearAway, edit, newLoan, NOON, ON_VIEW, putLive, rule } from '../testing/museum.ts';
import { raw } from '../testing/raw.ts';

const { museum, ask, settle, carried, ojo } = askMuseum();

beforeEach(async () => {
  await clearAway(museum.pool);
  await run(museum.pool, query('DELETE FROM attempts'));
  museum.clock.set(NOON);
  carried.email.failure = null;
  carried.email.taken.length = 0;
});

const live = (id: string, more: Record<string, unknown>) =>
  putLive(museum.pool, rule({ ...ON_VIEW, id, name: id, ...more }), NOON - 1000);

/** A loan goes on view, by somebody's hand; the id of that change. */
async function goesOnView(by = 'wren'): Promise<{ item: string; change: string }> {
  const item = await newLoan(museum.pool, { title: 'Tidal Loom', status: 'Agreed' });
  museum.clock.set(museum.clock.now() + 60_000);
  await edit(museum.pool, item, { status: 'On view' }, { actor: by, at: museum.clock.now() });
  await settle();
  const [{ id = '' } = {}] = await rows(
    museum.pool,
    raw<{ id: string }>('SELECT id FROM changes WHERE item_id = ? ORDER BY seq DESC LIMIT 1', item),
  );
  return { item, change: id };
}
const whyOf = async (change: string, person: string, as = 'marisol') => {
  const { status, body } = await ask(`/changes/loans/${change}/why?person=${person}`, { as });
  const verdicts = (body.verdicts ?? []) as { rule: { id: string }; verdict: string; reason: string | null }[];
  return { status, body, verdicts: Object.fromEntries(verdicts.map((one) => [one.rule.id, one])) };
};

describe('why somebody heard of a change, or did not', () => {
  it('is said of each rule: told, left out with the reason, reaching others, not caught', async () => {
    await live('tells', { to: [{ person: 'mei' }], channels: ['inApp'] });
    await live('own', { to: [{ person: 'wren' }] });
    await live('others', { to: [{ person: 'ines' }] });
    await live('returns', {
      to: [{ person: 'mei' }],
      when: { if: { became: { field: 'status', op: 'is', value: 'Returned' } } },
    });
    await live('elsewhere', { to: [{ person: 'ines' }], when: { if: { changed: 'title' } } });
    const { change } = await goesOnView('wren');
    const { verdicts, body } = await whyOf(change, 'mei');
    expect(verdicts).toMatchObject({
      tells: { verdict: 'told', messages: [{ channel: 'inApp', fate: 'delivered' }] },
      own: { verdict: 'notReached' },
      others: { verdict: 'notReached' },
      returns: { verdict: 'notCaught', explanation: { caught: false, if: { held: false } } },
    });
    // What caught nothing and tells others is counted alone.
    expect(Object.keys(verdicts)).not.toContain('elsewhere');
    expect(body.others).toBe(1);
    expect((await whyOf(change, 'wren')).verdicts.own).toMatchObject({ verdict: 'withheld', reason: 'ownChange' });
  });

  it('is said of what still waits, was put back, or comes with a digest', async () => {
    await live('settles', { to: [{ person: 'mei' }], pace: { kind: 'settled', quiet: 'PT1H' } });
    await live('gathers', { to: [{ person: 'mei' }], pace: { kind: 'digest', every: 'day', at: '17:00' } });
    const { item, change } = await goesOnView();
    expect((await whyOf(change, 'mei')).verdicts).toMatchObject({
      settles: { verdict: 'waits' },
      gathers: { verdict: 'gathers', until: expect.any(String) },
    });
    museum.clock.set(museum.clock.now() + 60_000);
    await edit(museum.pool, item, { status: 'Agreed' }, { actor: 'wren', at: museum.clock.now() });
    await settle();
    museum.clock.set(NOON + DAY_MS);
    await settle();
    expect((await whyOf(change, 'mei')).verdicts).toMatchObject({
      settles: { verdict: 'undone' },
      gathers: { verdict: 'told' },
    });
  });

  it('anybody asks of themselves, only those who make rules of others, and nobody of what they may not read', async () => {
    await live('tells', { to: [{ person: 'mei' }] });
    const { change } = await goesOnView();
    const own = await whyOf(change, 'mei', 'mei');
    expect(own.status).toBe(200);
    // Whom else a rule reaches, and who of them has muted it, is not said.
    const reached = own.body.verdicts.flatMap(({ explanation }: { explanation: { recipients: { to: string }[] } }) =>
      explanation.recipients.map(({ to }) => to),
    );
    expect(new Set(reached)).toEqual(new Set(['mei']));
    expect((await whyOf(change, 'ines', 'mei')).status).toBe(403);
    expect((await whyOf(change, 'petra', 'petra')).status).toBe(404);
    expect((await whyOf('nosuch', 'mei')).status).toBe(404);
  });
});

describe('one message of the Outbox', () => {
  it('has each try of it in the other side’s own words, and looks as it did without links that act', async () => {
    await live('tells', {
      to: [{ person: 'mei' }],
      channels: ['email'],
      ack: { by: 'anyone', remind: null, escalate: [], closeWhenCeased: false, allClear: false },
    });
    carried.email.failure = new DeliveryError('451 busy', true);
    await goesOnView();
    carried.email.failure = null;
    museum.clock.set(NOON + DAY_MS);
    await settle();
    const [{ id = '' } = {}] = await rows(
      museum.pool,
      raw<{ id: string }>("SELECT id FROM messages WHERE channel = 'email'"),
    );
    const { body } = await ask(`/outbox/${id}`, { as: 'marisol' });
    expect(
      body.attempts.map(({ outcome, reply }: { outcome: string; reply: string }) => `${outcome}: ${reply}`),
    ).toEqual(['putOff: 451 busy', 'taken: 250 kept']);
    expect(body.row.change).toMatchObject({ source: 'loans' });
    expect(body.looked.html).toContain('Tidal Loom');
    expect(carried.email.taken[0]?.html).toContain('/acknowledge/');
    expect(body.looked.html).not.toContain('/acknowledge/');
    expect(body.looked.why.join(' ')).toContain('Status');
  });

  it('is for its reader, whoever looks after its rule, and stewards; a code that proves a number for nobody', async () => {
    await live('tells', { to: [{ person: 'mei' }], channels: ['email'], owner: 'ines' });
    await goesOnView();
    const [{ id = '' } = {}] = await rows(
      museum.pool,
      raw<{ id: string }>("SELECT id FROM messages WHERE channel = 'email'"),
    );
    const seen = async (as: string) => (await ask(`/outbox/${id}`, { as })).status;
    expect([await seen('mei'), await seen('ines'), await seen('petra')]).toEqual([200, 200, 404]);
    await ask('/me/addresses', { as: 'mei', method: 'POST', body: { channel: 'text', address: '+34600555777' } });
    await settle();
    const [{ id: code = '' } = {}] = await rows(
      museum.pool,
      raw<{ id: string }>("SELECT id FROM messages WHERE form = 'confirm'"),
    );
    for (const as of ['mei', 'marisol']) expect((await ask(`/outbox/${code}`, { as })).body.looked).toBeNull();
  });
});

it('a text is shown with its segments, and its short link leads to it', async () => {
  await run(museum.pool, query("UPDATE people SET phone = '+34600555014' WHERE id = 'ines'"));
  await run(museum.pool, store.world.raise());
  await live('texts', { to: [{ person: 'ines' }], channels: ['text'] });
  await goesOnView();
  const [{ id = '' } = {}] = await rows(
    museum.pool,
    raw<{ id: string }>("SELECT id FROM messages WHERE channel = 'text'"),
  );
  const text = carried.text.taken.at(-1)?.text ?? '';
  const link = /https:\/\/ojo\.example(\/t\/\w+)/.exec(text)?.[1] ?? '';
  const { body } = await ask(`/outbox/${id}`, { as: 'ines' });
  expect(body.looked).toMatchObject({ text, segments: { alphabet: 'GSM-7', count: 1 } });
  const led = async (path: string) => {
    const response = await fetch(`http://127.0.0.1:${ojo().port}${path}`, { redirect: 'manual' });
    return [response.status, response.headers.get('location')];
  };
  expect(await led(link)).toEqual([302, `/inbox/${id}`]);
  for (const wrong of ['/t/000000000000', '/t/%25%25%25%25%25%25%25%25%25%25%25%25', `${link}x`, '/t/____________'])
    expect((await led(wrong))[0]).toBe(404);
});

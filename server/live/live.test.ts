import { afterAll, beforeAll, expect, it } from 'vitest';
import type { PageEvent } from '../../contract/wire/index.ts';
import type { Rule } from '../../core/rules/index.ts';
import type { Ojo } from '../boot/index.ts';
import { inTransaction, query, run, runAll, store } from '../store/index.ts';
import { askMuseum, documentOf } from '../testing/asking.ts';
import { newLoan, NOON, ON_VIEW, putLive } from '../testing/museum.ts';

const { museum, ask, settle, cookieOf, forget, another, ojo } = askMuseum();
const pages: AbortController[] = [];
let other: Ojo;
beforeAll(async () => {
  other = await another();
});
afterAll(async () => {
  for (const page of pages) page.abort();
  await other.stop();
});

/** A page of somebody's that is open at the other server; what it is told gathers. */
async function openElsewhere(as: string): Promise<PageEvent[]> {
  return (await openAt(other, await cookieOf(as))).told;
}

/** A page at one of the servers, with what it is told, and whether it has ended. */
async function openAt({ port }: Ojo, cookie: string): Promise<{ told: PageEvent[]; hasEnded: () => boolean }> {
  const page = new AbortController();
  pages.push(page);
  const { body } = await fetch(`http://127.0.0.1:${port}/api/events`, { headers: { cookie }, signal: page.signal });
  const told: PageEvent[] = [];
  let hasEnded = false;
  void gather(body as ReadableStream<Uint8Array>, told)
    .catch(() => undefined)
    .finally(() => {
      hasEnded = true;
    });
  return { told, hasEnded: () => hasEnded };
}

async function gather(stream: ReadableStream<Uint8Array>, told: PageEvent[]): Promise<void> {
  const reader = stream.getReader();
  const decoder = new TextDecoder();
  let text = '';
  for (let part = await reader.read(); !part.done; part = await reader.read()) {
    text += decoder.decode(part.value, { stream: true });
    const events = text.split('\n\n');
    text = events.pop() ?? '';
    for (const event of events) {
      const data = /^data: (.*)$/m.exec(event)?.[1];
      if (data) told.push(JSON.parse(data) as PageEvent);
    }
  }
}

const kindsOf = (told: readonly PageEvent[]) => [...new Set(told.map(({ event }) => event))].sort();

it('pages open at another server hear of rules, items, messages, their fate and answers, each once and only what they may read', async () => {
  const ack: Rule['ack'] = { by: 'anyone', remind: null, escalate: [], closeWhenCeased: false, allClear: false };
  // Marisol has no page open: what goes to her is an email, which has a fate.
  await putLive(
    museum.pool,
    { ...ON_VIEW, urgency: 'critical', to: [...ON_VIEW.to, { person: 'marisol' }], ack },
    NOON - 1000,
  );
  const [mei, wren, petra] = [await openElsewhere('mei'), await openElsewhere('wren'), await openElsewhere('petra')];
  const loan = await newLoan(museum.pool, { title: 'Tidal Loom', status: 'Agreed' });
  const item = { event: 'item', source: 'loans', item: loan };
  const itemsTold = () => mei.filter(({ event }) => event === 'item');
  await expect.poll(itemsTold).toEqual([item]);

  const { body: rule } = await ask('/rules', {
    as: 'ines',
    method: 'POST',
    body: { document: documentOf({ to: [{ person: 'ines' }] }) },
  });
  await ask(`/rules/${rule.id}/live`, { as: 'ines', method: 'POST', body: { revision: rule.draftRevision } });
  await expect.poll(() => kindsOf(mei)).toContain('rules');

  await ask(`/items/${loan}`, { as: 'ines', method: 'PATCH', body: { from: 1, set: { status: 'On view' } } });
  await settle();
  await expect.poll(() => kindsOf(mei)).toEqual(['item', 'message', 'outbox', 'rules']);
  const arrived = mei.filter(({ event }) => event === 'message');
  expect(arrived).toHaveLength(1);
  // It was added, and edited: what is edited is told a moment after the message of it is.
  await expect.poll(itemsTold).toEqual([item, item]);

  const { id } = (arrived[0] as Extract<PageEvent, { event: 'message' }>).message;
  await ask('/inbox/acknowledge', { as: 'mei', method: 'POST', body: { ids: [id] } });
  await expect.poll(() => kindsOf(wren)).toContain('answered');
  // Whoever may not read loans is told of the rules that anybody may look at, and of nothing in them.
  expect(kindsOf(petra).filter((event) => event === 'item' || event === 'message')).toEqual([]);
});

it('a page ends with its session, wherever it is open, and with its person, and others go on', async () => {
  const first = await cookieOf('mei');
  forget('mei');
  const second = await cookieOf('mei');
  const [here, there, still] = [await openAt(ojo(), first), await openAt(other, first), await openAt(ojo(), second)];
  await fetch(`http://127.0.0.1:${ojo().port}/api/session`, { method: 'DELETE', headers: { cookie: first } });
  await expect.poll(() => [here.hasEnded(), there.hasEnded()]).toEqual([true, true]);
  expect(still.hasEnded()).toBe(false);
  await run(museum.pool, query("UPDATE people SET is_active = 0 WHERE id = 'mei'"));
  await expect.poll(still.hasEnded).toBe(true);
  await run(museum.pool, query("UPDATE people SET is_active = 1 WHERE id = 'mei'"));
});

it('what comes to a page from another server says no more than its reader may read by then', async () => {
  const told = await openElsewhere('wren');
  await inTransaction(museum.pool, (on) =>
    runAll(on, [
      query("UPDATE access_entries SET readers = '[]' WHERE source_id = 'loans'"),
      store.world.raise(),
      // It was decided while they could still read it.
      query(
        `INSERT INTO messages (id, person_id, recipient, channel, address, at, form, urgency, subject, content, content_of, fate, fate_at)
         SELECT 'late', person_id, recipient, channel, address, at, form, urgency, subject, content, content_of, fate, fate_at
         FROM messages WHERE person_id = 'wren' AND channel = 'inApp' LIMIT 1`,
      ),
    ]),
  );
  const late = () => told.flatMap((event) => (event.event === 'message' && event.message.id === 'late' ? [event] : []));
  await expect.poll(() => late().length).toBe(1);
  expect(JSON.stringify(late())).not.toContain('Tidal Loom');
  expect(late()[0]?.message.content.entries).toEqual([]);
});

import { raw } from '../testing/raw.ts';
import { expect, inject, it } from 'vitest';
import { one, openPool, query, rows, run } from '../store/index.ts';
import { askMuseum } from '../testing/asking.ts';
import { newLoan, NOON, ON_VIEW, putLive } from '../testing/museum.ts';

const { museum, ask, settle } = askMuseum();

/** Cuts every connection to the museum's database but its own, so many times. */
async function cut(times: number, isOver: () => boolean): Promise<number> {
  const pool = openPool(inject('connecting'), 1);
  let count = 0;
  while (count < times && !isOver()) {
    const found = await rows(
      pool,
      raw<{ ID: number }>('SELECT ID FROM information_schema.processlist WHERE DB = ?', museum.database),
    );
    for (const { ID } of found) await run(pool, query('KILL ?', ID)).catch(() => undefined);
    if (found.length > 0) count += 1;
  }
  await pool.end();
  return count;
}

it('fifty cuts of every connection under load are lived through: each edit that was said to be kept is in the trail once, and decided', async () => {
  await putLive(museum.pool, ON_VIEW, NOON - 1000);
  const ids: string[] = [];
  for (let loan = 0; loan < 6; loan++) ids.push(await newLoan(museum.pool, { status: 'Agreed', registrar: 'ines' }));
  const kept: string[] = [];
  let isCut = false;
  const write = async (item: string) => {
    let own = 0;
    // Once nothing is cut any more, two edits at least go through.
    for (let edit = 0; !isCut || own < 2; edit++) {
      const page = await ask(`/items/${item}`, { as: 'ines' });
      if (page.status !== 200) continue;
      const note = `${item} ${edit}`;
      const key = `key-${item}-${edit}`;
      for (let tries = 0; tries < 50; tries++) {
        // Whatever came of it, it is sent again under the same key until it is answered.
        const { status } = await ask(`/items/${item}`, {
          as: 'ines',
          method: 'PATCH',
          body: { from: page.body.item.version, set: { note } },
          headers: { 'idempotency-key': key },
        });
        expect([200, 503, 409, 401]).toContain(status);
        if (status === 200) {
          kept.push(note);
          own += 1;
        }
        if (status === 200 || status === 409) break;
      }
    }
  };
  const writing = Promise.all(ids.map(write));
  expect(await cut(50, () => false)).toBe(50);
  isCut = true;
  await writing;
  await settle();
  const trail = await rows(
    museum.pool,
    raw<{ note: string }>("SELECT JSON_VALUE(fields_after, '$.note') AS note FROM changes WHERE kind = 'changed'"),
  );
  const counts = new Map<string, number>();
  for (const { note } of trail) counts.set(note, (counts.get(note) ?? 0) + 1);
  expect(kept.length).toBeGreaterThanOrEqual(2 * ids.length);
  expect(kept.filter((note) => counts.get(note) !== 1)).toEqual([]);
  expect(
    Number((await one(museum.pool, raw<{ open: number }>('SELECT COUNT(*) AS open FROM change_queue')))?.open),
  ).toBe(0);
}, 120_000);

it('an edit sent again under its key is the same edit, one made by somebody else under it is theirs', async () => {
  const item = await newLoan(museum.pool, { status: 'Agreed', registrar: 'ines' });
  const send = (as: string, from: number, note: string) =>
    ask(`/items/${item}`, {
      as,
      method: 'PATCH',
      body: { from, set: { note } },
      headers: { 'idempotency-key': 'one-and-the-same' },
    });
  const first = await send('ines', 1, 'Store 4');
  const again = await send('ines', 1, 'Store 4');
  expect([first.status, again.status]).toEqual([200, 200]);
  expect(again.body.version).toBe(first.body.version);
  expect((await send('mei', 2, 'Store 5')).body.version).toBe(3);
  const made = (key: string) =>
    ask('/sources/loans/items', {
      as: 'ines',
      method: 'POST',
      body: { set: { title: 'Reed Boat', status: 'Agreed' } },
      headers: { 'idempotency-key': key },
    });
  const [one1, one2, other] = [await made('make-a-loan-1'), await made('make-a-loan-1'), await made('make-a-loan-2')];
  expect(one2.body.id).toBe(one1.body.id);
  expect(other.body.id).not.toBe(one1.body.id);
  expect(
    (
      await ask(`/items/${item}`, {
        as: 'ines',
        method: 'PATCH',
        body: { from: 3, set: { note: 'x' } },
        headers: { 'idempotency-key': 'short' },
      })
    ).status,
  ).toBe(400);
});

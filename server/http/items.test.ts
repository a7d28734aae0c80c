import { expect, it } from 'vitest';
import { rows, store } from '../store/index.ts';
import { askMuseum } from '../testing/asking.ts';
import { edit, newLoan } from '../testing/museum.ts';

const { museum, ask } = askMuseum();
const back = (as: string, id: string, body: unknown) => ask(`/items/${id}/back`, { as, method: 'POST', body });
const trailOf = (id: string) => rows(museum.pool, store.changes.ofItem(id, 100));

it('an earlier state is brought back as an edit, with what was empty then, by whoever may read it and has seen the newest', async () => {
  const id = await newLoan(museum.pool, { title: 'Tidal Loom', status: 'Agreed' });
  const other = await newLoan(museum.pool, { title: 'Reed Gate', status: 'Requested' });
  await edit(museum.pool, id, { status: 'On view', note: 'Hung' });
  await edit(museum.pool, id, { status: 'Returned', note: 'Gone' });
  const [newest, , first] = await trailOf(id);
  expect((await back('petra', id, { from: 3, change: first?.id })).status).toBe(404);
  expect((await back('mei', id, { from: 2, change: first?.id })).body.conflict).toMatchObject({ version: 3 });
  const [elsewhere] = await trailOf(other);
  expect((await back('mei', id, { from: 3, change: elsewhere?.id })).status).toBe(404);
  const done = await back('mei', id, { from: 3, change: first?.id });
  expect(done.body).toMatchObject({ version: 4, fields: { title: 'Tidal Loom', status: 'Agreed' } });
  expect(done.body.fields.note).toBeUndefined();
  const [change] = await trailOf(id);
  expect(change).toMatchObject({ kind: 'changed', actor: 'mei', detail: { backTo: first?.id } });
  // And back again, as an undo has it.
  expect((await back('mei', id, { from: 4, change: newest?.id })).body.fields).toMatchObject({
    status: 'Returned',
    note: 'Gone',
  });
});

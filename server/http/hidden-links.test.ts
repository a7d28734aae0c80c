import { beforeAll, expect, it } from 'vitest';
import { HIDDEN_ITEM } from '../../contract/hidden.ts';
import { one, store } from '../store/index.ts';
import { askMuseum } from '../testing/asking.ts';
import { fillWorld, type Secret } from '../testing/rights-world.ts';

const asking = askMuseum();
const { museum, ask } = asking;
let loan: Secret;
let object: Secret;
beforeAll(async () => {
  [loan, object] = (await fillWorld(asking)) as [Secret, Secret];
}, 60_000);

/** Inés reads loans and not the vault, to which they lead. */
const asInes = (path: string, method = 'GET', body?: object) =>
  ask(path, { as: 'ines', method, ...(body ? { body } : {}) });
const kept = async () => (await one(museum.pool, store.items.byId(loan.id)))?.fields.object;
const versionNow = async () => (await asInes(`/items/${loan.id}`)).body.item.version as number;

it('a link to what somebody may not read is a sign for them, which sent back leaves what stands', async () => {
  const { item } = (await asInes(`/items/${loan.id}`)).body;
  expect(item.fields.object).toBe(HIDDEN_ITEM);
  const saved = await asInes(`/items/${loan.id}`, 'PATCH', {
    from: item.version,
    set: { object: HIDDEN_ITEM, note: `Kept of ${loan.word}` },
  });
  expect(saved.status).toBe(200);
  expect(saved.body.fields.object).toBe(HIDDEN_ITEM);
  expect(await kept()).toBe(object.id);
});

it('the sign is a value of nothing else: of nothing new, of no other field, of no many at once', async () => {
  const made = await asInes('/sources/loans/items', 'POST', { set: { title: 'New', object: HIDDEN_ITEM } });
  expect(made).toMatchObject({ status: 422, body: { faults: [{ code: 'standsForHidden', path: 'object' }] } });
  const acted = await asInes('/sources/loans/acts', 'POST', {
    ids: [loan.id],
    act: { act: 'set', field: 'object', value: HIDDEN_ITEM },
  });
  expect(acted.status).toBeGreaterThanOrEqual(400);
  expect(await kept()).toBe(object.id);
});

it('a conflict shows neither side’s hidden link', async () => {
  const version = await versionNow();
  await ask(`/items/${loan.id}`, {
    as: 'mei',
    method: 'PATCH',
    body: { from: version, set: { note: `Mei on ${loan.word}` } },
  });
  const answer = await asInes(`/items/${loan.id}`, 'PATCH', {
    from: version,
    set: { note: 'Mine', object: HIDDEN_ITEM },
  });
  expect(answer.status).toBe(409);
  expect(JSON.stringify(answer.body)).not.toContain(object.id);
});

it('taken away, it can be set anew only to what may be read', async () => {
  const cleared = await asInes(`/items/${loan.id}`, 'PATCH', { from: await versionNow(), set: { object: null } });
  expect(cleared.status).toBe(200);
  const guessed = await asInes(`/items/${loan.id}`, 'PATCH', { from: await versionNow(), set: { object: object.id } });
  // That there is such an item is not said either way: what is set stands, and shows as the sign.
  expect(JSON.stringify(guessed.body)).not.toContain(object.word);
});

it('a file that goes out has the sign, and nothing is found by a hidden title', async () => {
  const response = await fetch(`http://127.0.0.1:${asking.ojo().port}/api/sources/loans/table?as=csv`, {
    headers: { cookie: await asking.cookieOf('ines') },
  });
  const text = await response.text();
  expect(text).toContain(loan.word);
  expect(text).not.toContain(object.word);
  for (const path of ['/find', '/outbox', '/sources/loans/items'])
    expect(JSON.stringify((await asInes(`${path}?text=${object.word}`)).body), path).not.toContain(
      `Thing ${object.word}`,
    );
});

import fc from 'fast-check';
import { beforeAll, describe, expect, it } from 'vitest';
import { query, rows, run, store } from '../store/index.ts';
import { askMuseum } from '../testing/asking.ts';
import { NOON, ON_VIEW, putLive, rule } from '../testing/museum.ts';
import { raw } from '../testing/raw.ts';

const { museum, ask, settle, ojo } = askMuseum();
const steward = (method: string, path: string, body?: object) => ask(path, { as: 'marisol', method, body });

const KEEP = {
  type: 'desk.loan.*',
  does: 'keep',
  key: '/subject',
  actor: '/data/by',
  text: null,
  fields: [
    { field: 'title', from: '/data/title', fixed: null },
    { field: 'status', from: '/data/state', fixed: null },
    { field: 'insured', from: '/data/value', fixed: null },
    { field: 'due', from: '/data/until', fixed: null },
    { field: 'registrar', from: null, fixed: 'wren' },
  ],
};
const COMMENT = { type: 'desk.said', does: 'comment', key: '/subject', actor: null, text: '/data/text', fields: [] };
const REMOVE = { type: 'desk.gone', does: 'remove', key: '/subject', actor: null, text: null, fields: [] };
const DOOR = { name: 'Loan desk', isOpen: true, mappings: [KEEP, COMMENT, REMOVE] };

let key = '';
let door = '';
beforeAll(async () => {
  ({ key, id: door } = (await steward('POST', '/sources/loans/doors', DOOR)).body);
});

const event = (id: string, subject: string, data: object, type = 'desk.loan.saved') => ({
  specversion: '1.0',
  id,
  source: 'https://desk.example',
  type,
  subject,
  data,
});
async function handIn(body: unknown, headers: Record<string, string> = {}, as = key) {
  const response = await fetch(`http://127.0.0.1:${ojo().port}/api/changes`, {
    method: 'POST',
    headers: { 'content-type': 'application/cloudevents+json', authorization: `Bearer ${as}`, ...headers },
    body: typeof body === 'string' ? body : JSON.stringify(body),
  });
  const text = await response.text();
  // biome-ignore lint/suspicious/noExplicitAny: tests look into answers of every shape
  return { status: response.status, body: JSON.parse(text) as any, headers: response.headers };
}
const batch = (events: unknown[]) => handIn(events, { 'content-type': 'application/cloudevents-batch+json' });
const itemOf = async (id: string) =>
  (
    await rows(
      museum.pool,
      raw<{ title: string; version: number; is_deleted: number }>(
        'SELECT title, version, is_deleted FROM items WHERE id = ?',
        id,
      ),
    )
  )[0];

describe('a door', () => {
  it('is made by a steward, tells its key once, and is known by nothing else', async () => {
    expect(key).toMatch(/^ojo-door-loan-desk\.[0-9a-f]{48}$/);
    expect(JSON.stringify((await steward('GET', '/sources/loans/doors')).body)).not.toContain(key);
    const kept = await rows(museum.pool, raw<{ key_hash: string }>('SELECT key_hash FROM doors'));
    expect(JSON.stringify(kept)).not.toContain(key.split('.')[1]);
    for (const who of ['ines', 'mei'])
      for (const [method, path] of [
        ['GET', '/sources/loans/doors'],
        ['POST', `/doors/${door}/key`],
        ['DELETE', `/doors/${door}`],
      ] as const)
        expect((await ask(path, { as: who, method })).status).toBe(403);
  });

  it('is refused with what is wrong with each mapping', async () => {
    const wrong = await steward('POST', '/sources/loans/doors', {
      name: 'loan DESK',
      isOpen: true,
      mappings: [
        { ...KEEP, key: 'subject', fields: [{ field: 'colour', from: '/data/~2', fixed: null }] },
        { ...KEEP, does: 'comment', key: null, text: null },
      ],
    });
    expect(wrong.status).toBe(422);
    const found = wrong.body.faults.map(({ code, path }: { code: string; path: string }) => `${path} ${code}`);
    expect(found).toEqual([
      'name nameTaken',
      'mappings.0.key noPointer',
      'mappings.0.fields.0.field noFieldThere',
      'mappings.0.fields.0.from noPointer',
      'mappings.0.fields titleIsMapped',
      'mappings.1.type typeTwice',
      'mappings.1.key keyIsNeeded',
      'mappings.1.text wordsAreNeeded',
    ]);
  });

  it('tries a sample without keeping anything', async () => {
    const sample = JSON.stringify(
      event('s', 'T-1', { title: 'Tried', state: 'Agreed', value: '1200.50 EUR', by: 'wren' }),
    );
    const { body } = await steward('POST', '/sources/loans/doors/try', { mappings: DOOR.mappings, sample });
    expect(body).toMatchObject({ outcome: 'keep', key: 'T-1', actor: 'wren' });
    expect(body.fields).toContainEqual({ field: 'Loan', words: 'Tried' });
    expect(
      (await steward('POST', '/sources/loans/doors/try', { mappings: DOOR.mappings, sample: '{' })).body.faults[0].code,
    ).toBe('noJson');
    expect(await rows(museum.pool, raw<{ id: string }>("SELECT id FROM items WHERE title = 'Tried'"))).toEqual([]);
  });
});

describe('events by a door', () => {
  it('make items and edit them, by whom they name, and are told of as any change', async () => {
    await putLive(
      museum.pool,
      rule({ ...ON_VIEW, id: 'by-door', to: [{ person: 'mei' }], channels: ['inApp'] }),
      NOON - 1000,
    );
    const made = await handIn(event('1', 'L-9', { title: 'Reed Gate', state: 'agreed', by: 'wren' }));
    expect(made).toMatchObject({ status: 200, body: { id: '1', source: 'https://desk.example', outcome: 'taken' } });
    museum.clock.set(NOON + 60_000);
    const edited = await handIn(event('2', 'L-9', { state: 'On view', by: 'nobody at all' }));
    expect(edited.body).toMatchObject({ outcome: 'taken', item: made.body.item });
    await settle();
    const trail = await rows(
      museum.pool,
      store.changes.byIds([
        ['loans', made.body.change],
        ['loans', edited.body.change],
      ]),
    );
    expect(trail.map(({ actor, kind }) => `${kind} ${actor}`).sort()).toEqual([
      'changed system:Loan desk',
      'created wren',
    ]);
    const { messages } = (await ask('/inbox', { as: 'mei' })).body;
    expect(messages.some(({ subject }: { subject: string }) => subject.includes('Reed Gate'))).toBe(true);
  });

  it('come in binary mode as well, with attributes percent-encoded in headers', async () => {
    const { status, body } = await handIn(
      { title: 'Salt Basket' },
      {
        'content-type': 'application/json',
        'ce-specversion': '1.0',
        'ce-id': 'b%2F1',
        'ce-source': 'https://desk.example',
        'ce-type': 'desk.loan.saved',
        'ce-subject': 'caf%C3%A9',
      },
    );
    expect([status, body.outcome, body.id]).toEqual([200, 'taken', 'b/1']);
    const again = await handIn(event('b/1', 'café', { title: 'Salt Basket' }));
    expect(again.body).toMatchObject({ outcome: 'repeated', item: body.item });
  });

  it('are accounted for one by one, the good ones taken whatever the others are', async () => {
    const { status, body } = await batch([
      event('m1', 'M-1', { title: 'Marsh Lamp', value: { amount: '900.00', currency: 'EUR' } }),
      event('m1', 'M-1', { title: 'Marsh Lamp' }),
      event('m2', 'M-1', { title: 'Marsh Lamp' }),
      event('m3', 'M-2', { title: 'Wrong', until: 'soon', state: 'Lost' }),
      event('m4', 'M-1', { text: 'It is here.' }, 'desk.said'),
      event('m5', 'M-404', {}, 'desk.gone'),
      event('m6', 'M-1', {}, 'other.thing'),
      { id: 'm7', source: 'x' },
      'no event',
      event('m8', 'M-1', {}, 'desk.gone'),
      event('m9', 'M-1', { title: 'Too late' }),
    ]);
    expect(status).toBe(200);
    expect(body.map(({ outcome }: { outcome: string }) => outcome)).toEqual([
      'taken',
      'repeated',
      'unchanged',
      'refused',
      'taken',
      'refused',
      'passedOver',
      'refused',
      'refused',
      'taken',
      'refused',
    ]);
    const codes = (at: number) =>
      body[at].faults.map(({ code, path }: { code: string; path: string }) => `${path} ${code}`);
    expect(codes(3)).toEqual(['/data/state unknownOption', '/data/until needsDate']);
    expect(codes(5)).toEqual([' noItemThere']);
    expect(codes(10)).toEqual([' gone']);
    expect(await itemOf(body[0].item)).toMatchObject({ title: 'Marsh Lamp', is_deleted: 1 });
    const single = await handIn(event('m3b', 'M-2', { title: 'Wrong', until: 'soon' }));
    expect(single.status).toBe(422);
  });

  it('sent again in any order and number come to the same', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.integer({ min: 0, max: 4 }), { minLength: 1, maxLength: 12 }),
        fc.uuid(),
        async (order, run_) => {
          const sent = await batch(order.map((n) => event(`${run_}/${n}`, `${run_}`, { title: `Title ${n}` })));
          const firsts = new Set(order).size;
          const outcomes = sent.body.map(({ outcome }: { outcome: string }) => outcome);
          expect(outcomes.filter((one: string) => one === 'taken')).toHaveLength(firsts);
          expect(outcomes.filter((one: string) => one === 'repeated')).toHaveLength(order.length - firsts);
          expect((await itemOf(sent.body[0].item))?.version).toBe(firsts);
        },
      ),
      { numRuns: 12 },
    );
  });

  it('at once for the same new item make it once', async () => {
    const all = await Promise.all(
      [1, 2, 3, 4].map((n) => handIn(event(`at-once-${n}`, 'ONCE', { title: `At once ${n}` }))),
    );
    expect(new Set(all.map(({ body }) => body.item)).size).toBe(1);
    expect(all.map(({ body }) => body.outcome)).toEqual(['taken', 'taken', 'taken', 'taken']);
  });
});

describe('whoever may not', () => {
  it('is told so by whatever is not the key of an open door', async () => {
    const one = event('k1', 'K', { title: 'Key' });
    for (const wrong of [
      '',
      'x',
      `${key}0`,
      key.replace(/.$/, (last) => (last === '0' ? '1' : '0')),
      'ojo-door-nosuch.'.padEnd(64, '0'),
    ])
      expect((await handIn(one, {}, wrong)).status).toBe(401);
    await steward('PUT', `/doors/${door}`, { ...DOOR, isOpen: false });
    expect((await handIn(one)).status).toBe(403);
    await steward('PUT', `/doors/${door}`, DOOR);
    expect((await handIn('{', {})).status).toBe(400);
    expect((await handIn({}, { 'content-type': 'application/cloudevents-batch+json' })).status).toBe(400);
    expect((await handIn(one, { 'content-type': 'text/plain' })).status).toBe(400);
    expect((await batch(Array.from({ length: 501 }, () => one))).body.because.code).toBe('tooManyEvents');
    expect((await handIn(`"${'x'.repeat(1_100_000)}"`)).status).toBe(400);
    const next = (await steward('POST', `/doors/${door}/key`)).body.key;
    expect((await handIn(one)).status).toBe(401);
    key = next;
    expect((await handIn(one)).status).toBe(200);
  });

  it('is asked to wait while much waits to be decided', async () => {
    await run(
      museum.pool,
      query(
        "INSERT INTO change_queue (change_seq, item_id, at, not_before) SELECT 1000000 + seq, 'none', '2026-03-04', '2099-01-01' FROM seq_1_to_5000",
      ),
    );
    const { status, headers, body } = await handIn(event('w', 'W', { title: 'Wait' }));
    expect([status, headers.get('retry-after'), body.because.code]).toEqual([429, '5', 'muchIsWaiting']);
    await run(museum.pool, query('DELETE FROM change_queue WHERE change_seq > 1000000'));
  });
});

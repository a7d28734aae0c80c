import { describe, expect, it } from 'vitest';
import { DAY_MS } from '../../core/time/index.ts';
import { PATHS } from '../../contract/paths.ts';
import { query, run } from '../store/index.ts';
import { askMuseum } from '../testing/asking.ts';
import { newLoan, NOON } from '../testing/museum.ts';

const { museum, ask, ojo } = askMuseum();
const make = async (as: string, scope: 'read' | 'write', days = 30) =>
  (await ask('/me/tokens', { as, method: 'POST', body: { name: `Script ${scope}`, scope, days } })).body as {
    id: string;
    token: string;
  };
const by = (token: string, path: string, more: { method?: string; body?: unknown } = {}) =>
  ask(path, { ...more, headers: { authorization: `Bearer ${token}` } });

describe('a token of one’s own', () => {
  it('reads what its person may read and nothing else, until it is ended or its days are over', async () => {
    const loan = await newLoan(museum.pool, { title: 'Tidal Loom', status: 'Agreed' });
    const { id, token } = await make('mei', 'read', 2);
    expect((await by(token, '/session')).body.id).toBe('mei');
    expect((await by(token, `/items/${loan}`)).body.item.title).toBe('Tidal Loom');
    const petra = await make('petra', 'read');
    expect((await by(petra.token, `/items/${loan}`)).status).toBe(404);
    const listed = (await ask('/me/tokens', { as: 'mei' })).body;
    expect(listed).toMatchObject([{ id, scope: 'read', usedAt: expect.any(String) }]);
    expect(JSON.stringify(listed)).not.toContain(token);
    museum.clock.set(NOON + 2 * DAY_MS + 60_000);
    expect((await by(token, `/items/${loan}`)).status).toBe(401);
    museum.clock.set(NOON);
    expect((await ask(`/me/tokens/${id}`, { as: 'petra', method: 'DELETE' })).status).toBe(404);
    expect((await ask(`/me/tokens/${id}`, { as: 'mei', method: 'DELETE' })).status).toBe(204);
    expect((await by(token, `/items/${loan}`)).status).toBe(401);
  });

  it('opens nothing once its person is no longer here', async () => {
    const { token } = await make('wren', 'read');
    expect((await by(token, '/session')).status).toBe(200);
    await run(museum.pool, query("UPDATE people SET is_active = 0 WHERE id = 'wren'"));
    expect((await by(token, '/session')).status).toBe(401);
    await run(museum.pool, query("UPDATE people SET is_active = 1 WHERE id = 'wren'"));
  });

  it('writes only where it was made to, in its person’s name', async () => {
    const loan = await newLoan(museum.pool, { title: 'Salt Basket', status: 'Agreed' });
    const [reads, writes] = [await make('ines', 'read'), await make('ines', 'write')];
    const edit = { method: 'PATCH', body: { from: 1, set: { status: 'On view' } } };
    expect((await by(reads.token, `/items/${loan}`, edit)).body.because.code).toBe('tokenReadsAlone');
    expect((await by(writes.token, `/items/${loan}`, edit)).status).toBe(200);
    expect((await by(writes.token, `/items/${loan}`)).body.trail[0].actor).toBe('ines');
  });

  it('sets up nothing and nobody: no further token, key, account, address or right', async () => {
    const { token } = await make('marisol', 'write');
    const kept = [
      ['POST', '/me/tokens'],
      ['POST', '/me/addresses'],
      ['POST', '/people'],
      ['POST', '/machines'],
      ['POST', '/sources/loans/doors'],
      ['PUT', '/sources/loans/access'],
      ['GET', '/machines'],
      // However it is written.
      ['GET', '/Machines/'],
      ['POST', '/ME/tokens'],
      ['GET', '/audit'],
      ['GET', '/running'],
      ['PUT', '/starting-plans'],
    ] as const;
    for (const [method, path] of kept) {
      const { status, body } = await by(token, path, { method, ...(method === 'GET' ? {} : { body: {} }) });
      expect([path, status, body.because?.code]).toEqual([path, 403, 'notByToken']);
    }
    expect((await by('ojo-token-'.padEnd(58, 'a'), '/people')).status).toBe(401);
  });
});

it('the API is described by the contract it is registered from, each route once, with nothing left open', async () => {
  const response = await fetch(`http://127.0.0.1:${ojo().port}/api/openapi.json`);
  const described = (await response.json()) as {
    openapi: string;
    components: { schemas: object };
    paths: Record<string, Record<string, { operationId: string; responses: object }>>;
  };
  expect(described.openapi).toBe('3.1.0');
  const operations = Object.values(described.paths).flatMap((methods) => Object.values(methods));
  const names = operations.map(({ operationId }) => operationId);
  expect(new Set(names).size).toBe(names.length);
  const offered = Object.keys(PATHS).filter(
    (name) => !/^(test|standins|welcome)\.|^session\.(demo|events)$/.test(name),
  );
  expect(names.sort()).toEqual([...offered, 'changes.handIn'].sort());
  expect(described.paths['/items/{id}']?.get?.responses).toMatchObject({ '200': {}, '401': {}, '404': {} });
  // What no token may do says so.
  expect(described.paths['/machines']?.get).toMatchObject({ security: [{ session: [] }] });
  expect(described.paths['/items/{id}']?.get).not.toHaveProperty('security');
  // Each reference leads to something.
  const refs = [...JSON.stringify(described).matchAll(/"\$ref":"([^"]+)"/g)].map(([, ref = '']) => ref);
  const schemas = new Set(Object.keys(described.components.schemas).map((name) => `#/components/schemas/${name}`));
  expect([...new Set(refs)].filter((ref) => !schemas.has(ref))).toEqual([]);
});

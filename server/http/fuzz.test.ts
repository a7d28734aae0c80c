import fc from 'fast-check';
import { beforeAll, describe, expect, it } from 'vitest';
import { PATHS, type RouteName } from '../../contract/paths.ts';
import { askMuseum } from '../testing/asking.ts';
import { type Ask, ASKS } from '../testing/every-route.ts';
import { fillWorld, FIRST, type Ids, idsOf, mayRead, type Secret } from '../testing/rights-world.ts';

const asking = askMuseum();
const { ojo, cookieOf, ask } = asking;
let ids: Ids;
let closed: Secret[] = [];
beforeAll(async () => {
  closed = (await fillWorld(asking)).filter((secret) => !mayRead(ASKER, secret, FIRST));
  ids = await idsOf(asking);
}, 60_000);

/** Whoever sends all this reads some of what there is, and not all. */
const ASKER = 'ines';
/** How many mutated requests; more of them where somebody looks for longer. */
const RUNS = Number(process.env.OJO_FUZZ_RUNS ?? 900);

/** What nobody would type, and somebody will send. */
const STRANGE = fc.constantFrom<unknown>(
  null,
  '',
  ' ',
  '~',
  '..',
  '../../etc',
  'x'.repeat(4000),
  '\u0000',
  '\ud800',
  '\u202e\u0007',
  "' OR 1=1 --",
  '%ff',
  '__proto__',
  'constructor',
  -1,
  0,
  1.5,
  1e308,
  Number.MAX_SAFE_INTEGER + 1,
  true,
  [],
  {},
  [[[[[[]]]]]],
  { nested: 'x' },
  '9999-99-99',
  '0000-00-00T00:00:00Z',
  '🙂'.repeat(300),
);

/** The same with one of its values, however deep, put otherwise. */
function mutated(value: unknown, at: number, strange: unknown): unknown {
  const places: [holder: Record<string, unknown>, key: string][] = [];
  const copy = structuredClone(value) as Record<string, unknown>;
  const visit = (holder: Record<string, unknown>) => {
    for (const key of Object.keys(holder)) {
      places.push([holder, key]);
      const inner = holder[key];
      if (typeof inner === 'object' && inner !== null) visit(inner as Record<string, unknown>);
    }
  };
  visit(copy);
  const place = places[at % Math.max(1, places.length)];
  if (place) place[0][place[1]] = strange;
  return copy;
}

async function send(name: RouteName, one: Ask, raw: string | null, headers: Record<string, string> = {}) {
  const [method = '', path = ''] = PATHS[name].split(' ');
  const at = path.replace(/:(\w+)/g, (_, part: string) =>
    encodeURIComponent(String(one.params?.[part] ?? '').toWellFormed?.() ?? ''),
  );
  const search = new URLSearchParams(
    Object.entries(one.query ?? {}).map(([key, value]) => [key, String(value)]),
  ).toString();
  const body = raw ?? (one.body === undefined ? undefined : JSON.stringify(one.body));
  const response = await fetch(`http://127.0.0.1:${ojo().port}/api${at}${search ? `?${search}` : ''}`, {
    method,
    headers: { 'content-type': 'application/json', cookie: await cookieOf(ASKER), ...headers },
    ...(body === undefined || method === 'GET' ? {} : { body }),
  });
  const text = await response.text();
  return { status: response.status, type: response.headers.get('content-type') ?? '', text };
}

const NAMES = (Object.keys(PATHS) as RouteName[]).filter((name) => ASKS[name] !== null);

describe('whatever a route is sent', { timeout: 120_000 + RUNS * 60 }, () => {
  it('it is answered, or refused in words, and nothing fails', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.constantFrom(...NAMES),
        fc.nat(),
        fc.constantFrom('params', 'query', 'body', 'body'),
        fc.nat(40),
        STRANGE,
        async (name, which, part, at, strange) => {
          const asks = ASKS[name]?.(ids) ?? [];
          const one = asks[which % Math.max(1, asks.length)] ?? {};
          const otherwise = { ...one, [part]: mutated(one[part as keyof Ask] ?? {}, at, strange) };
          const { status, type, text } = await send(name, otherwise as Ask, null);
          expect(status, `${name}: ${text.slice(0, 300)}`).toBeLessThan(500);
          if (status >= 400) expect(type).toContain('application/problem+json');
          const asked = JSON.stringify(otherwise);
          for (const { word } of closed)
            expect(text.includes(word) && !asked.includes(word), `${name} ${asked} gives ${word}`).toBe(false);
        },
      ),
      { numRuns: RUNS },
    );
  });

  it('a body that is no body, and an address that is none, are refused as problems', async () => {
    const bodies: [string, Record<string, string>][] = [
      ['{', {}],
      ['[]', {}],
      ['null', {}],
      ['"text"', {}],
      ['{"a":1}', { 'content-type': 'application/json; charset=none-such' }],
      ['{"a":1}', { 'content-encoding': 'gzip' }],
      ['{"a":1}', { 'content-encoding': 'none-such' }],
      [`${'{"a":'.repeat(5000)}1${'}'.repeat(5000)}`, {}],
      ['', {}],
    ];
    for (const name of NAMES.filter((one) => !PATHS[one].startsWith('GET ')))
      for (const [body, headers] of bodies.slice(0, name.length % 2 === 0 ? 9 : 5)) {
        const { status, text } = await send(name, ASKS[name]?.(ids)[0] ?? {}, body, headers);
        expect(
          status,
          `${name} with ${body.slice(0, 20)} ${JSON.stringify(headers)}: ${text.slice(0, 200)}`,
        ).toBeLessThan(500);
      }
    const base = `http://127.0.0.1:${ojo().port}`;
    for (const path of [
      '/api/items/%ff',
      '/api/%',
      '/api/sources/%c0%af/items',
      '/t/%ff',
      '/calendar/%ff',
      '/welcome/%ff',
    ]) {
      const { status } = await fetch(`${base}${path}`, { headers: { cookie: await cookieOf('ines') } });
      expect(status, path).toBeGreaterThanOrEqual(400);
      expect(status, path).toBeLessThan(500);
    }
  });

  it('and after all of it an innocent change still reaches its reader', async () => {
    const set = { title: 'An innocent loan', status: 'Agreed', registrar: 'wren' };
    const { body } = await ask('/sources/loans/items', { as: 'mei', method: 'POST', body: { set } });
    await asking.settle();
    expect(body.title).toBe('An innocent loan');
    expect(JSON.stringify((await ask('/inbox', { as: 'wren' })).body)).toContain('An innocent loan');
  });
});

import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Ojo } from '../boot/index.ts';
import { startIdentityStandIn } from '../standins/index.ts';
import { freePort } from '../testing/database.ts';
import { askMuseum } from '../testing/asking.ts';

const asking = askMuseum();
const BASE = 'https://ojo.example';
const BACK = `${BASE}/sign-in/house/back`;
const SECRET = 'a secret of both';
const PEOPLE = [
  { id: 'm', name: 'Mei', email: 'Mei@marisma.example' },
  { id: 'w', name: 'Wren, not vouched for', email: 'wren@marisma.example', isVerified: false },
  { id: 'n', name: 'Somebody else', email: 'else@elsewhere.example' },
  { id: 'o', name: 'No address', email: null },
];

let provider: Awaited<ReturnType<typeof startIdentityStandIn>>;
let ojo: Ojo;
let away: Ojo;
beforeAll(async () => {
  provider = await startIdentityStandIn({
    port: 0,
    client: 'ojo',
    secret: SECRET,
    back: BACK,
    people: async () => PEOPLE,
  });
  const login = { client: 'ojo', secret: SECRET, name: 'the museum account' };
  ojo = await asking.another({ login: { ...login, issuer: provider.issuer } });
  away = await asking.another({ login: { ...login, issuer: `http://127.0.0.1:${await freePort()}` } });
});
afterAll(async () => {
  await Promise.all([ojo.stop(), away.stop()]);
  await provider.close();
});

/** As a browser goes: cookies kept by hand, redirects followed one by one. */
async function go(address: string, cookie = '') {
  const response = await fetch(address, { redirect: 'manual', headers: { cookie, 'accept-language': 'en' } });
  const set = response.headers.getSetCookie().map((one) => one.split(';')[0] ?? '');
  return { status: response.status, to: response.headers.get('location') ?? '', set, text: await response.text() };
}
const here = (address: string, { port } = ojo) => address.replace(BASE, `http://127.0.0.1:${port}`);
const begin = () => go(here(`${BASE}/sign-in/house`));
const sessionOf = (set: readonly string[]) =>
  set.find((cookie) => /^(?:__Host-)?ojo-session=[0-9a-f]{64}$/.test(cookie));

async function signInAs(who: string) {
  const begun = await begin();
  const chosen = await go(`${begun.to}&as=${who}`);
  return { begun, chosen, back: await go(here(chosen.to), begun.set.join('; ')) };
}

describe('signing in by the house’s own identity provider', () => {
  it('is offered by its name, and leads there and back to whoever has the address', async () => {
    const ways = await go(here(`${BASE}/api/session/ways`));
    expect(JSON.parse(ways.text)).toEqual({ house: 'the museum account' });
    const { begun, back } = await signInAs('m');
    expect(begun.to).toContain('code_challenge_method=S256');
    expect(back).toMatchObject({ status: 302, to: '/today' });
    const me = await go(here(`${BASE}/api/session`), sessionOf(back.set));
    expect(JSON.parse(me.text)).toMatchObject({ id: 'mei', owesSecond: false });
  });

  it('wants no second factor of its own where one is asked of everybody', async () => {
    await asking.museum.pool.query("UPDATE house_signing_in SET second_factor = 'everybody'");
    const { back } = await signInAs('m');
    const rules = await go(here(`${BASE}/api/rules`), sessionOf(back.set));
    expect(rules.status).toBe(200);
    await asking.museum.pool.query("UPDATE house_signing_in SET second_factor = 'nobody'");
  });

  it('lets nobody in whose address is not vouched for, is nobody’s here, or is none; and says so', async () => {
    for (const [who, words] of [
      ['w', 'does not vouch'],
      ['n', 'else@elsewhere.example'],
      ['o', 'does not vouch'],
      ['nobody', 'access_denied'],
    ] as const) {
      const { back } = await signInAs(who);
      expect(back.status, who).toBe(403);
      expect(back.text, who).toContain(words);
      expect(sessionOf(back.set), who).toBeUndefined();
    }
  });

  it('lets nobody in by what another browser began, by a code used before, or by one made up', async () => {
    const { begun, chosen, back } = await signInAs('m');
    expect(sessionOf(back.set)).toBeDefined();
    for (const [address, cookie] of [
      [chosen.to, begun.set.join('; ')],
      [chosen.to, ''],
      [chosen.to, (await begin()).set.join('; ')],
      [`${BACK}?code=made-up&state=made-up`, begun.set.join('; ')],
      [BACK, begun.set.join('; ')],
      [chosen.to, '__Host-ojo-login=sealed:1:made-up'],
      [chosen.to, '__Host-ojo-login=%ff'],
    ] as const) {
      const again = await go(here(address), cookie);
      expect(again.status, `${address} ${cookie}`).toBe(403);
      expect(sessionOf(again.set)).toBeUndefined();
    }
  });

  it('says so where the provider cannot be reached, and does not stand in the way of passwords', async () => {
    const begun = await go(here(`${BASE}/sign-in/house`, away));
    expect(begun.status).toBe(503);
    expect(begun.text).toContain('cannot be reached');
  });
});

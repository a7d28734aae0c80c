import { generate } from 'otplib';
import { describe, expect, it } from 'vitest';
import { DAY_MS, MINUTE_MS } from '../../core/time/index.ts';
import { askMuseum } from '../testing/asking.ts';
import { NOON, PASSWORD } from '../testing/museum.ts';

const asking = askMuseum();
const { museum, ask, ojo } = asking;
const GOOD = 'quartz lagoon walnut ferry';

/** A browser: it keeps the cookies that it is given. */
class Browser {
  private readonly kept = new Map<string, string>();

  async ask(method: string, path: string, body?: object) {
    const response = await fetch(`http://127.0.0.1:${ojo().port}/api${path}`, {
      method,
      headers: {
        'content-type': 'application/json',
        'user-agent': 'A browser of tests',
        cookie: [...this.kept].map(([name, value]) => `${name}=${value}`).join('; '),
      },
      ...(body ? { body: JSON.stringify(body) } : {}),
    });
    for (const cookie of response.headers.getSetCookie()) {
      const [, name = '', value = ''] = /^([^=]+)=([^;]*)/.exec(cookie) ?? [];
      this.kept.set(name, value);
    }
    const text = await response.text();
    return { status: response.status, body: text ? JSON.parse(text) : null, headers: response.headers };
  }

  signIn = (name: string, password: string, code?: string) =>
    this.ask('POST', '/session', { name, password, ...(code ? { code } : {}) });
}

const wrongTries = async (browser: Browser, name: string, count: number) => {
  const statuses: number[] = [];
  for (let done = 0; done < count; done++) statuses.push((await browser.signIn(name, `wrong ${done}`)).status);
  return statuses;
};
const later = (ms: number) => museum.clock.set(museum.clock.now() + ms);

describe('trying passwords', () => {
  it('is stopped after ten wrong ones, says for how long, and goes on then', async () => {
    const browser = new Browser();
    expect(await wrongTries(browser, 'mei', 12)).toEqual([...Array(10).fill(401), 429, 429]);
    const refused = await browser.signIn('mei', PASSWORD);
    expect(refused).toMatchObject({
      status: 429,
      body: { code: 'tooMany', because: { code: 'waitMinutes', params: { minutes: 15 } } },
    });
    expect(Number(refused.headers.get('retry-after'))).toBe(900);
    // By the address it is the same account.
    expect((await browser.signIn('mei@marisma.example', PASSWORD)).status).toBe(429);
    later(15 * MINUTE_MS);
    expect((await browser.signIn('mei', PASSWORD)).status).toBe(204);
  });

  it('stands in nobody else’s way, nor in their own where they have signed in before', async () => {
    const own = new Browser();
    expect((await own.signIn('wren', PASSWORD)).status).toBe(204);
    await wrongTries(new Browser(), 'wren', 11);
    expect((await new Browser().signIn('wren', PASSWORD)).status).toBe(429);
    expect((await new Browser().signIn('petra', PASSWORD)).status).toBe(204);
    expect((await own.signIn('wren', PASSWORD)).status).toBe(204);
    later(15 * MINUTE_MS);
  });

  it('counts many at once, and forgets wrong ones after a right one', async () => {
    const browser = new Browser();
    const statuses = await Promise.all(Array.from({ length: 25 }, () => browser.signIn('ines', 'wrong')));
    expect(statuses.filter(({ status }) => status === 401).length).toBeLessThanOrEqual(10);
    later(15 * MINUTE_MS);
    await wrongTries(browser, 'ines', 9);
    expect((await browser.signIn('ines', PASSWORD)).status).toBe(204);
    expect(await wrongTries(new Browser(), 'ines', 9)).toEqual(Array(9).fill(401));
    later(15 * MINUTE_MS);
  });

  it('is stopped for names that nobody has just so', async () => {
    expect(await wrongTries(new Browser(), 'Nobody', 11)).toEqual([...Array(10).fill(401), 429]);
    expect((await new Browser().signIn('nobody', 'x')).status).toBe(429);
    later(15 * MINUTE_MS);
  });
});

describe('one’s own password', () => {
  it('is changed by whoever knows it, to one that is not easily guessed, and ends all other sessions', async () => {
    const [here, there] = [new Browser(), new Browser()];
    await here.signIn('petra', PASSWORD);
    await there.signIn('petra', PASSWORD);
    const change = (old: string, password: string) => here.ask('PUT', '/me/password', { old, password });
    expect(await change('not it', GOOD)).toMatchObject({
      status: 422,
      body: { faults: [{ code: 'notYourPassword', path: 'old' }] },
    });
    for (const weak of ['password1234', 'petra petra petra', 'marismamuseum', 'qwertyuiop123', 'aaaaaaaaaaaaaaaa'])
      expect(await change(PASSWORD, weak), weak).toMatchObject({
        status: 422,
        body: { faults: [{ code: 'easilyGuessed', path: 'password' }] },
      });
    expect((await change(PASSWORD, 'short')).status).toBe(400);
    expect((await change(PASSWORD, GOOD)).status).toBe(204);
    expect((await here.ask('GET', '/session')).status).toBe(200);
    expect((await there.ask('GET', '/session')).status).toBe(401);
    expect((await new Browser().signIn('petra', PASSWORD)).status).toBe(401);
    expect((await new Browser().signIn('petra', GOOD)).status).toBe(204);
  });
});

describe('where one is signed in', () => {
  it('is listed, and ended one by one or all but here; nobody sees or ends another’s', async () => {
    const [here, there, third] = [new Browser(), new Browser(), new Browser()];
    for (const browser of [here, there, third]) await browser.signIn('wren', PASSWORD);
    const mei = new Browser();
    await mei.signIn('mei', PASSWORD);
    const list = async (browser: Browser) =>
      (await browser.ask('GET', '/me/signing-in')).body.sessions as { id: string; isThis: boolean; agent: string }[];
    const all = await list(here);
    expect(all.filter(({ isThis }) => isThis)).toHaveLength(1);
    expect(all[0]).toMatchObject({ agent: 'A browser of tests', origin: expect.stringContaining('127.0.0.1') });
    const other = (await list(there)).find(({ isThis }) => isThis);
    expect((await mei.ask('DELETE', `/me/sessions/${other?.id}`)).status).toBe(404);
    expect((await here.ask('DELETE', `/me/sessions/${other?.id}`)).status).toBe(204);
    expect((await there.ask('GET', '/session')).status).toBe(401);
    expect((await here.ask('DELETE', '/me/sessions')).status).toBe(204);
    expect((await third.ask('GET', '/session')).status).toBe(401);
    expect(await list(here)).toHaveLength(1);
  });
});

describe('a second factor', () => {
  const code = (secret: string, at = museum.clock.now()) => generate({ secret, epoch: Math.floor(at / 1000) });

  it('is put on by a first code, asked for at each sign-in, and its codes open once each', async () => {
    const browser = new Browser();
    await browser.signIn('mei', PASSWORD);
    expect((await browser.ask('POST', '/me/second', { old: 'wrong' })).status).toBe(422);
    const { secret, address, picture } = (await browser.ask('POST', '/me/second', { old: PASSWORD })).body;
    expect(address).toContain(`secret=${secret}`);
    expect(picture).toMatch(/^<svg/);
    // What has only been begun is asked of nobody.
    expect((await new Browser().signIn('mei', PASSWORD)).status).toBe(204);
    expect((await browser.ask('PUT', '/me/second', { code: '12345' })).status).toBe(422);
    const { codes } = (await browser.ask('PUT', '/me/second', { code: await code(secret) })).body;
    expect(new Set(codes).size).toBe(10);
    expect((await browser.ask('POST', '/me/second', { old: PASSWORD })).body.because.code).toBe('secondIsOn');

    const asked = await new Browser().signIn('mei', PASSWORD);
    expect(asked).toMatchObject({ status: 401, body: { code: 'codeNeeded' } });
    // Whoever does not know the password is not told that there is a second factor.
    expect((await new Browser().signIn('mei', 'wrong')).body.code).toBe('badSignIn');
    later(MINUTE_MS);
    const right = await code(secret);
    expect((await new Browser().signIn('mei', PASSWORD, right)).status).toBe(204);
    expect((await new Browser().signIn('mei', PASSWORD, right)).body.code).toBe('badCode');
    expect((await new Browser().signIn('mei', PASSWORD, codes[0].toUpperCase())).status).toBe(204);
    expect((await new Browser().signIn('mei', PASSWORD, codes[0])).body.code).toBe('badCode');
    expect((await browser.ask('GET', '/me/signing-in')).body.second).toMatchObject({ spare: 9, isAsked: false });
    expect((await new Browser().signIn('mei', PASSWORD, await code(secret, NOON - DAY_MS))).status).toBe(401);
  });

  it('is kept sealed, and taken off by its person with the password, or by a steward', async () => {
    const [kept] = (await museum.pool.query('SELECT secret FROM second_factors'))[0] as { secret: string }[];
    expect(kept?.secret).toMatch(/^sealed:1:/);
    const off = (as: string) => ask('/people/mei/second/off', { as, method: 'POST' });
    expect((await off('ines')).status).toBe(403);
    expect((await ask('/people/mei', { as: 'marisol' })).body.hasSecond).toBe(true);
    expect((await off('marisol')).status).toBe(204);
    expect((await new Browser().signIn('mei', PASSWORD)).status).toBe(204);
  });

  it('that is asked of stewards stands before all else for those who have none', async () => {
    const [steward, other, member] = [new Browser(), new Browser(), new Browser()];
    await steward.signIn('marisol', PASSWORD);
    await other.signIn('marisol', PASSWORD);
    await member.signIn('mei', PASSWORD);
    expect((await member.ask('PUT', '/house/second', { of: 'stewards' })).status).toBe(403);
    const refused = await steward.ask('PUT', '/house/second', { of: 'stewards' });
    expect(refused.body.because.code).toBe('putYoursOnFirst');
    const { secret } = (await steward.ask('POST', '/me/second', { old: PASSWORD })).body;
    await steward.ask('PUT', '/me/second', { code: await code(secret) });
    expect((await steward.ask('PUT', '/house/second', { of: 'stewards' })).status).toBe(204);
    expect((await steward.ask('GET', '/rules')).status).toBe(200);
    expect((await member.ask('GET', '/rules')).status).toBe(200);
    await steward.ask('POST', '/me/second/off', { old: PASSWORD });
    for (const path of ['/rules', '/events', '/directory', '/me/tokens'])
      expect((await other.ask('GET', path)).body.code, path).toBe('secondOwed');
    expect((await other.ask('GET', '/session')).body.owesSecond).toBe(true);
    const again = (await other.ask('POST', '/me/second', { old: PASSWORD })).body.secret;
    expect((await other.ask('PUT', '/me/second', { code: await code(again) })).status).toBe(200);
    expect((await other.ask('GET', '/rules')).status).toBe(200);
  });

  it('lets nobody guess its codes', async () => {
    const browser = new Browser();
    const statuses: number[] = [];
    for (let tried = 0; tried < 12; tried++)
      statuses.push((await browser.signIn('marisol', PASSWORD, String(tried).padStart(6, '0'))).status);
    expect(statuses).toEqual([...Array(10).fill(401), 429, 429]);
  });
});

import { describe, expect, it } from 'vitest';
import { askMuseum } from '../testing/asking.ts';
import { PASSWORD } from '../testing/museum.ts';

const { ask, ojo, another } = askMuseum();
const signIn = (port: number, password: string, headers: Record<string, string> = {}) =>
  fetch(`http://127.0.0.1:${port}/api/session`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', ...headers },
    body: JSON.stringify({ name: 'mei', password }),
  });
const lastOrigin = async () => (await ask('/audit', { as: 'marisol' })).body.entries[0].origin;

describe('a session', () => {
  it('is kept over TLS by a cookie that no other host can plant and no script can read', async () => {
    const given = (await signIn(ojo().port, PASSWORD)).headers.get('set-cookie') ?? '';
    expect(given).toMatch(/^__Host-ojo-session=[0-9a-f]{64}; /);
    for (const attribute of ['Path=/', 'HttpOnly', 'Secure', 'SameSite=Lax']) expect(given).toContain(attribute);
    const token = /=([0-9a-f]{64})/.exec(given)?.[1];
    const asked = (name: string) =>
      fetch(`http://127.0.0.1:${ojo().port}/api/session`, { headers: { cookie: `other=1; ${name}=${token}` } });
    expect((await asked('__Host-ojo-session')).status).toBe(200);
    expect((await asked('ojo-session')).status).toBe(401);
  });

  it('comes from whoever connects, and from where a proxy says only where there is one', async () => {
    await ask('/session', { as: 'marisol' });
    const forwarded = { 'x-forwarded-for': '203.0.113.7' };
    await signIn(ojo().port, 'a wrong password', forwarded);
    expect(await lastOrigin()).toMatch(/127\.0\.0\.1$/);
    const behind = await another({ isBehindProxy: true });
    try {
      await signIn(behind.port, 'a wrong password', forwarded);
      expect(await lastOrigin()).toBe('203.0.113.7');
    } finally {
      await behind.stop();
    }
  });
});

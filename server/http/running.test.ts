import { request } from 'node:http';
import { describe, expect, it } from 'vitest';
import { Meters, readiness } from '../running/index.ts';
import { openPool, query, run } from '../store/index.ts';
import { askMuseum } from '../testing/asking.ts';
import { freePort } from '../testing/database.ts';
import { edit, newLoan, NOON, ON_VIEW, putLive } from '../testing/museum.ts';

const { museum, ask, ojo, settle } = askMuseum();
const get = (path: string, headers: Record<string, string> = {}) =>
  new Promise<{ status: number; text: string }>((resolve, reject) => {
    request({ host: '127.0.0.1', port: ojo().port, path, headers }, (response) => {
      let text = '';
      response.setEncoding('utf8');
      response.on('data', (part: string) => {
        text += part;
      });
      response.on('end', () => resolve({ status: response.statusCode ?? 0, text }));
    })
      .on('error', reject)
      .end();
  });
const measured = (text: string, name: string): number =>
  Number(
    text
      .split('\n')
      .find((line) => line.startsWith(`${name} `))
      ?.slice(name.length + 1),
  );

describe('whoever runs Ojo', () => {
  it('is told that it lives and can serve, without an account', async () => {
    expect(await get('/health')).toEqual({ status: 200, text: '{"isAlive":true}' });
    expect(await get('/ready')).toEqual({ status: 200, text: '{"isReady":true,"against":[]}' });
  });

  it('is told what stands against it where the database is away, or it is about to stop', async () => {
    const away = openPool({ host: '127.0.0.1', port: await freePort(), user: 'x', password: 'x', database: 'x' }, 1);
    expect(await readiness(away, true)).toEqual({ isReady: false, against: ['closing', 'database'] });
    await away.end();
  });

  it('measures what waits, what was decided, and what became of messages', async () => {
    await putLive(museum.pool, { ...ON_VIEW, id: 'measured', urgency: 'critical' }, NOON - 1000);
    const before = measured((await get('/metrics')).text, 'ojo_changes_decided_total');
    const loan = await newLoan(museum.pool, { title: 'Reed Gate', status: 'Agreed' });
    await edit(museum.pool, loan, { status: 'On view' });
    await settle();
    const { text } = await get('/metrics');
    expect(measured(text, 'ojo_changes_decided_total')).toBe(before + 2);
    expect(measured(text, 'ojo_waiting{what="changes"}')).toBe(0);
    // It is counted a moment after it is written down.
    await expect
      .poll(async () => measured((await get('/metrics')).text, 'ojo_messages_total{channel="email",fate="delivered"}'))
      .toBeGreaterThan(0);
    // Nobody is named, and nothing that was said.
    expect(text).not.toMatch(/marisma|Reed Gate|mei|on-view/i);
  });

  it('learns how long the oldest of what waits has waited', async () => {
    await run(
      museum.pool,
      query(
        "INSERT INTO set_aside (kind, at, since, code) VALUES ('act', ?, ?, 'x')",
        '2026-03-04 10:00:00',
        '2026-03-04 10:00:00',
      ),
    );
    const meters = new Meters({ pool: museum.pool, clock: { now: () => NOON }, openPages: () => 3 });
    const { text } = await meters.text();
    expect([measured(text, 'ojo_waiting{what="aside"}'), measured(text, 'ojo_lag_seconds{what="aside"}')]).toEqual([
      1, 7200,
    ]);
    expect(measured(text, 'ojo_open_pages')).toBe(3);
    const page = (await ask('/running', { as: 'marisol' })).body;
    expect(page.waiting).toEqual([{ what: 'aside', count: 1, oldest: '2026-03-04T10:00:00Z' }]);
    expect(page.tables.map(({ name }: { name: string }) => name)).toContain('changes');
    expect((await ask('/running', { as: 'ines' })).status).toBe(403);
  });

  it('measures from this machine alone, and not on behalf of somebody behind it', async () => {
    expect((await get('/metrics', { 'x-forwarded-for': '203.0.113.9' })).status).toBe(404);
    expect((await get('/metrics', { forwarded: 'for=203.0.113.9' })).status).toBe(404);
  });
});

import { describe, expect, it } from 'vitest';
import { pauseFailing } from '../acts/index.ts';
import { startWebhookStandIn } from '../standins/index.ts';
import { DirectoryCache, query, run, store } from '../store/index.ts';
import { DAY_MS } from '../../core/time/index.ts';
import { askMuseum } from '../testing/asking.ts';
import { freePort } from '../testing/database.ts';
import { edit, newLoan, NOON, ON_VIEW, putLive, rule } from '../testing/museum.ts';

const { museum, ask, settle, carried } = askMuseum();
const as = (who: string, method: string, path: string, body?: object) => ask(path, { as: who, method, body });
const steward = (method: string, path: string, body?: object) => as('marisol', method, path, body);
const row = async (id: string) => (await steward('GET', '/machines')).body.find((one: { id: string }) => one.id === id);
const made = async (name: string, url = 'https://desk.example/hook', more: object = EVENT) =>
  (await steward('POST', '/machines', { name, url, ...more })).body as { id: string; secret: string };
/** How it is told where nobody says otherwise. */
const EVENT = { kind: 'event', template: '' };
const TELLING = (id: string) => rule({ ...ON_VIEW, id: `tells-${id}`, to: [{ webhook: id }], channels: null });

describe('a machine', () => {
  it('is made known by a steward, told its secret once, and never again', async () => {
    const { id, secret } = await made('Ticket desk');
    expect([id, secret]).toEqual(['ticket-desk', expect.stringMatching(/^whsec_/)]);
    expect(JSON.stringify((await steward('GET', '/machines')).body)).not.toContain(secret);
    expect(await row(id)).toMatchObject({ owner: 'marisol', isPaused: false, failingSince: null, rules: [] });
    expect((await as('ines', 'GET', '/directory')).body.webhooks).toContain(id);
    for (const who of ['ines', 'mei'])
      for (const [method, path, body] of [
        ['GET', '/machines'],
        ['POST', '/machines', { name: 'Mine', url: 'https://a.example', ...EVENT }],
        ['PUT', `/machines/${id}`, { name: 'Mine', url: 'https://a.example', isPaused: false, ...EVENT }],
        ['POST', `/machines/${id}/secret`],
        ['POST', `/machines/${id}/trial`],
        ['DELETE', `/machines/${id}`],
      ] as [string, string, object?][])
        expect((await as(who, method, path, body)).status).toBe(403);
  });

  it('is refused by what is no web address, and a name that is taken', async () => {
    for (const url of ['desk', 'ftp://desk.example', 'javascript:alert(1)', ''])
      expect((await steward('POST', '/machines', { name: 'Wrong', url, ...EVENT })).body.faults[0]).toMatchObject({
        path: 'url',
      });
    expect(
      (await steward('POST', '/machines', { name: 'TICKET desk', url: 'https://a.example', ...EVENT })).body.faults[0],
    ).toMatchObject({
      code: 'nameTaken',
      path: 'name',
    });
  });

  it('is tried with an event of its own, and says what the other side said', async () => {
    const port = await freePort();
    const { id, secret } = await made('Tried', `http://127.0.0.1:${port}/desk`);
    expect((await steward('POST', `/machines/${id}/trial`)).body.isTaken).toBe(false);
    const desk = await startWebhookStandIn(museum.pool, museum.clock, port, secret);
    expect((await steward('POST', `/machines/${id}/trial`)).body).toMatchObject({
      isTaken: true,
      reply: expect.stringMatching(/^202/),
    });
    await desk.close();
  });

  it('is signed to by both secrets for a day after another was made', async () => {
    const { id, secret } = await made('Changing over');
    await putLive(museum.pool, TELLING(id), NOON - 1000);
    const next = (await steward('POST', `/machines/${id}/secret`)).body.secret;
    const tell = async (title: string) => {
      const at = museum.clock.now();
      const loan = await newLoan(museum.pool, { title, status: 'Agreed' }, at);
      await edit(museum.pool, loan, { status: 'On view' }, { at });
      museum.clock.set(at + 1000);
      await settle();
      return carried.webhook.taken.at(-1);
    };
    const told = await tell('Reed Gate');
    expect(told?.secrets).toEqual([next, secret]);
    expect(JSON.parse(told?.posted?.body ?? '')).toMatchObject({
      specversion: '1.0',
      type: 'ojo.message.single',
      source: 'https://ojo.example',
    });
    museum.clock.set(NOON + DAY_MS + 1000);
    expect((await tell('Salt Basket'))?.secrets).toEqual([next]);
    expect((await steward('DELETE', `/machines/${id}`)).body.because).toMatchObject({
      code: 'contactInUse',
      params: { used: ['Loan goes on view'] },
    });
  });

  it('that has failed for three days is told nothing more, which its owner and stewards hear once', async () => {
    const { id } = await made('Failing');
    const now = museum.clock.now();
    await run(museum.pool, store.machines.noteFailure(id, now));
    await run(museum.pool, query('UPDATE world_version SET version = version + 1'));
    const pause = async (at: number) => pauseFailing(museum.pool, at, await new DirectoryCache().current(museum.pool));
    expect(await pause(now + 2 * DAY_MS)).toBe(false);
    expect((await row(id)).failingSince).not.toBeNull();
    expect(await pause(now + 3 * DAY_MS + 1)).toBe(true);
    expect(await pause(now + 3 * DAY_MS + 1)).toBe(false);
    expect((await row(id)).isPaused).toBe(true);
    const { messages } = (await steward('GET', '/inbox')).body;
    expect(messages.filter((one: { subject: string }) => one.subject.includes('Failing'))).toHaveLength(1);
    const { name, url } = await row(id);
    expect((await steward('PUT', `/machines/${id}`, { name, url, isPaused: false, ...EVENT })).status).toBe(204);
    expect(await row(id)).toMatchObject({ isPaused: false, failingSince: null });
    expect((await steward('DELETE', `/machines/${id}`)).status).toBe(204);
  });

  it('is told in JSON or text of the house’s own, seen before, and refused where that cannot be filled in', async () => {
    const json = {
      kind: 'json',
      template: '{"text": "{{ item.title }}: {{ change.what }}", "n": {{ message.items }}}',
    };
    const seen = await steward('POST', '/machines/preview', json);
    expect(JSON.parse(seen.body.body)).toMatchObject({ n: 1, text: expect.stringContaining('→') });
    for (const [template, code] of [
      ['{"text": {{ item.title }}}', 'noJson'],
      ['{"text": "{{ item.secret }}"}', 'unknownName'],
      ['{"text": "{{ item.title"}', 'unreadableText'],
      ['', 'noJson'],
    ])
      expect((await steward('POST', '/machines/preview', { kind: 'json', template })).body.faults[0]).toMatchObject({
        code,
        path: 'template',
      });
    expect((await as('ines', 'POST', '/machines/preview', json)).status).toBe(403);
    expect(
      (await steward('POST', '/machines', { name: 'Bad', url: 'https://a.example', kind: 'json', template: '{' }))
        .status,
    ).toBe(422);
    const { id } = await made('Room', 'https://room.example', { kind: 'text', template: 'Now: {{ item.title }}' });
    await putLive(museum.pool, TELLING(id), museum.clock.now() - 1000);
    const at = museum.clock.now();
    const loan = await newLoan(museum.pool, { title: 'The "Reed" Gate', status: 'Agreed' }, at);
    await edit(museum.pool, loan, { status: 'On view' }, { at });
    museum.clock.set(at + 1000);
    await settle();
    expect(carried.webhook.taken.at(-1)?.posted).toEqual({
      contentType: 'text/plain; charset=utf-8',
      body: 'Now: The "Reed" Gate',
    });
  });
});

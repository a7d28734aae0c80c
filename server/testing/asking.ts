import { randomUUID } from 'node:crypto';
import { raw } from './raw.ts';
import { afterAll, beforeAll } from 'vitest';
import { type Ojo, type OjoParts, startOjo } from '../boot/index.ts';
import { one, query, run, sqlTime } from '../store/index.ts';
import { KeepingCarrier, NOON, PASSWORD, setUpMuseum } from './museum.ts';
import { quietLog } from './quiet.ts';

interface Answer {
  status: number;
  // biome-ignore lint/suspicious/noExplicitAny: tests look into answers of every shape
  body: any;
}

/** How long what is due may take to be decided and sent, and after how long a sender has surely dropped what it holds, in ms. */
const SETTLED_MS = 45_000;
const DROPPED_MS = 25_000;

/** What the text gateway shows in a museum of tests. */
export const GATEWAY_TOKEN = 'gateway-of-tests';

/** A small museum with a server of its own, and a way to ask it as anybody. */
export function askMuseum() {
  const museum = setUpMuseum();
  const carried = { email: new KeepingCarrier(), text: new KeepingCarrier(), webhook: new KeepingCarrier() };
  const start = (more: Partial<OjoParts> = {}) =>
    startOjo({
      pool: museum.pool,
      clock: museum.clock,
      log: quietLog,
      site: { base: 'https://ojo.example', name: 'Ojo' },
      mail: { url: '', from: { name: '', address: '' } },
      reports: null,
      text: { url: '', token: GATEWAY_TOKEN },
      webhooks: { isInsideAllowed: true },
      demoPassword: null,
      pages: null,
      port: 0,
      isChecking: true,
      carriers: carried,
      ...more,
    });
  let ojo: Ojo;
  beforeAll(async () => {
    ojo = await start();
  });
  afterAll(() => ojo.stop());

  const cookies = new Map<string, string>();
  async function cookieOf(name: string): Promise<string> {
    const known = cookies.get(name);
    if (known) return known;
    const response = await fetch(`http://127.0.0.1:${ojo.port}/api/session`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ name, password: PASSWORD }),
    });
    const cookie = response.headers.get('set-cookie')?.split(';')[0] ?? '';
    cookies.set(name, cookie);
    return cookie;
  }

  async function ask(
    path: string,
    more: { as?: string; method?: string; body?: unknown; headers?: Record<string, string> } = {},
  ): Promise<Answer> {
    const headers: Record<string, string> = { 'content-type': 'application/json', ...more.headers };
    if (more.as) headers.cookie = await cookieOf(more.as);
    const response = await fetch(`http://127.0.0.1:${ojo.port}/api${path}`, {
      method: more.method ?? 'GET',
      headers,
      ...(more.body === undefined ? {} : { body: JSON.stringify(more.body) }),
    });
    const text = await response.text();
    return { status: response.status, body: text ? JSON.parse(text) : null };
  }
  /** Hands contents in as the page does, as they are. */
  async function handIn(
    as: string,
    source: string,
    name: string,
    bytes: Buffer | string,
    type = 'application/octet-stream',
  ): Promise<Answer> {
    const response = await fetch(
      `http://127.0.0.1:${ojo.port}/api/sources/${source}/contents?name=${encodeURIComponent(name)}`,
      { method: 'POST', headers: { 'content-type': type, cookie: await cookieOf(as) }, body: bytes as BodyInit },
    );
    return { status: response.status, body: await response.json() };
  }
  /** A page that opens without an account, as a browser without script gets it. */
  async function page(
    link: string,
    form?: Record<string, string> | FormData,
  ): Promise<{ status: number; text: string }> {
    const path = link.replace('https://ojo.example', '');
    const response = await fetch(
      `http://127.0.0.1:${ojo.port}${path}`,
      form ? { method: 'POST', body: form instanceof FormData ? form : new URLSearchParams(form) } : {},
    );
    return { status: response.status, text: await response.text() };
  }

  /** Lets everything that is due be decided and sent; throws, with what is left, where that does not come to an end. */
  async function settle(): Promise<void> {
    // The server's own loops may hold a part of it just then: what they hold is waited for.
    const leftOver = `SELECT (SELECT COUNT(*) FROM change_queue) AS changes, (SELECT COUNT(*) FROM act_queue) AS acts,
      (SELECT COUNT(*) FROM messages WHERE fate = 'waiting' AND (retry_at IS NULL OR retry_at <= ?)) AS waiting,
      (SELECT COUNT(*) FROM messages WHERE fate = 'sending') AS sending`;
    const began = performance.now();
    for (;;) {
      await ojo.runner.drain();
      await ojo.sender.drain();
      const left = await one(
        museum.pool,
        raw<Record<'changes' | 'acts' | 'waiting' | 'sending', number>>(leftOver, sqlTime(museum.clock.now())),
      );
      if (Object.values(left ?? {}).every((count) => Number(count) === 0)) return;
      if (performance.now() - began > SETTLED_MS) throw new Error(`what is due does not end: ${JSON.stringify(left)}`);
      // The museum's clock stands still, and with it every lease: what a slow database made a sender drop is let go.
      if (performance.now() - began > DROPPED_MS)
        await run(museum.pool, query("UPDATE messages SET lease_until = ? WHERE fate = 'sending'", sqlTime(NOON)));
    }
  }
  return {
    museum,
    ask,
    page,
    handIn,
    settle,
    carried,
    cookieOf,
    forget: (name: string) => cookies.delete(name),
    ojo: () => ojo,
    /** Another server of the same house. */
    another: start,
  };
}

/** A rule's document as somebody would send it. */
export const documentOf = (more: Record<string, unknown> = {}) => ({
  name: `Status changes ${randomUUID()}`,
  scope: { sources: ['loans'] },
  when: { if: { changed: 'status' } },
  to: [{ person: 'mei' }],
  ...more,
});

import { randomUUID } from 'node:crypto';
import { raw } from './raw.ts';
import { afterAll, beforeAll } from 'vitest';
import { type Ojo, type OjoParts, startOjo } from '../boot/index.ts';
import { sqlTime } from '../store/database/query.ts';
import { one } from '../store/index.ts';
import { KeepingCarrier, PASSWORD, setUpMuseum } from './museum.ts';
import { quietLog } from './quiet.ts';

interface Answer {
  status: number;
  // biome-ignore lint/suspicious/noExplicitAny: tests look into answers of every shape
  body: any;
}

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

  /** Lets everything that is due be decided and sent. */
  async function settle(): Promise<void> {
    // The server's own loops may hold a part of it just then: what they hold is waited for.
    const open =
      "SELECT (SELECT COUNT(*) FROM change_queue) + (SELECT COUNT(*) FROM act_queue) + (SELECT COUNT(*) FROM messages WHERE fate = 'sending' OR (fate = 'waiting' AND (retry_at IS NULL OR retry_at <= ?))) AS left_over";
    do {
      await ojo.runner.drain();
      await ojo.sender.drain();
    } while (
      Number((await one(museum.pool, raw<{ left_over: number }>(open, sqlTime(museum.clock.now()))))?.left_over ?? 0) >
      0
    );
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

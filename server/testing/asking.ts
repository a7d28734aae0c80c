import { afterAll, beforeAll } from 'vitest';
import { type Ojo, startOjo } from '../boot/index.ts';
import { KeepingCarrier, PASSWORD, setUpMuseum } from './museum.ts';
import { quietLog } from './quiet.ts';

interface Answer {
  status: number;
  // biome-ignore lint/suspicious/noExplicitAny: tests look into answers of every shape
  body: any;
}

/** A small museum with a server of its own, and a way to ask it as anybody. */
export function askMuseum() {
  const museum = setUpMuseum();
  let ojo: Ojo;
  beforeAll(async () => {
    ojo = await startOjo({
      pool: museum.pool, clock: museum.clock, log: quietLog, site: { base: 'https://ojo.example', name: 'Ojo' }, mail: { url: '', from: { name: '', address: '' } }, text: { url: '', token: '' },
      demoPassword: null, pages: null, port: 0, carriers: { email: new KeepingCarrier(), text: new KeepingCarrier(), webhook: new KeepingCarrier() },
    });
  });
  afterAll(() => ojo.stop());

  const cookies = new Map<string, string>();
  async function cookieOf(name: string): Promise<string> {
    const known = cookies.get(name);
    if (known) return known;
    const response = await fetch(`http://127.0.0.1:${ojo.port}/api/session`, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ name, password: PASSWORD }) });
    const cookie = response.headers.get('set-cookie')?.split(';')[0] ?? '';
    cookies.set(name, cookie);
    return cookie;
  }

  async function ask(path: string, more: { as?: string; method?: string; body?: unknown; headers?: Record<string, string> } = {}): Promise<Answer> {
    const headers: Record<string, string> = { 'content-type': 'application/json', ...more.headers };
    if (more.as) headers.cookie = await cookieOf(more.as);
    const response = await fetch(`http://127.0.0.1:${ojo.port}/api${path}`, { method: more.method ?? 'GET', headers, ...(more.body === undefined ? {} : { body: JSON.stringify(more.body) }) });
    const text = await response.text();
    return { status: response.status, body: text ? JSON.parse(text) : null };
  }
  return { museum, ask, cookieOf, forget: (name: string) => cookies.delete(name), ojo: () => ojo };
}

/** A rule's document as somebody would send it. */
export const documentOf = (more: Record<string, unknown> = {}) => ({ name: 'Status changes', scope: { sources: ['loans'] }, when: { if: { changed: 'status' } }, to: [{ person: 'mei' }], ...more });

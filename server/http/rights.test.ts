import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { PATHS, type RouteName } from '../../contract/paths.ts';
import { askMuseum } from '../testing/asking.ts';
import { type Ask, ASKS, OF_ONE_ITEM } from '../testing/every-route.ts';
import {
  ASKERS,
  type Asker,
  fillWorld,
  FIRST,
  type Ids,
  idsOf,
  LATER,
  mayRead,
  type Readers,
  type Secret,
  setReaders,
} from '../testing/rights-world.ts';

const asking = askMuseum();
const { ojo, cookieOf, carried, settle, ask } = asking;
let secrets: Secret[] = [];
let ids: Ids;
const streams: { who: Asker; told: string[]; end: AbortController }[] = [];

beforeAll(async () => {
  secrets = await fillWorld(asking);
  ids = await idsOf(asking);
}, 60_000);
afterAll(() => {
  for (const { end } of streams) end.abort();
});

/** Asks as a program would, whatever comes back; the whole answer as text, with its headers. */
async function send(name: RouteName, who: Asker | null, { params = {}, query = {}, body }: Ask) {
  const [method = '', path = ''] = PATHS[name].split(' ');
  const at = path.replace(/:(\w+)/g, (_, part: string) => encodeURIComponent(params[part] ?? ''));
  const search = new URLSearchParams(query).toString();
  const response = await fetch(`http://127.0.0.1:${ojo().port}/api${at}${search ? `?${search}` : ''}`, {
    method,
    headers: { 'content-type': 'application/json', ...(who ? { cookie: await cookieOf(who) } : {}) },
    ...(body ? { body: JSON.stringify(body) } : {}),
  });
  return { status: response.status, text: `${JSON.stringify([...response.headers])}\n${await response.text()}` };
}

/** What of secrets stands in a text that somebody may not read, but for the ids that they named themselves. */
function leaked(who: string, text: string, readers: Readers, named = ''): string[] {
  return secrets
    .filter((secret) => !mayRead(who, secret, readers))
    .flatMap(({ id, word }) => [
      ...(text.includes(word) ? [word] : []),
      ...(text.includes(id) && !named.includes(id) ? [id] : []),
    ]);
}

const codeIn = (text: string): unknown => {
  try {
    return (JSON.parse(text.slice(text.indexOf('\n') + 1)) as { code?: unknown }).code;
  } catch {
    return text;
  }
};

/** Every route, in every way, as everybody; what came out that should not. */
async function askAll(readers: Readers, names: readonly RouteName[], askers: readonly Asker[]): Promise<string[]> {
  const wrong: string[] = [];
  for (const name of names)
    for (const who of askers)
      for (const one of ASKS[name]?.(ids) ?? []) {
        const { status, text } = await send(name, who, one);
        const where = `${name} ${JSON.stringify(one)} as ${who}`;
        const found = leaked(who, text, readers, JSON.stringify(one));
        if (found.length > 0) wrong.push(`${where}: ${status} gives ${found.join(', ')}`);
        if (status >= 500) wrong.push(`${where}: ${status}`);
      }
  return wrong;
}

const READING = (Object.keys(PATHS) as RouteName[]).filter((name) => PATHS[name].startsWith('GET '));
const WRITING = (Object.keys(PATHS) as RouteName[]).filter((name) => !PATHS[name].startsWith('GET '));

/** Pages that are open for everybody; what each is told gathers. */
async function listen(who: Asker): Promise<void> {
  const end = new AbortController();
  const told: string[] = [];
  streams.push({ who, told, end });
  const { body } = await fetch(`http://127.0.0.1:${ojo().port}/api/events`, {
    headers: { cookie: await cookieOf(who) },
    signal: end.signal,
  });
  const gather = async () => {
    for await (const part of body as unknown as AsyncIterable<Uint8Array>) told.push(Buffer.from(part).toString());
  };
  gather().catch(() => undefined);
}

async function countsOf(who: Asker) {
  const list = async (source: string) => (await ask(`/sources/${source}/items`, { as: who })).body.total ?? 0;
  const rows = (await ask('/sources', { as: who })).body as { id: string; items: number }[];
  return {
    listed: [await list('loans'), await list('vault')],
    told: ['loans', 'vault'].map((id) => rows.find((row) => row.id === id)?.items ?? 0),
  };
}

/** How many there are for somebody, told by hand; what is deleted is in no list. */
const countedByHand = (who: string, readers: Readers): number[] =>
  (['loans', 'vault'] as const).map(
    (source) =>
      secrets.filter((secret) => secret.source === source && secret !== deleted() && mayRead(who, secret, readers))
        .length,
  );
const deleted = () => secrets.filter(({ source }) => source === 'vault').at(-1);

/** The addresses in everything that has been carried so far, and whose each is; outsiders' are nobody's. */
const linksCarried = (): { who: string; link: string }[] =>
  carried.email.taken.flatMap((parcel) => {
    const who = /^(\w+)@marisma\.example$/.exec(parcel.address)?.[1] ?? OUTSIDE;
    const links = JSON.stringify(parcel).match(/https:\/\/ojo\.example\/[\w./-]+/g) ?? [];
    const open = links.filter((link) => OPEN_PAGES.includes(link.split('/')[3] ?? ''));
    return [...new Set(open)].map((link) => ({ who, link }));
  });
const OUTSIDE = 'somebody outside';
/** The pages to which messages lead that open without signing in. */
const OPEN_PAGES = ['acknowledge', 'again', 'quiet', 'message', 'leave'];

/** What stands on the pages behind links that should not, for whoever they were sent to. */
async function behindLinks(links: { who: string; link: string }[], readers: Readers): Promise<string[]> {
  const found: string[] = [];
  for (const { who, link } of links)
    for (const method of ['GET', 'POST']) {
      const response = await fetch(link.replace('https://ojo.example', `http://127.0.0.1:${ojo().port}`), {
        method,
        redirect: 'manual',
        headers: { 'content-type': 'application/x-www-form-urlencoded' },
      });
      const text = await response.text();
      if (response.status >= 500) found.push(`${method} ${link}: ${response.status}`);
      found.push(...leaked(who, text, readers).map((word) => `${method} ${link} of ${who} gives ${word}`));
    }
  return found;
}

describe('whatever is asked, by whomever', { timeout: 120_000 }, () => {
  it('says nothing to somebody who is not signed in', async () => {
    const open = new Set<RouteName>([
      'session.open',
      'session.close',
      'session.demo',
      'session.ways',
      'welcome.read',
      'welcome.choose',
    ]);
    for (const name of Object.keys(PATHS) as RouteName[])
      if (!open.has(name) && !name.startsWith('test.'))
        expect((await send(name, null, ASKS[name]?.(ids)[0] ?? {})).status, name).toBe(401);
  });

  it('gives no word, id or count of what they may not read', async () => {
    expect(await askAll(FIRST, READING, ASKERS)).toEqual([]);
    for (const who of ASKERS) {
      const byHand = countedByHand(who, FIRST);
      expect(await countsOf(who), who).toEqual({ listed: byHand, told: byHand });
    }
  });

  it('answers of an item they may not read as of one that there is not', async () => {
    for (const name of OF_ONE_ITEM)
      for (const who of ['petra', 'marisol'] as const) {
        const asks = ASKS[name]?.(ids) ?? [];
        const none = await send(name, who, asks.at(-1) as Ask);
        for (const one of asks.slice(0, -1)) {
          const secret = secrets.find(({ id }) => JSON.stringify(one).includes(id));
          if (!secret || mayRead(who, secret, FIRST)) continue;
          const { status, text } = await send(name, who, one);
          expect([status, codeIn(text)], `${name} ${JSON.stringify(one)} as ${who}`).toEqual([
            none.status,
            codeIn(none.text),
          ]);
        }
      }
  });

  it('gives none of it once access is lost, by no page, stream, email or route that writes', async () => {
    for (const who of ASKERS) await listen(who);
    const links = linksCarried();
    expect(new Set(links.map(({ link }) => link.split('/')[3]))).toEqual(new Set(OPEN_PAGES));
    carried.email.taken.length = 0;
    await setReaders(asking, LATER);
    const object = secrets[1] as Secret;
    const version = (await ask(`/items/${object.id}`, { as: 'mei' })).body.item.version;
    await ask(`/items/${object.id}`, {
      as: 'mei',
      method: 'PATCH',
      body: { from: version, set: { worth: `Now ${object.word}` } },
    });
    await settle();
    expect(
      await behindLinks(links, { ...LATER, loans: [...LATER.loans, OUTSIDE], vault: [...LATER.vault, OUTSIDE] }),
    ).toEqual([]);
    expect(await askAll(LATER, READING, ASKERS)).toEqual([]);
    expect(await askAll(LATER, WRITING, ['petra', 'wren'])).toEqual([]);
    await settle();
    for (const { address, ...parcel } of carried.email.taken) {
      const who = /^(\w+)@marisma\.example$/.exec(address)?.[1] ?? 'mei';
      expect(leaked(who, JSON.stringify(parcel), LATER), address).toEqual([]);
    }
    for (const { who, told } of streams) expect(leaked(who, told.join(''), LATER), who).toEqual([]);
    expect(streams.find(({ who }) => who === 'mei')?.told.join('')).toContain(object.id);
    // Somebody outside is told what the rule's owner may read, and nothing once they may not.
    await setReaders(asking, { ...LATER, vault: [] });
    const outside = links.filter(({ who, link }) => who === OUTSIDE && !link.includes('/leave/'));
    expect(outside.length).toBeGreaterThan(0);
    expect(await behindLinks(outside, { ...LATER, loans: [...LATER.loans, OUTSIDE], vault: [] })).toEqual([]);
  });
});

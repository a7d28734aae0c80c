import { connect, createServer, type Socket } from 'node:net';
import { afterEach, describe, expect, inject, it } from 'vitest';
import { freePort } from '../../testing/database.ts';
import { raw } from '../../testing/raw.ts';
import { isUnavailable, one, openPool, run } from './connection.ts';
import { inTransaction } from './transactions.ts';

const ends: (() => Promise<unknown>)[] = [];
afterEach(async () => {
  for (const end of ends.splice(0).reverse()) await end();
});

const real = inject('connecting');

const COM_QUERY = 3;
const NOT_PREPARED = 'WSREP has not yet prepared node for application use';

/** An answer of the database's protocol that refuses what was asked. */
function refusal(code: number, words: string): Buffer {
  const said = Buffer.from(`#08S01${words}`);
  const packet = Buffer.alloc(4 + 3 + said.length);
  packet.writeUIntLE(3 + said.length, 0, 3);
  packet.writeUInt8(1, 3);
  packet.writeUInt8(0xff, 4);
  packet.writeUInt16LE(code, 5);
  said.copy(packet, 7);
  return packet;
}

/** A node that lets everybody in, and says that it is no part of its cluster; what it was asked. */
async function aloneNode(): Promise<{ host: string; port: number; asked: string[] }> {
  const asked: string[] = [];
  const port = await listening((client) => {
    const behind = connect(real.port, real.host);
    behind.pipe(client);
    client.on('data', (part) => {
      const sql = part[4] === COM_QUERY ? part.subarray(5).toString() : null;
      if (sql === null || sql.startsWith('SET ')) return void behind.write(part);
      asked.push(sql);
      client.write(refusal(1047, NOT_PREPARED));
    });
    for (const side of [client, behind]) side.on('error', () => undefined);
    client.on('close', () => behind.destroy());
  });
  return { host: '127.0.0.1', port, asked };
}

/** A server that treats connections so; its port. */
async function listening(treat: (client: Socket) => void): Promise<number> {
  const open: Socket[] = [];
  const server = createServer((client) => {
    open.push(client);
    treat(client);
  });
  await new Promise<void>((resolve) => {
    server.listen(0, '127.0.0.1', () => resolve());
  });
  ends.push(() => {
    for (const client of open) client.destroy();
    return new Promise((resolve) => server.close(resolve));
  });
  return (server.address() as { port: number }).port;
}

function poolOn(...nodes: { host: string; port: number }[]) {
  const [first = real, ...others] = nodes;
  const pool = openPool(
    { ...real, host: first.host, port: first.port, others: [...others, { host: real.host, port: real.port }] },
    3,
  );
  ends.push(() => pool.end().catch(() => undefined));
  return pool;
}

describe('a database of several nodes', () => {
  it('is asked at the next where one is away', async () => {
    const pool = poolOn({ host: '127.0.0.1', port: await freePort() });
    expect(await one(pool, raw('SELECT @@port AS port'))).toEqual({ port: real.port });
  });

  it('is asked at the next where one is no part of the cluster, also in the middle of a transaction, and by no more connections to that one', async () => {
    const alone = await aloneNode();
    const pool = poolOn(alone);
    const written = await inTransaction(pool, async (on) => (await one(on, raw('SELECT @@port AS port')))?.port);
    expect(written).toBe(real.port);
    const asked = alone.asked.length;
    await Promise.all(Array.from({ length: 6 }, () => one(pool, raw('SELECT 1 AS one'))));
    expect(alone.asked).toHaveLength(asked);
  });

  it('goes on to the one after where the next is away too, and says so where none is left', async () => {
    const pool = poolOn(await aloneNode(), { host: '127.0.0.1', port: await freePort() });
    const found = async () => (await one(pool, raw('SELECT @@port AS port')).catch(() => null))?.port;
    expect([await found(), await found()]).toContain(real.port);
    const lost = openPool({ ...real, port: await freePort(), others: [{ host: '127.0.0.1', port: await freePort() }] });
    ends.push(() => lost.end());
    await expect(run(lost, raw('SELECT 1'))).rejects.toSatisfy(isUnavailable);
  });

  it('is left at a node that takes connections and says nothing', { timeout: 20_000 }, async () => {
    const pool = poolOn({ host: '127.0.0.1', port: await listening(() => undefined) });
    await expect
      .poll(async () => (await one(pool, raw('SELECT @@port AS port')).catch(() => null))?.port, { timeout: 15_000 })
      .toBe(real.port);
  });
});

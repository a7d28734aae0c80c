import type { Entry } from '../../core/messages/index.ts';
import { DAY_MS } from '../../core/time/index.ts';
import { raw } from '../testing/raw.ts';
import { beforeEach, describe, expect, it } from 'vitest';
import { clearAway, KeepingCarrier, makeSender, NOON, setUpMuseum } from '../testing/museum.ts';
import type { PoolConnection } from 'mysql2/promise';
import { inTransaction, one, query, rows, run, several, sqlTime, store } from '../store/index.ts';
import { type Carrier, DeliveryError, type Parcel } from './index.ts';

const museum = setUpMuseum();
beforeEach(async () => {
  await clearAway(museum.pool);
  museum.clock.set(NOON);
  await run(museum.pool, query('DELETE FROM webhooks'));
  await run(
    museum.pool,
    query(
      "INSERT INTO webhooks (id, url, secret) VALUES ('dead', 'http://dead.example/', 's'), ('quick', 'http://quick.example/', 's')",
    ),
  );
  await run(museum.pool, store.world.raise());
});

/** Takes messages and never answers; those under way can be counted, and let go. */
class HangingCarrier implements Carrier {
  readonly under: Parcel[] = [];
  private release: (() => void)[] = [];

  /** @param hangs which messages hang; the others are taken at once */
  constructor(
    private readonly hangs: (parcel: Parcel) => boolean = () => true,
    readonly taken: Parcel[] = [],
  ) {}

  async carry(parcel: Parcel): Promise<string> {
    if (!this.hangs(parcel)) {
      this.taken.push(parcel);
      return '200 taken';
    }
    this.under.push(parcel);
    await new Promise<void>((resolve) => this.release.push(resolve));
    return '200 late';
  }

  letGo(): void {
    for (const go of this.release) go();
  }

  close(): void {
    // A process that ends takes what hangs with it.
  }
}

const entryOf = (id: string): Entry => ({
  item: { id, title: id, source: 'loans', sourceName: 'Loan agreements', folder: [] },
  urgency: 'routine',
  rules: [],
  headline: id,
  kind: 'changed',
  notes: [],
  fields: [],
  steps: [],
  isBack: false,
  show: [],
  doNow: [],
  why: [],
});

let made = 0;
async function waiting(
  channel: 'email' | 'text' | 'webhook',
  more: { address?: string; urgency?: string; items?: string[] } = {},
): Promise<string> {
  const id = `m${String(++made).padStart(25, '0')}`;
  const content = JSON.stringify({
    form: 'single',
    headline: id,
    when: '',
    lead: '',
    entries: (more.items ?? []).map(entryOf),
  });
  const recipient = channel === 'webhook' ? 'webhook' : 'person';
  const address = more.address ?? (channel === 'text' ? '+34600555014' : 'mei@marisma.example');
  await run(
    museum.pool,
    query(
      'INSERT INTO messages (id, person_id, recipient, channel, address, at, form, urgency, subject, content, fate) VALUES (?)',
      [
        id,
        { webhook: address, text: 'ines', email: 'mei' }[channel],
        recipient,
        channel,
        address,
        sqlTime(NOON),
        'single',
        more.urgency ?? 'routine',
        id,
        content,
        'waiting',
      ],
    ),
  );
  return id;
}

const fateOf = async (id: string) =>
  (await one(museum.pool, raw<{ fate: string }>('SELECT fate FROM messages WHERE id = ?', id)))?.fate;
const delivered = async (ids: string[]) =>
  (await rows(museum.pool, raw("SELECT id FROM messages WHERE id IN (?) AND fate = 'delivered'", ids))).length;

describe('a claim', () => {
  const claim = (on: PoolConnection, limit: number) =>
    several(on, store.sending.claim('email', NOON, limit)).then((found) => found.flat().map((row) => String(row.id)));

  it('leaves to the next sender all that it does not take, however much waits', async () => {
    for (let count = 0; count < 30; count++) await waiting('email', count % 3 === 0 ? { urgency: 'critical' } : {});
    await inTransaction(museum.pool, async (first) => {
      const taken = await claim(first, 5);
      await inTransaction(museum.pool, async (second) => {
        const others = await claim(second, 5);
        expect(new Set([...taken, ...others]).size).toBe(20);
        expect([taken.length, others.length]).toEqual([10, 10]);
      });
    });
  });

  it('takes critical ones, then what waits longest, and nothing before its instant', async () => {
    const [late, early] = [await waiting('email'), await waiting('email')];
    const critical = await waiting('email', { urgency: 'critical' });
    const put = await waiting('email');
    const leased = await waiting('email');
    await run(museum.pool, query('UPDATE messages SET at = ? WHERE id = ?', sqlTime(NOON - 60_000), early));
    await run(museum.pool, query('UPDATE messages SET retry_at = ? WHERE id = ?', sqlTime(NOON + 1), put));
    await run(museum.pool, store.sending.lease([leased], NOON, NOON + 1));
    await inTransaction(museum.pool, async (on) => expect(await claim(on, 5)).toEqual([critical, early, late]));
    museum.clock.set(NOON + 1);
    await inTransaction(museum.pool, async (on) =>
      expect((await several(on, store.sending.claim('email', NOON + 1, 5))).flat().map((row) => row.id)).toEqual([
        critical,
        early,
        late,
        put,
        leased,
      ]),
    );
  });

  it('passes over a webhook whose receiver hangs, without reading what waits for it', async () => {
    for (let count = 0; count < 20; count++) await waiting('webhook', { address: 'dead' });
    const quick = await waiting('webhook', { address: 'quick' });
    expect(await rows(museum.pool, store.sending.addressesOf('webhook'))).toEqual(['dead', 'quick']);
    await inTransaction(museum.pool, async (on) => {
      const read = async () =>
        (await rows(on, raw<{ Value: string }>("SHOW SESSION STATUS LIKE 'Handler_read_next'"))).reduce(
          (sum, row) => sum + Number(row.Value),
          0,
        );
      const before = await read();
      const claimed = (await several(on, store.sending.claim('webhook', NOON, 5, 'quick'))).flat();
      expect(claimed.map((row) => row.id)).toEqual([quick]);
      expect((await read()) - before).toBeLessThan(5);
    });
  });
});

describe('one side that hangs', () => {
  it('keeps no other channel and no other host waiting, and takes few slots', async () => {
    const webhook = new HangingCarrier(({ address }) => address.includes('dead'));
    const sender = makeSender(museum.pool, museum.clock, {
      email: new KeepingCarrier(),
      text: new KeepingCarrier(),
      webhook,
    });
    for (let count = 0; count < 20; count++) await waiting('webhook', { address: 'dead' });
    const others = [
      await waiting('webhook', { address: 'quick' }),
      await waiting('webhook', { address: 'quick' }),
      await waiting('email'),
      await waiting('text', { urgency: 'critical' }),
    ];
    sender.start();
    await expect.poll(() => delivered(others)).toBe(others.length);
    expect(webhook.under.length).toBeGreaterThan(0);
    expect(webhook.under.length).toBeLessThanOrEqual(3);
    webhook.letGo();
    await sender.stop();
  });

  it('gives its slot back after a while by itself, and is tried again later', async () => {
    const email = new HangingCarrier();
    const sender = makeSender(museum.pool, museum.clock, { email, text: new KeepingCarrier() }, 50);
    const ids: string[] = [];
    for (let count = 0; count < 12; count++) ids.push(await waiting('email'));
    sender.start();
    // More than there are slots: each was freed for the next.
    await expect.poll(() => email.under.length).toBe(12);
    await expect
      .poll(
        async () =>
          (
            await rows(
              museum.pool,
              raw(
                "SELECT id FROM messages WHERE fate = 'waiting' AND tries = 1 AND retry_at > ? AND reply LIKE 'no answer within%'",
                sqlTime(NOON),
              ),
            )
          ).length,
      )
      .toBe(12);
    await sender.stop();
  });

  it('is left behind when the server stops: what it holds is given back', async () => {
    const email = new HangingCarrier();
    const sender = makeSender(museum.pool, museum.clock, { email, text: new KeepingCarrier() }, 60_000, 50);
    const id = await waiting('email');
    sender.start();
    await expect.poll(() => email.under.length).toBe(1);
    await sender.stop();
    expect(await fateOf(id)).toBe('waiting');
    // Whoever sends next takes it at once, not only when the lease has run out.
    const next = new KeepingCarrier();
    await makeSender(museum.pool, museum.clock, { email: next, text: new KeepingCarrier() }).drain();
    expect(next.taken.map((parcel) => parcel.id)).toEqual([id]);
  });
});

it('what it claimed and could not look into is given back at once', async () => {
  const id = await waiting('email', { items: ['l1'] });
  const sender = makeSender(museum.pool, museum.clock, { email: new KeepingCarrier(), text: new KeepingCarrier() });
  await run(museum.pool, query('RENAME TABLE items TO items_out_of_reach'));
  try {
    await expect(sender.drain()).rejects.toThrow(/items/);
    expect(await fateOf(id)).toBe('waiting');
  } finally {
    await run(museum.pool, query('RENAME TABLE items_out_of_reach TO items'));
  }
  await sender.drain();
  expect(await fateOf(id)).toBe('delivered');
  await sender.stop();
});

it('what is critical goes before what came earlier', async () => {
  const email = new KeepingCarrier();
  for (let count = 0; count < 12; count++) await waiting('email');
  const urgent = await waiting('email', { urgency: 'critical' });
  await makeSender(museum.pool, museum.clock, { email, text: new KeepingCarrier() }).drain();
  expect(email.taken.findIndex((parcel) => parcel.id === urgent)).toBeLessThan(5);
});

it('what fails for now is tried for three days with growing pauses, then it has failed, and can be sent again by hand', async () => {
  const email = new KeepingCarrier();
  email.failure = new DeliveryError('451 busy', true);
  const id = await waiting('email');
  const sender = makeSender(museum.pool, museum.clock, { email, text: new KeepingCarrier() });
  const pauses: number[] = [];
  let at = NOON;
  for (;;) {
    await sender.drain();
    const row = await one(
      museum.pool,
      raw<{ fate: string; retry_at: number | null }>('SELECT fate, retry_at FROM messages WHERE id = ?', id),
    );
    if (row?.fate === 'failed' || row?.retry_at === null || row?.retry_at === undefined) break;
    pauses.push(row.retry_at - at);
    at = row.retry_at;
    museum.clock.set(at + 1);
  }
  expect(await fateOf(id)).toBe('failed');
  expect(at - NOON).toBeGreaterThan(2.9 * DAY_MS);
  expect(at - NOON).toBeLessThanOrEqual(3 * DAY_MS);
  expect(pauses[0]).toBeLessThan(10_000);
  expect(Math.max(...pauses)).toBeLessThanOrEqual(3_600_000);
  expect(pauses.slice(-5).every((pause) => pause >= 1_800_000)).toBe(true);
  email.failure = null;
  await run(museum.pool, store.sending.sendAgain(id));
  await sender.drain();
  expect(await fateOf(id)).toBe('delivered');
});

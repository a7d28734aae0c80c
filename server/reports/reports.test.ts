import { createConnection } from 'node:net';
import { once } from 'node:events';
import fc from 'fast-check';
import { createTransport } from 'nodemailer';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { takeReport } from '../acts/index.ts';
import { DeliveryError, saysNobody, textCarrier } from '../delivery/index.ts';
import { ReportAddresses } from '../signed-links/index.ts';
import { type StandIn, startMailStandIn, startTextStandIn } from '../standins/index.ts';
import { DirectoryCache, query, rows, run, store } from '../store/index.ts';
import { askMuseum, GATEWAY_TOKEN } from '../testing/asking.ts';
import { freePort } from '../testing/database.ts';
import { clearAway, edit, newLoan, NOON, ON_VIEW, putLive } from '../testing/museum.ts';
import { raw } from '../testing/raw.ts';
import { type Report, readReport, startReportDoor } from './index.ts';

const FROM = 'ojo@marisma.example';
const { museum, ask, settle, carried } = askMuseum();

/** A delivery status notification with these fields of one recipient. */
const notification = (fields: string[], more: string[] = []) =>
  Buffer.from(
    [
      'From: MAILER-DAEMON@mx.example',
      `To: ${FROM}`,
      'Subject: Undelivered',
      'MIME-Version: 1.0',
      'Content-Type: multipart/report; report-type=delivery-status; boundary="b"',
      '',
      '--b',
      'Content-Type: text/plain',
      '',
      'It did not work. Status: 5.1.1 stands here by chance.',
      '--b',
      'Content-Type: message/delivery-status',
      '',
      'Reporting-MTA: dns; mx.example',
      '',
      ...fields,
      ...more,
      '--b--',
      '',
    ].join('\r\n'),
  );
const failed = (status: string, words = '') =>
  notification([
    'Final-Recipient: rfc822; mei@marisma.example',
    'Action: failed',
    `Status: ${status}`,
    ...(words ? [`Diagnostic-Code: smtp; ${words}`] : []),
  ]);

describe('a delivery report', () => {
  it('is read in the receiving server’s own words, folded or not', async () => {
    const folded = notification([
      'Final-Recipient: rfc822; mei@marisma.example',
      'action: FAILED',
      'Status: 5.1.1 (bad destination)',
      'Diagnostic-Code: smtp; 550 5.1.1',
      '  no such',
      '\tmailbox',
    ]);
    expect(await readReport(folded)).toEqual({
      outcome: 'cameBack',
      reply: '550 5.1.1 no such mailbox',
      isNobodyThere: true,
    });
  });

  it('says of several recipients what became of the one that failed, and of relayed mail nothing', async () => {
    const two = notification(
      ['Final-Recipient: rfc822; a@x.example', 'Action: delivered', 'Status: 2.0.0', ''],
      ['Final-Recipient: rfc822; b@x.example', 'Action: failed', 'Status: 5.2.2'],
    );
    expect(await readReport(two)).toEqual({ outcome: 'cameBack', reply: '5.2.2', isNobodyThere: false });
    expect(await readReport(notification(['Action: relayed', 'Status: 2.0.0']))).toBeNull();
  });

  it('is told from answers that programs write, and from anything else', async () => {
    expect(await readReport(Buffer.from('Subject: Away\r\n\r\nStatus: 5.1.1\r\nAction: failed\r\n'))).toBeNull();
    await fc.assert(
      fc.asyncProperty(fc.uint8Array({ maxLength: 400 }), async (bytes) => {
        const report = await readReport(Buffer.from(bytes)).catch(() => null);
        expect(report).toBeNull();
      }),
      { numRuns: 50 },
    );
  });
});

it('a full mailbox, an unwanted message or a temporary failure is nobody’s end; a bad address is', () => {
  const gone = ['5.1.1', '5.1.2', '5.1.3', '5.1.6', '5.1.10', '5.2.1'];
  const others = ['5.1.7', '5.1.8', '5.2.2', '5.2.3', '5.3.4', '5.7.1', '4.1.1', '4.2.1', '2.1.5'];
  expect(gone.filter((status) => saysNobody(status))).toEqual(gone);
  expect(others.filter((status) => saysNobody(status, 550))).toEqual([]);
  expect([saysNobody(null, 550), saysNobody(null, 552), saysNobody(null, 554), saysNobody(null)]).toEqual([
    true,
    false,
    false,
    false,
  ]);
});

describe('the addresses that reports come to', () => {
  it('are each of one message, alike at every server, whatever becomes of capitals on the way', async () => {
    const [one, other] = [
      new ReportAddresses(museum.pool, FROM),
      new ReportAddresses(museum.pool, 'Ojo@Marisma.example'),
    ];
    const address = await one.of('abc123');
    expect(address.split('@')[0]?.length).toBeLessThanOrEqual(64);
    expect(await other.messageOf(address.toUpperCase())).toBe('abc123');
    const [local = ''] = address.split('@');
    const forged = [
      `${local.slice(0, -1)}${local.endsWith('0') ? '1' : '0'}@marisma.example`,
      `${local}@halden.example`,
    ];
    for (const wrong of [...forged, FROM, 'ojo+abc123@marisma.example', 'ojo+.@marisma.example', ''])
      expect(await one.messageOf(wrong)).toBeNull();
  });
});

describe('what comes back', () => {
  const standIns: StandIn[] = [];
  const addresses = () => new ReportAddresses(museum.pool, FROM);
  let door: { close(): Promise<void> };
  let port = 0;
  const seen: { message: string; report: Report }[] = [];
  let isDown = false;

  beforeAll(async () => {
    port = await freePort();
    door = await startReportDoor({
      port,
      host: '127.0.0.1',
      addresses: addresses(),
      async onReport(message, report) {
        if (isDown) throw new Error('the database is away');
        seen.push({ message, report });
      },
    });
  });
  afterAll(async () => {
    await door.close();
    for (const standIn of standIns) await standIn.close();
  });
  beforeEach(() => {
    seen.length = 0;
    isDown = false;
  });

  const send = async (to: string, source: Buffer) => {
    const transport = createTransport({ host: '127.0.0.1', port, ignoreTLS: true });
    return transport
      .sendMail({ envelope: { from: '', to }, raw: source })
      .then(
        () => 250,
        (error: { responseCode?: number }) => error.responseCode ?? 0,
      )
      .finally(() => transport.close());
  };

  it('is taken for the address of a message and no other, and again later while it cannot be kept', async () => {
    const address = await addresses().of('m1');
    expect(await send('ojo@marisma.example', failed('5.1.1'))).toBe(550);
    expect(await send('ojo+m1.0123456789abcdef@marisma.example', failed('5.1.1'))).toBe(550);
    isDown = true;
    expect(await send(address, failed('5.1.1', '550 no such box'))).toBe(451);
    isDown = false;
    expect(await send(address, failed('5.1.1', '550 no such box'))).toBe(250);
    expect(await send(address, Buffer.from('Subject: Away until Monday\r\n\r\nThanks.\r\n'))).toBe(250);
    expect(seen).toEqual([
      { message: 'm1', report: { outcome: 'cameBack', reply: '550 no such box', isNobodyThere: true } },
    ]);
    expect(await send(address, Buffer.alloc(3 * 1024 * 1024, 'a'))).toBe(552);
  });

  it('goes on for others when a caller goes away in the middle', async () => {
    const socket = createConnection(port, '127.0.0.1').on('error', () => undefined);
    await once(socket, 'data');
    socket.write('EHLO away\r\n');
    await once(socket, 'data');
    socket.resetAndDestroy();
    expect(await send(await addresses().of('m2'), failed('5.1.1'))).toBe(250);
  });

  it('is reported by the stand-in as a real server would', async () => {
    const mailPort = await freePort();
    standIns.push(
      await startMailStandIn({ pool: museum.pool, clock: museum.clock, port: mailPort, reportsPort: port }),
    );
    await run(museum.pool, store.standins.setMood('mail', { does: 'comesBack', seconds: 0, only: 'mei@' }));
    const transport = createTransport({ host: '127.0.0.1', port: mailPort, ignoreTLS: true });
    const from = await addresses().of('m3');
    for (const to of ['mei@marisma.example', 'ines@marisma.example'])
      await transport.sendMail({ envelope: { from, to }, raw: 'Subject: Reed Gate\r\n\r\nIt moved.\r\n' });
    transport.close();
    await expect.poll(() => seen.map(({ message }) => message)).toEqual(['m3']);
    expect(seen[0]?.report).toMatchObject({ outcome: 'cameBack', isNobodyThere: true });
    await run(museum.pool, query('DELETE FROM standin_moods'));
  });
});

const fateOf = async (person: string, channel: string) =>
  (
    await rows(
      museum.pool,
      raw<{ id: string; fate: string; reply: string | null }>(
        'SELECT id, fate, reply FROM messages WHERE person_id = ? AND channel = ? ORDER BY seq DESC LIMIT 1',
        person,
        channel,
      ),
    )
  )[0];
const noticesOf = async (person: string) =>
  (
    await rows(
      museum.pool,
      raw<{ subject: string }>(
        "SELECT subject FROM messages WHERE person_id = ? AND form = 'notice' ORDER BY seq",
        person,
      ),
    )
  ).map(({ subject }) => subject);

describe('an address that nobody is behind', () => {
  beforeEach(async () => {
    await clearAway(museum.pool);
    await run(museum.pool, query('DELETE FROM suspended_addresses'));
    await run(museum.pool, store.world.raise());
    museum.clock.set(NOON);
    carried.email.taken.length = 0;
    carried.email.failure = null;
  });
  async function goesOnView(title: string) {
    const id = await newLoan(museum.pool, { title, status: 'Agreed' });
    museum.clock.set(museum.clock.now() + 60_000);
    await edit(museum.pool, id, { status: 'On view' });
    await settle();
  }

  it('gets nothing more, and its owner, stewards and the rule’s owner hear why; by one press it is tried again', async () => {
    await putLive(
      museum.pool,
      { ...ON_VIEW, to: [{ person: 'mei' }], channels: ['email'], owner: 'ines' },
      NOON - 1000,
    );
    await goesOnView('Tidal Loom');
    const sent = await fateOf('mei', 'email');
    expect(sent?.fate).toBe('delivered');
    const full: Report = { outcome: 'cameBack', reply: '552 mailbox full', isNobodyThere: false };
    const directory = await new DirectoryCache().current(museum.pool);
    await takeReport(museum.pool, { message: sent?.id ?? '', channel: 'email', report: full, now: NOON, directory });
    expect(await fateOf('mei', 'email')).toMatchObject({ fate: 'failed', reply: '552 mailbox full' });
    // A full mailbox is no reason to write there no more.
    await goesOnView('Salt Basket');
    expect(carried.email.taken).toHaveLength(2);

    carried.email.failure = new DeliveryError('550 5.1.1 no such mailbox', false, true);
    await goesOnView('Reed Gate');
    expect(await fateOf('mei', 'email')).toMatchObject({ fate: 'failed' });
    expect(await noticesOf('mei')).toEqual([expect.stringContaining('mei@marisma.example comes back')]);
    for (const person of ['ines', 'marisol'])
      expect(await noticesOf(person)).toEqual([expect.stringContaining('Email to Mei')]);
    expect(await noticesOf('wren')).toEqual([]);

    carried.email.failure = null;
    carried.email.taken.length = 0;
    await goesOnView('Marsh Lamp');
    expect(carried.email.taken).toEqual([]);
    expect((await ask('/me/plan', { as: 'mei' })).body.cameBack).toMatchObject([
      { address: 'mei@marisma.example', reply: expect.stringContaining('no such mailbox') },
    ]);
    expect((await ask('/running', { as: 'marisol' })).body.cameBack).toMatchObject([
      { address: 'mei@marisma.example' },
    ]);
    expect(
      (await ask('/running/addresses', { as: 'mei', method: 'POST', body: { address: 'mei@marisma.example' } })).status,
    ).toBe(403);

    await ask('/me/trial/email', { as: 'mei', method: 'POST' });
    await settle();
    expect(carried.email.taken.map(({ address }) => address)).toEqual(['mei@marisma.example']);
    expect((await ask('/me/plan', { as: 'mei' })).body.cameBack).toEqual([]);
  });
});

/** What is to stand at the end, by what was said in whatever order. */
function fateAfter(said: ReadonlySet<string>): string {
  if (said.has('delivered')) return 'delivered';
  if (!said.has('taken')) return 'sending';
  return said.has('failed') ? 'failed' : 'delivered';
}

describe('what a gateway says of a text', () => {
  const receipt = (reference: string, status: string, token = GATEWAY_TOKEN) =>
    ask('/../gateway/receipts', {
      method: 'POST',
      headers: { authorization: `Bearer ${token}` },
      body: { reference, status, reason: status === 'failed' ? 'not in service' : undefined },
    });

  it('counts in whatever order it comes: what has arrived stays so', async () => {
    const outcomes = ['taken', 'delivered', 'failed', 'underWay'] as const;
    await fc.assert(
      fc.asyncProperty(fc.shuffledSubarray([...outcomes], { minLength: 1 }), async (order) => {
        const id = `t${Math.abs(
          order
            .join()
            .split('')
            .reduce((sum, sign) => (sum * 31 + sign.charCodeAt(0)) | 0, 7),
        )}`;
        for (const table of ['messages WHERE id', 'attempts WHERE message_id'])
          await run(museum.pool, query(`DELETE FROM ${table} = ?`, id));
        await run(
          museum.pool,
          query(
            "INSERT INTO messages (id, person_id, recipient, channel, address, at, form, urgency, subject, content, fate, lease_until) VALUES (?, 'ines', 'person', 'text', '+34', '2026-03-04', 'single', 'routine', 's', '{\"entries\":[]}', 'sending', '2099-01-01')",
            id,
          ),
        );
        for (const one of order) {
          if (one === 'taken')
            for (const statement of store.sending.taken(id, NOON, '202')) await run(museum.pool, statement);
          else expect((await receipt(id, one)).status).toBe(204);
        }
        const right = fateAfter(new Set(order));
        const [found] = await rows(museum.pool, raw<{ fate: string }>('SELECT fate FROM messages WHERE id = ?', id));
        expect(found?.fate, order.join(' ')).toBe(right);
        expect(await rows(museum.pool, store.sending.attempts(id))).toHaveLength(order.length);
      }),
      { numRuns: 40 },
    );
  });

  it('is taken from the gateway alone, of messages that there are', async () => {
    expect((await receipt('t0', 'delivered', 'wrong')).status).toBe(401);
    expect((await receipt('nosuch', 'delivered')).status).toBe(404);
    expect((await receipt('t0', 'perhaps')).status).toBe(400);
  });

  it('comes from the stand-in late, before its own answer, or as a failure, as it is asked to', async () => {
    const [textPort, said] = [await freePort(), [] as string[]];
    const { createServer } = await import('node:http');
    const hears = createServer((request, response) => {
      let body = '';
      request
        .on('data', (part) => (body += part))
        .on('end', () => {
          said.push(JSON.parse(body).status);
          response.writeHead(204).end();
        });
    }).listen(0, '127.0.0.1');
    await once(hears, 'listening');
    const receiptsUrl = `http://127.0.0.1:${(hears.address() as { port: number }).port}/`;
    const gateway = await startTextStandIn({
      pool: museum.pool,
      clock: museum.clock,
      port: textPort,
      token: 'x',
      receiptsUrl,
    });
    const carrier = textCarrier({ url: `http://127.0.0.1:${textPort}/texts`, token: 'x' });
    const carry = (id: string) =>
      carrier
        .carry({ id, channel: 'text', address: '+34600000001', subject: '', text: 'Reed Gate', html: null, at: NOON })
        .then(() => said.push('answered'));
    for (const [does, order] of [
      ['takes', ['answered', 'delivered']],
      ['disordered', ['delivered', 'answered', 'underWay']],
      ['lost', ['answered', 'failed']],
    ] as const) {
      said.length = 0;
      await run(museum.pool, store.standins.setMood('text', { does, seconds: 0, only: '' }));
      await carry(`s-${does}`);
      await expect.poll(() => [...said].sort()).toEqual([...order].sort());
      if (does === 'disordered') expect(said[0]).toBe('delivered');
    }
    await run(museum.pool, query('DELETE FROM standin_moods'));
    await gateway.close();
    hears.close();
  });
});

import { raw } from '../testing/raw.ts';
import { createHmac } from 'node:crypto';
import { once } from 'node:events';
import { connect } from 'node:net';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { startMailStandIn, startTextStandIn, startWebhookStandIn, type StandIn } from '../standins/index.ts';
import { one, rows, store } from '../store/index.ts';
import { freePort } from '../testing/database.ts';
import { setUpMuseum } from '../testing/museum.ts';
import {
  type Carrier,
  DeliveryError,
  isPrivateAddress,
  isTemporary,
  mailCarrier,
  newSecret,
  type Parcel,
  signatureOf,
  textCarrier,
  webhookCarrier,
} from './index.ts';

const museum = setUpMuseum();
const parcel = (id: string, more: Partial<Parcel> = {}): Parcel => ({
  id,
  channel: 'email',
  address: 'ines@marisma.example',
  subject: 'Tidal Loom: Status Agreed → On view',
  text: 'Status: Agreed → On view\n',
  html: '<p>Status <mark>On view</mark></p>',
  at: Date.UTC(2026, 2, 4, 12),
  ...more,
});

const standIns: StandIn[] = [];
const carriers: Carrier[] = [];
let hookPort = 0;
let mailPort = 0;
let mail: Carrier;
let text: Carrier;
let wrongToken: Carrier;
let nowhere: { mail: Carrier; text: Carrier };

beforeAll(async () => {
  const [textPort, deadPort] = [await freePort(), await freePort()];
  [mailPort, hookPort] = [await freePort(), await freePort()];
  standIns.push(await startWebhookStandIn(museum.pool, museum.clock, hookPort, 'shared'));
  standIns.push(
    await startMailStandIn({ pool: museum.pool, clock: museum.clock, port: mailPort, reportsPort: null }),
    await startTextStandIn({
      pool: museum.pool,
      clock: museum.clock,
      port: textPort,
      token: 'right',
      receiptsUrl: null,
    }),
  );
  const from = { name: 'Ojo, Marisma Museum', address: 'ojo@marisma.example' };
  mail = mailCarrier({ url: `smtp://127.0.0.1:${mailPort}`, from });
  text = textCarrier({ url: `http://127.0.0.1:${textPort}/texts`, token: 'right' });
  wrongToken = textCarrier({ url: `http://127.0.0.1:${textPort}/texts`, token: 'wrong' });
  nowhere = {
    mail: mailCarrier({ url: `smtp://127.0.0.1:${deadPort}`, from }),
    text: textCarrier({ url: `http://127.0.0.1:${deadPort}/texts`, token: 'right' }),
  };
  carriers.push(mail, text, wrongToken, nowhere.mail, nowhere.text);
});
afterAll(async () => {
  for (const carrier of carriers) carrier.close();
  for (const standIn of standIns) await standIn.close();
});

const failureOf = (sending: Promise<unknown>) =>
  sending.then(
    () => null,
    (error: unknown) => error,
  );

/** The newest email to an address, as it went over the wire, its long lines joined. */
const sourceOf = async (address: string) =>
  String(
    (await one(museum.pool, raw<{ source: string }>('SELECT source FROM standin_mail WHERE address = ?', address)))
      ?.source,
  ).replace(/\r\n[ \t]+/g, ' ');

describe('mail', () => {
  it('arrives in HTML and plain text, under an id made from the message', async () => {
    expect(await mail.carry(parcel('m1'))).toMatch(/^250/);
    const kept = await rows(
      museum.pool,
      raw<{ id: number; subject: string; message_id: string }>(
        "SELECT id, subject, message_id FROM standin_mail WHERE address = 'ines@marisma.example'",
      ),
    );
    expect(kept).toMatchObject([
      { subject: 'Tidal Loom: Status Agreed → On view', message_id: '<m1@marisma.example>' },
    ]);
    const source = String((await one(museum.pool, store.standins.mail(kept[0]?.id ?? 0)))?.source);
    expect(source).toContain('multipart/alternative');
    expect(source).toContain('text/html');
    expect(source).toContain('text/plain');
    expect(source).toContain('Auto-Submitted: auto-generated');
  });

  it('bears the name that it comes in; its address too where that is of the house’s own domain', async () => {
    const named = { name: 'Registrars', replyTo: 'registrars@marisma.example' };
    await mail.carry(
      parcel('m11', { address: 'noor@marisma.example', sender: { ...named, address: 'registrars@Marisma.example' } }),
    );
    await mail.carry(
      parcel('m12', { address: 'olu@marisma.example', sender: { ...named, address: 'registrars@halden.example' } }),
    );
    expect(await sourceOf('noor@marisma.example')).toMatch(/^From: Registrars <registrars@marisma.example>\r?$/m);
    const other = await sourceOf('olu@marisma.example');
    expect(other).toMatch(/^From: Registrars <ojo@marisma.example>\r?$/m);
    expect(other).toMatch(/^Reply-To: registrars@marisma.example\r?$/m);
  });

  it('lets its reader leave with one click where there is a way to, as RFC 8058 has it', async () => {
    await mail.carry(parcel('m9', { address: 'ana@ferro.example', leave: 'https://ojo.example/leave/abc' }));
    await mail.carry(parcel('m10', { address: 'sol@marisma.example' }));
    expect(await sourceOf('ana@ferro.example')).toMatch(
      /^List-Unsubscribe: <https:\/\/ojo\.example\/leave\/abc>\r?$[\s\S]*^List-Unsubscribe-Post: List-Unsubscribe=One-Click\r?$/m,
    );
    expect(await sourceOf('sol@marisma.example')).not.toContain('List-Unsubscribe');
  });

  it('stands together with all that tells of the same thing, and says that a machine wrote it', async () => {
    await mail.carry(parcel('m13', { address: 'pau@marisma.example', thread: 'about-reed-gate' }));
    const source = await sourceOf('pau@marisma.example');
    expect(source).toMatch(/^References: <about-reed-gate@marisma\.example>\r?$/m);
    expect(source).toMatch(/^Auto-Submitted: auto-generated\r?$/m);
    // No more than standards know.
    expect(source).not.toMatch(/^X-/m);
  });

  it('goes on for others when a caller goes away in the middle of a sentence', async () => {
    for (let caller = 0; caller < 3; caller++) {
      const socket = connect(mailPort, '127.0.0.1').on('error', () => undefined);
      await once(socket, 'data');
      for (const words of ['EHLO away', 'MAIL FROM:<a@marisma.example>']) {
        socket.write(`${words}\r\n`);
        await once(socket, 'data');
      }
      socket.resetAndDestroy();
    }
    expect(await mail.carry(parcel('m20'))).toMatch(/^250/);
  });

  it('bears the same id when it is carried again', async () => {
    await mail.carry(parcel('m2', { address: 'mei@marisma.example' }));
    await mail.carry(parcel('m2', { address: 'mei@marisma.example' }));
    const kept = await rows(
      museum.pool,
      raw<{ message_id: string }>("SELECT message_id FROM standin_mail WHERE address = 'mei@marisma.example'"),
    );
    expect(new Set(kept.map((row) => row.message_id))).toEqual(new Set(['<m2@marisma.example>']));
  });

  it.each([
    ['refuse@marisma.example', false],
    ['busy@marisma.example', true],
  ])('tells of %s whether it may succeed later', async (address, isLater) => {
    const failure = await failureOf(mail.carry(parcel('m3', { address })));
    expect(failure).toBeInstanceOf(DeliveryError);
    expect((failure as DeliveryError).isTemporary).toBe(isLater);
  });
});

describe('webhooks', () => {
  const hook = webhookCarrier({ isInsideAllowed: true });
  const told = (id: string, more: Partial<Parcel> = {}) =>
    parcel(id, {
      channel: 'webhook',
      address: `http://127.0.0.1:${hookPort}/insurer`,
      posted: { contentType: 'application/cloudevents+json', body: JSON.stringify({ items: ['L-12'] }) },
      secrets: ['shared'],
      ...more,
    });

  it('arrive as JSON, signed, and once only where they are carried again', async () => {
    expect(await hook.carry(told('h1'))).toMatch(/^202/);
    await hook.carry(told('h1'));
    expect(await rows(museum.pool, raw('SELECT path, idempotency_key, body FROM standin_hooks'))).toEqual([
      { path: '/insurer', idempotency_key: 'h1', body: '{"items":["L-12"]}' },
    ]);
  });

  it('fail for good with the wrong secret or without an address, and for now where nobody answers', async () => {
    const failures = [
      told('h2', { secrets: ['wrong'] }),
      told('h3', { secrets: [] }),
      told('h4', { address: 'http://127.0.0.1:1/' }),
    ].map((one) => failureOf(hook.carry(one)));
    expect(
      (await Promise.all(failures)).map((failure) => failure instanceof DeliveryError && failure.isTemporary),
    ).toEqual([false, false, true]);
  });
});

describe('where webhooks lead', () => {
  const outside = webhookCarrier({ isInsideAllowed: false });
  const to = (address: string) =>
    parcel('x', {
      channel: 'webhook',
      address,
      posted: { contentType: 'application/cloudevents+json', body: JSON.stringify({}) },
      secrets: ['shared'],
    });

  it.each([
    '127.0.0.1',
    '10.1.2.3',
    '192.168.0.9',
    '172.31.255.255',
    '169.254.169.254',
    '100.64.0.1',
    '0.0.0.0',
    '::1',
    '::ffff:127.0.0.1',
    'fd00::1',
    'fe80::1',
    '64:ff9b::7f00:1',
  ])('%s is of the house', (address) => expect(isPrivateAddress(address)).toBe(true));
  it.each(['93.184.216.34', '172.32.0.1', '100.128.0.1', '2001:db9::1'])('%s is outside', (address) =>
    expect(isPrivateAddress(address)).toBe(false),
  );

  it('nothing inside is posted to, by number, by name, or by what is written otherwise', async () => {
    for (const host of ['127.0.0.1', 'localhost', '[::1]', '2130706433', '0x7f.1', '[::ffff:127.0.0.1]']) {
      const failure = await failureOf(outside.carry(to(`http://${host}:${hookPort}/insurer`)));
      expect([host, failure instanceof DeliveryError && failure.isTemporary]).toEqual([host, false]);
      expect((failure as Error).message).toContain('not outside');
    }
  });

  it('a signature is known by either secret while one takes the place of the other', async () => {
    const both = parcel('h9', {
      channel: 'webhook',
      address: `http://127.0.0.1:${hookPort}/insurer`,
      posted: { contentType: 'application/cloudevents+json', body: JSON.stringify({}) },
      secrets: ['newer', 'shared'],
    });
    expect(await webhookCarrier({ isInsideAllowed: true }).carry(both)).toMatch(/^202/);
  });

  it('is signed as the standard has it', () => {
    // Reckoned by hand from the standard's own words: base 64 of the HMAC over id, second and body.
    const secret = `whsec_${Buffer.from('a key of the museum').toString('base64')}`;
    const wanted = createHmac('sha256', 'a key of the museum').update('m1.1772625600.{}').digest('base64');
    expect(signatureOf('m1', 1_772_625_600, '{}', [secret])).toBe(`v1,${wanted}`);
    expect(newSecret()).toMatch(/^whsec_[A-Za-z0-9+/]{43}=$/);
  });
});

describe('text messages', () => {
  const sms = (id: string, address: string) =>
    parcel(id, { channel: 'text', address, text: 'Tidal Loom: Status from Agreed to On view', html: null });

  it('arrives, and once only where it is carried again', async () => {
    expect(await text.carry(sms('t1', '+34600555014'))).toMatch(/^202/);
    await text.carry(sms('t1', '+34600555014'));
    const kept = await rows(
      museum.pool,
      raw("SELECT number, body, reference FROM standin_texts WHERE number = '+34600555014'"),
    );
    expect(kept).toEqual([
      { number: '+34600555014', body: 'Tidal Loom: Status from Agreed to On view', reference: 't1' },
    ]);
  });

  it('is refused for good with a number that is none, or a wrong token, and says so', async () => {
    for (const [carrier, number, words] of [
      [text, 'none', '422'],
      [wrongToken, '+34600555014', '401'],
    ] as const) {
      const failure = await failureOf(carrier.carry(sms('t2', number)));
      expect(failure).toMatchObject({ isTemporary: false, message: expect.stringContaining(words) });
    }
  });
});

describe('an other side that does not answer', () => {
  it.each(['mail', 'text'] as const)('is tried again: %s', async (which) => {
    const failure = await failureOf(
      nowhere[which].carry(parcel('n1', which === 'text' ? { channel: 'text', address: '+34600555014' } : {})),
    );
    expect(failure).toMatchObject({ isTemporary: true });
  });

  it('tells temporary failures from those for good', () => {
    expect([421, 451, 499].map((status) => isTemporary('smtp', status))).toEqual([true, true, true]);
    expect([500, 550, 554].map((status) => isTemporary('smtp', status))).toEqual([false, false, false]);
    expect([408, 429, 500, 503].map((status) => isTemporary('http', status))).toEqual([true, true, true, true]);
    expect([400, 401, 404, 422].map((status) => isTemporary('http', status))).toEqual([false, false, false, false]);
  });
});

import { DAY_MS, HOUR_MS } from '../../../core/time/index.ts';
import { raw } from '../../testing/raw.ts';
import { beforeEach, describe, expect, it } from 'vitest';
import { DeliveryError } from '../../delivery/index.ts';
import { askTheUnasked } from '../../acts/index.ts';
import { SignedLinks } from '../../signed-links/index.ts';
import { DirectoryCache, query, rows, run, runAll, store } from '../../store/index.ts';
import { askMuseum, GATEWAY_TOKEN } from '../../testing/asking.ts';
import { clearAway, edit, newLoan, NOON, ON_VIEW, putLive, rule } from '../../testing/museum.ts';

const { museum, ask, page, settle, carried } = askMuseum();
const ASKED = rule({
  ...ON_VIEW,
  id: 'asked',
  to: [{ group: 'insurers' }, { person: 'marisol' }],
  ack: { by: 'anyone', remind: { after: 'PT1H', times: 2 }, escalate: [], closeWhenCeased: true, allClear: false },
});
const TEXTED = rule({
  ...ON_VIEW,
  id: 'texted',
  urgency: 'critical',
  to: [{ person: 'ines' }],
  channels: ['inApp', 'text'],
  ack: { by: 'anyone', remind: null, escalate: [], closeWhenCeased: true, allClear: false },
});
const ABROAD = rule({ ...ON_VIEW, id: 'abroad', to: [{ contact: 'ferro' }], channels: null });
const linkIn = (text: string | null | undefined, purpose: string) =>
  new RegExp(`https://ojo\\.example/${purpose}/[\\w.-]+`).exec(text ?? '')?.[0] ?? '';
const acknowledged = async () =>
  (await rows(museum.pool, raw<{ person_id: string }>('SELECT DISTINCT person_id FROM acknowledgements'))).map(
    (row) => row.person_id,
  );
const text = (from: string, words: string, token = GATEWAY_TOKEN) =>
  ask('/../gateway/texts', {
    method: 'POST',
    headers: { authorization: `Bearer ${token}` },
    body: { from, text: words, reference: 'r1' },
  });
const fateOf = async (person: string) =>
  (
    await rows(
      museum.pool,
      raw<{ fate: string; reply: string | null }>(
        "SELECT fate, reply FROM messages WHERE person_id = ? AND channel <> 'inApp' AND form <> 'confirm' ORDER BY seq DESC LIMIT 1",
        person,
      ),
    )
  )[0];

beforeEach(async () => {
  await clearAway(museum.pool);
  for (const table of ['acknowledgements', 'address_asks', 'silenced_numbers', 'contact_leavings'])
    await run(museum.pool, query(`DELETE FROM ${table}`));
  museum.clock.set(NOON);
  carried.email.taken.length = 0;
  carried.text.taken.length = 0;
});

async function goesOnView(title = 'Tidal Loom'): Promise<string> {
  const id = await newLoan(museum.pool, { title, status: 'Agreed' });
  await edit(museum.pool, id, { status: 'On view' });
  await settle();
  return id;
}

describe('acknowledging from an email', () => {
  beforeEach(async () => {
    await putLive(museum.pool, ASKED, NOON - 1000);
    await goesOnView();
  });
  const linkOf = (person: string) =>
    linkIn(carried.email.taken.find((one) => one.address.startsWith(person))?.html, 'acknowledge');

  it('asks on a page first, so that what opens links takes nothing on; its button does', async () => {
    const link = linkOf('mei');
    const shown = await page(link);
    expect(shown).toMatchObject({ status: 200, text: expect.stringContaining('Nobody has taken it on yet') });
    expect(shown.text).toContain('Tidal Loom');
    expect(shown.text).not.toContain('<script');
    expect(await acknowledged()).toEqual([]);
    expect(await page(link, { do: 'acknowledge' })).toMatchObject({
      status: 200,
      text: expect.stringContaining('You have it'),
    });
    await settle();
    expect(await acknowledged()).toEqual(['mei']);
    expect((await page(linkOf('marisol'))).text).toContain('Mei has it.');
    // Their inbox has read it too, and nobody is reminded.
    expect((await ask('/session', { as: 'mei' })).body.unread).toBe(0);
    museum.clock.set(NOON + 3 * 3_600_000);
    await settle();
    expect(carried.email.taken.filter((one) => one.subject.startsWith('Waits'))).toEqual([]);
  });

  it('opens for a week, for what it was signed for, and as it was signed', async () => {
    const link = linkOf('mei');
    expect((await page(link.replace('acknowledge', 'leave'))).status).toBe(404);
    expect((await page(`${link.slice(0, -3)}abc`)).status).toBe(404);
    museum.clock.set(NOON + 8 * DAY_MS);
    expect(await page(link, { do: 'acknowledge' })).toMatchObject({
      status: 410,
      text: expect.stringContaining('too old'),
    });
    expect(await acknowledged()).toEqual([]);
  });
});

it('signs alike on every server of a house', async () => {
  const [one, other] = [new SignedLinks(museum.pool), new SignedLinks(museum.pool)];
  const token = await one.sign({ do: 'confirm', ask: 'a' }, NOON);
  expect(await other.open(token, 'confirm', NOON)).toMatchObject({ ask: 'a' });
});

describe('answering a text', () => {
  const NUMBER = '+34 600 555 014';

  it('with its code takes it on, from that number alone', async () => {
    await putLive(museum.pool, TEXTED, NOON - 1000);
    await goesOnView();
    const code = /Answer (\w{4}) to/.exec(carried.text.taken[0]?.text ?? '')?.[1] ?? '';
    expect((await text('+34600555999', code)).body).toEqual({ reply: null });
    expect((await text(NUMBER, 'ZZZZ')).body.reply).toContain('nothing to take on');
    expect(await acknowledged()).toEqual([]);
    expect((await text(NUMBER, `ok, ${code.toLowerCase()}!`)).body.reply).toContain('You have it: Tidal Loom');
    expect(await acknowledged()).toEqual(['ines']);
    expect((await text(NUMBER, code, 'wrong')).status).toBe(401);
  });

  it('lets nobody guess codes: after five wrong ones none is looked at for an hour, and the owner hears of it', async () => {
    await putLive(museum.pool, TEXTED, NOON - 1000);
    await goesOnView();
    const code = /Answer (\w{4}) to/.exec(carried.text.taken[0]?.text ?? '')?.[1] ?? '';
    const wrong = ['0AAA', '0AAB', '0AAC', '0AAD', '0AAE'];
    // One code a text: whatever else stands in it is not tried.
    expect((await text(NUMBER, `${wrong.join(' ')} ${code}`)).body.reply).toContain('nothing to take on');
    for (const one of wrong.slice(1)) expect((await text(NUMBER, one)).body.reply).toContain('nothing to take on');
    expect((await text(NUMBER, code)).body.reply).toContain('wrong too often');
    expect((await text('0034 600 555 014', code)).body.reply).toContain('wrong too often');
    expect(await acknowledged()).toEqual([]);
    const told = (await ask('/inbox', { as: 'ines' })).body.messages as { subject: string }[];
    expect(told.filter(({ subject }) => subject.includes('Wrong codes have come'))).toHaveLength(1);
    // Whoever wants no more is heard all the same.
    expect((await text(NUMBER, 'stop')).body.reply).toContain('No more texts');
    await text(NUMBER, 'start');
    museum.clock.set(museum.clock.now() + HOUR_MS);
    expect((await text(NUMBER, code)).body.reply).toContain('You have it: Tidal Loom');
  });

  it('names nothing of what its reader may not read any more', async () => {
    await putLive(museum.pool, TEXTED, NOON - 1000);
    await goesOnView();
    const code = /Answer (\w{4}) to/.exec(carried.text.taken[0]?.text ?? '')?.[1] ?? '';
    const entry = (await rows(museum.pool, raw<{ readers: string }>('SELECT readers FROM access_entries')))[0];
    const readers = (of: unknown) =>
      runAll(museum.pool, [query('UPDATE access_entries SET readers = ?', JSON.stringify(of)), store.world.raise()]);
    await readers([{ person: 'marisol' }]);
    expect((await text(NUMBER, code)).body.reply).toBe('You have it.');
    await readers(entry?.readers);
  });

  it('with STOP silences the number until START', async () => {
    await putLive(museum.pool, TEXTED, NOON - 1000);
    expect((await text(NUMBER, 'Stop.')).body.reply).toContain('No more texts');
    await goesOnView();
    expect(carried.text.taken).toEqual([]);
    expect((await ask('/me/plan', { as: 'ines' })).body).toMatchObject({ phone: null, silenced: '+34600555014' });
    expect((await ask('/running', { as: 'marisol' })).body.silenced).toEqual([
      { number: '+34600555014', whose: expect.any(String) },
    ]);
    await text(NUMBER, 'START');
    await goesOnView('Salt Basket');
    expect(carried.text.taken).toHaveLength(1);
  });
});

it('a text that waits while its number goes another way is not sent there any more', async () => {
  await putLive(museum.pool, TEXTED, NOON - 1000);
  const id = await newLoan(museum.pool, { title: 'Tidal Loom', status: 'Agreed' });
  await run(museum.pool, query("UPDATE people SET phone = '+34600555014' WHERE id = 'ines'"));
  carried.text.failure = new DeliveryError('busy', true);
  await edit(museum.pool, id, { status: 'On view' });
  await settle();
  carried.text.failure = null;
  await ask('/me/addresses/text', { as: 'ines', method: 'DELETE' });
  museum.clock.set(NOON + DAY_MS);
  await settle();
  expect(carried.text.taken).toEqual([]);
  expect(await fateOf('ines')).toMatchObject({ fate: 'withheld', reply: 'noChannel' });
  await run(museum.pool, query("UPDATE people SET phone = '+34600555014' WHERE id = 'ines'"));
  await run(museum.pool, query('UPDATE world_version SET version = version + 1'));
});

describe('somebody outside', () => {
  beforeEach(async () => {
    await run(
      museum.pool,
      query("INSERT INTO contacts (id, name, email) VALUES ('ferro', 'Ana Ferro', 'ana@ferro.example')"),
    );
    await putLive(museum.pool, ABROAD, NOON - 1000);
    await goesOnView();
  });
  const asked = async () =>
    askTheUnasked(
      museum.pool,
      { base: 'https://ojo.example', name: 'Ojo' },
      museum.clock.now(),
      await new DirectoryCache().current(museum.pool),
    );
  async function confirm(): Promise<void> {
    await asked();
    await settle();
    await page(linkIn(carried.email.taken.at(-1)?.html, 'confirm'), { answer: 'yes' });
  }

  it('is asked once before anything is sent, and is written to after a yes', async () => {
    expect(carried.email.taken).toEqual([]);
    expect(await asked()).toBe(true);
    expect(await asked()).toBe(false);
    await settle();
    expect(carried.email.taken.map((one) => [one.address, one.leave])).toEqual([['ana@ferro.example', undefined]]);
    const link = linkIn(carried.email.taken[0]?.html, 'confirm');
    expect((await page(link)).text).toContain('Shall Ojo write to ana@ferro.example?');
    await goesOnView('Salt Basket');
    expect(carried.email.taken).toHaveLength(1);
    expect((await page(link, { answer: 'yes' })).text).toContain('ana@ferro.example is confirmed');
    expect((await page(link)).status).toBe(410);
    await goesOnView('Reed Coat');
    expect(carried.email.taken.at(-1)).toMatchObject({
      subject: expect.stringContaining('Reed Coat'),
      leave: expect.stringContaining('/leave/'),
    });
  });

  it('is asked once where several servers find the same, again after a week, and three times in all', async () => {
    expect(await Promise.all([asked(), asked()])).toContain(true);
    await settle();
    expect(carried.email.taken).toHaveLength(1);
    for (const week of [1, 2, 3, 4]) {
      museum.clock.set(NOON + week * 7.5 * DAY_MS);
      await goesOnView(`Loan of week ${week}`);
      await asked();
      await settle();
    }
    expect(carried.email.taken).toHaveLength(3);
    // The newest link was good while it lasted, the older ones were not.
    museum.clock.set(NOON + 2 * 7.5 * DAY_MS);
    expect((await page(linkIn(carried.email.taken[0]?.html, 'confirm'))).status).toBe(410);
    expect((await page(linkIn(carried.email.taken[2]?.html, 'confirm'))).status).toBe(200);
  });

  it('is asked as soon as a live rule names it, before there is anything to tell', async () => {
    await clearAway(museum.pool);
    await run(
      museum.pool,
      query("INSERT INTO contacts (id, name, email) VALUES ('ferro', 'Ana Ferro', 'ana@ferro.example')"),
    );
    expect(await asked()).toBe(false);
    await putLive(museum.pool, ABROAD, NOON - 1000);
    expect(await asked()).toBe(true);
  });

  it('may say never, and is not asked again', async () => {
    await asked();
    await settle();
    await page(linkIn(carried.email.taken[0]?.html, 'confirm'), { answer: 'never' });
    museum.clock.set(NOON + 9 * DAY_MS);
    expect(await asked()).toBe(false);
    expect((await ask('/contacts/ferro/ask', { as: 'ines', method: 'POST', body: {} })).status).toBe(400);
  });

  it('looks at what the message needs, for as long as the owner of the rule may read it, and without an account', async () => {
    await confirm();
    await goesOnView('Reed Coat');
    const link = linkIn(carried.email.taken.at(-1)?.html, 'message');
    const shown = await page(link);
    expect(shown.text).toContain('Reed Coat');
    expect(shown.text).not.toMatch(/\/items\/|\/rules\/|<script/);
    await run(museum.pool, query("DELETE FROM group_members WHERE member_id = 'ines'"));
    await run(museum.pool, query('UPDATE world_version SET version = version + 1'));
    expect((await page(link)).text).not.toContain('Reed Coat');
    await run(
      museum.pool,
      query("INSERT INTO group_members (group_id, kind, member_id) VALUES ('readers', 'person', 'ines')"),
    );
    await run(museum.pool, query('UPDATE world_version SET version = version + 1'));
  });

  it('leaves a rule by one click of its mail program, and everything by a button', async () => {
    await confirm();
    await goesOnView('Reed Coat');
    const leave = carried.email.taken.at(-1)?.leave ?? '';
    expect((await page(leave)).text).toContain('No more of “Loan goes on view”');
    expect(await fateOf('ferro')).toMatchObject({ fate: 'delivered' });
    expect(await page(leave, { 'List-Unsubscribe': 'One-Click' })).toMatchObject({
      status: 200,
      text: expect.stringContaining('You hear no more of Loan goes on view'),
    });
    const before = carried.email.taken.length;
    await goesOnView('Dyed Sail');
    expect(carried.email.taken).toHaveLength(before);
    const parts = new FormData();
    parts.set('List-Unsubscribe', 'One-Click');
    expect((await page(leave, parts)).text).toContain('You hear no more of Loan goes on view');
    await page(leave, { all: 'yes' });
    expect((await ask('/contacts', { as: 'ines' })).body).toMatchObject([
      { id: 'ferro', isConfirmed: true, left: 'all' },
    ]);
  });

  it('is seen by coordinators, who can ask again, and by nobody else', async () => {
    expect((await ask('/contacts', { as: 'ines' })).body).toMatchObject([
      { id: 'ferro', isConfirmed: false, askedAt: null, withheld: 1 },
    ]);
    await ask('/contacts/ferro/ask', { as: 'ines', method: 'POST', body: {} });
    expect((await ask('/contacts', { as: 'ines' })).body).toMatchObject([
      { askedAt: expect.stringContaining('2026-03-04T12:00'), times: 1 },
    ]);
    expect((await ask('/contacts', { as: 'mei' })).status).toBe(403);
    const again = (id: string) => ask(`/contacts/${id}/ask`, { as: 'ines', method: 'POST', body: {} });
    expect((await again('made-up@nowhere.example')).status).toBe(404);
    for (let times = 1; times < 10; times += 1) expect((await again('ferro')).status).toBe(200);
    expect((await again('ferro')).body.detail).toContain('has been asked 10 times');
  });
});

describe('an address of one’s own', () => {
  it('that is a number is used once its code was given back', async () => {
    expect(
      (await ask('/me/addresses', { as: 'mei', method: 'POST', body: { channel: 'text', address: '600' } })).status,
    ).toBe(400);
    await ask('/me/addresses', { as: 'mei', method: 'POST', body: { channel: 'text', address: '+34 600 555 033' } });
    await settle();
    expect((await ask('/me/plan', { as: 'mei' })).body).toMatchObject({
      phone: null,
      asks: [{ channel: 'text', address: '+34600555033' }],
    });
    const code = /\d{6}/.exec(carried.text.taken[0]?.text ?? '')?.[0] ?? '';
    expect(
      (await rows(museum.pool, raw<{ subject: string }>("SELECT subject FROM messages WHERE form = 'confirm'")))[0]
        ?.subject,
    ).not.toContain(code);
    expect(
      (
        await ask('/me/addresses/code', {
          as: 'mei',
          method: 'POST',
          body: { code: code === '000000' ? '000001' : '000000' },
        })
      ).status,
    ).toBe(400);
    expect((await ask('/me/addresses/code', { as: 'mei', method: 'POST', body: { code } })).status).toBe(204);
    expect((await ask('/me/plan', { as: 'mei' })).body).toMatchObject({ phone: '+34600555033', asks: [] });
    await ask('/me/addresses/text', { as: 'mei', method: 'DELETE' });
    expect((await ask('/me/plan', { as: 'mei' })).body).toMatchObject({ phone: null });
  });

  it('that is a number is not taken with too many wrong codes, nor a day later; asking has an end too', async () => {
    const give = (code: string) => ask('/me/addresses/code', { as: 'wren', method: 'POST', body: { code } });
    const askFor = () =>
      ask('/me/addresses', { as: 'wren', method: 'POST', body: { channel: 'text', address: '+34600555047' } });
    await askFor();
    await settle();
    const codeSent = () => /\d{6}/.exec(carried.text.taken.at(-1)?.text ?? '')?.[0] ?? '';
    // All at once: each is counted.
    const guesses = await Promise.all(
      Array.from({ length: 12 }, () => give(codeSent() === '111111' ? '222222' : '111111')),
    );
    expect(guesses.filter((one) => one.body.detail.includes('not the code'))).toHaveLength(5);
    expect((await give(codeSent())).body.detail).toContain('Have a new one sent');
    await askFor();
    await settle();
    museum.clock.set(NOON + 2 * DAY_MS);
    expect((await give(codeSent())).status).toBe(400);
    museum.clock.set(NOON);
    for (let more = 0; more < 4; more += 1) expect((await askFor()).status).toBe(204);
    expect((await askFor()).status).toBe(429);
    expect((await ask('/me/plan', { as: 'wren' })).body).toMatchObject({ phone: null });
  });

  it('stands in the Outbox without a rule, the code with its telephone alone', async () => {
    await ask('/me/addresses', { as: 'mei', method: 'POST', body: { channel: 'text', address: '+34600555033' } });
    await ask('/me/trial/inApp', { as: 'mei', method: 'POST', body: {} });
    await settle();
    const rowsSeen = (await ask('/outbox', { as: 'marisol' })).body as {
      form: string;
      rules: unknown[];
      subject: string;
    }[];
    expect(rowsSeen.map(({ form, rules }) => [form, rules])).toEqual(
      expect.arrayContaining([
        ['confirm', []],
        ['trial', []],
      ]),
    );
    expect(JSON.stringify(rowsSeen)).not.toContain(/\d{6}/.exec(carried.text.taken[0]?.text ?? '')?.[0]);
    expect((await ask('/inbox', { as: 'mei' })).body.messages[0]).toMatchObject({ form: 'trial' });
  });

  it('by email takes the place of the first once its link was pressed', async () => {
    await ask('/me/addresses', { as: 'mei', method: 'POST', body: { channel: 'email', address: 'mei@home.example' } });
    await settle();
    expect((await page(linkIn(carried.email.taken[0]?.html, 'confirm'), { answer: 'yes' })).text).toContain(
      'mei@home.example is confirmed',
    );
    await ask('/me/trial/email', { as: 'mei', method: 'POST', body: {} });
    await settle();
    expect(carried.email.taken.at(-1)).toMatchObject({
      address: 'mei@home.example',
      subject: expect.stringContaining('an email'),
    });
    await ask('/me/addresses/email', { as: 'mei', method: 'DELETE' });
    await ask('/me/trial/email', { as: 'mei', method: 'POST', body: {} });
    await settle();
    expect(carried.email.taken.at(-1)).toMatchObject({ address: 'mei@marisma.example' });
  });
});

describe('one click of a mail program', () => {
  it('has what a rule tells somebody here in Ojo alone, and comes back from the plan', async () => {
    await putLive(
      museum.pool,
      { ...ASKED, id: 'by-mail', ack: null, to: [{ person: 'mei' }], channels: null },
      NOON - 1000,
    );
    await goesOnView();
    museum.clock.set(NOON + 3_600_000);
    await settle();
    const first = carried.email.taken.at(-1);
    expect(first).toMatchObject({ address: 'mei@marisma.example', thread: expect.stringMatching(/^about-/) });
    const leave = first?.leave ?? '';
    const asked = await page(leave);
    expect(asked.text).toContain('Yes, in Ojo alone');
    expect((await ask('/me/plan', { as: 'mei' })).body.plan).toBeNull();
    expect((await page(leave, { 'List-Unsubscribe': 'One-Click' })).status).toBe(200);
    expect((await ask('/me/plan', { as: 'mei' })).body.plan.own).toEqual({ 'by-mail': [{ channel: 'inApp' }] });
    await goesOnView('Salt Basket');
    museum.clock.set(NOON + 2 * 3_600_000);
    await settle();
    expect(carried.email.taken).toHaveLength(1);
    await ask('/me/plan', { as: 'mei', method: 'PUT', body: { plan: null, mutes: [] } });
  });

  it('says of a critical rule with ways of its own that it goes on', async () => {
    const critical = { ...TEXTED, id: 'critical', to: [{ person: 'mei' }], channels: ['inApp', 'email'], ack: null };
    await putLive(museum.pool, critical as typeof TEXTED, NOON - 1000);
    await goesOnView();
    const { text: said } = await page(carried.email.taken[0]?.leave ?? '', { answer: 'yes' });
    expect(said).toContain('What is critical goes on by email: Loan goes on view.');
    await ask('/me/plan', { as: 'mei', method: 'PUT', body: { plan: null, mutes: [] } });
  });
});

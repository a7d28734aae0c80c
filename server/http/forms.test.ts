import { describe, expect, it } from 'vitest';
import { DAY_MS } from '../../core/time/index.ts';
import { one, rows, store } from '../store/index.ts';
import { editItem } from '../intake/index.ts';
import { askMuseum } from '../testing/asking.ts';
import { LOANS, NOON } from '../testing/museum.ts';

const { museum, ask, ojo } = askMuseum();

const FORM = {
  title: 'Offer a loan',
  about: 'What would you lend us?',
  thanks: 'We will write to you.',
  fields: [
    { field: 'title', isNeeded: true },
    { field: 'status', isNeeded: false },
    { field: 'insured', isNeeded: false },
    { field: 'due', isNeeded: true },
  ],
  most: 3,
  isOpen: true,
};
const as = (who: string, method: string, path: string, body?: object) => ask(path, { as: who, method, body });
const made = async (more: object) => (await as('ines', 'POST', '/sources/loans/forms', { ...FORM, ...more })).body;
const pathOf = (link: string) => new URL(link).pathname;
const page = async (path: string, typed?: Record<string, string>) => {
  const response = await fetch(`http://127.0.0.1:${ojo().port}${path}`, {
    ...(typed ? { method: 'POST', body: new URLSearchParams(typed) } : {}),
  });
  return { status: response.status, text: await response.text() };
};
const GOOD = { 'f-title': 'Reed Gate', 'f-insured': '1,200.50 EUR', 'f-due': '2026-06-01' };
const KEY = 'a'.repeat(24);
const codes = (answer: { body: { faults: { code: string }[] } }) => answer.body.faults.map(({ code }) => code);
const countOf = async () => (await rows(museum.pool, store.items.allOf('loans', false))).length;

describe('a form behind a link', () => {
  it('is shown to whoever has the link, and each one sent is one new item, by a system of its own', async () => {
    const form = await made({});
    const shown = await page(pathOf(form.link));
    expect(shown.text).toContain('What would you lend us?');
    expect(shown.text).not.toContain('Registrar');
    const sent = await page(pathOf(form.link), { ...GOOD, key: KEY });
    expect([sent.status, sent.text.includes('We will write to you.')]).toEqual([200, true]);
    // Sent once more, by a second press or a way back, it is the same one.
    await page(pathOf(form.link), { ...GOOD, key: KEY });
    const items = await rows(museum.pool, store.items.allOf('loans', false));
    expect(items).toHaveLength(1);
    expect(items[0]).toMatchObject({
      createdBy: 'system:Offer a loan',
      fields: { title: 'Reed Gate', insured: { amount: '1200.50', currency: 'EUR' }, due: '2026-06-01' },
    });
    expect((await as('ines', 'GET', '/sources/loans/forms')).body[0].sent).toBe(1);
  });

  it('says what is wrong where it is, keeps what was typed, and takes nothing then', async () => {
    const form = await made({ title: 'Wrongly typed' });
    const before = await countOf();
    const wrong = { 'f-title': ' ', 'f-insured': 'much', 'f-due': '31/31', 'f-status': 'Stolen', 'f-registrar': 'mei' };
    const { status, text } = await page(pathOf(form.link), wrong);
    expect(status).toBe(422);
    expect(text).toContain('4 answers are not as they should be.');
    expect(text).toContain('value="much"');
    expect((await page(pathOf(form.link), { ...GOOD, 'f-title': '<script>x</script>'.padEnd(5000, 'y') })).status).toBe(
      422,
    );
    expect((await page(pathOf(form.link), { 'f-title': 'z'.repeat(70_000) })).status).toBe(400);
    expect(await countOf()).toBe(before);
  });

  it('sets what it asks and nothing else, and says nothing back as code', async () => {
    const form = await made({ title: 'Narrow' });
    await page(pathOf(form.link), {
      ...GOOD,
      'f-title': '<b>Bold</b>',
      'f-registrar': 'mei',
      'f-note': 'in',
      registrar: 'mei',
    });
    const item = (await rows(museum.pool, store.items.allOf('loans', false))).find(({ title }) =>
      title.includes('Bold'),
    );
    expect(Object.keys(item?.fields ?? {}).sort()).toEqual(['due', 'insured', 'title']);
    expect((await page(pathOf(form.link), { 'f-title': '<b>' })).text).not.toContain('value="<b>');
  });

  it('takes so many on a day, and again on the next', async () => {
    const form = await made({ title: 'Three a day' });
    const send = () => page(pathOf(form.link), GOOD);
    const answers = await Promise.all([send(), send(), send(), send(), send()]);
    expect(answers.map(({ status }) => status).sort()).toEqual([200, 200, 200, 429, 429]);
    museum.clock.set(museum.clock.now() + DAY_MS);
    expect((await send()).status).toBe(200);
  });

  it('leads nowhere once it is closed, taken away, or never was', async () => {
    const form = await made({ title: 'Closing' });
    await as('ines', 'PUT', `/forms/${form.id}`, { ...FORM, title: 'Closing', isOpen: false });
    expect((await page(pathOf(form.link), GOOD)).status).toBe(410);
    await as('ines', 'DELETE', `/forms/${form.id}`);
    expect((await page(pathOf(form.link))).status).toBe(410);
    expect((await page('/form/made-up')).status).toBe(410);
    expect(await one(museum.pool, store.forms.byId(form.id))).toBeUndefined();
  });

  it('asks neither for people nor twice, and always for what names an item', async () => {
    const fields = [
      { field: 'registrar', isNeeded: false },
      { field: 'status', isNeeded: false },
      { field: 'status', isNeeded: true },
    ];
    const refused = await as('ines', 'POST', '/sources/loans/forms', { ...FORM, title: 'Offer a LOAN', fields });
    expect(codes(refused)).toEqual(['nameTaken', 'notAskable', 'notAskable', 'titleIsNeeded']);
    // Nor is it called like another system, whose doings it would pass for.
    await editItem(museum.pool, {
      actor: 'system:import',
      source: LOANS,
      item: 'I-1',
      kind: 'created',
      set: { title: 'In' },
      at: NOON,
    });
    expect(codes(await as('ines', 'POST', '/sources/loans/forms', { ...FORM, title: 'Import' }))).toEqual([
      'nameTaken',
    ]);
  });

  it('is set up by who looks after the source, and known to no other', async () => {
    const form = await made({ title: 'Others' });
    for (const [method, path] of [
      ['GET', '/sources/loans/forms'],
      ['POST', '/sources/loans/forms'],
      ['PUT', `/forms/${form.id}`],
      ['DELETE', `/forms/${form.id}`],
    ] as const)
      expect((await as('mei', method, path, method.startsWith('P') ? FORM : undefined)).status).toBe(403);
  });
});

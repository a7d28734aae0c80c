import { beforeEach, describe, expect, it } from 'vitest';
import { DAY_MS } from '../../core/time/index.ts';
import { query, runAll, store } from '../store/index.ts';
import { askMuseum, documentOf } from '../testing/asking.ts';
import { clearAway, edit, newLoan, NOON, putLive, rule } from '../testing/museum.ts';

const { museum, ask, settle, carried } = askMuseum();
const ON_VIEW = { field: 'status', op: 'is', value: 'On view' };
const MORNING = rule({
  id: 'morning',
  name: 'On view this morning',
  owner: 'ines',
  zone: 'Europe/Madrid',
  scope: { sources: ['loans'] },
  report: { every: 'day', at: '08:00', if: ON_VIEW },
  message: { show: ['note'] },
  to: [{ person: 'mei' }],
  channels: ['inApp', 'email', 'text'],
});

beforeEach(async () => {
  await clearAway(museum.pool);
  museum.clock.set(NOON);
  carried.email.taken.length = 0;
});
/** Who reads loans from now on. */
const readableBy = (readers: object[]) =>
  runAll(museum.pool, [
    query("UPDATE access_entries SET readers = ? WHERE source_id = 'loans'", JSON.stringify(readers)),
    store.world.raise(),
  ]);
const reports = async () =>
  (await ask('/inbox', { as: 'mei' })).body.messages.filter((one: { form: string }) => one.form === 'report');

describe('a report', () => {
  it('has what is so at its hour, and marks what is new, changed and gone since the last', async () => {
    const [loom, basket, reed] = [
      await newLoan(museum.pool, { title: 'Tidal Loom', status: 'On view', note: 'a' }),
      await newLoan(museum.pool, { title: 'Salt Basket', status: 'On view', note: 'b' }),
      await newLoan(museum.pool, { title: 'Reed Gate', status: 'Agreed' }),
    ];
    await putLive(museum.pool, MORNING, NOON);
    museum.clock.set(NOON + DAY_MS);
    await settle();
    const [first] = await reports();
    expect(first.content).toMatchObject({ lead: '', report: { columns: ['Note'], total: 2, gone: [] } });
    const day = museum.clock.now();
    await edit(museum.pool, loom, { note: 'c' }, { at: day + 1 });
    await edit(museum.pool, basket, { status: 'Returned' }, { at: day + 2 });
    await edit(museum.pool, reed, { status: 'On view' }, { at: day + 3 });
    museum.clock.set(NOON + 2 * DAY_MS);
    await settle();
    const [second] = await reports();
    expect(second.content.lead).toBe('Since the last report: 1 new, 1 changed and 1 gone.');
    const { rows, gone } = second.content.report;
    const marks = rows.map((row: { item: { title: string }; mark?: string }) => [row.item.title, row.mark]);
    expect(Object.fromEntries(marks)).toEqual({ 'Tidal Loom': 'changed', 'Reed Gate': 'new' });
    expect(gone).toMatchObject([{ title: 'Salt Basket' }]);
    const email = carried.email.taken.at(-1);
    expect(email?.html).toContain('Reed Gate');
    expect(email?.text).toContain('No longer in it: Salt Basket.');
  });

  it('shows no more, once its reader may not read it, than that it was there', async () => {
    const titled = await newLoan(museum.pool, { title: 'Secret loan zq9', status: 'On view' });
    expect(titled).toBeTruthy();
    await putLive(museum.pool, MORNING, NOON);
    museum.clock.set(NOON + DAY_MS);
    await settle();
    const [message] = await reports();
    expect(JSON.stringify(message)).toContain('zq9');
    await readableBy([{ person: 'ines' }]);
    try {
      const later = (await ask(`/messages/${message.id}`, { as: 'mei' })).body;
      expect(JSON.stringify(later)).not.toContain('zq9');
      expect(later.content.report).toMatchObject({ rows: [], total: 0 });
    } finally {
      await readableBy(['ines', 'mei', 'wren', 'petra', 'marisol'].map((person) => ({ person })));
    }
  });

  it('goes with its emails as the files that the rule asks for, of all that their reader may read', async () => {
    for (const title of ['Tidal Loom', '=SUM(1;2)'])
      await newLoan(museum.pool, { title, status: 'On view', note: 'a, b' });
    await newLoan(museum.pool, { title: 'Reed Gate', status: 'Agreed' });
    const document = { ...MORNING, message: { ...MORNING.message, attach: ['csv' as const, 'xlsx' as const] } };
    await putLive(museum.pool, document, NOON);
    museum.clock.set(NOON + DAY_MS);
    await settle();
    const files = carried.email.taken[0]?.files ?? [];
    expect(files.map(({ name }) => name)).toEqual(['On-view-this-morning.csv', 'On-view-this-morning.xlsx']);
    const lines = String(files[0]?.bytes)
      .replace(/^\ufeff/, '')
      .trim()
      .split('\n');
    // Of the first report nothing is new: there was none before.
    expect(lines).toEqual(['Loan,Note,Since the last report', 'Tidal Loom,"a, b",', expect.stringMatching(/^"?'=SUM/)]);
    expect(files[1]?.bytes.subarray(0, 2).toString()).toBe('PK');
  });

  it('marks in its files what is new, changed and gone, however much there is', async () => {
    const numbered = (from: number, to: number) =>
      Array.from({ length: to - from }, (_, at) => `Loan ${1000 + from + at}`);
    const ids = new Map<string, string>();
    const lend = async (title: string, note = 'as ever') =>
      ids.set(title, await newLoan(museum.pool, { title, status: 'On view', note }));
    for (const title of [...numbered(0, 220), 'Leaves', 'Leaves too']) await lend(title);
    const document = { ...MORNING, message: { ...MORNING.message, attach: ['csv' as const] } };
    await putLive(museum.pool, document, NOON);
    museum.clock.set(NOON + DAY_MS);
    await settle();
    for (const title of ['Loan 1003', 'Loan 1219'])
      await edit(museum.pool, ids.get(title) ?? '', { note: 'otherwise' }, { at: museum.clock.now() });
    for (const title of ['Leaves', 'Leaves too'])
      await edit(museum.pool, ids.get(title) ?? '', { status: 'Returned' }, { at: museum.clock.now() });
    for (const title of ['Loan 2001', 'Loan 2002']) await lend(title);
    carried.email.taken.length = 0;
    museum.clock.set(NOON + 2 * DAY_MS);
    await settle();
    const [first] = carried.email.taken;
    const lines = String(first?.files?.[0]?.bytes)
      .replace(/^\ufeff/, '')
      .trim()
      .split('\n');
    const marked = new Map(lines.map((line) => [line.split(',')[0], line.split(',')[2]]));
    expect(lines).toHaveLength(1 + 220 + 2 + 2);
    expect(new Map([...marked].filter(([, mark]) => mark !== ''))).toEqual(
      new Map([
        ['Loan', 'Since the last report'],
        ['Loan 1003', 'changed'],
        ['Loan 1219', 'changed'],
        ['Loan 2001', 'new'],
        ['Loan 2002', 'new'],
        ['Leaves', 'gone'],
        ['Leaves too', 'gone'],
      ]),
    );
    // The page has as much as stands in the message, and nothing that only the files need.
    const [message] = await reports();
    expect(message.content.report.beyond).toBeUndefined();
  });

  it('is tried as it would go out next, with all that is so now', async () => {
    await newLoan(museum.pool, { title: 'Tidal Loom', status: 'On view' });
    await newLoan(museum.pool, { title: 'Reed Gate', status: 'Agreed' });
    await settle();
    const { id: _, owner: _owner, ...document } = MORNING;
    const { body } = await ask('/rules/try', { as: 'ines', method: 'POST', body: { document } });
    expect(body.preview.content.report).toMatchObject({ total: 1, rows: [{ item: { title: 'Tidal Loom' } }] });
  });
});

describe('a tally over the last days', () => {
  it('tells how each part moved, from where it began', async () => {
    const loan = await newLoan(museum.pool, { title: 'Tidal Loom', status: 'Agreed', registrar: 'mei' }, NOON - DAY_MS);
    await edit(museum.pool, loan, { status: 'On view' }, { at: NOON - DAY_MS / 2 });
    await settle();
    const document = documentOf({
      scope: { sources: ['loans'], where: ON_VIEW },
      when: null,
      tally: { of: 'items', per: 'registrar', becomes: { op: 'above', value: 3 } },
    });
    const { status, body } = await ask('/rules/tally', { as: 'ines', method: 'POST', body: { document } });
    expect(status).toBe(200);
    expect(body.parts).toMatchObject([{ part: 'mei', moves: [{ value: 1 }] }]);
  });
});

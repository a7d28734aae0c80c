import { describe, expect, it } from 'vitest';
import { one, query, rows, run, store } from '../store/index.ts';
import { select, text } from '../store/database/query.ts';
import { askMuseum } from '../testing/asking.ts';

const { museum, ask, ojo, cookieOf, handIn: handInTo } = askMuseum();
const post = (as: string, path: string, body: unknown, key?: string) =>
  ask(path, { as, method: 'POST', body, ...(key ? { headers: { 'idempotency-key': key } } : {}) });

const handIn = async (as: string, name: string, bytes: Buffer | string): Promise<string> =>
  (await handInTo(as, 'loans', name, bytes)).body.upload;
async function fileOf(as: string, asked: string): Promise<Buffer> {
  const response = await fetch(`http://127.0.0.1:${ojo().port}/api/sources/loans/table?${asked}`, {
    headers: { cookie: await cookieOf(as) },
  });
  return Buffer.from(await response.arrayBuffer());
}
const COLUMNS = ['title', 'status', 'registrar', 'insured', 'due'];
const mapping = (more: object = {}) => ({ columns: COLUMNS, key: 'title', ...more });
const plan = (as: string, upload: string, how: object = mapping()) =>
  post(as, '/sources/loans/table/plan', { upload, mapping: how });

/** Takes a file in as somebody would: looked at, planned, taken. */
async function take(as: string, name: string, bytes: Buffer | string, key?: string) {
  const upload = await handIn(as, name, bytes);
  const looked = await post(as, '/sources/loans/table/look', { upload });
  const how = { columns: looked.body.columns.map((one: { field: string | null }) => one.field), key: looked.body.key };
  const planned = await plan(as, upload, how);
  const body = { upload, mapping: how, seal: planned.body.seal };
  return { looked, planned, done: await post(as, '/sources/loans/table', body, key), body };
}
const titled = async (title: string) => {
  const id = await one(museum.pool, select(text('id'), 'SELECT id FROM items WHERE title = ?', title));
  return id ? one(museum.pool, store.items.byId(id)) : undefined;
};

describe('a file of rows', () => {
  it('is looked at, planned row by row, and taken as one batch, once', async () => {
    const first = await take(
      'mei',
      'loans.csv',
      'Loan;Status;Due back\nReed Gate;agreed;4/3/2026\nTwo Bowls;Requested;\n',
    );
    expect(first.looked.body).toMatchObject({
      rows: 2,
      columns: [{ field: 'title', samples: ['Reed Gate', 'Two Bowls'] }, { field: 'status' }, { field: 'due' }],
      key: 'title',
    });
    expect(first.done.body.counts).toMatchObject({ new: 2, changed: 0, refused: 0 });
    const gate = await titled('Reed Gate');
    expect(gate?.fields).toEqual({ title: 'Reed Gate', status: 'Agreed', due: '2026-03-04' });

    const second = await take(
      'mei',
      'loans.csv',
      'Loan;Status\nReed Gate;On view\nTwo Bowls;Requested\n',
      'second-import',
    );
    expect(second.planned.body.rows).toMatchObject([
      { line: 2, outcome: 'changed', set: { status: 'On view' }, before: { status: 'Agreed' } },
    ]);
    const again = await post('mei', '/sources/loans/table', second.body, 'second-import');
    expect(again.body).toEqual({ ...second.done.body, counts: { ...second.done.body.counts, unchanged: 2 } });
    const trail = await rows(museum.pool, store.changes.ofItem(gate?.id ?? '', 9));
    expect(trail.map(({ kind, batch, before }) => [kind, batch, before?.status])).toEqual([
      ['changed', second.done.body.batch, 'Agreed'],
      ['created', first.done.body.batch, undefined],
    ]);
    expect(trail[0]?.actor).toBe('mei');
  });

  it('says of every sort of fault where it stands, and takes the other rows', async () => {
    const csv = [
      'title,status,registrar,insured,due',
      'Good One,Agreed,mei,"EUR 1,000.50",2026-05-01',
      'Bad,Lost,Nobody Known,500,31/02/2026',
      ',Agreed,,,',
      'Good One,Agreed,,,',
      '=Cell,Requested,,,',
    ].join('\n');
    const { planned, done } = await take('mei', 'faults.csv', csv);
    expect(planned.body.counts).toEqual({ new: 2, changed: 0, unchanged: 0, refused: 3 });
    const faults = planned.body.rows.filter(({ outcome }: { outcome: string }) => outcome === 'refused');
    expect(faults.map((row: { faults: { code: string }[] }) => row.faults.map(({ code }) => code))).toEqual([
      ['unknownOption', 'namesNobody', 'needsMoney', 'needsDate'],
      ['keyEmpty'],
      ['keyTwice'],
    ]);
    expect(done.status).toBe(200);
    expect((await titled('Good One'))?.fields.insured).toEqual({ amount: '1000.50', currency: 'EUR' });
    expect(await titled('Bad')).toBeUndefined();
  });

  it.each(['csv', 'xlsx', 'json'])('that was written as %s comes in again and changes nothing', async (kind) => {
    const written = await fileOf('mei', `as=${kind}`);
    const { planned } = await take('mei', `again.${kind}`, written);
    const total = (await ask('/sources/loans/items', { as: 'mei' })).body.total;
    expect(planned.body.counts).toEqual({ new: 0, changed: 0, unchanged: total, refused: 0 });
  });

  it('of many rows is planned as a short one is, and says how far it has come while it is taken', async () => {
    const lines = Array.from({ length: 3000 }, (_, at) => `Long ${at};Agreed;Mei`).join('\n');
    const upload = await handIn('mei', 'long.csv', `Loan;Status;Registrar\n${lines}\nLong 7;Agreed;Mei\n`);
    const how = { columns: ['title', 'status', 'registrar'], key: 'title' };
    const planned = await plan('mei', upload, how);
    expect(planned.body.counts).toEqual({ new: 3000, changed: 0, unchanged: 0, refused: 1 });
    const howFar = async (as: string) =>
      (await ask(`/sources/loans/table/progress?upload=${upload}`, { as })).body.progress;
    const seen: { done: number; total: number }[] = [];
    let isTaking = true;
    const taking = post('mei', '/sources/loans/table', { upload, mapping: how, seal: planned.body.seal }).finally(
      () => {
        isTaking = false;
      },
    );
    while (isTaking) {
      const progress = await howFar('mei');
      if (progress) seen.push(progress);
      // What somebody takes in is theirs alone to know.
      expect(await howFar('ines')).toBeNull();
    }
    expect((await taking).body.counts.new).toBe(3000);
    expect(seen.length).toBeGreaterThan(0);
    expect(seen.every(({ done, total }, at) => total === 3000 && done >= (seen[at - 1]?.done ?? 0))).toBe(true);
    expect(await howFar('mei')).toBeNull();
    expect((await titled('Long 2999'))?.fields.registrar).toBe('mei');
  });

  it('holds no cell that a sheet would take for a formula', async () => {
    const lines = (await fileOf('mei', 'as=csv&text=Cell')).toString().split('\r\n');
    expect(lines.join('\n')).toMatch(/,'=Cell,/);
  });

  it('is refused once it would come to something else than was looked at', async () => {
    const upload = await handIn('mei', 'late.csv', 'Loan,Status\nTwo Bowls,Agreed\n');
    const how = { columns: ['title', 'status'], key: 'title' };
    const { seal } = (await plan('mei', upload, how)).body;
    const item = await titled('Two Bowls');
    await ask(`/items/${item?.id}`, {
      as: 'wren',
      method: 'PATCH',
      body: { from: item?.version, set: { status: 'Returned' } },
    });
    const late = await post('mei', '/sources/loans/table', { upload, mapping: how, seal });
    expect([late.status, late.body.because.code]).toEqual([409, 'movedOn']);
    expect((await titled('Two Bowls'))?.fields.status).toBe('Returned');
  });

  it('is nobody’s but that of whoever handed it in', async () => {
    const upload = await handIn('mei', 'own.csv', 'Loan\nSecret loan\n');
    const other = await plan('wren', upload, { columns: ['title'], key: null });
    expect([other.status, other.body.because.code]).toEqual([400, 'uploadGone']);
  });

  it.each([
    ['a picture', 'a.csv', Buffer.from('89504e470d0a1a0a0000000d49484452', 'hex'), 'notATable'],
    ['nothing', 'a.csv', '\n\n', 'noTable'],
    ['a quote that does not end', 'a.csv', 'a,b\n"never', 'noTable'],
    ['JSON that is no list', 'a.json', '{"a":1}', 'noTable'],
    [
      'more columns than there may be',
      'a.csv',
      Array.from({ length: 300 }, (_, at) => `c${at}`).join(','),
      'tableTooLong',
    ],
  ])('of %s is refused in words', async (_what, name, bytes, code) => {
    const looked = await post('mei', '/sources/loans/table/look', { upload: await handIn('mei', name, bytes) });
    expect([looked.status, looked.body.because?.code]).toEqual([400, code]);
  });

  it('is refused before it is unpacked where it says that it would be huge, and ended where it lies', async () => {
    const book = await fileOf('mei', 'as=xlsx');
    const huge = Buffer.from(book);
    huge.writeUInt32LE(0xfffffff0, huge.lastIndexOf(Buffer.from('PK\x01\x02', 'latin1')) + 24);
    const cut = book.subarray(0, book.length - 60);
    const codes = [];
    for (const bytes of [huge, cut]) {
      const upload = await handIn('mei', 'a.xlsx', bytes);
      codes.push((await post('mei', '/sources/loans/table/look', { upload })).body.because.code);
    }
    expect(codes).toEqual(['unpacksTooLarge', 'noTable']);
  });

  it('goes into nothing that its reader may not see, and into no folders', async () => {
    const upload = await handIn('mei', 'a.csv', 'Loan\nx\n');
    await run(museum.pool, query("UPDATE sources SET kind = 'folders' WHERE id = 'loans'"));
    await run(museum.pool, store.world.raise());
    const refused = await plan('mei', upload, { columns: ['title'], key: null });
    await run(museum.pool, query("UPDATE sources SET kind = 'records' WHERE id = 'loans'"));
    await run(museum.pool, store.world.raise());
    expect([refused.status, refused.body.because.code]).toEqual([400, 'rowsAlone']);
    expect((await post('mei', '/sources/nowhere/table/look', { upload })).status).toBe(404);
  });
});

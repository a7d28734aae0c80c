import { beforeAll, describe, expect, it } from 'vitest';
import { one, rows, store } from '../store/index.ts';
import { tableFile } from '../tables/index.ts';
import { askMuseum } from '../testing/asking.ts';
import { putLive, rule } from '../testing/museum.ts';
import { layOutPapers } from '../testing/papers.ts';

const { museum, ask, handIn, settle, ojo, cookieOf } = askMuseum();
const HEAD = 'Crate,Weight,Packed by\n';
const upload = async (as: string, text: string) => (await handIn(as, 'papers', 'Crates.csv', text)).body.upload;
const watch = (as: string, id: string, key = 'Crate') =>
  ask(`/items/${id}/table`, { as, method: 'PUT', body: { key, sheet: null } });
const looked = async (as: string, id: string) => (await ask(`/items/${id}/table`, { as })).body;
const version = async (as: string, id: string, text: string) =>
  ask(`/items/${id}/versions`, { as, method: 'POST', body: { upload: await upload(as, text) } });
const rowsOf = async (as: string, source: string) =>
  (await ask(`/sources/${source}/items?sort=crate`, { as })).body.items?.map(
    ({ title, fields }: { title: string; fields: object }) => [title, fields],
  );

/** A table document in a folder. */
async function added(as: string, folder: string, text: string): Promise<string> {
  const body = { folder, files: [{ upload: await upload(as, text), name: 'Crates.csv' }] };
  return (await ask('/sources/papers/documents', { as, method: 'POST', body })).body[0].id;
}

describe('the rows of a table document', () => {
  beforeAll(() => layOutPapers(museum.pool));

  it('become items, and a new version is one change for each row that differs, as one batch', async () => {
    const id = await added('mei', 'open', `${HEAD}A 1,4.5,Mei\nA 2,3,Wren\nA 3,1,\n`);
    expect((await looked('mei', id)).table.columns).toEqual([
      { name: 'Crate', type: 'text', tellsApart: true },
      { name: 'Weight', type: 'number', tellsApart: true },
      { name: 'Packed by', type: 'text', tellsApart: false },
    ]);
    const { source } = (await watch('mei', id)).body;
    expect(await rowsOf('wren', source)).toEqual([
      ['A 1', { crate: 'A 1', weight: 4.5, 'packed-by': 'Mei' }],
      ['A 2', { crate: 'A 2', weight: 3, 'packed-by': 'Wren' }],
      ['A 3', { crate: 'A 3', weight: 1 }],
    ]);
    await version('wren', id, `${HEAD}A 1,5,Mei\nA 2,3,Wren\nA 4,2,\n`);
    const { entries } = (await ask(`/trail?source=${source}`, { as: 'mei' })).body;
    expect(entries[0].batch.count).toBe(3);
    const trail = await rows(museum.pool, store.changes.kindsIn(source, entries[0].batch.id));
    expect(Object.fromEntries(trail.map(({ kind, size }) => [kind, size]))).toEqual({
      changed: 1,
      created: 1,
      deleted: 1,
    });
    expect(entries[0].row.actor).toBe('wren');
    expect((await looked('mei', id)).watched).toMatchObject({ number: 2, faults: [], isWatching: true });
  });

  it('are as they were once somebody has opened the document, and nobody has to read the world anew', async () => {
    const id = await added('mei', 'open', `${HEAD}L 1,4,\n`);
    const { source } = (await watch('mei', id)).body;
    await ask('/sources/papers/looks', { as: 'marisol', method: 'PUT', body: { folder: 'open', isOn: true } });
    const world = await one(museum.pool, store.world.version());
    const before = await rowsOf('mei', source);
    const headers = { cookie: await cookieOf('wren') };
    await (await fetch(`http://127.0.0.1:${ojo().port}/api/items/${id}/file`, { headers })).text();
    expect((await ask(`/items/${id}`, { as: 'mei' })).body.looks.last).toMatchObject([{ person: 'wren' }]);
    expect(await one(museum.pool, store.world.version())).toBe(world);
    expect(await rowsOf('mei', source)).toEqual(before);
    await ask('/sources/papers/looks', { as: 'marisol', method: 'PUT', body: { folder: 'open', isOn: false } });
  });

  it('tell somebody of one cell, from what to what', async () => {
    const id = await added('mei', 'open', `${HEAD}B 1,4,\nB 2,5,\n`);
    const { source } = (await watch('mei', id)).body;
    const [, second] = (await ask(`/sources/${source}/items?sort=crate`, { as: 'mei' })).body.items;
    const cell = rule({
      id: 'cell',
      name: 'Weight of B 2',
      owner: 'ines',
      urgency: 'routine',
      zone: 'UTC',
      scope: { sources: [source], items: [second.id] },
      when: { kinds: ['changed'], if: { changed: 'weight' } },
      to: [{ person: 'petra' }],
      channels: ['inApp'],
    });
    await putLive(museum.pool, cell, museum.clock.now());
    // A rule hears of what happens after it went live.
    museum.clock.set(museum.clock.now() + 60_000);
    await version('mei', id, `${HEAD}B 1,40,\nB 2,5,\n`);
    await version('mei', id, `${HEAD}B 1,40,\nB 2,6,\n`);
    // A batch is told of once its instant is over.
    museum.clock.set(museum.clock.now() + 1000);
    await settle();
    const { messages } = (await ask('/inbox', { as: 'petra' })).body;
    expect(messages).toHaveLength(1);
    expect(messages[0].content.entries[0]).toMatchObject({
      item: { id: second.id, title: 'B 2' },
      fields: [{ id: 'weight', before: '5', after: '6' }],
    });
  });

  it('are read by who reads the document, as it is shared and taken back, and moved', async () => {
    const id = await added('mei', 'closed', `${HEAD}C 1,4,\n`);
    const { source } = (await watch('mei', id)).body;
    const act = (what: object) =>
      ask('/sources/papers/acts', { as: 'mei', method: 'POST', body: { ids: [id], act: what } });
    const reads = async () => (await ask(`/sources/${source}/items`, { as: 'wren' })).status;
    expect(await reads()).toBe(404);
    await act({ act: 'share', person: 'wren' });
    expect(await reads()).toBe(200);
    await act({ act: 'unshare', person: 'wren' });
    expect(await reads()).toBe(404);
    await act({ act: 'move', folder: 'open' });
    expect(await reads()).toBe(200);
    await act({ act: 'rename', name: 'Crates of spring.csv' });
    const { sources } = (await ask('/directory', { as: 'wren' })).body;
    expect(sources.find((one: { id: string }) => one.id === source)).toMatchObject({
      name: 'Crates of spring.csv',
      sheetOf: id,
    });
  });

  it('stay as they were where a version cannot be taken, and say why', async () => {
    const id = await added('mei', 'open', `${HEAD}D 1,4,Mei\n`);
    const { source } = (await watch('mei', id)).body;
    const before = await rowsOf('mei', source);
    await version('mei', id, 'Box,Weight\nD 1,5\n');
    expect([(await looked('mei', id)).watched.faults, await rowsOf('mei', source)]).toEqual([
      [{ line: null, column: null, code: 'sheetKeyGone', params: { column: 'Crate' } }],
      before,
    ]);
    await version('mei', id, 'a,b\n"never');
    expect((await looked('mei', id)).watched.faults[0].code).toBe('sheetUnread');
    // One cell that cannot stand holds up no other; a column that is gone empties nothing; a new one becomes a field.
    await version('mei', id, 'Crate,Weight,Sealed\nD 1,heavy,yes\nD 2,7,no\nD 2,8,no\n');
    const { faults } = (await looked('mei', id)).watched;
    expect(faults.map(({ code, line }: { code: string; line: number | null }) => [code, line])).toEqual([
      ['sheetColumnGone', null],
      ['keyTwice', 4],
      ['needsNumber', 2],
    ]);
    expect(await rowsOf('mei', source)).toEqual([
      ['D 1', { crate: 'D 1', weight: 4, 'packed-by': 'Mei', sealed: true }],
      ['D 2', { crate: 'D 2', weight: 7, sealed: false }],
    ]);
  });

  it('go on after they were left, from the version that there is then', async () => {
    const id = await added('mei', 'open', `${HEAD}E 1,4,\n`);
    const { source } = (await watch('mei', id)).body;
    await ask(`/items/${id}/table`, { as: 'mei', method: 'DELETE' });
    await version('mei', id, `${HEAD}E 1,5,\n`);
    expect(await rowsOf('mei', source)).toEqual([['E 1', { crate: 'E 1', weight: 4 }]]);
    expect((await watch('mei', id)).body.source).toBe(source);
    expect(await rowsOf('mei', source)).toEqual([['E 1', { crate: 'E 1', weight: 5 }]]);
  });

  it('take a version that is asked for twice once', async () => {
    const id = await added('mei', 'open', `${HEAD}F 1,4,\n`);
    const { source } = (await watch('mei', id)).body;
    const body = { upload: await upload('mei', `${HEAD}F 1,9,\n`) };
    const again = { as: 'mei', method: 'POST', body, headers: { 'idempotency-key': 'the-same-version' } };
    await ask(`/items/${id}/versions`, again);
    await ask(`/items/${id}/versions`, again);
    const row = (await ask(`/sources/${source}/items`, { as: 'mei' })).body.items[0];
    expect((await one(museum.pool, store.items.byId(row.id)))?.version).toBe(2);
  });

  it('stand as in the newest version, whoever hands one in while they begin to be watched', async () => {
    for (const round of [1, 2, 3]) {
      const id = await added('mei', 'open', `${HEAD}I 1,0,\n`);
      const texts = [1, 2, 3, 4].map((weight) => `${HEAD}I 1,${round}${weight},\nI ${weight},5,\n`);
      await Promise.all([watch('mei', id), ...texts.map((text) => version('mei', id, text))]);
      const { source, number } = (await looked('mei', id)).watched;
      expect(number).toBe(5);
      const newest = await (
        await fetch(`http://127.0.0.1:${ojo().port}/api/items/${id}/file`, {
          headers: { cookie: await cookieOf('mei') },
        })
      ).text();
      const weight = Number(/I 1,(\d+)/.exec(newest)?.[1]);
      const shown = (await rowsOf('mei', source)) as [string, { weight: number }][];
      expect(shown.find(([title]) => title === 'I 1')?.[1].weight).toBe(weight);
    }
  });

  it('may be of columns that are called as what every object has', async () => {
    const id = await added('mei', 'open', 'constructor,__proto__,toString\na,b,c\n');
    const { source } = (await watch('mei', id, 'constructor')).body;
    expect(await rowsOf('mei', source)).toEqual([['a', { 'constructor-2': 'a', proto: 'b', tostring: 'c' }]]);
    await version('mei', id, 'constructor,__proto__,toString,valueOf\na,b,d,e\n');
    expect(await rowsOf('mei', source)).toEqual([
      ['a', { 'constructor-2': 'a', proto: 'b', tostring: 'd', valueof: 'e' }],
    ]);
  });

  it('of a workbook are looked at as text, line by line', async () => {
    const book = await tableFile({ columns: ['Crate', 'Weight'], rows: [['H 1', 4.5]] }, 'xlsx');
    const given = (await handIn('mei', 'papers', 'Book.xlsx', book.bytes)).body;
    const body = { folder: 'open', files: [{ upload: given.upload, name: given.name }] };
    const [{ id }] = (await ask('/sources/papers/documents', { as: 'mei', method: 'POST', body })).body;
    const response = await fetch(`http://127.0.0.1:${ojo().port}/api/items/${id}/file?as=text`, {
      headers: { cookie: await cookieOf('mei') },
    });
    expect((await response.text()).trim()).toBe('\ufeffCrate,Weight\nH 1,4.5'.trim());
    expect((await watch('mei', id)).body).toMatchObject({ number: 1, columns: { Crate: 'crate', Weight: 'weight' } });
  });

  it('are nobody’s to watch who may not read the document, and no table’s that is none', async () => {
    const closed = await added('mei', 'closed', `${HEAD}G 1,4,\n`);
    expect([(await watch('wren', closed)).status, (await looked('wren', closed)).code]).toEqual([404, 'notFound']);
    const open = await added('mei', 'open', `${HEAD}G 1,4,\n`);
    expect((await watch('mei', open, 'Nothing')).body.faults[0].code).toBe('sheetKeyGone');
  });
});

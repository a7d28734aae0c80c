import { beforeAll, describe, expect, it } from 'vitest';
import { askMuseum } from '../testing/asking.ts';
import { ON_VIEW, putLive } from '../testing/museum.ts';
import { layOutPapers } from '../testing/papers.ts';

const { museum, ask, handIn } = askMuseum();
const OPEN = { readers: null, adders: null, editors: null };
const save = (as: string, source: string, folder: string | null, rights: object | null) =>
  ask(`/sources/${source}/access`, { as, method: 'PUT', body: { folder, rights } });
const create = (as: string, title: string) =>
  ask('/sources/loans/items', { as, method: 'POST', body: { set: { title, status: 'Agreed' } } });
const edit = (as: string, id: string, from = 1) =>
  ask(`/items/${id}`, { as, method: 'PATCH', body: { from, set: { status: 'On view' } } });

describe('who may read, add and edit', () => {
  beforeAll(() => layOutPapers(museum.pool));

  it('is set up by stewards, seen by who looks after the source, and by nobody else', async () => {
    expect((await save('mei', 'loans', null, OPEN)).body.because.code).toBe('accessIsForStewards');
    expect((await save('marisol', 'loans', null, OPEN)).status).toBe(204);
    expect((await ask('/sources/loans/access', { as: 'mei' })).status).toBe(403);
    expect((await ask('/sources/papers/access', { as: 'ines' })).body).toMatchObject({
      places: [
        { folder: null, rights: OPEN, isByItem: false },
        { folder: 'closed', outright: ['ines', 'mei'], isByItem: true },
      ],
      mayChange: false,
    });
  });

  it('holds at once, in every way that something is added or changed, and says who may instead', async () => {
    const { id } = (await create('mei', 'Reed Gate')).body;
    await save('marisol', 'loans', null, {
      readers: null,
      adders: [{ person: 'petra' }],
      editors: [{ field: 'registrar' }],
    });
    const refused = [
      await create('mei', 'Another'),
      await edit('mei', id),
      await ask(`/items/${id}`, { as: 'mei', method: 'DELETE', body: { from: 1 } }),
    ];
    expect(refused.map(({ status, body }) => [status, body.because.params.who])).toEqual([
      [403, ['Petra']],
      [403, ['Registrar']],
      [403, ['Registrar']],
    ]);
    const act = (what: object) =>
      ask('/sources/loans/acts', { as: 'mei', method: 'POST', body: { ids: [id], act: what } });
    expect((await act({ act: 'delete' })).body.results[0].outcome).toBe('refused');
    expect((await act({ act: 'comment', text: 'A word' })).body.results[0].outcome).toBe('done');
    expect((await ask(`/items/${id}`, { as: 'mei' })).body.mayEdit).toBe(false);
    const { upload } = (await handIn('mei', 'loans', 'a.csv', 'Loan,Status\nReed Gate,Returned\nNew one,Agreed\n'))
      .body;
    const mapping = { columns: ['title', 'status'], key: 'title' };
    const planned = await ask('/sources/loans/table/plan', { as: 'mei', method: 'POST', body: { upload, mapping } });
    expect(planned.body.rows.map((row: { faults: { code: string }[] }) => row.faults[0]?.code)).toEqual([
      'mayNotEdit',
      'mayNotAdd',
    ]);
    // Who looks after the source, and whom the field names, may.
    await ask(`/items/${id}`, { as: 'ines', method: 'PATCH', body: { from: 2, set: { registrar: 'mei' } } });
    expect((await edit('mei', id, 3)).status).toBe(200);
    expect((await create('petra', 'Another')).status).toBe(201);
    await save('marisol', 'loans', null, null);
    expect((await create('mei', 'Open again')).status).toBe(201);
  });

  it('of a folder holds below it until one breaks from it, and for what is handed in or moved there', async () => {
    await save('marisol', 'papers', 'open', { readers: null, adders: [{ person: 'mei' }], editors: null });
    const { upload, name } = (await handIn('wren', 'papers', 'a.md', '# A')).body;
    const add = (folder: string) =>
      ask('/sources/papers/documents', { as: 'wren', method: 'POST', body: { folder, files: [{ upload, name }] } });
    expect((await add('open')).body.because).toEqual({ code: 'othersMay', params: { who: ['Mei'] } });
    expect((await add('closed')).body.because.code).toBe('noFolderThere');
    // An item that is made lies nowhere else either: in no folder that there is not, that others read, or of another source.
    const make = (source: string, folder: string, set: object) =>
      ask(`/sources/${source}/items`, { as: 'wren', method: 'POST', body: { folder, set } });
    for (const folder of ['closed', 'nowhere'])
      expect((await make('papers', folder, { title: 'A' })).body.because.code, folder).toBe('noFolderThere');
    expect((await make('papers', 'open', { title: 'A' })).body.because.code).toBe('othersMay');
    expect((await make('loans', 'open', { title: 'A' })).body.because.code).toBe('noFolderThere');
  });

  it('is seen before it is changed: whom it shuts out, and which rules then tell nobody', async () => {
    await putLive(museum.pool, ON_VIEW, museum.clock.now());
    const { id } = (await create('mei', 'Two Bowls')).body;
    await ask(`/items/${id}`, { as: 'ines', method: 'PATCH', body: { from: 1, set: { registrar: 'mei' } } });
    const preview = (rights: object) =>
      ask('/sources/loans/access/preview', { as: 'marisol', method: 'POST', body: { folder: null, rights } });
    const without = await preview({ ...OPEN, readers: [{ person: 'petra' }, { person: 'marisol' }] });
    expect(without.body.shutOut.sort()).toEqual(['ines', 'mei', 'wren']);
    expect((await preview(OPEN)).body).toEqual({ shutOut: [], letIn: [], silent: [] });
    const nobody = await preview({ ...OPEN, readers: [{ person: 'marisol' }] });
    expect(nobody.body.silent).toEqual([{ id: 'on-view', name: 'Loan goes on view' }]);
  });

  it.each([
    [{ ...OPEN, readers: [] }, ['nobodyReads']],
    [{ ...OPEN, readers: [{ person: 'nobody' }] }, ['notAReader']],
    [{ ...OPEN, editors: [{ webhook: 'x' }], adders: [{ group: 'none' }] }, ['notAReader', 'notAReader']],
  ])('is refused where it lets in nobody that there is (%j)', async (rights, codes) => {
    const { status, body } = await save('marisol', 'loans', null, rights);
    expect([status, body.faults.map(({ code }: { code: string }) => code)]).toEqual([422, codes]);
  });
});

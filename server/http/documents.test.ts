import { beforeAll, describe, expect, it } from 'vitest';
import { DAY_MS } from '../../core/time/index.ts';
import { sweepContents } from '../contents/index.ts';
import { LIMITS } from '../../contract/limits.ts';
import { raw } from '../testing/raw.ts';
import { one, query, rows, run, store } from '../store/index.ts';
import { askMuseum } from '../testing/asking.ts';
import { layOutPapers } from '../testing/papers.ts';

const { museum, ask, ojo, cookieOf, handIn: handInTo } = askMuseum();
beforeAll(() => layOutPapers(museum.pool));

const post = (as: string, path: string, body: unknown, key?: string) =>
  ask(path, { as, method: 'POST', body, ...(key ? { headers: { 'idempotency-key': key } } : {}) });

const handIn = (as: string, name: string, bytes: Buffer | string, type?: string) =>
  handInTo(as, 'papers', name, bytes, type);
async function added(as: string, folder: string, ...files: [name: string, text: string][]): Promise<string[]> {
  const given = await Promise.all(files.map(async ([name, text]) => (await handIn(as, name, text)).body));
  const { body } = await post(as, '/sources/papers/documents', {
    folder,
    files: given.map(({ upload, name }: { upload: string; name: string }) => ({ upload, name })),
  });
  return body.map(({ id }: { id: string }) => id);
}
const bytesOf = async (as: string, id: string, asked = '') => {
  const response = await fetch(`http://127.0.0.1:${ojo().port}/api/items/${id}/file${asked}`, {
    headers: { cookie: await cookieOf(as) },
  });
  return { status: response.status, headers: response.headers, text: await response.text() };
};
const trailOf = (id: string) => rows(museum.pool, store.changes.ofItem(id, 100));
const act = async (as: string, ids: string[], what: object, key?: string) =>
  (await post(as, '/sources/papers/acts', { ids, act: what }, key)).body.results;

describe('documents', () => {
  it('are handed in, become documents as one batch, and are looked at and downloaded, in every version', async () => {
    const [list, plan] = await added('mei', 'open', ['list.md', '# First'], ['plan.csv', 'a,b\n1,2\n']);
    const [change] = await trailOf(list ?? '');
    const [other] = await trailOf(plan ?? '');
    expect(change).toMatchObject({
      kind: 'created',
      after: { name: 'list.md', version: 1, size: 1, approval: 'Draft' },
    });
    expect(change?.batch).not.toBeNull();
    expect([other?.batch, other?.at]).toEqual([change?.batch, change?.at]);

    const { upload } = (await handIn('wren', 'list.md', '# Second')).body;
    await post('wren', `/items/${list}/versions`, { upload });
    expect((await bytesOf('mei', list ?? '')).text).toBe('# Second');
    const first = await bytesOf('mei', list ?? '', '?number=1&as=download');
    expect(first.text).toBe('# First');
    expect(first.headers.get('content-disposition')).toBe("attachment; filename*=UTF-8''list.md");
    await post('mei', `/items/${list}/versions`, { number: 1 });
    expect((await ask(`/items/${list}/versions`, { as: 'mei' })).body).toMatchObject([
      { number: 3, by: 'mei', mediaType: 'text/markdown', size: 7 },
      { number: 2, by: 'wren' },
      { number: 1, by: 'mei' },
    ]);
    expect((await bytesOf('mei', list ?? '')).text).toBe('# First');
    const trail = await trailOf(list ?? '');
    expect(trail.map(({ kind }) => kind)).toEqual(['contentAdded', 'contentAdded', 'created']);
    expect(trail[0]).toMatchObject({ after: { version: 3 }, detail: { from: 1 } });
  });

  it('are kept whole whatever their size, and never larger than may be', async () => {
    const large = Buffer.alloc(3 * store.contents.CHUNK_BYTES + 17, 'x');
    large.write('end', large.length - 3);
    const given = await handIn('mei', 'large.txt', large);
    expect(given.body).toMatchObject({ size: large.length, mediaType: 'text/plain' });
    const { body } = await post('mei', '/sources/papers/documents', {
      folder: 'open',
      files: [{ upload: given.body.upload, name: 'large.txt' }],
    });
    expect((await bytesOf('mei', body[0].id)).text).toBe(large.toString());
    const before = await one(museum.pool, raw<{ n: number }>('SELECT COUNT(*) AS n FROM contents'));
    const refused = await handIn('mei', 'huge.bin', Buffer.alloc(LIMITS.fileBytes + 1));
    expect(refused.body.because).toMatchObject({ code: 'fileTooLarge' });
    expect(await one(museum.pool, raw<{ n: number }>('SELECT COUNT(*) AS n FROM contents'))).toEqual(before);
    expect((await handIn('mei', 'empty.txt', '')).body).toMatchObject({ size: 0, mediaType: 'text/plain' });
  });

  it('are what their contents say, under a name that harms nobody', async () => {
    const png = Buffer.from('89504e470d0a1a0a0000000d49484452000000010000000108060000001f15c489', 'hex');
    const said = async (name: string, bytes: Buffer | string) => {
      const { body } = await handIn('mei', name, bytes);
      return [body.name, body.mediaType];
    };
    expect(await said('photo.html', png)).toEqual(['photo.html', 'image/png']);
    expect(await said('../../etc/passwd', 'a')).toEqual(['passwd', 'text/plain']);
    expect(await said('C:\\papers\\plan.md', 'a')).toEqual(['plan.md', 'text/markdown']);
    expect(await said('\u202egnp.exe\u0000\r\n', Buffer.from([0, 1, 2, 255]))).toEqual([
      'gnp.exe',
      'application/octet-stream',
    ]);
    expect(await said(' ... ', 'a')).toEqual(['document', 'text/plain']);
    expect((await said(`${'n'.repeat(900)}.md`, 'a'))[0]).toMatch(/^n{197}\.md$/);
    expect((await handIn('mei', 'x.json', '{}', 'application/json')).status).toBe(400);
  });

  it('are nobody’s who may not read them: not their contents, their versions, nor others’ uploads', async () => {
    const [secret] = await added('mei', 'closed', ['secret.md', 'secret']);
    for (const path of [`/items/${secret}/file`, `/items/${secret}/versions`, `/items/${secret}`])
      expect((await ask(path, { as: 'wren' })).status).toBe(404);
    const { upload } = (await handIn('mei', 'mine.md', 'mine')).body;
    const files = [{ upload, name: 'stolen.md' }];
    expect((await post('wren', '/sources/papers/documents', { folder: 'open', files })).body.because.code).toBe(
      'uploadGone',
    );
    expect((await post('wren', '/sources/papers/documents', { folder: 'closed', files })).body.because.code).toBe(
      'noFolderThere',
    );
    expect((await post('mei', '/sources/loans/documents', { folder: 'open', files })).status).toBe(400);
    // Used once; asked for again under one key it is the same document.
    const once = await post('mei', '/sources/papers/documents', { folder: 'open', files }, 'one-and-the-same');
    const again = await post('mei', '/sources/papers/documents', { folder: 'open', files }, 'one-and-the-same');
    expect(again.body[0].id).toBe(once.body[0].id);
    const other = post('mei', '/sources/papers/documents', { folder: 'open', files }, 'another-key-altogether');
    expect((await other).body.because.code).toBe('uploadGone');
    expect((await post('mei', '/sources/papers/documents', { folder: 'open', files })).body.because.code).toBe(
      'uploadGone',
    );
  });

  it('that nobody made anything of are swept away, and no other', async () => {
    const [kept] = await added('mei', 'open', ['kept.md', 'kept']);
    const { upload } = (await handIn('mei', 'left.md', 'left')).body;
    await sweepContents(museum.pool, museum.clock.now() + DAY_MS / 2);
    expect(await one(museum.pool, store.contents.chunk(upload, 0))).toBeDefined();
    await sweepContents(museum.pool, museum.clock.now() + DAY_MS + 1);
    expect(await one(museum.pool, store.contents.chunk(upload, 0))).toBeUndefined();
    expect((await bytesOf('mei', kept ?? '')).text).toBe('kept');
  });
});

describe('what befalls a document', () => {
  it('is done by hand, each kind of change, and refused with who can where somebody may not', async () => {
    const [id = ''] = await added('mei', 'open', ['note.md', 'note']);
    const done = (results: { outcome: string; why: { detail: string } | null }[]) =>
      results.map(({ outcome, why }) => why?.detail ?? outcome);
    expect(done(await act('mei', [id], { act: 'comment', text: 'Look @Wren', mentions: ['wren', 'nobody'] }))).toEqual([
      'done',
    ]);
    expect(done(await act('mei', [id], { act: 'checkOut' }))).toEqual(['done']);
    expect(done(await act('mei', [id], { act: 'checkOut' }))).toEqual(['unchanged']);
    expect(done(await act('wren', [id], { act: 'rename', name: 'other.md' }))[0]).toContain('Mei has it checked out');
    const { upload } = (await handIn('wren', 'note.md', 'theirs')).body;
    expect((await post('wren', `/items/${id}/versions`, { upload })).body.detail).toContain('Mei has it checked out');
    const typed = (set: object, as = 'mei') => ask(`/items/${id}`, { as, method: 'PATCH', body: { from: 3, set } });
    expect((await typed({ approver: 'mei' }, 'wren')).body.detail).toContain('Mei has it checked out');
    expect((await typed({ approval: 'Approved', version: 9 })).body.faults).toMatchObject([
      { path: 'approval', code: 'notTyped' },
      { path: 'version', code: 'notTyped' },
    ]);
    expect(done(await act('wren', [id], { act: 'checkIn' }))[0]).toContain('Mei has it checked out; they');
    expect(done(await act('mei', [id], { act: 'checkIn' }))).toEqual(['done']);
    expect(done(await act('mei', [id], { act: 'rename', name: 'paper.md' }))).toEqual(['done']);
    expect(done(await act('mei', [id], { act: 'approve', word: '' }))[0]).toContain('not been submitted');
    expect(done(await act('mei', [id], { act: 'submit', word: 'Please look' }))).toEqual(['done']);
    expect(done(await act('wren', [id], { act: 'approve', word: '' }))[0]).toContain(
      'Whoever looks after the source decides',
    );
    expect(done(await act('ines', [id], { act: 'reject', word: 'Too short' }))).toEqual(['done']);
    expect(done(await act('mei', [id], { act: 'submit', word: '' }))).toEqual(['done']);
    expect(done(await act('ines', [id], { act: 'approve', word: '' }))).toEqual(['done']);
    expect(done(await act('mei', [id], { act: 'delete' }))).toEqual(['done']);
    expect(done(await act('mei', [id], { act: 'comment', text: 'Gone' }))[0]).toContain('Bring it back first');
    expect(done(await act('mei', [id], { act: 'restore' }))).toEqual(['done']);
    const trail = (await trailOf(id)).reverse();
    expect(trail.map(({ kind }) => kind)).toEqual([
      'created',
      'commented',
      'checkedOut',
      'checkedIn',
      'renamed',
      'submitted',
      'rejected',
      'submitted',
      'approved',
      'deleted',
      'restored',
    ]);
    expect(trail[1]?.detail).toEqual({ text: 'Look @Wren', mentions: ['wren'] });
    expect(trail[6]).toMatchObject({ detail: { text: 'Too short' }, after: { approval: 'Rejected' } });
  });

  it('shared, it is theirs to read; taken back, it is not; moved, it goes only where its mover may read', async () => {
    const [id = ''] = await added('mei', 'closed', ['deal.md', 'deal']);
    expect((await ask(`/items/${id}`, { as: 'wren' })).status).toBe(404);
    await act('mei', [id], { act: 'share', person: 'wren' });
    expect((await bytesOf('wren', id)).text).toBe('deal');
    await act('mei', [id], { act: 'unshare', person: 'wren' });
    expect((await bytesOf('wren', id)).status).toBe(404);
    const [open = ''] = await added('wren', 'open', ['mine.md', 'mine']);
    expect((await act('wren', [open], { act: 'move', folder: 'closed' }))[0].why.detail).toContain('no such folder');
    expect((await act('mei', [open], { act: 'move', folder: 'closed' }))[0].outcome).toBe('done');
    expect((await trailOf(open))[0]).toMatchObject({ kind: 'moved', folder: 'closed', folderBefore: 'open' });
    expect(
      (await post('mei', '/sources/papers/acts', { ids: [open], act: { act: 'share', person: 'nobody' } })).body.faults,
    ).toMatchObject([{ path: 'act.person', code: 'unknownPerson' }]);
  });

  it('is one batch of several, at one instant, each accounted for; asked for again it is done once', async () => {
    const ids = await added('mei', 'open', ['a.md', 'a'], ['b.md', 'b'], ['c.md', 'c']);
    const [closed = ''] = await added('mei', 'closed', ['d.md', 'd']);
    await act('mei', [ids[1] ?? ''], { act: 'checkOut' });
    const asked = () => act('wren', [...ids, closed, 'nothing'], { act: 'submit', word: '' }, 'submit-them-all');
    const results = await asked();
    const of = (id: string) => results.find((one: { id: string }) => one.id === id);
    expect(ids.map((id) => of(id).outcome)).toEqual(['done', 'refused', 'done']);
    // One that may not be read is as one that is not there.
    expect({ ...of(closed), id: '' }).toEqual({ ...of('nothing'), id: '' });
    expect(await asked()).toEqual(results);
    const changes = await Promise.all([ids[0], ids[2]].map(async (id) => (await trailOf(id ?? ''))[0]));
    expect(new Set(changes.map((change) => `${change?.batch} ${change?.at} ${change?.kind}`)).size).toBe(1);
    expect((await trailOf(ids[0] ?? '')).filter(({ kind }) => kind === 'submitted')).toHaveLength(1);
  });

  it('edits several at once: those that differ as one batch, and none where the value cannot stand', async () => {
    const made = async (status: string) =>
      (await post('mei', '/sources/loans/items', { set: { title: `Loan ${status}`, status }, folder: null })).body.id;
    const ids = [await made('Agreed'), await made('On view'), await made('Requested')];
    const set = (value: unknown) =>
      post('mei', '/sources/loans/acts', { ids, act: { act: 'set', set: { status: value } } });
    expect((await set('Lost')).body.faults).toMatchObject([{ path: 'status', code: 'unknownOption' }]);
    const { results, batch } = (await set('On view')).body;
    const of = (id: string) => results.find((one: { id: string }) => one.id === id).outcome;
    expect(ids.map(of)).toEqual(['done', 'unchanged', 'done']);
    const [first, , last] = await Promise.all(ids.map(async (id) => (await trailOf(id))[0]));
    expect([first, last].map((change) => [change?.kind, change?.batch, change?.after?.status])).toEqual([
      ['changed', batch, 'On view'],
      ['changed', batch, 'On view'],
    ]);
    expect(first?.at).toBe(last?.at);
  });

  it('goes with comments for items of every source, and with nothing else of documents', async () => {
    await run(museum.pool, query("UPDATE people SET is_active = 1 WHERE id = 'wren'"));
    const { body } = await post('mei', '/sources/loans/items', { set: { title: 'Tidal Loom' }, folder: null });
    const of = async (what: object) =>
      (await post('mei', '/sources/loans/acts', { ids: [body.id], act: what })).body.results[0];
    expect((await of({ act: 'comment', text: 'Seen.' })).outcome).toBe('done');
    expect((await of({ act: 'checkOut' })).why.detail).toContain('documents in folders alone');
  });
});

import { beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { DAY_MS, MINUTE_MS } from '../../core/time/index.ts';
import { query, rows, run, store } from '../store/index.ts';
import { askMuseum } from '../testing/asking.ts';
import { putLive, rule } from '../testing/museum.ts';
import { layOutPapers } from '../testing/papers.ts';
import { raw } from '../testing/raw.ts';

const { museum, ask, ojo, cookieOf, handIn, settle } = askMuseum();
const NOTE = (isOn: boolean, folder = 'closed') => ({ method: 'PUT', body: { folder, isOn } });
beforeAll(async () => {
  await layOutPapers(museum.pool);
  await run(
    museum.pool,
    query("INSERT INTO folders (id, source_id, name, parent_id) VALUES ('below', 'papers', 'Below', 'closed')"),
  );
  await run(museum.pool, store.world.raise());
});

/** A document by Mei in a folder, of which everybody knows who reads there. */
async function paper(folder: string, name: string): Promise<string> {
  const { upload } = (await handIn('mei', 'papers', name, `Words of ${name}`)).body;
  const { body } = await ask('/sources/papers/documents', {
    as: 'mei',
    method: 'POST',
    body: { folder, files: [{ upload, name }] },
  });
  return body[0].id;
}
const open = async (as: string, id: string, more: { asked?: string; method?: string } = {}): Promise<number> => {
  const response = await fetch(`http://127.0.0.1:${ojo().port}/api/items/${id}/file${more.asked ?? ''}`, {
    method: more.method ?? 'GET',
    headers: { cookie: await cookieOf(as) },
  });
  await response.arrayBuffer();
  return response.status;
};
const looksAt = async (id: string) =>
  (
    await rows(
      museum.pool,
      raw<{ actor: string }>("SELECT actor FROM changes WHERE item_id = ? AND kind = 'opened' ORDER BY seq", id),
    )
  ).map(({ actor }) => actor);

describe('where it is noted who opens a document', () => {
  it('is chosen by stewards, for a folder of the source and what lies beneath, and written down', async () => {
    expect((await ask('/sources/papers/looks', { as: 'wren', ...NOTE(true) })).status).toBe(403);
    expect((await ask('/sources/papers/looks', { as: 'ines', ...NOTE(true) })).body.because.code).toBe(
      'accessIsForStewards',
    );
    expect((await ask('/sources/papers/looks', { as: 'marisol', ...NOTE(true, 'elsewhere') })).body.because.code).toBe(
      'noFolderThere',
    );
    expect((await ask('/sources/loans/looks', { as: 'marisol', ...NOTE(true) })).body.because.code).toBe(
      'noFolderThere',
    );
    expect((await ask('/sources/papers/looks', { as: 'marisol', ...NOTE(true) })).status).toBe(204);
    // Said twice, it is chosen once.
    expect((await ask('/sources/papers/looks', { as: 'marisol', ...NOTE(true) })).status).toBe(204);
    const { entries } = (await ask('/audit?kind=looksNoted', { as: 'marisol' })).body;
    expect(entries).toMatchObject([{ actor: 'marisol', about: { source: 'Papers', folder: 'Closed', isOn: 1 } }]);
    const { folders } = (await ask('/directory', { as: 'wren' })).body;
    expect(folders.map(({ id, notesLooks }: { id: string; notesLooks: boolean }) => [id, notesLooks])).toEqual(
      expect.arrayContaining([
        ['closed', true],
        ['below', false],
        ['open', false],
      ]),
    );
  });
});

describe('who opens a document', () => {
  let secret = '';
  beforeEach(async () => {
    await ask('/sources/papers/looks', { as: 'marisol', ...NOTE(true) });
    secret = await paper('below', 'Secret.md');
  });

  it('is noted where that is chosen, leaves the document as it is, and is told to whoever reads it', async () => {
    const free = await paper('open', 'Free.md');
    const before = (await ask(`/items/${secret}`, { as: 'mei' })).body;
    expect(before.looks).toEqual({ isNoted: true, last: [] });
    museum.clock.set(museum.clock.now() + MINUTE_MS);
    expect(await open('ines', free)).toBe(200);
    expect(await open('ines', secret)).toBe(200);
    expect(await looksAt(free)).toEqual([]);
    const after = (await ask(`/items/${secret}`, { as: 'mei' })).body;
    expect(after.looks.last).toEqual([{ person: 'ines', at: expect.any(String) }]);
    expect({ ...after, looks: before.looks }).toEqual(before);
    expect((await ask(`/items/${free}`, { as: 'mei' })).body.looks).toEqual({ isNoted: false, last: [] });
    const [look] = await rows(museum.pool, store.changes.from(['papers'], Date.parse(after.looks.last[0].at)));
    expect(look).toMatchObject({
      kind: 'opened',
      actor: 'ines',
      before: look?.after,
      folder: 'below',
      itemVersion: null,
    });
  });

  it('is noted of no one who may not read it, or sees none of it', async () => {
    expect(await open('wren', secret)).toBe(404);
    expect(await open('ines', secret, { asked: '?number=7' })).toBe(404);
    expect(await open('ines', secret, { method: 'HEAD' })).toBe(200);
    expect(await looksAt(secret)).toEqual([]);
  });

  it('is one look for a quarter of an hour, however it is looked at and however often at once', async () => {
    await Promise.all([open('ines', secret), open('ines', secret, { asked: '?as=download' }), open('ines', secret)]);
    museum.clock.set(museum.clock.now() + 14 * MINUTE_MS);
    await open('ines', secret, { asked: '?as=text' });
    expect(await looksAt(secret)).toEqual(['ines']);
    museum.clock.set(museum.clock.now() + 2 * MINUTE_MS);
    await open('ines', secret);
    await open('mei', secret);
    expect(await looksAt(secret)).toEqual(['ines', 'ines', 'mei']);
    // What has changed since is another thing to look at.
    museum.clock.set(museum.clock.now() + MINUTE_MS);
    const { upload } = (await handIn('mei', 'papers', 'Secret.md', 'Other words')).body;
    await ask(`/items/${secret}/versions`, { as: 'mei', method: 'POST', body: { upload } });
    museum.clock.set(museum.clock.now() + MINUTE_MS);
    await open('ines', secret);
    expect(await looksAt(secret)).toEqual(['ines', 'ines', 'mei', 'ines']);
  });

  it('stands in the trail where it is asked for, and is no edit anybody has to catch up with', async () => {
    const { version } = (await ask(`/items/${secret}`, { as: 'mei' })).body.item;
    await open('ines', secret);
    const of = async (as: string, more = '') =>
      (await ask(`/trail?item=${secret}${more}`, { as })).body.entries.map(
        ({ row }: { row: { kind: string } }) => row.kind,
      );
    expect(await of('mei')).toEqual(['created']);
    expect(await of('mei', '&kind=opened')).toEqual(['opened']);
    expect(await of('wren', '&kind=opened')).toEqual([]);
    const edited = await ask(`/items/${secret}`, {
      as: 'mei',
      method: 'PATCH',
      body: { from: version, set: { approver: 'ines' } },
    });
    expect(edited.body).toMatchObject({ version: version + 1, lastBy: 'mei' });
    const { items } = (await ask('/sources/papers/items?text=Secret', { as: 'mei' })).body;
    expect(items.find(({ id }: { id: string }) => id === secret).last).toMatchObject({ kind: 'changed' });
  });

  it('is told by a rule that waits for just that, and by no other', async () => {
    const common = {
      owner: 'ines',
      zone: 'UTC',
      scope: { sources: ['papers'] },
      channels: ['inApp'],
      to: [{ person: 'mei' }],
    };
    await putLive(
      museum.pool,
      rule({ ...common, id: 'opened', name: 'Opened', when: { kinds: ['opened'] } }),
      museum.clock.now(),
    );
    await putLive(museum.pool, rule({ ...common, id: 'any', name: 'Any', when: {} }), museum.clock.now());
    museum.clock.set(museum.clock.now() + MINUTE_MS);
    await open('ines', secret);
    await settle();
    const told = await rows(
      museum.pool,
      raw<{ rule_id: string }>("SELECT rule_id FROM alerts WHERE rule_id IN ('opened', 'any')"),
    );
    expect(told.map(({ rule_id }) => rule_id)).toEqual(['opened']);
    const [message] = await rows(
      museum.pool,
      raw<{ subject: string }>(
        "SELECT m.subject FROM messages m JOIN message_alerts ma ON ma.message_id = m.id JOIN alerts a ON a.id = ma.alert_id WHERE m.person_id = 'mei' AND a.rule_id = 'opened'",
      ),
    );
    expect(message?.subject).toBe('Secret.md was opened');
  });

  it('counts in the trial of a rule that waits for just that, and for no other', async () => {
    const counted = async (when: object) => {
      const document = { name: 'A try', scope: { sources: ['papers'] }, when, to: [{ person: 'mei' }] };
      const { body } = await ask('/rules/cost', { as: 'mei', method: 'POST', body: { document } });
      return [body.all.length, body.caught.length];
    };
    const before = await counted({});
    const ofLooks = await counted({ kinds: ['opened'] });
    museum.clock.set(museum.clock.now() + MINUTE_MS);
    await open('ines', secret);
    expect(await counted({})).toEqual(before);
    expect(await counted({ kinds: ['opened'] })).toEqual(ofLooks.map((count) => count + 1));
  });

  it('is noted no longer once that is switched off; what was noted stays as long as the trail, also of what stands still', async () => {
    await open('ines', secret);
    await ask('/sources/papers/looks', { as: 'marisol', ...NOTE(false) });
    museum.clock.set(museum.clock.now() + DAY_MS);
    await open('ines', secret);
    expect((await ask(`/items/${secret}`, { as: 'mei' })).body.looks).toMatchObject({
      isNoted: false,
      last: [{ person: 'ines' }],
    });
    await settle();
    const old = await rows(museum.pool, store.keeping.oldChanges(museum.clock.now(), [], 100));
    const looks = await rows(
      museum.pool,
      raw<{ seq: number }>("SELECT seq FROM changes WHERE item_id = ? AND kind = 'opened'", secret),
    );
    expect(old.map(({ seq }) => seq)).toEqual(expect.arrayContaining(looks.map(({ seq }) => Number(seq))));
  });
});

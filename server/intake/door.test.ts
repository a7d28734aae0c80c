import { raw } from '../testing/raw.ts';
import { describe, expect, it } from 'vitest';
import { Refusal } from '../../contract/problems.ts';
import { edit, LOANS, newLoan, NOON, setUpMuseum } from '../testing/museum.ts';
import { inTransaction, one, rows, store, type StoredItem } from '../store/index.ts';
import { type Conflict, editItem, passDoor } from './index.ts';

const museum = setUpMuseum();
const itemNow = async (id: string) => (await one(museum.pool, store.items.byId(id))) as StoredItem;
const trailOf = async (id: string) => await rows(museum.pool, store.changes.ofItem(id, 100));

describe('the door', () => {
  it('writes the item, its version, its change and its place in the queue together', async () => {
    const id = await newLoan(museum.pool, { status: 'Agreed' });
    await edit(museum.pool, id, { status: 'On view' });
    expect(await itemNow(id)).toMatchObject({ version: 2, fields: { status: 'On view' }, lastBy: 'wren' });
    const [change] = await trailOf(id);
    expect(change).toMatchObject({
      kind: 'changed',
      itemVersion: 2,
      before: { status: 'Agreed' },
      after: { status: 'On view' },
    });
    expect(await rows(museum.pool, raw('SELECT * FROM change_queue WHERE item_id = ?', id))).toHaveLength(2);
  });

  it('writes none of them where the transaction fails after it', async () => {
    const id = await newLoan(museum.pool, { status: 'Agreed' });
    const failed = inTransaction(museum.pool, async (on) => {
      await passDoor(on, {
        actor: 'wren',
        source: LOANS,
        item: id,
        kind: 'changed',
        set: { status: 'Returned' },
        at: NOON,
      });
      throw new Error('cut off');
    });
    await expect(failed).rejects.toThrow('cut off');
    expect(await itemNow(id)).toMatchObject({ version: 1, fields: { status: 'Agreed' } });
    expect(await trailOf(id)).toHaveLength(1);
  });

  it('makes no change of an edit that leaves all as it was', async () => {
    const id = await newLoan(museum.pool, { status: 'Agreed', insured: { amount: '100.00', currency: 'EUR' } });
    expect(await edit(museum.pool, id, { insured: { amount: '100', currency: 'EUR' }, note: '  ' })).toMatchObject({
      outcome: 'unchanged',
    });
    expect(await trailOf(id)).toHaveLength(1);
  });

  it('refuses what cannot stand, with every fault and what would be allowed', async () => {
    const id = await newLoan(museum.pool, { status: 'Agreed' });
    const refused = edit(museum.pool, id, { status: 'Lost', insured: '12', colour: 'red' });
    await expect(refused).rejects.toMatchObject({
      code: 'badValues',
      grounds: {
        faults: [
          {
            path: 'status',
            code: 'unknownOption',
            params: { allowed: ['Requested', 'Agreed', 'On view', 'Returned'] },
          },
          { path: 'insured', code: 'needsMoney' },
          { path: 'colour', code: 'unknownField' },
        ],
      },
    });
  });

  it('tells the second of two writers what changed meanwhile, by whom, with both values', async () => {
    const id = await newLoan(museum.pool, { status: 'Agreed', note: 'old' });
    await edit(museum.pool, id, { note: 'of Mei', due: '2026-05-01' }, { actor: 'mei', from: 1 });
    const refusal = await edit(museum.pool, id, { note: 'of Wren' }, { from: 1 }).catch(
      (error: unknown) => error as Refusal,
    );
    expect(refusal).toBeInstanceOf(Refusal);
    const conflict = (refusal as Refusal).grounds.conflict as Conflict;
    expect(conflict).toEqual({
      version: 2,
      meanwhile: [
        { field: 'due', by: 'mei', at: NOON, started: null, theirs: '2026-05-01' },
        { field: 'note', by: 'mei', at: NOON, started: 'old', theirs: 'of Mei', yours: 'of Wren' },
      ],
    });
    expect((await itemNow(id)).fields.note).toBe('of Mei');
    await edit(museum.pool, id, { note: 'of Wren' }, { from: conflict.version });
    expect((await itemNow(id)).fields.note).toBe('of Wren');
  });

  it('lets exactly one of many writers through from the same version, and loses no change of those who do not look', async () => {
    const id = await newLoan(museum.pool, { status: 'Agreed' });
    const guarded = await Promise.allSettled(
      Array.from({ length: 8 }, (_, at) => edit(museum.pool, id, { note: `note ${at}` }, { from: 1 })),
    );
    expect(guarded.filter((one) => one.status === 'fulfilled')).toHaveLength(1);
    await Promise.all(Array.from({ length: 8 }, (_, at) => edit(museum.pool, id, { note: `again ${at}` })));
    const trail = (await trailOf(id)).reverse();
    expect(trail.map((change) => change.itemVersion)).toEqual(Array.from({ length: 10 }, (_, at) => at + 1));
    for (const [at, change] of trail.slice(1).entries()) expect(change.before).toEqual(trail[at]?.after);
  });

  it('deletes, and brings back as it was', async () => {
    const id = await newLoan(museum.pool, { status: 'Agreed' });
    await editItem(museum.pool, { actor: 'wren', source: LOANS, item: id, kind: 'deleted', at: NOON });
    await expect(edit(museum.pool, id, { status: 'On view' })).rejects.toMatchObject({ code: 'gone' });
    await editItem(museum.pool, { actor: 'wren', source: LOANS, item: id, kind: 'restored', at: NOON });
    const [restored, deleted] = await trailOf(id);
    expect(deleted).toMatchObject({ kind: 'deleted', after: null });
    expect(restored).toMatchObject({ kind: 'restored', before: null, after: { status: 'Agreed' } });
    expect(await itemNow(id)).toMatchObject({ isDeleted: false, createdBy: 'ines' });
  });

  it('never lets one item’s time run backwards', async () => {
    const id = await newLoan(museum.pool, { status: 'Agreed' });
    await edit(museum.pool, id, { status: 'On view' }, { at: NOON - 60_000 });
    expect((await trailOf(id))[0]?.at).toBe(NOON);
  });
});

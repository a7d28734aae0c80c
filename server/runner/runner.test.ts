import { fromJson, raw } from '../testing/raw.ts';
import { beforeEach, describe, expect, it } from 'vitest';
import { instantOf } from '../../core/time/index.ts';
import { DeliveryError } from '../delivery/index.ts';
import { tellTroubles } from '../acts/index.ts';
import { editItem, passDoor } from '../intake/index.ts';
import { DirectoryCache, inTransaction, one, query, rows, run, runAll, store } from '../store/index.ts';
import {
  breakingPool,
  clearAway,
  edit,
  fates,
  KeepingCarrier,
  LOANS,
  makeRunner,
  makeSender,
  newLoan,
  NOON,
  ON_VIEW,
  putLive,
  rule,
  setUpMuseum,
  withheld,
} from '../testing/museum.ts';

const museum = setUpMuseum();
beforeEach(async () => {
  await clearAway(museum.pool);
  museum.clock.set(NOON);
});

const undecided = async () =>
  Number((await one(museum.pool, raw<{ open: number }>('SELECT COUNT(*) AS open FROM change_queue')))?.open);

async function setOnView(): Promise<string> {
  await putLive(museum.pool, ON_VIEW, NOON - 1000);
  const id = await newLoan(museum.pool, { status: 'Agreed', registrar: 'ines' });
  await edit(museum.pool, id, { status: 'On view' });
  return id;
}

describe('the runner', () => {
  it('tells those the rule names, and says of the others why not', async () => {
    const id = await setOnView();
    await edit(museum.pool, id, { note: 'label fixed' });
    await makeRunner(museum.pool, museum.clock).drain();
    const subject = `Loan ${id}: Status Agreed → On view`;
    expect(await fates(museum.pool)).toEqual([
      `ines inApp delivered: ${subject}`,
      `ines email waiting: ${subject}`,
      `mei inApp delivered: ${subject}`,
      `mei email waiting: ${subject}`,
    ]);
    expect(await withheld(museum.pool)).toEqual([`${id} petra: noAccess`, `${id} wren: ownChange`]);
    expect(await undecided()).toBe(0);
  });

  it('decides by the version that was live when it happened', async () => {
    await putLive(museum.pool, ON_VIEW, NOON + 1000);
    const id = await newLoan(museum.pool, { status: 'Agreed', registrar: 'ines' });
    await edit(museum.pool, id, { status: 'On view' }, { at: NOON + 999 });
    await makeRunner(museum.pool, museum.clock).drain();
    expect(await fates(museum.pool)).toEqual([]);
    await edit(museum.pool, id, { status: 'Agreed' }, { at: NOON + 1000 });
    await edit(museum.pool, id, { status: 'On view' }, { at: NOON + 1001 });
    await makeRunner(museum.pool, museum.clock).drain();
    expect(await fates(museum.pool)).toHaveLength(4);
  });

  it('comes to the same wherever it is killed, and tells everybody once', async () => {
    const id = await setOnView();
    let killedAt = 0;
    for (let statement = 1; ; statement++) {
      const { pool, wasBroken } = breakingPool(museum.pool, statement);
      await makeRunner(pool, museum.clock)
        .drain()
        .catch(() => undefined);
      if (!wasBroken()) break;
      killedAt = statement;
      // Whatever was cut off left either everything or nothing.
      const messages = await fates(museum.pool);
      expect([0, 4]).toContain(messages.length);
      if (messages.length === 4) expect(await undecided()).toBe(0);
    }
    // A look at the queues, the turn, the world, what the step asks for, the commit.
    expect(killedAt).toBeGreaterThanOrEqual(5);
    const email = new KeepingCarrier();
    await makeRunner(museum.pool, museum.clock).drain();
    await makeSender(museum.pool, museum.clock, { email, text: new KeepingCarrier() }).drain();
    expect(email.taken.map((parcel) => parcel.address).sort()).toEqual(['ines@marisma.example', 'mei@marisma.example']);
    expect(await withheld(museum.pool)).toEqual([`${id} petra: noAccess`, `${id} wren: ownChange`]);
  });

  it('lets several runners share the work, and decides each change once', async () => {
    await putLive(museum.pool, ON_VIEW, NOON - 1000);
    const ids = await Promise.all(
      Array.from({ length: 30 }, () => newLoan(museum.pool, { status: 'Agreed', registrar: 'ines' })),
    );
    await Promise.all(ids.map((id) => edit(museum.pool, id, { status: 'On view' })));
    await Promise.all([1, 2, 3].map(() => makeRunner(museum.pool, museum.clock).drain()));
    await makeRunner(museum.pool, museum.clock).drain();
    expect(await fates(museum.pool)).toHaveLength(30 * 4);
    expect(await rows(museum.pool, raw('SELECT id FROM alerts'))).toHaveLength(30);
  });

  it('gathers for a digest in each one’s zone, and what was gathered survives a restart', async () => {
    await putLive(museum.pool, { ...ON_VIEW, pace: { kind: 'digest', every: 'day', at: '08:30' } }, NOON - 1000);
    const first = await newLoan(museum.pool, { status: 'Agreed', registrar: 'ines' });
    const second = await newLoan(museum.pool, { status: 'Agreed', registrar: 'ines' });
    for (const id of [first, second]) await edit(museum.pool, id, { status: 'On view' });
    await edit(museum.pool, second, { status: 'Agreed' });
    await edit(museum.pool, second, { status: 'On view' });
    await makeRunner(museum.pool, museum.clock).drain();
    expect(await fates(museum.pool)).toEqual([]);
    museum.clock.set(instantOf('2026-03-05T07:29:59Z'));
    await makeRunner(museum.pool, museum.clock).drain();
    expect(await fates(museum.pool)).toEqual([]);
    museum.clock.set(instantOf('2026-03-05T07:30:01Z'));
    await makeRunner(museum.pool, museum.clock).drain();
    expect(await fates(museum.pool)).toEqual(
      ['ines', 'mei'].flatMap((person) => [
        `${person} inApp delivered: Loan agreements: 2 now On view`,
        `${person} email waiting: Loan agreements: 2 now On view`,
      ]),
    );
    expect(await rows(museum.pool, raw("SELECT seq FROM engine_rows WHERE shelf = 'waiting'"))).toEqual([]);
  });

  it('runs what fell due before a change, by whatever clock that was stamped', async () => {
    await putLive(museum.pool, { ...ON_VIEW, pace: { kind: 'settled', quiet: 'PT2S', most: 'PT8S' } }, NOON - 1000);
    const id = await newLoan(museum.pool, { status: 'Agreed', registrar: 'ines' });
    await edit(museum.pool, id, { status: 'On view' });
    await makeRunner(museum.pool, museum.clock).drain();
    await edit(museum.pool, id, { status: 'Agreed' }, { at: NOON + 4990 });
    await edit(museum.pool, id, { status: 'On view' }, { at: NOON + 5000 });
    await makeRunner(museum.pool, museum.clock).drain();
    const alerts = await rows(museum.pool, raw<{ at: number; changes: string }>('SELECT at, changes FROM alerts'));
    expect(alerts.map((alert) => [alert.at - NOON, fromJson<string[]>(alert.changes).length])).toEqual([[2000, 1]]);
  });

  it('takes a later step only of what is still unread', async () => {
    await putLive(
      museum.pool,
      rule({ ...ON_VIEW, channels: null, to: [{ person: 'ines' }, { person: 'mei' }], id: 'by-plan' }),
      NOON - 1000,
    );
    const id = await newLoan(museum.pool, { status: 'Agreed' });
    await edit(museum.pool, id, { status: 'On view' });
    await makeRunner(museum.pool, museum.clock).drain();
    await run(museum.pool, store.acts.queueSeen({ input: 'read', at: NOON + 60_000, person: 'mei' }));
    museum.clock.set(NOON + 15 * 60_000 + 1000);
    await makeRunner(museum.pool, museum.clock).drain();
    const subject = `Loan ${id}: Status Agreed → On view`;
    expect(await fates(museum.pool)).toEqual([
      `ines inApp delivered: ${subject}`,
      `ines email waiting: ${subject}`,
      `mei inApp delivered: ${subject}`,
    ]);
  });

  it('sets a rule aside that cannot be judged, marks it, and tells by all others', async () => {
    await putLive(
      museum.pool,
      rule({ ...ON_VIEW, id: 'near', during: { near: { field: 'due', ahead: 'P30D' } } }),
      NOON - 1000,
    );
    const item = await newLoan(museum.pool, { status: 'On view', due: '2026-03-20' });
    // No door lets such a date in; it stands for whatever a later fault of ours may leave behind.
    await run(
      museum.pool,
      query("UPDATE changes SET fields_after = JSON_SET(fields_after, '$.due', 'one day') WHERE item_id = ?", item),
    );
    await setOnView();
    await makeRunner(museum.pool, museum.clock).drain();
    expect(await undecided()).toBe(0);
    expect(
      (await rows(museum.pool, raw<{ rule_id: string }>('SELECT rule_id FROM alerts'))).map((row) => row.rule_id),
    ).toEqual(['on-view', 'on-view']);
    expect(await rows(museum.pool, raw('SELECT rule_id, version, code, times FROM rule_troubles'))).toEqual([
      { rule_id: 'near', version: 1, code: 'cannotBeJudged', times: 1 },
    ]);
    const directory = await new DirectoryCache().current(museum.pool);
    expect(await tellTroubles(museum.pool, NOON, directory)).toBe(true);
    expect(await tellTroubles(museum.pool, NOON, directory)).toBe(false);
    const told = await rows(
      museum.pool,
      raw<{ person_id: string; subject: string }>(
        "SELECT person_id, subject FROM messages WHERE form = 'notice' ORDER BY person_id",
      ),
    );
    expect(told.map((row) => row.person_id)).toEqual(expect.arrayContaining(['ines']));
    expect(told.every((row) => row.subject.includes('A rule needs you'))).toBe(true);
  });

  it('puts off what cannot be written, sets it aside after some tries, and takes it up again when asked', async () => {
    const stuck = await newLoan(museum.pool, { status: 'On view', registrar: 'ines' });
    await museum.pool.query(
      `CREATE TRIGGER refuse BEFORE INSERT ON alerts FOR EACH ROW IF JSON_CONTAINS(NEW.items, JSON_QUOTE('${stuck}')) THEN SIGNAL SQLSTATE '45001'; END IF`,
    );
    try {
      await setOnView();
      const runner = makeRunner(museum.pool, museum.clock);
      await runner.drain();
      // Everybody else's is told meanwhile.
      expect(await fates(museum.pool)).toHaveLength(4);
      for (let tries = 0; tries < 10; tries++) {
        museum.clock.set(NOON + (tries + 1) * 3_600_000);
        await runner.drain();
      }
      expect(await undecided()).toBe(0);
      const [aside] = await rows(museum.pool, store.aside.all());
      expect(aside).toMatchObject({ kind: 'change', item: stuck });
      await museum.pool.query('DROP TRIGGER refuse');
      if (aside) await inTransaction(museum.pool, (on) => runAll(on, store.aside.tryAgain(aside)));
      await runner.drain();
      expect(await fates(museum.pool)).toHaveLength(8);
      expect(await rows(museum.pool, store.aside.all())).toEqual([]);
    } finally {
      await museum.pool.query('DROP TRIGGER IF EXISTS refuse');
    }
  });

  it('is held up by nothing that a later one lacks, and puts off that one alone', async () => {
    const gathering = { when: { if: { changed: 'status' } }, pace: { kind: 'settled', quiet: 'PT1H', most: 'PT4H' } };
    await putLive(museum.pool, rule({ ...ON_VIEW, id: 'gathering', ...gathering }), NOON - 1000);
    const lacking = await newLoan(museum.pool, { status: 'Agreed', registrar: 'ines' }, NOON - 900);
    await edit(museum.pool, lacking, { status: 'On view' }, { at: NOON - 800 });
    const runner = makeRunner(museum.pool, museum.clock);
    await runner.drain();
    // What the trail has lost is nobody's doing; it stands for whatever a later fault of ours may leave behind.
    await run(museum.pool, query('DELETE FROM changes WHERE item_id = ? AND item_version = 2', lacking));
    const good = await newLoan(museum.pool, { status: 'Agreed', registrar: 'ines' }, NOON);
    await edit(museum.pool, good, { status: 'On view' }, { at: NOON + 1 });
    await edit(museum.pool, lacking, { note: 'label fixed' }, { at: NOON + 2 });
    museum.clock.set(NOON + 2 * 3_600_000);
    await runner.drain();
    expect(await rows(museum.pool, raw('SELECT items FROM alerts'))).toEqual([{ items: [good] }]);
    expect(await rows(museum.pool, raw('SELECT tries FROM timers'))).toEqual([{ tries: 1 }]);
  });

  it('leaves out a rule that can no longer be understood, and goes on with the others', async () => {
    await putLive(museum.pool, rule({ ...ON_VIEW, id: 'retired', when: { if: { changed: 'colour' } } }), NOON - 1000);
    await setOnView();
    await makeRunner(museum.pool, museum.clock).drain();
    expect(await fates(museum.pool)).toHaveLength(4);
  });
});

describe('a change foreseen while it is committed', () => {
  /** Edits as a page does, with a runner that knows the world already; gives the runner and the change. */
  async function foreseen(set: Record<string, string> = { status: 'On view' }) {
    await putLive(museum.pool, ON_VIEW, NOON - 1000);
    const item = await newLoan(museum.pool, { status: 'Agreed', registrar: 'ines' }, NOON - 900);
    const runner = makeRunner(museum.pool, museum.clock);
    await runner.drain();
    const done = await editItem(
      museum.pool,
      { actor: 'wren', source: LOANS, item, kind: 'changed', set, at: NOON },
      runner.foresee,
    );
    if (done.outcome !== 'saved') throw new Error('the edit says nothing');
    return { runner, item, change: done.change };
  }

  it('comes to what the queue would have come to', async () => {
    const { runner, item, change } = await foreseen();
    runner.wake(change);
    await runner.drain();
    expect(await fates(museum.pool)).toHaveLength(4);
    expect(await withheld(museum.pool)).toEqual([`${item} petra: noAccess`, `${item} wren: ownChange`]);
    expect(await undecided()).toBe(0);
  });

  it('is decided anew where a rule went live before it was written', async () => {
    const { runner, change } = await foreseen();
    await putLive(museum.pool, { ...ON_VIEW, id: 'second' }, NOON - 500);
    runner.wake(change);
    await runner.drain();
    const alerts = await rows(museum.pool, raw<{ rule_id: string }>('SELECT rule_id FROM alerts ORDER BY rule_id'));
    expect(alerts.map((row) => row.rule_id)).toEqual(['on-view', 'second']);
    expect(await fates(museum.pool)).toHaveLength(8);
  });

  it('is decided as of a later instant where something later has been decided before it was committed', async () => {
    await putLive(museum.pool, ON_VIEW, NOON - 1000);
    const [first, second] = [
      await newLoan(museum.pool, { status: 'Agreed', registrar: 'ines' }, NOON - 900),
      await newLoan(museum.pool, { status: 'Agreed', registrar: 'ines' }, NOON - 900),
    ];
    museum.clock.set(NOON + 5000);
    await editItem(museum.pool, {
      actor: 'wren',
      source: LOANS,
      item: first,
      kind: 'changed',
      set: { status: 'On view' },
      at: NOON + 2000,
    });
    const runner = makeRunner(museum.pool, museum.clock);
    await runner.drain();
    const late = await editItem(
      museum.pool,
      { actor: 'wren', source: LOANS, item: second, kind: 'changed', set: { status: 'On view' }, at: NOON + 1000 },
      runner.foresee,
    );
    if (late.outcome === 'saved') runner.wake(late.change);
    await runner.drain();
    const [moved] = await rows(
      museum.pool,
      raw<{ at: number; made_at: number }>(
        'SELECT c.at, c.made_at FROM changes c WHERE c.item_id = ? ORDER BY c.seq DESC LIMIT 1',
        second,
      ),
    );
    expect(moved).toEqual({ at: NOON + 2001, made_at: NOON + 1000 });
    expect(
      (await rows(museum.pool, raw<{ at: number }>('SELECT at FROM alerts ORDER BY at'))).map(({ at }) => at),
    ).toEqual([NOON + 2000, NOON + 2001]);
    expect(await rows(museum.pool, raw('SELECT last_at FROM items WHERE id = ?', second))).toEqual([
      { last_at: NOON + 2001 },
    ]);
  });

  it('leaves a batch at one instant, moved whole', async () => {
    await putLive(museum.pool, ON_VIEW, NOON - 1000);
    const ids: string[] = [];
    for (let loan = 0; loan < 60; loan++)
      ids.push(await newLoan(museum.pool, { status: 'Agreed', registrar: 'ines' }, NOON - 900));
    museum.clock.set(NOON + 5000);
    const other = await newLoan(museum.pool, { status: 'Agreed' }, NOON + 3000);
    const runner = makeRunner(museum.pool, museum.clock);
    await runner.drain();
    expect(other).not.toBe('');
    await inTransaction(museum.pool, async (on) => {
      for (const item of ids)
        await passDoor(on, {
          actor: 'wren',
          source: LOANS,
          item,
          kind: 'changed',
          set: { status: 'On view' },
          at: NOON + 1000,
          batch: 'b1',
        });
    });
    await runner.drain();
    expect(
      (await rows(museum.pool, raw<{ at: number }>("SELECT DISTINCT at FROM changes WHERE batch = 'b1'"))).map(
        ({ at }) => at,
      ),
    ).toEqual([NOON + 3001]);
    expect(
      (await rows(museum.pool, raw<{ items: string }>('SELECT items FROM alerts'))).map(
        ({ items }) => fromJson<string[]>(items).length,
      ),
    ).toEqual([60]);
  });

  it('is left alone where somebody else has decided it', async () => {
    const { runner, change } = await foreseen();
    await makeRunner(museum.pool, museum.clock).drain();
    runner.wake(change);
    await runner.drain();
    expect(await fates(museum.pool)).toHaveLength(4);
    expect(await rows(museum.pool, raw('SELECT id FROM alerts'))).toHaveLength(1);
  });

  it('waits for an earlier change of the same item', async () => {
    const { runner, item, change } = await foreseen({ note: 'first' });
    const later = await editItem(
      museum.pool,
      { actor: 'wren', source: LOANS, item, kind: 'changed', set: { status: 'On view' }, at: NOON },
      runner.foresee,
    );
    if (later.outcome !== 'saved') throw new Error('the edit says nothing');
    const decided: number[] = [];
    // It has read the world, so that only the guard keeps it from deciding the later one first.
    const known = new DirectoryCache();
    await known.current(museum.pool);
    const watching = makeRunner(museum.pool, museum.clock, known, (changes) =>
      decided.push(...changes.map((one) => one.seq)),
    );
    watching.wake(later.change);
    await watching.drain();
    expect(decided).toEqual([change.seq, later.change.seq]);
    expect(await fates(museum.pool)).toHaveLength(4);
  });
});

describe('the sender', () => {
  const text = new KeepingCarrier();

  it('tries again after a temporary failure, and gives up after one for good, with the reply', async () => {
    await setOnView();
    await makeRunner(museum.pool, museum.clock).drain();
    const email = new KeepingCarrier();
    const sender = makeSender(museum.pool, museum.clock, { email, text });
    email.failure = new DeliveryError('451 busy', true);
    await sender.drain();
    const waiting = await rows(
      museum.pool,
      raw<{ fate: string; reply: string; retry_at: number }>(
        "SELECT fate, reply, retry_at FROM messages WHERE channel = 'email'",
      ),
    );
    expect(waiting.map((row) => [row.fate, row.reply])).toEqual([
      ['waiting', '451 busy'],
      ['waiting', '451 busy'],
    ]);
    for (const row of waiting) expect(row.retry_at).toBeGreaterThan(NOON);
    museum.clock.set(NOON + 60_000);
    email.failure = new DeliveryError('550 no such mailbox', false);
    await sender.drain();
    expect((await fates(museum.pool)).filter((one) => one.includes('email failed'))).toHaveLength(2);
  });

  it('takes up what a dead sender left, under the same id', async () => {
    await setOnView();
    await makeRunner(museum.pool, museum.clock).drain();
    const dead = makeSender(museum.pool, museum.clock, {
      email: { carry: () => new Promise(() => undefined), close: () => undefined },
      text,
    });
    void dead.drain();
    await expect
      .poll(async () => (await fates(museum.pool)).filter((one) => one.includes('email sending')).length)
      .toBe(2);
    const email = new KeepingCarrier();
    const next = makeSender(museum.pool, museum.clock, { email, text });
    await next.drain();
    expect(email.taken).toEqual([]);
    museum.clock.set(NOON + 91_000);
    await next.drain();
    const ids = await rows(
      museum.pool,
      raw<{ id: string }>("SELECT id FROM messages WHERE channel = 'email' ORDER BY id"),
    );
    expect(email.taken.map((parcel) => parcel.id).sort()).toEqual(ids.map((row) => row.id));
  });

  it('judges once more whether they may read it, at the moment of sending', async () => {
    const id = await setOnView();
    await makeRunner(museum.pool, museum.clock).drain();
    await run(museum.pool, query("DELETE FROM group_members WHERE group_id = 'readers' AND member_id = 'mei'"));
    await run(museum.pool, query('UPDATE world_version SET version = version + 1'));
    const email = new KeepingCarrier();
    await makeSender(museum.pool, museum.clock, { email, text }).drain();
    expect(email.taken.map((parcel) => parcel.address)).toEqual(['ines@marisma.example']);
    expect(await withheld(museum.pool)).toContain(`${id} mei: noAccess`);
    await run(
      museum.pool,
      query("INSERT INTO group_members (group_id, kind, member_id) VALUES ('readers', 'person', 'mei')"),
    );
  });
});

import { beforeEach, describe, expect, it } from 'vitest';
import { DAY_MS, dateIn } from '../../core/time/index.ts';
import { query, rows, run, store } from '../store/index.ts';
import { askMuseum } from '../testing/asking.ts';
import { edit, newLoan, putLive, rule } from '../testing/museum.ts';
import { raw } from '../testing/raw.ts';

const { museum, ask, settle } = askMuseum();
const day = (ahead: number) => dateIn(museum.clock.now() + ahead * DAY_MS, 'UTC');
const plan = (deputy: string | null, from = day(2), until = day(9)) => ({
  plan: { absent: { from, until, deputy } },
  mutes: [],
});
const keep = (body: object, as = 'mei') => ask('/me/plan', { as, method: 'PUT', body });
const noticesOf = async (person: string) =>
  (
    await rows(
      museum.pool,
      raw<{ subject: string }>(
        "SELECT subject FROM messages WHERE person_id = ? AND form = 'notice' AND channel = 'inApp' AND subject LIKE '%in place of%' ORDER BY seq",
        person,
      ),
    )
  ).map(({ subject }) => subject);

beforeEach(async () => {
  await run(museum.pool, query('UPDATE people SET plan = NULL'));
  await run(museum.pool, query('DELETE FROM messages'));
  await run(museum.pool, store.world.raise());
});

describe('who hears in somebody’s place', () => {
  it('is told so, once for what is agreed, and when it is no longer so', async () => {
    expect((await keep(plan('wren'))).status).toBe(200);
    expect(await noticesOf('wren')).toEqual(['You hear in place of Mei']);
    // The same again, with something else beside it, is nothing new.
    const same = plan('wren');
    expect((await keep({ ...same, plan: { ...same.plan, quiet: [] } })).status).toBe(200);
    expect(await noticesOf('wren')).toHaveLength(1);
    await keep(plan('wren', day(2), day(12)));
    expect(await noticesOf('wren')).toHaveLength(2);
    await keep(plan('petra'));
    expect(await noticesOf('wren')).toEqual([
      'You hear in place of Mei',
      'You hear in place of Mei',
      'You no longer hear in place of Mei',
    ]);
    expect(await noticesOf('petra')).toEqual(['You hear in place of Mei']);
    await keep({ plan: null, mutes: [] });
    expect((await noticesOf('petra')).at(-1)).toBe('You no longer hear in place of Mei');
  });

  it('hears nothing of days that are over, or where nobody is named', async () => {
    await keep(plan('wren', day(-9), day(-2)));
    await keep(plan(null));
    await keep({ plan: null, mutes: [] });
    expect(await noticesOf('wren')).toEqual([]);
  });
});

describe('somebody who cannot hear in one’s place', () => {
  it('is refused, by whichever way a plan is kept, and where they stand', async () => {
    for (const deputy of ['mei', 'nobody-here']) {
      const refused = await keep(plan(deputy));
      expect([refused.status, refused.body.faults[0].path]).toEqual([400, 'plan.absent.deputy']);
      const back = await ask('/less/back', { as: 'mei', method: 'POST', body: { ...plan(deputy), rule: null } });
      expect([back.status, back.body.faults[0].code]).toEqual([400, 'noDeputy']);
    }
    expect((await ask('/me/plan', { as: 'mei' })).body.plan).toBeNull();
  });

  it('keeps nobody from changing their plan once those days are over', async () => {
    await keep(plan('wren', day(2), day(3)));
    await run(museum.pool, query("UPDATE people SET is_active = 0 WHERE id = 'wren'"));
    await run(museum.pool, store.world.raise());
    const { plan: absent } = plan('wren', day(2), day(3));
    museum.clock.set(museum.clock.now() + 5 * DAY_MS);
    expect((await keep({ plan: { ...absent, quiet: [] }, mutes: [] })).status).toBe(200);
    await run(museum.pool, query("UPDATE people SET is_active = 1 WHERE id = 'wren'"));
    await run(museum.pool, store.world.raise());
  });
});

describe('the week of whoever is away', () => {
  it('stays what would come, and says how much of it who hears in their place may not read', async () => {
    const common = { owner: 'ines', zone: 'UTC', scope: { sources: ['loans'] }, when: { if: { changed: 'note' } } };
    const now = museum.clock.now();
    await putLive(
      museum.pool,
      rule({ ...common, id: 'notes', name: 'Notes', to: [{ person: 'mei' }], channels: ['inApp'] }),
      now,
    );
    const loan = await newLoan(museum.pool, { title: 'Reed Gate', status: 'Agreed' }, now);
    await edit(museum.pool, loan, { note: 'One' }, { at: now + 1000 });
    await settle();
    museum.clock.set(now + DAY_MS);
    const week = async (body: object) => (await ask('/me/plan/week', { as: 'mei', method: 'POST', body })).body;
    const here = await week({ plan: null, mutes: [] });
    expect(here).toMatchObject({ inPlace: null, planned: [{ subject: expect.stringContaining('Reed Gate') }] });
    const away = await week(plan('wren', day(0), day(9)));
    expect(away.planned).toEqual(here.planned);
    expect(away.inPlace).toEqual({ person: 'wren', told: 1, unheard: 0, isAway: false });
    // Whoever may not read loans hears nothing of it, and who is away themselves hears nothing at all.
    await run(
      museum.pool,
      query(
        'UPDATE people SET plan = ? WHERE id = ?',
        JSON.stringify({ absent: { from: day(9), until: day(11), deputy: null } }),
        'petra',
      ),
    );
    await run(museum.pool, store.world.raise());
    expect((await week(plan('petra', day(0), day(9)))).inPlace).toEqual({
      person: 'petra',
      told: 1,
      unheard: 1,
      isAway: true,
    });
    expect((await week(plan('wren', day(-9), day(-2)))).inPlace).toBeNull();
    expect((await week(plan(null))).inPlace).toBeNull();
  });
});

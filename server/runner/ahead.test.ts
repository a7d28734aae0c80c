import { beforeEach, describe, expect, it, vi } from 'vitest';
import { scenarioSchema } from '../../contract/documents/index.ts';
import { simulate } from '../../core/decide/index.ts';
import { printInstant } from '../../core/time/index.ts';
import type { Fields } from '../../core/values/index.ts';
import { rows, run, store } from '../store/index.ts';
import { logOf } from '../testing/log.ts';
import { clearAway, edit, makeRunner, newLoan, NOON, ON_VIEW, putLive, rule, setUpMuseum } from '../testing/museum.ts';
import { fromJson, raw } from '../testing/raw.ts';

const counted = vi.hoisted(() => ({ fitting: 0, others: 0 }));
vi.mock('./turn.ts', async (original) => {
  const real = await original<typeof import('./turn.ts')>();
  return {
    ...real,
    stillFits: (...words: Parameters<typeof real.stillFits>) => {
      const fits = real.stillFits(...words);
      if (fits) counted.fitting += 1;
      else counted.others += 1;
      return fits;
    },
  };
});

const museum = setUpMuseum();
const loans = (id: string, more: Record<string, unknown>) =>
  rule({
    id,
    name: id,
    owner: 'ines',
    zone: 'Europe/Madrid',
    scope: { sources: ['loans'] },
    to: [{ person: 'mei' }, { field: 'registrar' }],
    channels: ['inApp', 'email'],
    ...more,
  });
/** What one change leaves behind decides what comes of the next: so many within a while, no more than one within a while. */
const RULES = [
  ON_VIEW,
  loans('burst', { when: { if: { changed: 'status' }, burst: { count: 7, within: 'PT1H', per: 'item' } } }),
  loans('limited', { when: { if: { changed: 'note' } }, limit: { per: 'rule', within: 'PT2S' } }),
];
const TURN = 100;
const STATUS = ['Agreed', 'On view'];

/** Loans that are edited in turn, some hundred changes in all, one every 20 ms. */
async function queueUp(count: number): Promise<{ next: () => Promise<void> }> {
  const ids: string[] = [];
  let made = 0;
  const turned = new Map<string, number>();
  const at = () => NOON + 20 * ++made;
  for (let loan = 0; loan < 4; loan++)
    ids.push(await newLoan(museum.pool, { status: 'Agreed', registrar: loan % 2 === 0 ? 'ines' : 'wren' }, at()));
  const next = async () => {
    const number = made;
    const item = ids[number % ids.length] ?? '';
    const isNote = Math.floor(number / ids.length) % 3 === 0;
    if (!isNote) turned.set(item, (turned.get(item) ?? 0) + 1);
    const set: Fields = isNote ? { note: `Note ${number}` } : { status: STATUS[(turned.get(item) ?? 0) % 2] ?? '' };
    await edit(museum.pool, item, set, { at: at(), actor: 'petra' });
  };
  while (made < count) await next();
  return { next };
}

/** What the database has, and what the log comes to when it is replayed. */
async function comparedToTheLog() {
  const alerts = await rows(
    museum.pool,
    raw<{ rule_id: string; at: number; items: string; changes: string; suppressed: number }>(
      'SELECT rule_id, at, items, changes, suppressed FROM alerts',
    ),
  );
  const log = scenarioSchema.parse(JSON.parse(JSON.stringify(await logOf(museum.pool, NOON - 1000, NOON + 60_000))));
  return {
    ours: alerts
      .map(
        (row) =>
          `${printInstant(row.at)} ${row.rule_id} ${fromJson<string[]>(row.items)} ${fromJson<string[]>(row.changes)} ${row.suppressed}`,
      )
      .sort(),
    replayed: simulate(log)
      .alerts.map((row) => `${row.at} ${row.rule} ${row.items} ${row.changes} ${row.suppressed}`)
      .sort(),
  };
}

describe('a turn that is decided while the one before it is written', { timeout: 60_000 }, () => {
  beforeEach(async () => {
    await clearAway(museum.pool);
    for (const each of RULES) await putLive(museum.pool, each, NOON - 1000);
    Object.assign(counted, { fitting: 0, others: 0 });
  });

  it('knows what that one left, and comes to what the log comes to', async () => {
    await queueUp(4 * TURN + 30);
    await makeRunner(museum.pool, museum.clock).drain();
    const { ours, replayed } = await comparedToTheLog();
    expect(ours).toEqual(replayed);
    expect(ours.length).toBeGreaterThan(50);
    expect(counted.fitting).toBeGreaterThanOrEqual(3);
  });

  it('counts for nothing where another had a turn in between, the world is otherwise, or more has come', async () => {
    const { next } = await queueUp(5 * TURN);
    const meddling = (async () => {
      for (let step = 0; step < 40; step++) {
        await next();
        if (step % 8 === 0) await run(museum.pool, store.world.raise());
      }
    })();
    await Promise.all([
      meddling,
      makeRunner(museum.pool, museum.clock).drain(),
      makeRunner(museum.pool, museum.clock).drain(),
    ]);
    await makeRunner(museum.pool, museum.clock).drain();
    const { ours, replayed } = await comparedToTheLog();
    expect(ours).toEqual(replayed);
    expect(counted.others).toBeGreaterThan(0);
  });
});

import { fromJson, raw, rawChanges } from '../testing/raw.ts';
import { expect, it } from 'vitest';
import { type Act, type Scenario, simulate } from '../../core/decide/index.ts';
import type { Plan } from '../../core/people/index.ts';
import type { Rule } from '../../core/rules/index.ts';
import { HOUR_MS, MINUTE_MS, printInstant } from '../../core/time/index.ts';
import type { Fields } from '../../core/values/index.ts';
import { pauseRule, publishRule, resumeRule } from '../acts/index.ts';
import { editItem } from '../intake/index.ts';
import { DirectoryCache, inTransaction, query, rows, run, store } from '../store/index.ts';
import {
  breakingPool,
  clearAway,
  LOANS,
  makeRunner,
  newLoan,
  NOON,
  ON_VIEW,
  putLive,
  rule,
  setUpMuseum,
} from '../testing/museum.ts';

const museum = setUpMuseum();
const PEOPLE = ['ines', 'mei', 'wren', 'petra'];

const one = (id: string, more: Record<string, unknown>) =>
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
const onView = { became: { field: 'status', op: 'is', value: 'On view' } };

/** A rule of every sort. */
const RULES: Rule[] = [
  ON_VIEW,
  one('acked', {
    urgency: 'critical',
    when: { if: onView },
    channels: null,
    ack: {
      remind: { after: 'PT40M', times: 2 },
      escalate: [{ after: 'PT1H', to: [{ person: 'marisol' }] }],
      allClear: true,
    },
  }),
  one('any', { when: {}, pace: { kind: 'digest', every: 'day', at: '09:00' } }),
  one('burst', { when: { if: { changed: 'note' }, burst: { count: 2, within: 'P1D', per: 'actor' } } }),
  one('by-plan', {
    urgency: 'important',
    when: { if: { changed: 'due' } },
    to: [{ group: 'insurers' }, { person: 'ines' }],
    channels: null,
  }),
  one('due', { due: { field: 'due', offset: '-P57D', at: '14:00', repeat: { every: 'P1D', times: 1 } } }),
  one('idle', { idle: { for: 'PT9H', repeat: { every: 'PT9H', times: 1 } } }),
  one('limited', {
    when: { if: { changed: 'note' } },
    limit: { per: 'item', within: 'PT5H' },
    about: 'namesRecipient',
  }),
  one('opened', {
    when: { kinds: ['opened'], if: { field: 'status', op: 'is', value: 'On view' } },
    to: [{ person: 'mei' }, { lastEditor: true }],
    pace: { kind: 'settled', quiet: 'PT20M', most: 'PT1H' },
  }),
  one('outside', { when: { if: onView }, to: [{ contact: 'ferro' }, { webhook: 'insurer' }, { creator: true }] }),
  one('paused', { when: { if: { changed: 'status' } }, to: [{ person: 'wren' }, { person: 'mei' }] }),
  one('report', {
    report: { every: 'day', at: '08:00', if: { field: 'status', op: 'is', value: 'On view' }, empty: true },
    message: { show: ['note'] },
  }),
  one('some', {
    when: { if: { changed: 'note' } },
    channels: null,
    to: [
      { tell: { person: 'mei' }, channels: ['email'] },
      {
        cases: [{ if: { field: 'status', op: 'is', value: 'On view' }, to: [{ person: 'petra' }] }],
        else: [{ person: 'wren' }],
      },
    ],
  }),
  one('tally', {
    scope: { sources: ['loans'], where: { field: 'status', op: 'is', value: 'On view' } },
    tally: { of: 'items', per: 'registrar', becomes: { op: 'atLeast', value: 2 } },
  }),
  one('settled', { when: { if: onView }, pace: { kind: 'settled', quiet: 'PT30M', most: 'PT3H' } }),
];

/** Somebody is away, and somebody has ways of their own for what is commented or changed. */
const PLANS: Record<string, Plan> = {
  petra: { absent: { from: '2026-03-05', until: '2026-03-06', deputy: 'ines' } },
  wren: { ways: [{ sources: ['loans'], kinds: ['changed'], steps: [{ channel: 'email' }] }] },
};

/** Chance with a printed seed. */
function chance(seed: number): (below: number) => number {
  let state = seed;
  return (below) => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
    return Math.floor((state / 2 ** 32) * below);
  };
}

/** Lets a runner work through all that is due, one that breaks off and is followed by another where it is to be cut. */
async function work(cutAt: number | null): Promise<void> {
  if (cutAt !== null)
    await makeRunner(breakingPool(museum.pool, cutAt).pool, museum.clock)
      .drain()
      .catch(() => undefined);
  await makeRunner(museum.pool, museum.clock).drain();
}

/** Days of editing, reading, acknowledging, pausing and publishing, decided by the server now and then; what people did, as acts of a scenario. */
async function live(seed: number, isCut: boolean): Promise<{ end: number; acts: Act[] }> {
  await clearAway(museum.pool);
  const { pool } = museum;
  await run(
    pool,
    query("INSERT INTO contacts (id, name, email, is_confirmed) VALUES ('ferro', 'Ana Ferro', 'ana@ferro.example', 1)"),
  );
  for (const [id, plan] of Object.entries(PLANS))
    await run(pool, query('UPDATE people SET plan = ? WHERE id = ?', JSON.stringify(plan), id));
  await run(pool, store.world.raise());
  const below = chance(seed);
  for (const each of RULES) await putLive(pool, each, NOON);
  museum.clock.set(NOON);
  const ids: string[] = [];
  for (let loan = 0; loan < 5; loan++)
    ids.push(
      await newLoan(
        pool,
        { status: 'Agreed', registrar: PEOPLE[below(4)] ?? 'ines', due: '2026-05-01' },
        NOON + 1 + loan,
      ),
    );
  const acts: Act[] = [];
  let isPaused = false;
  let version = 1;
  let at = NOON + 1000;
  for (let step = 0; step < 90; step++) {
    at += 1 + below(8) * below(12) * 5 * MINUTE_MS;
    const person = PEOPLE[below(4)] ?? 'ines';
    const what = below(20);
    if (what === 0) {
      acts.push({ do: 'read', at, person });
      await run(pool, store.acts.queueSeen({ input: 'read', at, person }));
    } else if (what === 1) {
      acts.push({ do: 'acknowledge', at, person, rule: 'acked' });
      await run(pool, store.acts.queueSeen({ input: 'acknowledge', at, person, rule: 'acked' }));
    } else if (what === 4) {
      const of = ['acked', 'tally', 'some', 'report'][below(4)] ?? 'some';
      const when = at + (1 + below(40)) * HOUR_MS;
      // They have seen it: it was decided before.
      await work(null);
      acts.push({ do: 'again', at, person, rule: of, when });
      await run(pool, store.acts.queue({ input: 'again', at, person, rule: of, when }));
    } else if (what === 2) {
      const now = at;
      const catchUp = (['each', 'summary', 'skip'] as const)[below(3)] ?? 'each';
      if (isPaused) acts.push({ do: 'resume', at, rule: 'paused', catchUp });
      else acts.push({ do: 'pause', at, rule: 'paused' });
      const pausing = isPaused;
      await inTransaction(pool, (on) =>
        pausing ? resumeRule(on, 'paused', catchUp, 'ines', now) : pauseRule(on, 'paused', 'ines', now),
      );
      isPaused = !isPaused;
    } else if (what === 3) {
      const changed = {
        ...(RULES.find((each) => each.id === 'settled') as Rule),
        urgency: below(2) === 0 ? ('routine' as const) : ('important' as const),
      };
      const [next, now] = [++version, at];
      acts.push({ do: 'publish', at, rule: changed });
      await inTransaction(pool, (on) => publishRule(on, changed, next, 'ines', now));
    } else {
      const set: Fields =
        [
          { status: ['Agreed', 'On view'][below(2)] ?? 'Agreed' },
          { note: `note ${below(4)}` },
          { due: `2026-05-0${1 + below(4)}` },
          { status: 'On view' },
        ][below(4)] ?? {};
      const item = ids[below(ids.length)] ?? '';
      await editItem(pool, {
        actor: person,
        source: LOANS,
        item,
        ...(what < 8 ? { kind: 'opened' } : { kind: 'changed', set }),
        at,
      });
    }
    // The server looks now and then, as it would; what is due in between is caught up with.
    museum.clock.set(at + 300);
    if (below(3) === 0) await work(isCut ? 1 + below(14) : null);
  }
  const end = at + 40 * HOUR_MS;
  museum.clock.set(end + 300);
  for (let cut = 1; isCut && cut < 40; cut += 3) await work(cut);
  await work(null);
  return { end, acts };
}

async function replayed({ end, acts }: { end: number; acts: Act[] }) {
  const directory = await new DirectoryCache().current(museum.pool);
  const changes = await rows(museum.pool, rawChanges('SELECT * FROM changes ORDER BY at, seq'));
  const scenario: Scenario = {
    start: NOON,
    end,
    people: [...directory.people.values()],
    groups: [...directory.groups.values()],
    sources: [...directory.sources.values()],
    folders: [],
    access: [...directory.access],
    items: [],
    contacts: [...directory.contacts.values()],
    followers: [],
    wordings: [],
    rules: RULES.map((each) => ({ rule: each, from: NOON })),
    inputs: [...changes, ...acts].sort((a, b) => a.at - b.at),
  };
  return simulate(scenario);
}

/** What came about over all the runs. */
const seen = new Set<string>();

it.each([
  [1, false],
  [2, false],
  [3, true],
  [4, true],
  [5, true],
])(
  'the log replayed with the rules of the time gives what the server sent (seed %i, cut off at any point: %s)',
  async (seed, isCut) => {
    const outcome = await replayed(await live(seed, isCut));
    const alerts = await rows(
      museum.pool,
      raw<{ rule_id: string; at: number; items: string; changes: string; suppressed: number }>(
        'SELECT rule_id, at, items, changes, suppressed FROM alerts',
      ),
    );
    expect(
      alerts
        .map(
          (row) =>
            `${printInstant(row.at)} ${row.rule_id} ${fromJson<string[]>(row.items)} ${fromJson<string[]>(row.changes)} ${row.suppressed}`,
        )
        .sort(),
    ).toEqual(
      outcome.alerts.map((each) => `${each.at} ${each.rule} ${each.items} ${each.changes} ${each.suppressed}`).sort(),
    );
    const messages = await rows(
      museum.pool,
      raw<{ person_id: string; channel: string; at: number; form: string; subject: string }>(
        'SELECT person_id, channel, at, form, subject FROM messages',
      ),
    );
    expect(
      messages
        .map((row) => `${printInstant(row.at)} ${row.person_id} ${row.channel} ${row.form} ${row.subject}`)
        .sort(),
    ).toEqual(
      outcome.messages.map((each) => `${each.at} ${each.to} ${each.channel} ${each.form} ${each.subject}`).sort(),
    );
    const withheld = await rows(
      museum.pool,
      raw<{ person_id: string; rule_id: string; item_id: string; reason: string; at: number }>(
        'SELECT person_id, rule_id, item_id, reason, at FROM withheld',
      ),
    );
    expect(
      withheld
        .map((row) => `${printInstant(row.at)} ${row.rule_id} ${row.item_id} ${row.person_id} ${row.reason}`)
        .sort(),
    ).toEqual(
      outcome.withheld.map((each) => `${each.at} ${each.rule} ${each.item} ${each.person} ${each.reason}`).sort(),
    );
    const dropped = await rows(
      museum.pool,
      raw<{ rule_id: string; item_id: string; reason: string; at: number; changes: string }>(
        'SELECT rule_id, item_id, reason, at, changes FROM dropped',
      ),
    );
    expect(
      dropped
        .map(
          (row) =>
            `${printInstant(row.at)} ${row.rule_id} ${row.item_id} ${row.reason} ${fromJson<string[]>(row.changes)}`,
        )
        .sort(),
    ).toEqual(
      outcome.dropped.map((each) => `${each.at} ${each.rule} ${each.item} ${each.reason} ${each.changes}`).sort(),
    );
    expect(outcome.messages.length).toBeGreaterThan(100);
    for (const { form } of outcome.messages) seen.add(form);
    for (const { reason } of outcome.withheld) seen.add(reason);
    for (const id of 'acked burst due idle limited opened outside report settled some tally'.split(' '))
      expect(outcome.alerts.map((each) => each.rule)).toContain(id);
    expect(await rows(museum.pool, raw('SELECT change_seq FROM change_queue UNION SELECT id FROM act_queue'))).toEqual(
      [],
    );
  },
  120_000,
);

it('in these runs all that is compared has come about', () => {
  expect(['report', 'again', 'digest', 'reminder', 'absent'].filter((one) => !seen.has(one))).toEqual([]);
});

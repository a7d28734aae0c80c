import { fromJson, raw } from '../testing/raw.ts';
import { execFile } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { promisify } from 'node:util';
import { expect, inject, it } from 'vitest';
import type { Results } from '../../core/decide/index.ts';
import { printInstant } from '../../core/time/index.ts';
import type { Fields } from '../../core/values/index.ts';
import { pauseRule, publishRule, resumeRule } from '../acts/index.ts';
import { editItem } from '../intake/index.ts';
import { inTransaction, openPool, rows, run, sqlTime, type StoredChange, store } from '../store/index.ts';
import { clearAway, LOANS, makeRunner, newLoan, ON_VIEW, putLive, rule, setUpMuseum } from '../testing/museum.ts';
import { logOf } from '../testing/log.ts';

const museum = setUpMuseum();
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
const RULES = [
  ON_VIEW,
  one('paused', { when: { if: { changed: 'status' } } }),
  one('published', { when: { if: { changed: 'note' } }, pace: { kind: 'settled', quiet: 'PT1S', most: 'PT3S' } }),
  one('burst', { when: { if: { changed: 'note' }, burst: { count: 3, within: 'PT2S', per: 'actor' } } }),
  one('limited', { when: { if: { changed: 'status' } }, limit: { per: 'rule', within: 'PT1S' } }),
  one('acked', {
    urgency: 'critical',
    when: { if: { became: { field: 'status', op: 'is', value: 'On view' } } },
    channels: null,
    ack: { remind: { after: 'PT1S', times: 2 }, escalate: [{ after: 'PT2S', to: [{ person: 'wren' }] }] },
  }),
  one('lasting', {
    urgency: 'critical',
    when: { if: { became: { field: 'status', op: 'is', value: 'On view' } } },
    ack: { remind: { after: 'PT1S', times: 1 }, closeWhenCeased: false },
  }),
];
const WRITERS = 6;
const EDITS = 40;

/** Somebody who edits one thing after another, as fast as they are let. */
async function write(
  pool: typeof museum.pool,
  person: string,
  ids: string[],
  turn: number,
  wake: (change: StoredChange) => void,
): Promise<void> {
  for (let edit = 0; edit < EDITS; edit += 2) {
    // The instant is read before the transaction begins, as a request does; of two requests the later may be let in first.
    const [early, late] = [museum.clock.now(), museum.clock.now() + 1];
    for (const [number, at] of [
      [edit, late],
      [edit + 1, early],
    ] as const) {
      const item = ids[(number * 7 + turn) % ids.length] ?? '';
      const set: Fields =
        number % 3 === 0 ? { status: number % 2 === 0 ? 'On view' : 'Agreed' } : { note: `note ${turn} ${number}` };
      const done = await editItem(pool, { actor: person, source: LOANS, item, kind: 'changed', set, at });
      if (done.outcome === 'saved') wake(done.change);
    }
  }
}

/** Some of a rule's alerts by their names, of which an item may have several that are open. */
const alertsOf = async (pool: typeof museum.pool, rule: string) =>
  (
    await rows(
      pool,
      raw<{ alert_key: string }>('SELECT alert_key FROM alerts WHERE rule_id = ? ORDER BY RAND() LIMIT 3', rule),
    )
  ).map((row) => row.alert_key);

/** Pauses one rule and lets it go on, publishes another anew, reads and takes on, until told to stop. */
async function meddle(pool: typeof museum.pool, isOver: () => boolean): Promise<void> {
  for (let step = 0; !isOver(); step++) {
    await inTransaction(pool, (on) => pauseRule(on, 'paused', 'ines', museum.clock.now()));
    const alerts = step % 2 === 0 ? {} : { alerts: await alertsOf(pool, 'lasting') };
    await run(pool, store.acts.queueSeen({ input: 'read', at: museum.clock.now(), person: 'mei', ...alerts }));
    await inTransaction(pool, (on) =>
      publishRule(
        on,
        one('published', {
          when: { if: { changed: 'note' } },
          urgency: step % 2 === 0 ? 'important' : 'routine',
          pace: { kind: 'settled', quiet: 'PT1S', most: 'PT3S' },
        }),
        step + 2,
        'ines',
        museum.clock.now(),
      ),
    );
    const rule = step % 2 === 0 ? 'acked' : 'lasting';
    const [alert] = step % 8 === 0 ? [] : await alertsOf(pool, rule);
    const taken = { input: 'acknowledge', person: 'mei', rule, ...(alert ? { alert } : {}) } as const;
    await run(pool, store.acts.queueSeen({ ...taken, at: museum.clock.now() }));
    await inTransaction(pool, (on) =>
      resumeRule(on, 'paused', (['each', 'summary', 'skip'] as const)[step % 3] ?? 'each', 'ines', museum.clock.now()),
    );
  }
}

it.each([1, 3])(
  'the log gives every alert and message, and nothing else, when it is replayed: writers at once, servers: %i',
  async (servers) => {
    await clearAway(museum.pool);
    const start = museum.clock.now();
    for (const each of RULES) await putLive(museum.pool, each, start);
    const ids: string[] = [];
    for (let loan = 0; loan < 5; loan++)
      ids.push(
        await newLoan(
          museum.pool,
          { status: 'Agreed', registrar: ['ines', 'petra'][loan % 2] ?? 'ines' },
          museum.clock.now(),
        ),
      );
    const pools = Array.from({ length: servers }, () =>
      openPool({ ...inject('connecting'), database: museum.database }, 8),
    );
    const runners = pools.map((pool) => makeRunner(pool, museum.clock));
    for (const runner of runners) runner.start();
    let isOver = false;
    const people = ['ines', 'mei', 'wren', 'petra', 'marisol', 'sol'];
    const writing = Promise.all(
      Array.from({ length: WRITERS }, (_, turn) =>
        write(pools[turn % servers] ?? museum.pool, people[turn] ?? 'ines', ids, turn, (change) =>
          runners[turn % servers]?.wake(change),
        ),
      ),
    );
    const meddling = meddle(museum.pool, () => isOver);
    await writing;
    isOver = true;
    await meddling;
    // Until all is decided that falls due within some seconds of the last edit.
    const end = museum.clock.now() + 5000;
    await expect
      .poll(
        async () =>
          museum.clock.now() > end + 500 &&
          (
            await rows(
              museum.pool,
              raw(
                'SELECT id FROM timers WHERE due_at <= ? UNION SELECT change_seq FROM change_queue UNION SELECT id FROM act_queue',
                sqlTime(end),
              ),
            )
          ).length,
        { timeout: 30_000, interval: 200 },
      )
      .toBe(0);
    await Promise.all(runners.map((runner) => runner.stop()));
    await Promise.all(pools.map((pool) => pool.end()));

    const file = join(mkdtempSync(join(tmpdir(), 'ojo-log-')), 'log.json');
    writeFileSync(file, JSON.stringify(await logOf(museum.pool, start - 1000, end)));
    const { stdout } = await promisify(execFile)(
      process.execPath,
      [fileURLToPath(new URL('../../bin/ojo.mjs', import.meta.url)), 'replay', file],
      { maxBuffer: 256 * 1024 * 1024 },
    );
    const replayed = JSON.parse(stdout) as Results;
    const alerts = await rows(
      museum.pool,
      raw<{ rule_id: string; at: number; items: string; changes: string; suppressed: number }>(
        'SELECT rule_id, at, items, changes, suppressed FROM alerts WHERE at <= ?',
        sqlTime(end),
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
      replayed.alerts.map((each) => `${each.at} ${each.rule} ${each.items} ${each.changes} ${each.suppressed}`).sort(),
    );
    const messages = await rows(
      museum.pool,
      raw<{ person_id: string; channel: string; at: number; form: string; subject: string }>(
        'SELECT person_id, channel, at, form, subject FROM messages WHERE at <= ?',
        sqlTime(end),
      ),
    );
    expect(
      messages
        .map((row) => `${printInstant(row.at)} ${row.person_id} ${row.channel} ${row.form} ${row.subject}`)
        .sort(),
    ).toEqual(
      replayed.messages.map((each) => `${each.at} ${each.to} ${each.channel} ${each.form} ${each.subject}`).sort(),
    );
    expect(alerts.length).toBeGreaterThan(100);
    expect(replayed.messages.length).toBeGreaterThan(alerts.length);
  },
  120_000,
);

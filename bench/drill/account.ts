import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { setTimeout as delay } from 'node:timers/promises';
import type { Pool } from 'mysql2/promise';
import { scenarioSchema } from '../../contract/documents/index.ts';
import { simulate } from '../../core/decide/index.ts';
import { printInstant } from '../../core/time/index.ts';
import { systemClock } from '../../server/kit/index.ts';
import { one, rows, sqlTime } from '../../server/store/index.ts';
import { logOf } from '../../server/testing/log.ts';
import { fromJson, raw } from '../../server/testing/raw.ts';
import type { Kept } from './people.ts';
import { say } from './servers.ts';

/** Whatever nothing happens to for so long does not happen any more, in ms. */
const PATIENCE_MS = 120_000;

interface Work {
  edits: Kept[];
  imported: string[];
}

/**
 * Holds what the database has against what was said to be kept, and against its own log replayed; says it as an account.
 * What is wrong, in sentences; nothing where all is right.
 */
export async function check(pool: Pool, start: number, folder: string, { edits, imported }: Work): Promise<string[]> {
  const wrong: string[] = [];
  const trail = await rows(
    pool,
    raw<{ item_id: string; title: string; times: number }>(
      "SELECT item_id, JSON_VALUE(fields_after, '$.title') AS title, COUNT(*) AS times FROM changes GROUP BY 1, 2",
    ),
  );
  const times = new Map(trail.map((row) => [`${row.item_id} ${row.title}`, Number(row.times)]));
  const lost = edits.filter(({ item, title }) => times.get(`${item} ${title}`) !== 1);
  if (lost.length > 0)
    wrong.push(`${lost.length} of ${edits.length} edits that were said to be kept do not stand in the trail once`);
  const added = new Map<string, number>();
  for (const row of trail) added.set(row.title, (added.get(row.title) ?? 0) + Number(row.times));
  const gone = imported.filter((title) => added.get(title) !== 1);
  if (gone.length > 0)
    wrong.push(
      `${gone.length} of ${imported.length} rows that were said to be imported do not stand in the trail once`,
    );
  const end = systemClock.now() - 1000;
  const log = JSON.stringify(await logOf(pool, start, end));
  writeFileSync(join(folder, 'log.json'), log);
  const outcome = simulate(scenarioSchema.parse(JSON.parse(log)));
  const alerts = await rows(
    pool,
    raw<{ rule_id: string; at: number; items: string; changes: string }>(
      'SELECT rule_id, at, items, changes FROM alerts WHERE at <= ?',
      sqlTime(end),
    ),
  );
  const differs = (name: string, ours: string[], theirs: string[]) => {
    const [left, right] = [new Set(ours), new Set(theirs)];
    const odd = [...ours.filter((line) => !right.has(line)), ...theirs.filter((line) => !left.has(line))];
    if (odd.length > 0 || ours.length !== theirs.length)
      wrong.push(
        `${odd.length} ${name} differ from the replayed log (${folder}), of ${ours.length} and ${theirs.length}: ${odd.sort().slice(0, 4).join(' / ')}`,
      );
  };
  differs(
    'alerts',
    alerts.map(
      (row) =>
        `${printInstant(row.at)} ${row.rule_id} ${fromJson<string[]>(row.items)} ${fromJson<string[]>(row.changes)}`,
    ),
    outcome.alerts.map((row) => `${row.at} ${row.rule} ${row.items} ${row.changes}`),
  );
  const messages = await rows(
    pool,
    raw<{
      id: string;
      person_id: string;
      channel: string;
      at: number;
      form: string;
      fate: string;
    }>('SELECT id, person_id, channel, at, form, fate FROM messages WHERE at <= ? AND form NOT IN (?)', sqlTime(end), [
      'notice',
    ]),
  );
  differs(
    'messages',
    messages.map((row) => `${printInstant(row.at)} ${row.person_id} ${row.channel} ${row.form}`),
    outcome.messages.map((row) => `${row.at} ${row.to} ${row.channel} ${row.form}`),
  );
  const mails = await rows(
    pool,
    raw<{ message_id: string; times: number }>(
      'SELECT message_id, COUNT(*) AS times FROM standin_mail GROUP BY message_id',
    ),
  );
  const arrived = new Set(mails.map((row) => row.message_id.replace(/^<|@.*$/g, '')));
  const missing = messages.filter(
    (row) => row.channel === 'email' && (!arrived.has(row.id) || row.fate !== 'delivered'),
  );
  if (missing.length > 0) wrong.push(`${missing.length} emails have not arrived`);
  // Word that Ojo itself sends (of a rule, of a machine) is no outcome of the log, and has a message all the same.
  const known = new Set((await rows(pool, raw<{ id: string }>('SELECT id FROM messages'))).map(({ id }) => id));
  const strange = [...arrived].filter((id) => !known.has(id));
  if (strange.length > 0) wrong.push(`${strange.length} emails bear an id that no message has`);
  const open = await one(
    pool,
    raw<{ left_over: number }>(
      'SELECT (SELECT COUNT(*) FROM change_queue) + (SELECT COUNT(*) FROM act_queue) + (SELECT COUNT(*) FROM set_aside) + (SELECT COUNT(*) FROM rule_troubles) AS left_over',
    ),
  );
  if (Number(open?.left_over) > 0) wrong.push(`${open?.left_over} inputs are undecided or set aside`);
  const sent = mails.reduce((sum, row) => sum + Number(row.times), 0);
  say('What came of it:');
  account('edits said to be kept', edits.length, 'each stands in the trail once', lost.length);
  account('rows imported', imported.length, 'each stands in the trail once', gone.length);
  account('alerts', alerts.length, 'the log, replayed, gives the same', outcome.alerts.length - alerts.length);
  account('messages', messages.length, 'the log, replayed, gives the same', outcome.messages.length - messages.length);
  account(
    'emails',
    mails.length,
    `each has arrived under its one id, ${sent - mails.length} of them twice`,
    missing.length,
  );
  account('left over', Number(open?.left_over), 'undecided, set aside, or in trouble', Number(open?.left_over));
  return wrong;
}

/** A line of the account: how many, what holds of them, and of how many it does not. */
const account = (what: string, count: number, holds: string, not: number) =>
  say(
    `  ${what.padEnd(24)}${String(count).padStart(7)}   ${not === 0 ? holds : `${holds}: not so of ${Math.abs(not)}`}`,
  );

/** Waits until what falls due within seconds of the last edit has been told, and every email is away; two minutes in which nothing of it gets done are the end. */
export async function settle(pool: Pool): Promise<void> {
  const open = async () => {
    const row = await one(
      pool,
      raw<{ open: number }>(
        "SELECT (SELECT COUNT(*) FROM change_queue) + (SELECT COUNT(*) FROM act_queue) + (SELECT COUNT(*) FROM timers WHERE due_at < ?) + (SELECT COUNT(*) FROM messages WHERE channel = 'email' AND fate IN ('waiting', 'sending')) AS open",
        sqlTime(systemClock.now() + 10_000),
      ),
    ).catch(() => undefined);
    return Number(row?.open ?? Number.POSITIVE_INFINITY);
  };
  let least = await open();
  say(`all is up again; ${least} inputs, timers and emails are still under way`);
  for (let limit = performance.now() + PATIENCE_MS; least > 0 && performance.now() < limit; ) {
    await delay(500);
    const left = await open();
    if (left >= least) continue;
    least = left;
    limit = performance.now() + PATIENCE_MS;
  }
  await delay(2000);
}

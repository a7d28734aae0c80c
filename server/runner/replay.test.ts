import { expect, it } from 'vitest';
import { type Scenario, simulate } from '../../core/decide/index.ts';
import type { Rule } from '../../core/rules/index.ts';
import { printInstant } from '../../core/time/index.ts';
import type { Fields } from '../../core/values/index.ts';
import { DirectoryCache, fromJson, query, rows, toChange } from '../store/index.ts';
import { edit, makeRunner, newLoan, NOON, ON_VIEW, putLive, rule, setUpMuseum } from '../testing/museum.ts';

const museum = setUpMuseum();
const HOUR = 3_600_000;

const RULES: Rule[] = [
  ON_VIEW,
  rule({ id: 'any', name: 'Anything', owner: 'ines', scope: { sources: ['loans'] }, when: {}, to: [{ person: 'mei' }, { field: 'registrar' }], pace: { kind: 'digest', every: 'day', at: '09:00' }, channels: ['inApp', 'email'], zone: 'Europe/Madrid' }),
  rule({ id: 'by-plan', name: 'Due moves', owner: 'ines', urgency: 'important', scope: { sources: ['loans'] }, when: { if: { changed: 'due' } }, to: [{ group: 'insurers' }, { person: 'ines' }] }),
  rule({ id: 'routine', name: 'Notes', owner: 'ines', scope: { sources: ['loans'], where: { field: 'status', op: 'is', value: 'On view' } }, when: { if: { changed: 'note' } }, by: { except: [{ person: 'mei' }] }, to: [{ person: 'wren' }, { field: 'registrar' }], except: [{ person: 'petra' }] }),
];

/** Chance with a printed seed. */
function chance(seed: number): (below: number) => number {
  let state = seed;
  return (below) => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
    return Math.floor((state / 2 ** 32) * below);
  };
}

it.each([1, 2, 3])('the log replayed with the rules of the time gives what the server sent (seed %i)', async (seed) => {
  for (const table of ['changes', 'change_queue', 'items', 'rules', 'rule_versions', 'alerts', 'alert_changes', 'messages', 'message_alerts', 'withheld', 'timers', 'engine_rows', 'act_queue', 'rule_phases', 'dropped']) await museum.pool.query(`DELETE FROM ${table}`);
  const below = chance(seed);
  const start = NOON;
  for (const one of RULES) await putLive(museum.pool, one, start);
  museum.clock.set(start);
  const ids: string[] = [];
  for (let loan = 0; loan < 6; loan++) ids.push(await newLoan(museum.pool, { status: 'Agreed', registrar: ['ines', 'wren', 'petra'][below(3)] ?? 'ines', due: '2026-05-01' }, start + loan));
  const people = ['ines', 'mei', 'wren', 'petra'];
  let at = start + 1000;
  for (let step = 0; step < 70; step++) {
    at += below(3 * HOUR);
    const set: Fields = [{ status: ['Agreed', 'On view'][below(2)] ?? 'Agreed' }, { note: `note ${below(4)}` }, { due: `2026-05-0${1 + below(4)}` }][below(3)] ?? {};
    await edit(museum.pool, ids[below(ids.length)] ?? '', set, { actor: people[below(4)], at });
    // The server looks now and then, as it would; what is due in between is caught up with.
    museum.clock.set(at + 300);
    if (below(3) === 0) await makeRunner(museum.pool, museum.clock).drain();
  }
  const end = at + 30 * HOUR;
  museum.clock.set(end + 300);
  await makeRunner(museum.pool, museum.clock).drain();

  const directory = await new DirectoryCache().current(museum.pool);
  const changes = (await rows(museum.pool, query('SELECT * FROM changes ORDER BY at, seq'))).map(toChange);
  const scenario: Scenario = {
    start, end, people: [...directory.people.values()], groups: [...directory.groups.values()], sources: [...directory.sources.values()], folders: [], access: [...directory.access], items: [], contacts: [], followers: [], wordings: [],
    rules: RULES.map((one) => ({ rule: one, from: start })), inputs: changes,
  };
  const outcome = simulate(scenario);
  const alerts = await rows<{ rule_id: string; at: number; changes: string }>(museum.pool, query('SELECT rule_id, at, changes FROM alerts'));
  expect(alerts.map((row) => `${printInstant(row.at)} ${row.rule_id} ${fromJson<string[]>(row.changes)}`).sort()).toEqual(outcome.alerts.map((one) => `${one.at} ${one.rule} ${one.changes}`).sort());
  const messages = await rows<{ id: string; person_id: string; channel: string; at: number; form: string; subject: string }>(museum.pool, query('SELECT id, person_id, channel, at, form, subject FROM messages'));
  expect(messages.map((row) => `${printInstant(row.at)} ${row.person_id} ${row.channel} ${row.form} ${row.subject}`).sort()).toEqual(outcome.messages.map((one) => `${one.at} ${one.to} ${one.channel} ${one.form} ${one.subject}`).sort());
  const withheld = await rows<{ person_id: string; rule_id: string; item_id: string; reason: string; at: number }>(museum.pool, query('SELECT person_id, rule_id, item_id, reason, at FROM withheld'));
  expect(withheld.map((row) => `${printInstant(row.at)} ${row.rule_id} ${row.item_id} ${row.person_id} ${row.reason}`).sort()).toEqual(outcome.withheld.map((one) => `${one.at} ${one.rule} ${one.item} ${one.person} ${one.reason}`).sort());
  expect(outcome.messages.length).toBeGreaterThan(60);
  expect(new Set(outcome.messages.map((one) => one.form))).toEqual(new Set(['single', 'digest']));
}, 60_000);

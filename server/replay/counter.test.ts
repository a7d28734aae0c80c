import { afterAll, expect, it } from 'vitest';
import type { Setting } from '../../core/decide/index.ts';
import { openRule, type Rule } from '../../core/rules/index.ts';
import type { Change } from '../../core/values/index.ts';
import { Counter } from './counter.ts';

const SOURCE = {
  id: 's',
  kind: 'list' as const,
  name: 'S',
  titleField: 't',
  fields: [{ id: 't', name: 'T', type: 'text' as const }],
};
const setting: Setting = {
  start: 0,
  end: 10_000_000,
  people: [],
  groups: [],
  contacts: [],
  sources: [SOURCE],
  folders: [],
  followers: [],
  wordings: [],
  access: [],
  items: [],
  rules: [],
};
const changes = (count: number): Change[] =>
  Array.from({ length: count }, (_, at) => ({
    id: `c${at}`,
    at,
    source: 's',
    item: `i${at}`,
    kind: 'created',
    actor: 'a',
    before: null,
    after: { t: 'x' },
    folder: null,
    folderBefore: null,
    batch: null,
    detail: {},
  }));
const rule: Rule = openRule('r', 'R', 'a', ['s']);
const few = { rule, setting, changes: changes(3) };
/** Longer than any test waits: each change settles by itself, a quarter of a million of them. */
const endless = {
  rule: { ...rule, pace: { kind: 'settled' as const, quiet: 'PT10M', most: 'PT2H' } },
  setting,
  changes: changes(250_000),
};

const counters: Counter[] = [];
const counterOf = (mostMs?: number) => {
  const counter = new Counter(mostMs);
  counters.push(counter);
  return counter;
};
afterAll(() => Promise.all(counters.map((counter) => counter.stop())));
const codeOf = (counting: Promise<unknown>) =>
  counting.then(
    () => 'done',
    (error: { code?: string }) => error.code,
  );

it('what one person counts keeps nobody else waiting, and what nobody waits for is dropped', async () => {
  const counter = counterOf();
  const gone = new AbortController();
  const long = codeOf(counter.ask('ines', 'funnel', endless, gone.signal));
  const queued = codeOf(counter.ask('ines', 'funnel', few));
  expect((await counter.ask('mei', 'funnel', few)).steps[0]?.left).toBe(3);
  gone.abort();
  expect(await long).toBe('countDropped');
  expect(await queued).toBe('done');
}, 60_000);

it('of too many that wait the oldest is dropped', async () => {
  const counter = counterOf();
  const first = new AbortController();
  const all = [
    codeOf(counter.ask('ines', 'funnel', endless, first.signal)),
    ...Array.from({ length: 5 }, () => codeOf(counter.ask('ines', 'funnel', few))),
  ];
  expect(await all[1]).toBe('countDropped');
  expect(await all[2]).toBe('countDropped');
  first.abort();
  expect(await Promise.all(all)).toEqual(['countDropped', 'countDropped', 'countDropped', 'done', 'done', 'done']);
}, 60_000);

it('a count that takes too long is given up, and the next goes on', async () => {
  const counter = counterOf(3000);
  expect(await codeOf(counter.ask('ines', 'funnel', endless))).toBe('tooMuchToCount');
  expect(await codeOf(counter.ask('ines', 'funnel', few))).toBe('done');
}, 60_000);

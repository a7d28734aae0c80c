import { Run, type Setting } from '../core/decide/index.ts';
import { openRule, type Rule } from '../core/rules/index.ts';
import { DAY_MS, instantOf } from '../core/time/index.ts';
import type { Change, ItemState } from '../core/values/index.ts';
import { chance, SOURCE } from './engine-rules.ts';

/**
 * What tallies and reports cost over a source of 20,000 items. A change that moves a tally (and does not pass its mark)
 * against the same change caught by a rule that tells one person, in the same run; a report of all 20,000 to five
 * people, in milliseconds.
 */
const ITEMS = 20_000;
const CHANGES = 4000;
const START = instantOf('2026-03-02T06:00:00Z');
const STATUS = SOURCE.fields[1]?.options ?? [];
const PEOPLE = ['ines', 'mei', 'bo', 'wren', 'tomas'];
const next = chance(7);
const one = <T>(list: readonly T[]): T => list[Math.floor(next() * list.length)] as T;
const write = (line: string) => process.stdout.write(`${line}\n`);

const fieldsOf = (at: number) => ({
  title: `Item ${at}`,
  status: one(STATUS),
  keeper: one(PEOPLE),
  insured: { amount: String(Math.floor(next() * 1e6)), currency: 'EUR' },
  due: '2026-06-01',
});
const items: ItemState[] = Array.from({ length: ITEMS }, (_, at) => ({
  id: `i${String(at).padStart(5, '0')}`,
  source: SOURCE.id,
  folder: null,
  fields: fieldsOf(at),
  createdBy: 'ines',
  lastBy: 'ines',
  lastAt: START - DAY_MS,
}));
const changes: Change[] = Array.from({ length: CHANGES }, (_, at) => {
  const item = items[Math.floor(next() * ITEMS)] as ItemState;
  const isOn = at % 2 === 0;
  return {
    id: `c${at}`,
    at: START + 60_000 + at * 10,
    source: SOURCE.id,
    item: item.id,
    kind: 'changed',
    actor: 'bo',
    before: { ...item.fields, status: isOn ? 'Agreed' : 'On view' },
    after: { ...item.fields, status: isOn ? 'On view' : 'Agreed' },
    folder: null,
    folderBefore: null,
    batch: null,
    detail: {},
  };
});
const setting: Setting = {
  start: START,
  end: START + DAY_MS,
  people: PEOPLE.map((id) => ({
    id,
    name: id,
    email: `${id}@marisma.example`,
    phone: null,
    zone: 'Europe/Madrid',
    locale: 'en-GB',
    manager: null,
    active: true,
    plan: null,
  })),
  groups: [],
  contacts: [],
  sources: [SOURCE],
  folders: [],
  followers: [],
  wordings: [],
  access: [],
  items,
  rules: [],
};

const base = (more: Partial<Rule>): Rule => ({
  ...openRule('r', 'R', 'ines', [SOURCE.id]),
  to: [{ person: 'ines' }],
  channels: ['inApp'],
  ...more,
});
const where = { field: 'status', op: 'is' as const, value: 'On view' };
const tally = base({
  when: null,
  scope: { sources: [SOURCE.id], under: [], items: [], linked: false, where },
  tally: {
    of: { sum: 'insured' },
    per: 'keeper',
    becomes: { op: 'above', value: { amount: '1e15', currency: 'EUR' } },
    kinds: [],
  },
});
const matching = base({ when: { kinds: [], if: { changed: 'status' }, burst: null } });
const report = base({
  when: null,
  report: { every: 'day', at: '08:00', if: { all: [] }, empty: false },
  zone: 'Europe/Madrid',
});

/** Microseconds for each change, once the rule is live. */
function each(rule: Rule): number {
  const run = new Run({ ...setting, rules: [{ rule, from: START }] });
  const [first, ...others] = changes;
  if (first) run.take(first);
  const began = performance.now();
  for (const change of others) run.take(change);
  return ((performance.now() - began) / others.length) * 1000;
}

let [ofTally, ofMatch] = [Number.POSITIVE_INFINITY, Number.POSITIVE_INFINITY];
for (let round = 0; round < 5; round++) {
  ofMatch = Math.min(ofMatch, each(matching));
  ofTally = Math.min(ofTally, each(tally));
}
write(`A tally over ${ITEMS} items: ${ofTally.toFixed(1)} µs a change; a rule that matches: ${ofMatch.toFixed(1)} µs`);
write(`  ratio ${(ofTally / ofMatch).toFixed(2)} (at most 3)`);

let took = Number.POSITIVE_INFINITY;
let rows = 0;
for (let round = 0; round < 3; round++) {
  const run = new Run({
    ...setting,
    end: instantOf('2026-03-02T08:00:00Z'),
    rules: [{ rule: { ...report, to: PEOPLE.map((person) => ({ person })) }, from: START }],
  });
  const began = performance.now();
  const effects = run.finishRun();
  took = Math.min(took, performance.now() - began);
  rows = effects.flatMap((effect) => (effect.effect === 'message' ? effect.message.alerts : []))[0]?.items.length ?? 0;
}
write(`A report of ${rows} items to ${PEOPLE.length} people: ${took.toFixed(0)} ms (at most 1000)`);
if (ofTally / ofMatch > 3 || took > 1000 || rows !== ITEMS) process.exitCode = 1;

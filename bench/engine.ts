import { Engine } from 'json-rules-engine';
import { funnel, type Setting } from '../core/decide/index.ts';
import type { Folder, World } from '../core/people/index.ts';
import { type CompiledRule, compileRule, type Condition, isCaught, type Rule, RuleIndex } from '../core/rules/index.ts';
import type { Change } from '../core/values/index.ts';
import { changeAt, chance, ruleAt, SOURCE, scaleOf } from './engine-rules.ts';

/**
 * What finding the rules that catch a change costs as rules grow, against three baselines in the same run: a bare
 * look-up of the same matches in a hash, a plain loop over all compiled rules, and a general-purpose rule engine.
 */
const SIZES = [100, 1000, 10_000, 100_000];
const CHANGES = 2000;
const now = () => performance.now();
const gc = (globalThis as { gc?: () => void }).gc;
const heap = () => {
  gc?.();
  return process.memoryUsage().heapUsed;
};

/** Folders ten deep to a top, as a tree of papers has them. */
const foldersOf = (count: number): Map<string, Folder> =>
  new Map(
    Array.from({ length: Math.ceil(count) }, (_, at) => [
      `f${at}`,
      { id: `f${at}`, source: SOURCE.id, name: `f${at}`, parent: at % 4 === 0 ? null : 'top' },
    ]),
  );
const worldOf = (folders: Map<string, Folder>): World => ({
  people: new Map(),
  groups: new Map(),
  sources: new Map([[SOURCE.id, SOURCE]]),
  folders,
  access: [],
  item: () => undefined,
});

/** Microseconds for each of the changes, the best of several rounds: what else the machine does is not the engine's. */
function each(changes: readonly Change[], rounds: number, work: (change: Change) => unknown): number {
  let best = Number.POSITIVE_INFINITY;
  for (let round = 0; round < rounds; round++) {
    const began = now();
    for (const change of changes) work(change);
    best = Math.min(best, (now() - began) / changes.length);
  }
  return best * 1000;
}

/** How many times one work takes as long as another, measured in turn, so that both meet the same machine. */
function ratioOf(
  large: { changes: readonly Change[]; matchesOf(change: Change): unknown },
  small: typeof large,
): number {
  let [most, least] = [Number.POSITIVE_INFINITY, Number.POSITIVE_INFINITY];
  for (let round = 0; round < 15; round++) {
    least = Math.min(least, each(small.changes, 1, small.matchesOf));
    most = Math.min(most, each(large.changes, 1, large.matchesOf));
  }
  return most / least;
}

/** The same matches, known beforehand: one look in a hash for each, by what the change holds. */
function bareLookUp(matches: ReadonlyMap<Change, CompiledRule[]>): (change: Change) => CompiledRule[] {
  const byKey = new Map<string, CompiledRule>();
  const keys = new Map<Change, string[]>();
  for (const [change, rules] of matches) {
    keys.set(
      change,
      rules.map((_, at) => `${change.source}|${at}|`),
    );
    for (const [at, rule] of rules.entries())
      byKey.set(`${change.source}|${at}|${change.after?.status}|${change.id}`, rule);
  }
  return (change) => {
    const found: CompiledRule[] = [];
    for (const key of keys.get(change) ?? []) {
      const rule = byKey.get(`${key}${change.after?.status}|${change.id}`);
      if (rule) found.push(rule);
    }
    return found;
  };
}

const show = (value: number) =>
  value >= 1000 ? `${(value / 1000).toFixed(1)} ms` : `${value.toFixed(value < 10 ? 2 : 1)} µs`;
const write = (line: string) => process.stdout.write(`${line}\n`);

function measure(size: number) {
  const scale = scaleOf(size);
  const next = chance(size);
  const rules = Array.from({ length: size }, (_, at) => ruleAt(at, scale, next));
  const changes = Array.from({ length: CHANGES }, (_, at) => changeAt(at, scale, next));
  const world = worldOf(foldersOf(scale.folders));
  const before = heap();
  const began = now();
  const compiled = rules.map((rule) => compileRule(rule, world.sources));
  const index = new RuleIndex(world.sources);
  for (const one of compiled) index.add(one);
  const building = (now() - began) * 1000;
  const memory = heap() - before;
  const matchesOf = (change: Change) => index.caught(change, world);
  const matches = new Map(changes.map((change) => [change, matchesOf(change)]));
  const bareOf = bareLookUp(matches);
  const matched = [...matches.values()].reduce((sum, one) => sum + one.length, 0) / changes.length;
  const few = changes.slice(0, Math.max(5, Math.min(CHANGES, 300_000 / size)));
  for (const change of few.slice(0, 50)) {
    const plain = compiled.filter((one) => isCaught(one, change, world));
    if (plain.length !== (matches.get(change) ?? []).length) throw new Error('the index and the plain loop differ');
  }
  const spare = compileRule({ ...(rules[1] as Rule), id: 'spare' }, world.sources);
  const addedIn = now();
  for (let round = 0; round < 1000; round++) {
    index.add(spare);
    index.remove(spare);
  }
  // Microseconds for one rule put in and taken out: a thousand rounds in milliseconds.
  const adding = now() - addedIn;
  return {
    size,
    matched,
    candidates: changes.reduce((sum, change) => sum + index.looking(change, world).length, 0) / changes.length,
    indexed: each(changes, 15, matchesOf),
    loop: each(few, 3, (change) => compiled.filter((one) => isCaught(one, change, world))),
    bare: each(changes, 15, bareOf),
    building: building / size,
    memory: memory / size,
    adding,
    rules,
    changes,
    matchesOf,
    bareOf,
  };
}

/** A rule's condition as the general-purpose engine has it; its facts are the two sides and the folder. */
function foreign(node: Condition): object {
  const same = (side: string, field: string, value: unknown, operator = 'equal') => ({
    fact: side,
    path: `$.${field}`,
    operator,
    value,
  });
  if ('all' in node) return { all: node.all.map(foreign) };
  if ('any' in node) return { any: node.any.map(foreign) };
  if ('was' in node && 'op' in node.was) return same('before', node.was.field, node.was.value);
  if ('became' in node && 'op' in node.became) {
    const { field, op, value } = node.became;
    if (op === 'above')
      return {
        all: [
          same('after', `${field}.amount`, Number((value as { amount: string }).amount), 'above'),
          same('before', `${field}.amount`, Number((value as { amount: string }).amount), 'notAbove'),
        ],
      };
    if (op === 'contains')
      return { all: [same('after', field, value, 'holds'), same('before', field, value, 'lacks')] };
    return { all: [same('after', field, value), same('before', field, value, 'notEqual')] };
  }
  if ('changed' in node) return { any: [node.changed].flat().map((field) => same('differs', field, true)) };
  if ('op' in node) return same('after', node.field, node.value);
  throw new Error('the bench makes no such rule');
}

async function generalPurpose(rules: readonly Rule[], changes: readonly Change[]): Promise<number> {
  const engine = new Engine([], { allowUndefinedFacts: true });
  engine.addOperator('above', (fact: unknown, value: number) => Number(fact) > value);
  engine.addOperator('notAbove', (fact: unknown, value: number) => !(Number(fact) > value));
  engine.addOperator('holds', (fact: unknown, value: string) =>
    String(fact ?? '')
      .toLowerCase()
      .includes(value),
  );
  engine.addOperator(
    'lacks',
    (fact: unknown, value: string) =>
      !String(fact ?? '')
        .toLowerCase()
        .includes(value),
  );
  for (const rule of rules) {
    const parts = [
      foreign(rule.when?.if ?? { all: [] }),
      ...rule.scope.under.map((folder) => ({ fact: 'folder', operator: 'equal', value: folder })),
      ...(rule.when?.kinds ?? []).map((kind) => ({ fact: 'kind', operator: 'equal', value: kind })),
    ];
    engine.addRule({ conditions: { all: parts } as never, event: { type: rule.id } });
  }
  const began = now();
  for (const { before, after, folder, kind } of changes) {
    const differs = Object.fromEntries(
      Object.keys(after ?? {}).map((field) => [
        field,
        JSON.stringify(before?.[field]) !== JSON.stringify(after?.[field]),
      ]),
    );
    await engine.run({ before, after, folder, kind, differs });
  }
  return ((now() - began) / changes.length) * 1000;
}

const results = SIZES.filter((size) => size <= Number(process.argv[2] ?? 100_000)).map(measure);
write(
  `Time for a change, ${CHANGES} changes at each size, rules of equality, ranges, text, folders and any/all in equal parts`,
);
write(
  'rules      match   looked at   Ojo’s index   bare hash   plain loop   general engine   compile+index   memory     add one',
);
/** A general engine takes so long with many rules that few changes have to do. */
const askedOf = (size: number): number => [10, 2, 1][[10_000, 100_000].filter((mark) => size >= mark).length] ?? 1;
const general: number[] = [];
for (const one of results) {
  const asked = one.changes.slice(0, askedOf(one.size));
  const other = await generalPurpose(one.rules, asked);
  general.push(other);
  write(
    [
      String(one.size).padEnd(10),
      one.matched.toFixed(1).padStart(5),
      one.candidates.toFixed(1).padStart(11),
      show(one.indexed).padStart(13),
      show(one.bare).padStart(11),
      show(one.loop).padStart(12),
      show(other).padStart(16),
      `${one.building.toFixed(1)} µs`.padStart(15),
      `${(one.memory / 1024).toFixed(1)} KiB`.padStart(9),
      show(one.adding).padStart(11),
    ].join(' '),
  );
}
const [small, , large, largest] = results;
if (small && large && largest) {
  write('');
  write(
    `from 100 to 100,000 rules       ${ratioOf(largest, small).toFixed(2)} times the time, measured in turn (to reach: at most 2); the bare hash ${ratioOf({ ...largest, matchesOf: largest.bareOf }, { ...small, matchesOf: small.bareOf }).toFixed(2)} times, for memory alone`,
  );
  write(`at 10,000, plain loop ÷ index   ${(large.loop / large.indexed).toFixed(0)} (to reach: at least 30)`);
  write(`at 10,000, index ÷ bare hash    ${(large.indexed / large.bare).toFixed(2)} (to reach: at most 5)`);
  write(`at 10,000, general ÷ index      ${((general[2] ?? 0) / large.indexed).toFixed(0)}`);
}

/** A million changes, made one by one as they are counted. */
function* million(): Generator<Change> {
  const scale = scaleOf(10_000);
  const next = chance(7);
  for (let at = 0; at < 1_000_000; at++) yield changeAt(at, scale, next);
}
const person = {
  id: 'ines',
  name: 'Inés',
  email: 'ines@marisma.example',
  phone: null,
  zone: 'Europe/Madrid',
  locale: 'en-GB',
  manager: null,
  active: true,
  plan: null,
};
const setting: Setting = {
  start: 0,
  end: 1e14,
  people: [person],
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
const one = ruleAt(0, scaleOf(10_000), chance(3));
const making = now();
let made = 0;
for (const change of million()) made += change.at > 0 ? 1 : 0;
const makingTook = now() - making;
const counting = now();
const counted = funnel({ ...one, to: [{ person: 'ines' }], channels: ['inApp'] }, setting, million());
const took = now() - counting - makingTook;
write('');
write(
  `one rule over ${made.toLocaleString('en')} changes, counted step by step: ${Math.round(made / (took / 1000)).toLocaleString('en')} changes a second, ${counted.steps.find((step) => step.step === 'limit')?.left} alerts`,
);

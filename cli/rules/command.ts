import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import type { RuleRow } from '../../contract/wire/index.ts';
import type { Rule } from '../../core/rules/index.ts';
import { BadDocument } from '../reading.ts';
import { fileName, readRules, type RuleFile, saidBy, writeId, writeRule } from './files.ts';
import { type House, Refused } from './house.ts';

/** Over how many days what a rule comes to is counted. */
const DAYS = 30;

const print = (line: string) => process.stdout.write(`${line}\n`);

/** What a file would change in the house. */
type Step =
  | { kind: 'same'; file: RuleFile }
  | { kind: 'ended'; file: RuleFile }
  | { kind: 'notYours'; file: RuleFile }
  | { kind: 'changed'; file: RuleFile; row: RuleRow; live: Rule | null }
  | { kind: 'new'; file: RuleFile };

/** Writes each live rule that one may edit to a file of its own; a rule that has a file already keeps its name. */
export async function exportRules(house: House, folder: string): Promise<number> {
  mkdirSync(folder, { recursive: true });
  const before = readRules(folder);
  const rows = await house.ask('rules.list', {});
  const mine = rows.filter(({ state, mayEdit, live }) => state === 'live' && mayEdit && live);
  const taken = new Set(before.map(({ file }) => file));
  for (const { id, live } of mine) {
    if (!live) continue;
    const known = before.find((one) => one.id === id)?.file;
    const file = known ?? freeFile(live, taken);
    taken.add(file);
    writeRule(join(folder, file), live, await sentenceOf(house, live));
  }
  print(`${mine.length} rules written to ${folder}`);
  for (const { file, id } of before)
    if (!mine.some((row) => row.id === id))
      print(`${file} is of no rule that is live and yours to edit; it stays as it is`);
  return 0;
}

const freeFile = (rule: Rule, taken: ReadonlySet<string>): string => {
  const name = `${fileName(rule.name)}.yaml`;
  return taken.has(name) ? `${fileName(rule.name)}-${fileName(rule.id)}.yaml` : name;
};

/** The rule in words; `null` of one that cannot be said to whoever asks. */
async function sentenceOf(house: House, rule: Rule): Promise<string | null> {
  try {
    return (await house.ask('rules.said', { body: { document: { ...rule }, zone: rule.zone } })).sentence;
  } catch (error) {
    if (error instanceof Refused) return null;
    throw error;
  }
}

async function stepsTo(house: House, folder: string): Promise<Step[]> {
  const files = readRules(folder);
  const rows = await house.ask('rules.list', {});
  return files.map((file): Step => {
    const row = rows.find(({ id }) => id === file.id);
    if (!row) return { kind: 'new', file };
    if (row.state === 'ended') return { kind: 'ended', file };
    const { live } = row;
    const isSame = live !== null && JSON.stringify(saidBy(live)) === JSON.stringify(saidBy(file.rule));
    if (isSame) return { kind: 'same', file };
    return row.mayEdit ? { kind: 'changed', file, row, live } : { kind: 'notYours', file };
  });
}

/** What a rule came to over the last days, in words; or why it cannot be counted. What is wrong with it is told of its file. */
async function countOf(house: House, rule: Rule, file: string): Promise<string> {
  try {
    const { caught, messages } = await house.ask('rules.cost', { body: { document: { ...rule }, days: DAYS } });
    return `${caught.length} alerts, ${messages} messages`;
  } catch (error) {
    if (!(error instanceof Refused) || error.problem.code === 'unreachable') throw error;
    if (error.problem.faults) throw BadDocument.of(faultsIn(error, file));
    return `not counted (${error.message})`;
  }
}

/** Each part that differs, from what to what. */
function partsChanged(before: unknown, after: unknown, path = ''): string[] {
  if (JSON.stringify(before) === JSON.stringify(after)) return [];
  const isParts = (one: unknown): one is Record<string, unknown> =>
    one !== null && typeof one === 'object' && !Array.isArray(one);
  if (!isParts(before) || !isParts(after))
    return [`${path}: ${JSON.stringify(before) ?? 'nothing'} -> ${JSON.stringify(after) ?? 'nothing'}`];
  const keys = [...new Set([...Object.keys(before), ...Object.keys(after)])];
  return keys.flatMap((key) => partsChanged(before[key], after[key], path === '' ? key : `${path}.${key}`));
}

/** Says what the steps would change, each with what it comes to; gives how many there are. */
async function say(house: House, steps: readonly Step[]): Promise<number> {
  let changes = 0;
  for (const step of steps) {
    const { file, rule } = step.file;
    if (step.kind === 'same') continue;
    changes += 1;
    if (step.kind === 'ended') print(`ended    ${file}: the rule has ended; without its id it is made anew`);
    if (step.kind === 'notYours') print(`refused  ${file}: the rule is another’s, and differs`);
    if (step.kind === 'new') print(`new      ${file}: ${rule.name}; ${DAYS} days: ${await countOf(house, rule, file)}`);
    if (step.kind !== 'changed') continue;
    const was = step.live ? await countOf(house, step.live, file) : 'a draft';
    print(`changed  ${file}: ${rule.name}; ${DAYS} days: ${was} -> ${await countOf(house, rule, file)}`);
    for (const line of partsChanged(step.live ? saidBy(step.live) : {}, saidBy(rule))) print(`           ${line}`);
  }
  const same = steps.length - changes;
  print(`${changes} of ${steps.length} files would change something, ${same} would not`);
  return changes;
}

/** Says what the files would change; ends with 1 where they would change anything. */
export async function diffRules(house: House, folder: string): Promise<number> {
  const steps = await stepsTo(house, folder);
  return (await say(house, steps)) > 0 ? 1 : 0;
}

const faultsIn = (error: Refused, file: string): string[] =>
  (error.problem.faults ?? []).map(({ path, words }) => `${file}: ${path ? `${path}: ` : ''}${words}`);

/** Puts each file that differs live, one by one; ends with 1 where any of them is refused. */
export async function applyRules(
  house: House,
  folder: string,
  { why, isSure }: { why: string | null; isSure: boolean },
): Promise<number> {
  const steps = await stepsTo(house, folder);
  await say(house, steps);
  let refused = 0;
  for (const step of steps) {
    if (step.kind === 'same') continue;
    const { file } = step.file;
    if (step.kind === 'ended' || step.kind === 'notYours') {
      refused += 1;
      continue;
    }
    try {
      const id = await drafted(house, folder, step);
      const { draftRevision: revision } = await house.ask('rules.read', { params: { id } });
      const row = await house.ask('rules.putLive', { params: { id }, body: { revision, why, isSure } });
      print(row.ask ? `waits    ${file}: for a second pair of eyes` : `live     ${file}: version ${row.version}`);
    } catch (error) {
      if (!(error instanceof Refused)) throw error;
      refused += 1;
      print(`refused  ${file}: ${error.message}`);
      for (const line of faultsIn(error, file)) print(`           ${line}`);
    }
  }
  return refused > 0 ? 1 : 0;
}

/** Keeps what a file says as a draft of its rule, which is made where there is none; the rule's id. */
async function drafted(
  house: House,
  folder: string,
  step: Extract<Step, { kind: 'new' | 'changed' }>,
): Promise<string> {
  const { file, rule } = step.file;
  if (step.kind === 'new') {
    const { id } = await house.ask('rules.create', { body: { document: { ...rule } } });
    // Said in the file at once: made a second time it would be a second rule.
    writeId(join(folder, file), id);
    return id;
  }
  const { id, draft, draftRevision, state } = step.row;
  if (draft !== null && state === 'live' && JSON.stringify(saidBy(draft)) !== JSON.stringify(saidBy(rule)))
    throw new Refused({
      code: 'editedMeanwhile',
      words: 'Somebody edits it in Ojo; those edits are kept or dropped there first.',
    });
  await house.ask('rules.keepDraft', { params: { id }, body: { revision: draftRevision, document: { ...rule } } });
  return id;
}

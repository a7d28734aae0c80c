import { type CompiledRule, compileRule, differingFields, isCaught, type Rule } from '../rules/index.ts';
import type { World } from '../people/index.ts';
import { addDuration, type Instant, nextOf, printInstant } from '../time/index.ts';
import type { Change, ItemState } from '../values/index.ts';
import { SOURCE } from './generate.ts';
import type { Generated } from './scenarios.ts';

/**
 * The naive twin of keeping step by step: what a run comes to, worked out anew from the whole log for each rule and
 * item, with no state between one instant and the next.
 */
export function recompute(run: Generated): { alerts: string[]; dropped: string[]; digests: string[] } {
  const found = run.rules.map(({ rule }) => ofRule(rule, run));
  const alerts = found.flatMap((one) => one.alerts);
  return { alerts: alerts.map(shown).sort(), dropped: found.flatMap((one) => one.dropped.map(shown)).sort(), digests: digestsOf(alerts, run) };
}

interface Arisen {
  rule: Rule;
  at: Instant;
  changes: Change[];
}

/** Items in the order of their first change. */
export const shown = ({ rule, at, changes }: Arisen): string => {
  const items = [...new Set(changes.map((change) => change.item))];
  return `${printInstant(at)} ${rule.id} ${items} ${items.flatMap((item) => changes.filter((change) => change.item === item).map((change) => change.id))}`;
};

/** The world as the log has it once everything up to a place in it has happened. */
function worldAt(run: Generated, upTo: number): World {
  const last = (id: string) => run.inputs.slice(0, upTo).filter((change) => change.item === id).at(-1);
  const stateOf = (id: string): ItemState | undefined => {
    const change = last(id);
    return change?.after ? { id, source: SOURCE.id, folder: change.folder, fields: change.after, createdBy: null, lastBy: change.actor, lastAt: change.at } : undefined;
  };
  return {
    people: new Map(run.people.map((person) => [person.id, person])), groups: new Map(), sources: new Map([[SOURCE.id, SOURCE]]), folders: new Map(run.folders.map((folder) => [folder.id, folder])), access: [], item: stateOf,
  };
}

function ofRule(rule: Rule, run: Generated): { alerts: Arisen[]; dropped: Arisen[] } {
  const compiled = compileRule(rule, new Map([[SOURCE.id, SOURCE]]));
  const matches = run.inputs.filter((change, at) => isCaught(compiled, change, worldAt(run, at + 1)));
  if (rule.pace.kind === 'settled') return settled(compiled, matches, run);
  return { alerts: joined(rule, matches.map((change) => ({ at: change.at, changes: [change] }))), dropped: [] };
}

/** Those of one batch at one instant are one alert, unless the rule says not to. */
function joined(rule: Rule, found: { at: Instant; changes: Change[] }[]): Arisen[] {
  const groups = new Map<string, Arisen>();
  for (const { at, changes } of found) {
    const batch = changes[0]?.batch;
    const key = batch && rule.together ? `${at} ${batch}` : `${at} ${changes[0]?.id}`;
    groups.set(key, { rule, at, changes: [...(groups.get(key)?.changes ?? []), ...changes] });
  }
  return [...groups.values()];
}

function settled(compiled: CompiledRule, matches: Change[], run: Generated): { alerts: Arisen[]; dropped: Arisen[] } {
  const { rule } = compiled;
  const standing: { at: Instant; changes: Change[] }[] = [];
  const dropped: Arisen[] = [];
  for (const item of [...new Set(run.inputs.map((change) => change.item))].sort()) {
    const admitted = run.inputs.filter((change) => change.item === item && compiled.ofKind(change) && compiled.inScope(change, worldAt(run, run.inputs.indexOf(change) + 1)));
    let from = 0;
    for (;;) {
      const first = admitted.findIndex((change, at) => at >= from && matches.includes(change));
      if (first < 0) break;
      const at = settlingInstant(rule, admitted.slice(first));
      const changes = admitted.slice(first).filter((change) => change.at <= at);
      from = first + changes.length;
      if (at > run.end) break;
      if (isStillSo(compiled, changes, at, run)) standing.push({ at, changes });
      else dropped.push({ rule, at, changes });
    }
  }
  return { alerts: joined(rule, standing), dropped };
}

/** Minute by minute from the first: the instant at which nothing has come for long enough, or it has waited long enough. */
function settlingInstant({ pace, zone }: Rule, changes: Change[]): Instant {
  const [first] = changes as [Change];
  if (pace.kind !== 'settled') return first.at;
  const latest = addDuration(first.at, pace.most, zone);
  for (let at = first.at; ; at += 60_000) {
    const last = changes.filter((change) => change.at <= at).at(-1) as Change;
    if (at >= latest || at >= addDuration(last.at, pace.quiet, zone)) return at;
  }
}

const SILENT = new Set(['created', 'changed', 'deleted', 'restored', 'renamed', 'moved']);

/** Whether what came of a gathering still matches, by the item as the log has it at that instant. */
function isStillSo(compiled: CompiledRule, changes: Change[], at: Instant, run: Generated): boolean {
  const [first] = changes as [Change];
  const last = changes.at(-1) as Change;
  const ofItem = run.inputs.filter((change) => change.item === first.item && change.at <= at);
  const now = ofItem.at(-1) as Change;
  if (first.before === null && now.after === null) return false;
  const folder = now.folder;
  const same = first.before !== null && now.after !== null && differingFields(SOURCE, first.before, now.after).length === 0 && folder === first.folderBefore;
  if (same && changes.every((change) => SILENT.has(change.kind))) return false;
  const net: Change = { ...last, before: first.before, after: now.after, folder, folderBefore: first.folderBefore, ...(now.after === null && now.before ? { lastState: now.before } : {}) };
  return compiled.inScope(net, worldAt(run, run.inputs.filter((change) => change.at <= at).length)) && compiled.holds(net) && compiled.inDates(net);
}

/** Digests: every alert of a rule that gathers for them, told to each person at the first instant after it, all of one instant together. */
function digestsOf(alerts: Arisen[], run: Generated): string[] {
  const waiting = new Map<string, string[]>();
  for (const { rule, at, changes } of [...alerts].sort((a, b) => a.at - b.at)) {
    if (rule.pace.kind !== 'digest') continue;
    for (const selector of rule.to) {
      const person = run.people.find((one) => typeof selector === 'object' && 'person' in selector && one.id === selector.person);
      const told = changes.filter((change) => rule.ownChanges || change.actor !== person?.id);
      const items = [...new Set(changes.map((change) => change.item))].filter((item) => told.some((change) => change.item === item));
      if (!person || told.length === 0) continue;
      const due = nextOf(rule.pace, at, person.zone);
      if (due > run.end) continue;
      const key = `${printInstant(due)} ${person.id}`;
      waiting.set(key, [...(waiting.get(key) ?? []), `${rule.id}:${items}`]);
    }
  }
  return [...waiting].map(([key, told]) => `${key} ${told.sort()}`).sort();
}

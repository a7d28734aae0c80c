import { isItemInScope } from '../rules/index.ts';
import type { CatchUp } from './state.ts';
import type { Part } from './types.ts';
import { idOfChange, idOfSchedule, raise } from './raise.ts';
import { type Kept, keyOf } from './rows.ts';
import { currentDate } from './schedules.ts';
import { drop, netOf } from './settling.ts';
import type { Work } from './work.ts';

/** A match that was kept while its rule was paused, as it is told or skipped on resuming. */
type Match = Kept & { parts: Part[] };

/** A paused rule goes on: what it matched meanwhile is told each, in one summary a version, or skipped. */
export function catchUp(work: Work, ruleId: string, how: CatchUp): void {
  const rows = work.group('kept', keyOf(ruleId), (row) => row.key);
  for (const { key } of rows) work.remove('kept', key);
  const standing = netted(
    work,
    rows.map(({ row }) => row),
  ).flatMap((match): Match[] => {
    const parts = match.parts.filter((part) => stillHolds(work, match, part));
    return parts.length > 0 ? [{ ...match, parts }] : [];
  });
  switch (how) {
    case 'skip':
      for (const match of standing)
        for (const part of match.parts) withCompiled(work, match, (compiled) => drop(work, compiled, part, 'skipped'));
      return;
    case 'summary':
      for (const matches of grouped(standing, (match) => String(match.version))) tell(work, matches, true);
      return;
    case 'each':
      for (const matches of grouped(standing, (match, at) =>
        isTogether(work, match) ? `${match.version}|${match.batch}` : `|${at}`,
      ))
        tell(work, matches, false);
      return;
    default:
      how satisfies never;
  }
}

const isTogether = (work: Work, { rule, version, batch, isOne }: Match): boolean =>
  batch !== null && (isOne === true || (work.state.version(rule, version)?.rule.together ?? true));

function withCompiled(
  work: Work,
  { rule, version }: Match,
  then: (compiled: NonNullable<ReturnType<Work['state']['version']>>) => void,
): void {
  const compiled = work.state.version(rule, version);
  if (compiled) then(compiled);
}

function grouped(matches: readonly Match[], keyOfMatch: (match: Match, at: number) => string): Match[][] {
  const groups = new Map<string, Match[]>();
  for (const [at, match] of matches.entries()) {
    const key = keyOfMatch(match, at);
    groups.set(key, [...(groups.get(key) ?? []), match]);
  }
  return [...groups.values()];
}

function tell(work: Work, matches: readonly Match[], isSummary: boolean): void {
  const [first] = matches as [Match];
  withCompiled(work, first, (compiled) => {
    const parts = matches.flatMap((match) =>
      match.parts.map(({ source, item, changes }): Part => ({ source, item, changes })),
    );
    const [one] = parts as [Part];
    const id =
      first.occasion !== 'change'
        ? idOfSchedule(compiled, first.occasion, first.at, one.item)
        : idOfChange(compiled, one);
    raise(work, compiled, {
      id: isSummary ? `${compiled.rule.id}/${compiled.version}/resume/${work.at}` : id,
      occasion: first.occasion,
      parts,
    });
  });
}

/** Of a rule that waits until things settle, an item's matches become one, of the batch of its first. */
function netted(work: Work, rows: readonly Kept[]): Match[] {
  const found = new Map<string, Match>();
  for (const [at, row] of rows.entries()) {
    const isSettled =
      work.state.version(row.rule, row.version)?.rule.pace.kind === 'settled' && row.occasion === 'change';
    const [part] = row.parts;
    const key = isSettled && part ? keyOf(row.version, part.item) : `|${at}`;
    const known = found.get(key);
    const [earlier] = known?.parts ?? [];
    if (known && earlier && part)
      found.set(key, { ...known, parts: [{ ...earlier, changes: [...earlier.changes, ...part.changes] }] });
    else found.set(key, row);
  }
  return [...found.values()];
}

/** Whether a kept match is still to be told; one that is not is dropped as undone. */
function stillHolds(work: Work, match: Match, part: Kept['parts'][number]): boolean {
  const compiled = work.state.version(match.rule, match.version);
  if (!compiled) return false;
  const { rule } = compiled;
  const holds =
    match.occasion !== 'change'
      ? scheduleHolds(work, match, part)
      : rule.pace.kind !== 'settled' || netOf(work, compiled, part) !== null;
  if (!holds) drop(work, compiled, { source: part.source, item: part.item, changes: part.changes }, 'undone');
  return holds;
}

/** Of dates and standstills: the item is there still, in scope, `if` holds, the date is the same or nothing has changed since. */
function scheduleHolds(work: Work, { rule, version }: Match, part: Kept['parts'][number]): boolean {
  const compiled = work.state.version(rule, version);
  const item = work.state.item(part.item);
  if (!compiled || !item || !isItemInScope(compiled, item, work.at, work.state) || !compiled.ifHolds(item, work.at))
    return false;
  const { due, idle } = compiled.rule;
  if (due) return currentDate(work.state, compiled.rule, item) === part.value;
  const lastAt = item.lastAt ?? work.state.start;
  return idle !== null && String(lastAt) === part.value;
}

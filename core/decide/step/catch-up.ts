import { type CompiledRule, hasChanges, isItemInScope } from '../../rules/index.ts';
import type { CatchUp } from './state.ts';
import type { Part } from './types.ts';
import { idOfChange, idOfSchedule, type Raising } from './raise.ts';
import { type Kept, keyOf } from './rows.ts';
import { currentDate } from './arm.ts';
import { drop, netOf } from './settling.ts';
import type { StepContext } from './context.ts';

/** A match that was kept while its rule was paused, as it is told or skipped on resuming. */
type Match = Kept & { parts: Part[] };

/** A paused rule goes on: what it matched meanwhile raises an alert each, one summary a version, or is skipped. */
export function caughtUp(context: StepContext, ruleId: string, how: CatchUp): Raising[] {
  const rows = context.group('kept', keyOf(ruleId), (row) => row.key);
  for (const { key } of rows) context.remove('kept', key);
  const standing = netted(
    context,
    rows.map(({ row }) => row),
  ).flatMap((match): Match[] => {
    const parts = match.parts.filter((part) => stillHolds(context, match, part));
    return parts.length > 0 ? [{ ...match, parts }] : [];
  });
  switch (how) {
    case 'skip':
      for (const match of standing) skip(context, match);
      return [];
    case 'summary':
      return grouped(standing, (match) => String(match.version)).flatMap((group) => raisingOf(context, group, true));
    case 'each':
      return grouped(standing, (match, at) =>
        isTogether(context, match) ? `${match.version}|${match.batch}` : `|${at}`,
      ).flatMap((group) => raisingOf(context, group, false));
    default:
      return how satisfies never;
  }
}

const isTogether = (context: StepContext, { rule, version, batch, isOne }: Match): boolean =>
  batch !== null && (isOne === true || (context.state.version(rule, version)?.rule.together ?? true));

function skip(context: StepContext, { rule, version, parts }: Match): void {
  const compiled = context.state.version(rule, version);
  if (compiled) for (const part of parts) drop(context, compiled, part, 'skipped');
}

function grouped(matches: readonly Match[], keyOfMatch: (match: Match, at: number) => string): Match[][] {
  const groups = new Map<string, Match[]>();
  for (const [at, match] of matches.entries()) {
    const key = keyOfMatch(match, at);
    groups.set(key, [...(groups.get(key) ?? []), match]);
  }
  return [...groups.values()];
}

function raisingOf(context: StepContext, matches: readonly Match[], isSummary: boolean): Raising[] {
  const [{ rule, version, occasion }] = matches as [Match];
  const compiled = context.state.version(rule, version);
  if (!compiled) return [];
  const parts = matches.flatMap((match) =>
    match.parts.map(({ source, item, changes }): Part => ({ source, item, changes })),
  );
  const [first] = parts as [Part];
  const own = idOfMatch(compiled, matches[0] as Match, first);
  const id = isSummary ? `${rule}/${version}/resume/${context.at}` : own;
  const [only, ...others] = matches;
  return [{ compiled, id, occasion, parts, tally: others.length === 0 ? only?.tally : undefined }];
}

/** The id that an alert would have had, had its rule not been paused. */
function idOfMatch(compiled: CompiledRule, { occasion, at, key }: Match, first: Part): string {
  if (occasion === 'tally') return key;
  return occasion === 'change' ? idOfChange(compiled, first) : idOfSchedule(compiled, occasion, at, first.item);
}

/** Of a rule that waits until things settle, an item's matches become one, of the batch of its first. */
function netted(context: StepContext, rows: readonly Kept[]): Match[] {
  const found = new Map<string, Match>();
  for (const [at, row] of rows.entries()) {
    const isSettled =
      context.state.version(row.rule, row.version)?.rule.pace.kind === 'settled' && row.occasion === 'change';
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
function stillHolds(context: StepContext, match: Match, part: Kept['parts'][number]): boolean {
  const compiled = context.state.version(match.rule, match.version);
  if (!compiled) return false;
  const { rule } = compiled;
  // That a tally passed its mark stays so.
  const holds = hasChanges(match.occasion)
    ? rule.pace.kind !== 'settled' || netOf(context, compiled, part) !== null
    : scheduleHolds(context, match, part);
  if (!holds) drop(context, compiled, { source: part.source, item: part.item, changes: part.changes }, 'undone');
  return holds;
}

/** Of dates and standstills: the item is there still, in scope, `if` holds, the date is the same or nothing has changed since. */
function scheduleHolds(context: StepContext, { rule, version }: Match, part: Kept['parts'][number]): boolean {
  const compiled = context.state.version(rule, version);
  const item = context.state.item(part.item);
  if (
    !compiled ||
    !item ||
    !isItemInScope(compiled, item, context.at, context.state) ||
    !compiled.ifHolds(item, context.at, context.state)
  )
    return false;
  const { due, idle } = compiled.rule;
  if (due) return currentDate(context.state, compiled.rule, item) === part.value;
  const lastAt = item.lastAt ?? context.state.start;
  return idle !== null && String(lastAt) === part.value;
}

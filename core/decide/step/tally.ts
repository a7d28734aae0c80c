import type { TallyMove } from '../../messages/index.ts';
import { type CompiledRule, isItemInScope, type Rule, type Tally } from '../../rules/index.ts';
import { type Change, decimalOf, isEmpty, isMoney, type ItemState, type Value } from '../../values/index.ts';
import { compareIds, type StepContext } from './context.ts';
import { byItem, type Raising } from './raise.ts';
import { keyOf, type Tallied } from './rows.ts';
import { changesOf, type Phase } from './state.ts';
import type { Part } from './types.ts';

/** What an item adds to a tally: to which part, and how much. */
type Share = Pick<Tallied, 'part' | 'amount'>;

/** A tally's version begins: all items are counted as they stand, and nobody is told. */
export function beginTally(context: StepContext, { compiled }: Phase): void {
  const sums = new Map<string, { sum: string; items: number }>();
  for (const source of compiled.rule.scope.sources)
    for (const item of context.state.itemsOf(source)) {
      const share = shareOf(context, compiled, item);
      if (!share) continue;
      putShare(context, compiled, item.id, share);
      const known = sums.get(share.part) ?? { sum: '0', items: 0 };
      sums.set(share.part, { sum: added(known.sum, share.amount, 1), items: known.items + 1 });
    }
  for (const [part, total] of sums) putSum(context, compiled, part, total);
}

/** What a change moves of the tallies of its source: those of a batch once all of it has come in. */
export const talliedBy = (context: StepContext, change: Change): Raising[] =>
  context.state.talliesOf(change.source, context.at).flatMap((phase) => {
    const { compiled } = phase;
    return (
      context.within(compiled, '', () => {
        const part: Part = { source: change.source, item: change.item, changes: [change.id] };
        if (change.batch === null) return moved(context, phase, [part]);
        putOff(context, compiled, change, change.batch, part);
        return [];
      }) ?? []
    );
  });

function putOff(
  context: StepContext,
  { rule, version }: CompiledRule,
  change: Change,
  batch: string,
  part: Part,
): void {
  const group = keyOf('tally', rule.id, version, batch);
  const key = keyOf(group, change.source, change.id);
  context.put('batched', key, group, { ...part, at: change.at, key });
  context.set({
    key: keyOf('tally', group, change.at),
    due: change.at,
    rank: 0,
    rule: rule.id,
    item: '',
    person: '',
    task: { task: 'tally', rule: rule.id, version, group },
  });
}

/** All of a batch has come in: what it moves, it moves at once. */
export function tallied(context: StepContext, rule: string, version: number, group: string): Raising[] {
  const rows = context.group('batched', group, (row) => row.key);
  for (const { key } of rows) context.remove('batched', key);
  const phase = context.state.phase(rule, context.at);
  if (phase?.compiled.version !== version) return [];
  return moved(context, phase, byItem(rows.map(({ row: { source, item, changes } }) => ({ source, item, changes }))));
}

/** What a part of a tally came to before these changes and after them, and the items that moved it. */
interface Move {
  before: string;
  after: string;
  items: number;
  by: Part[];
}

/** Judges what was changed anew; each part that comes over its mark makes an alert of what moved it. */
function moved(context: StepContext, phase: Phase, changed: readonly Part[]): Raising[] {
  const { compiled } = phase;
  const { tally } = compiled.rule;
  if (!tally) return [];
  const moves = new Map<string, Move>();
  for (const part of changed) {
    const before = context.row('tallied', shareKey(compiled, part.item));
    const item = context.state.item(part.item);
    const after = item ? shareOf(context, compiled, item) : null;
    if (before?.part === after?.part && before?.amount === after?.amount) continue;
    if (after) putShare(context, compiled, part.item, after);
    else context.remove('tallied', shareKey(compiled, part.item));
    if (before) move(context, compiled, moves, before, -1, part);
    if (after) move(context, compiled, moves, after, 1, part);
  }
  for (const [part, { after, items }] of moves) putSum(context, compiled, part, { sum: after, items });
  return [...moves]
    .filter(([, { before, after }]) => isOver(tally, after) && !isOver(tally, before))
    .sort(([a], [b]) => compareIds(a, b))
    .flatMap(([part, { before, after, by }]) => crossing(context, phase, { part, before, after }, by));
}

function move(
  context: StepContext,
  compiled: CompiledRule,
  moves: Map<string, Move>,
  share: Share,
  sign: 1 | -1,
  by: Part,
): void {
  const row = moves.get(share.part) ? undefined : context.row('tallies', sumKey(compiled, share.part));
  const sum = row?.sum ?? '0';
  const known = moves.get(share.part) ?? { before: sum, after: sum, items: row?.items ?? 0, by: [] };
  moves.set(share.part, {
    ...known,
    after: added(known.after, share.amount, sign),
    items: known.items + sign,
    by: known.by.includes(by) ? known.by : [...known.by, by],
  });
}

/** The alert of a part that came over its mark: of the changes that moved it those that the rule tells of. While the rule is paused it is kept. */
function crossing(
  context: StepContext,
  { compiled, isPaused }: Phase,
  tally: TallyMove,
  by: readonly Part[],
): Raising[] {
  const { rule, version } = compiled;
  const parts = by.flatMap((one): Part[] => {
    const told = changesOf(context.state, one).filter(
      (change) => compiled.ofKind(change) && compiled.byActor(change, context.state) && compiled.inDates(change),
    );
    return told.length > 0 ? [{ ...one, changes: told.map(({ id }) => id) }] : [];
  });
  const [first] = parts;
  if (!first) return [];
  const id = `${rule.id}/${version}/tally/${tally.part}/${first.source}/${first.changes[0]}`;
  if (!isPaused) return [{ compiled, id, occasion: 'tally', parts, tally }];
  const kept = {
    rule: rule.id,
    version,
    at: context.at,
    occasion: 'tally' as const,
    batch: null,
    key: id,
    parts,
    tally,
  };
  context.put('kept', id, keyOf(rule.id), kept);
  return [];
}

/** What an item adds as it stands; `null` where it lies outside the scope. */
function shareOf(context: StepContext, compiled: CompiledRule, item: ItemState): Share | null {
  const { tally } = compiled.rule;
  if (!tally || !isItemInScope(compiled, item, context.at, context.state)) return null;
  const value = tally.per === null ? null : item.fields[tally.per];
  return { part: isEmpty(value) ? '' : String(value), amount: amountOf(tally, item) };
}

function amountOf({ of, becomes }: Tally, item: ItemState): string {
  if (of === 'items') return '1';
  const value: Value | undefined = item.fields[of.sum];
  const isOther = isMoney(value) && isMoney(becomes.value) && value.currency !== becomes.value.currency;
  return (isOther ? null : decimalOf(value))?.toFixed() ?? '0';
}

const OVER: Record<Tally['becomes']['op'], (order: number) => boolean> = {
  above: (order) => order > 0,
  atLeast: (order) => order >= 0,
  below: (order) => order < 0,
  atMost: (order) => order <= 0,
};

/** Whether a sum lies on the side of the mark that is told. */
function isOver({ becomes: { op, value } }: Tally, sum: string): boolean {
  const mark = decimalOf(value);
  return mark !== null && OVER[op](decimalOf(sum)?.comparedTo(mark) ?? Number.NaN);
}

/** Sums are exact: texts of decimals. */
const added = (sum: string, amount: string, sign: 1 | -1): string =>
  decimalOf(sum)
    ?.plus(decimalOf(amount)?.times(sign) ?? 0)
    .toFixed() ?? sum;

type Of = { rule: Pick<Rule, 'id'>; version: number };
const shareKey = ({ rule, version }: Of, item: string): string => keyOf(rule.id, version, item);
const sumKey = ({ rule, version }: Of, part: string): string => keyOf(rule.id, version, part);

const namedIn = ({ rule, version }: Of) => ({ rule: rule.id, version });

function putShare(context: StepContext, of: Of, item: string, share: Share): void {
  context.put('tallied', shareKey(of, item), keyOf(of.rule.id, of.version), { ...namedIn(of), item, ...share });
}

/** What a part came to; one without items is nothing, and needs no row. */
function putSum(context: StepContext, of: Of, part: string, { sum, items }: { sum: string; items: number }): void {
  if (items <= 0) context.remove('tallies', sumKey(of, part));
  else context.put('tallies', sumKey(of, part), keyOf(of.rule.id, of.version), { ...namedIn(of), part, sum, items });
}

import type { TallyMove } from '../../messages/index.ts';
import { type CompiledRule, hasChanges, type Occasion, type Rule } from '../../rules/index.ts';
import { addDuration, type Instant } from '../../time/index.ts';
import { type Change, compareArrival } from '../../values/index.ts';
import { compareIds, type StepContext } from './context.ts';
import { keyOf } from './rows.ts';
import { changesOf, type State } from './state.ts';
import type { Arising, Part } from './types.ts';

/** What an alert is raised for: which rule, what came about, and by what id it goes. */
export interface Raising {
  compiled: CompiledRule;
  id: string;
  occasion: Occasion;
  parts: readonly Part[];
  /** Of a tally: the part that passed its mark, and what it came to. */
  tally?: TallyMove | undefined;
}

/** One item of an alert with its changes, as they came. */
export interface RaisedItem {
  part: Part;
  changes: readonly Change[];
  /** The rule's limit keeps it back. */
  isCooled: boolean;
}

/** An alert that has been raised, as far as its rule's limit lets it pass. */
export interface Raised extends Pick<Raising, 'compiled' | 'id' | 'occasion' | 'tally'> {
  arising: Arising;
  /** In the order in which they are told; also those that the limit keeps back. */
  items: readonly RaisedItem[];
  /** What it holds; nothing where the limit keeps all back, so that no alert was made. */
  parts: readonly Part[];
}

/** An alert goes by the change it began with, so that deciding again gives the same. */
export const idOfChange = ({ rule, version }: CompiledRule, { source, changes }: Part): string =>
  `${rule.id}/${version}/${source}/${changes[0]}`;

/** An alert of dates or standstill goes by its instant and first item. */
export const idOfSchedule = ({ rule, version }: CompiledRule, occasion: Occasion, at: Instant, item: string): string =>
  `${rule.id}/${version}/${occasion}/${at}/${item}`;

/** Makes the alert, as far as the rule's limit lets it pass. */
export function raise(context: StepContext, { compiled, id, occasion, parts, tally }: Raising): Raised {
  const { rule, version } = compiled;
  const { items, suppressed } = limited(context, rule, inOrder(context.state, byItem(parts), occasion));
  const listed = items.filter((one) => !one.isCooled);
  const passed = listed.map(({ part }) => part);
  const arising = context.arisingOf(listed[0]?.changes[0]?.seq);
  if (passed.length > 0) {
    const changes = listed
      .flatMap((one) => one.changes)
      .sort(compareArrival)
      .map((change) => change.id);
    context.emit({
      effect: 'alert',
      alert: { id, rule: rule.id, version, at: context.at, occasion, parts: passed, changes, suppressed },
    });
    context.raised.set(
      id,
      passed.map((part) => part.item),
    );
  }
  return { compiled, id, occasion, arising, items, parts: passed, tally };
}

/** Parts of one item become one, with all changes in their order. */
export function byItem(parts: readonly Part[]): Part[] {
  const found = new Map<string, Part>();
  for (const { source, item, changes } of parts) {
    const key = keyOf(source, item);
    const known = found.get(key);
    found.set(key, { source, item, changes: known ? [...new Set([...known.changes, ...changes])] : [...changes] });
  }
  return [...found.values()];
}

type Ordered = Omit<RaisedItem, 'isCooled'>;

/** Items by the first of their changes, each with its changes as they came; of dates and standstills by their ids. */
function inOrder(state: State, parts: readonly Part[], occasion: Occasion): Ordered[] {
  if (!hasChanges(occasion))
    return [...parts].sort((a, b) => compareIds(a.item, b.item)).map((part) => ({ part, changes: [] }));
  const whole = parts.map((part): Ordered => {
    const changes = changesOf(state, part).sort(compareArrival);
    return { part: { ...part, changes: changes.map((change) => change.id) }, changes };
  });
  return whole.sort((a, b) => (a.changes[0] && b.changes[0] ? compareArrival(a.changes[0], b.changes[0]) : 0));
}

/** Which items the rule's limit keeps back; how many alerts it kept back before of the keys that pass now. */
function limited(
  context: StepContext,
  rule: Rule,
  ordered: readonly Ordered[],
): { items: RaisedItem[]; suppressed: number } {
  const { limit } = rule;
  if (!limit) return { items: ordered.map((one) => ({ ...one, isCooled: false })), suppressed: 0 };
  let suppressed = 0;
  const judged = new Map<string, boolean>();
  const items = ordered.map((one): RaisedItem => {
    const key = limit.per === 'item' ? keyOf(rule.id, one.part.item) : keyOf(rule.id);
    const known = judged.get(key);
    if (known !== undefined) return { ...one, isCooled: known };
    const row = context.row('coolDowns', key);
    const isCooled = row !== undefined && context.at < addDuration(row.listedAt, limit.within, rule.zone);
    judged.set(key, isCooled);
    if (!isCooled) suppressed += row?.suppressed ?? 0;
    const next = isCooled ? { ...row, suppressed: row.suppressed + 1 } : { listedAt: context.at, suppressed: 0 };
    context.put('coolDowns', key, keyOf(rule.id), next);
    return { ...one, isCooled };
  });
  return { items, suppressed };
}

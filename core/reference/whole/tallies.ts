import type { Rule } from '../../rules/index.ts';
import type { Change, Value } from '../../values/index.ts';
import type { PlainItem } from './judging.ts';

/** What an item adds to a tally: to which part, and how much. */
type Share = { part: string; amount: number };
type Shares = Map<string, Share>;

const figure = (value: unknown): { amount: number; currency: string } => {
  const money =
    typeof value === 'object' && value !== null && 'amount' in value
      ? (value as { amount: string; currency: string })
      : null;
  return money ? { amount: Number(money.amount), currency: money.currency } : { amount: Number(value), currency: '' };
};

/** A tally counted anew each time, as plainly as can be: what each item added when it was judged last. */
export class Tallying {
  private readonly shares: Shares = new Map();

  /** @param isInside whether an item lies in the rule's scope by now */
  constructor(
    private readonly rule: Rule,
    private readonly isInside: (item: PlainItem) => boolean,
    items: readonly PlainItem[],
  ) {
    for (const item of items) this.judge(item);
  }

  private judge(item: PlainItem): void {
    this.shares.delete(item.id);
    const { tally } = this.rule;
    if (!tally || !item.isThere || !this.isInside(item)) return;
    const by = tally.per === null ? null : (item.fields[tally.per] as Value | undefined);
    this.shares.set(item.id, {
      part: by === null || by === undefined || String(by).trim() === '' ? '' : String(by),
      amount: tally.of === 'items' ? 1 : this.added(item.fields[tally.of.sum]),
    });
  }

  private added(value: Value | undefined): number {
    const mark = figure(this.rule.tally?.becomes.value);
    const own = figure(value ?? 0);
    return own.currency === mark.currency || value === null || value === undefined ? own.amount : 0;
  }

  private isOver(part: string): boolean {
    const { op, value } = this.rule.tally?.becomes ?? { op: 'above', value: 0 };
    const sum = [...this.shares.values()].filter((one) => one.part === part).reduce((all, one) => all + one.amount, 0);
    const { amount } = figure(value);
    if (op === 'above') return sum > amount;
    if (op === 'atLeast') return sum >= amount;
    return op === 'below' ? sum < amount : sum <= amount;
  }

  /** What some changes bring about, all at once: of each part that comes over its mark the changes that moved it, by item. */
  take(changes: readonly Change[], itemOf: (id: string) => PlainItem): { item: string; changes: Change[] }[][] {
    const items = [...new Set(changes.map(({ item }) => item))];
    const before = new Map(this.shares);
    const parts = () => [...this.shares.values()].map(({ part }) => part);
    const known = new Set(parts());
    const wasOver = new Map([...known].map((part) => [part, this.isOver(part)]));
    const overWhenNew = this.isOver('no such part');
    for (const id of items) this.judge(itemOf(id));
    return [...new Set([...known, ...parts()])]
      .sort((a, b) => (a < b ? -1 : 1))
      .filter((part) => this.isOver(part) && !(wasOver.get(part) ?? overWhenNew))
      .map((part) =>
        items.flatMap((id) => {
          const amountIn = (shares: Shares) => (shares.get(id)?.part === part ? shares.get(id)?.amount : undefined);
          const isMoved = amountIn(before) !== amountIn(this.shares);
          return isMoved ? [{ item: id, changes: changes.filter((change) => change.item === id) }] : [];
        }),
      );
  }
}

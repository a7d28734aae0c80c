/** Of whom, by which rule, and of which item or alert alone somebody was told last. */
export type ToldAsked = [person: string, rule: string, item: string | null, alert: string | null];

/** What a step asked for that is not on the desk yet. */
export class Misses {
  /** Whether anything was, since it was last set back. */
  isAny = false;
  readonly rows = new Set<string>();
  readonly groups = new Set<string>();
  readonly items = new Set<string>();
  readonly sources = new Set<string>();
  readonly changes = new Map<string, [source: string, id: string]>();
  readonly followers = new Set<string>();
  readonly present = new Set<string>();
  readonly told = new Map<string, ToldAsked>();

  get isEmpty(): boolean {
    const { rows, groups, items, sources, changes, followers, present, told } = this;
    return [rows, groups, items, sources, changes, followers, present, told].every((one) => one.size === 0);
  }
}

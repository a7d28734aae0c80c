import type { Effect, Trouble } from './types.ts';

/** What of a step is under way: which rule is judged, and for whom. */
export interface About {
  rule: string;
  version: number;
  /** A recipient's key; the empty string where the rule is judged as a whole. */
  to: string;
}

/** What has failed within one step and is left out when it is taken once more: a rule as a whole, or one of those it tells. */
export class Quarantine {
  private readonly found = new Map<string, Omit<Trouble, 'at'>>();

  /** Whether a rule, or what it has for somebody, is left out. */
  has(rule: string, to = ''): boolean {
    // Hardly anything ever fails: nothing is looked up where nothing has.
    if (this.found.size === 0) return false;
    return this.found.has(keyOf(rule, to)) || (to !== '' && this.found.has(keyOf(rule, '')));
  }

  /** Leaves out what was under way when something failed; whether that is more than was left out before. */
  add(about: About | null, error: unknown): boolean {
    if (!about || this.has(about.rule, about.to)) return false;
    this.found.set(keyOf(about.rule, about.to), {
      ...about,
      code: 'cannotBeJudged',
      reason: error instanceof Error ? error.message.slice(0, 200) : 'it failed',
    });
    return true;
  }

  troubles(at: number): Effect[] {
    return [...this.found.values()].map((trouble) => ({ effect: 'trouble', trouble: { ...trouble, at } }));
  }
}

const keyOf = (rule: string, to: string): string => JSON.stringify([rule, to]);

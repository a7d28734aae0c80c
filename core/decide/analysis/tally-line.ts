import type { Rule } from '../../rules/index.ts';
import type { Instant } from '../../time/index.ts';
import type { Change } from '../../values/index.ts';
import type { Setting } from '../simulation/scenario.ts';
import { Run } from '../simulation/simulate.ts';

/** What a part of a tally came to, from an instant on: the value by which it is parted, and a decimal written out. */
export interface TallyPoint {
  at: Instant;
  part: string;
  value: string;
}

/** How a rule's tally moved over what happened, had it been live since the start: where each part began, and each move, in order of time. */
export function tallyLine(rule: Rule, setting: Setting, changes: Iterable<Change>): TallyPoint[] {
  const points: TallyPoint[] = [];
  const known = new Map<string, string>();
  const run = new Run({ ...setting, rules: [{ rule, from: setting.start }] }, undefined, () => false);
  const note = (at: Instant) => {
    const sums = new Map(run.tallies(rule.id).map(({ part, sum }) => [part, sum]));
    for (const part of new Set([...known.keys(), ...sums.keys()])) {
      const value = sums.get(part) ?? '0';
      if (known.get(part) === value) continue;
      known.set(part, value);
      points.push({ at, part, value });
    }
  };
  let last: Change | null = null;
  note(setting.start);
  for (const change of changes) {
    run.take(change);
    // What a batch moved shows once something later has come: as of its own instant.
    if (last?.batch != null && change.at > last.at) note(last.at);
    if (change.batch === null) note(change.at);
    last = change;
  }
  run.finishRun();
  if (last) note(last.at);
  return points;
}

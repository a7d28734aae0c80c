import { hearsOwn, mayRead, type Reason, reach, stepsFor, type World } from '../people/index.ts';
import type { CompiledRule } from '../rules/index.ts';
import type { Instant } from '../time/index.ts';
import { asChange, type Change, type ItemState, judgedFields, type Source } from '../values/index.ts';
import type { WithheldReason } from './types.ts';

/** What becomes of one person whom a rule reached for one item. */
export interface Hearing {
  person: string;
  reasons: Reason[];
  /** The changes told; empty where all is withheld. */
  told: Change[];
  reason: WithheldReason | null;
}

/** For each person reached by a catch of one item: told, or withheld for the first reason that applies. */
export function hearings({ rule }: CompiledRule, changes: Change[], state: World): Hearing[] {
  const last = changes.at(-1) as Change;
  const source = state.sources.get(last.source) as Source;
  const fields = judgedFields(last);
  const excluded = reach(rule.except, fields, source, state);
  const place = { source: last.source, folder: last.folder, fields };
  return [...reach(rule.to, fields, source, state)].map(([id, reasons]): Hearing => {
    const person = state.people.get(id);
    const others = person && !hearsOwn(person, rule.ownChanges) ? changes.filter((change) => change.actor !== id) : changes;
    const withheld = (reason: WithheldReason): Hearing => ({ person: id, reasons, told: [], reason });
    if (excluded.has(id)) return withheld('excluded');
    if (!person?.active) return withheld('inactive');
    if (!mayRead(id, place, state)) return withheld('noAccess');
    if (others.length === 0) return withheld('ownChange');
    if (stepsFor(person, rule).length === 0) return withheld('noChannel');
    return { person: id, reasons, told: others, reason: null };
  });
}

/** Who would hear of an item as it stands, if the rule caught somebody else's change of it now. */
export const wouldHear = (compiled: CompiledRule, item: ItemState, at: Instant, world: World): Hearing[] => hearings(compiled, [asChange(item, at)], world);

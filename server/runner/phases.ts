import type { Phase } from '../../core/decide/index.ts';
import { becameOf, type CompiledRule, isScheduled } from '../../core/rules/index.ts';
import type { Instant } from '../../core/time/index.ts';
import { type Directory, phaseAt } from '../store/index.ts';

/** Of these versions those that are live at an instant, each with how its rule stands then; in order of rule id. */
export function phasesOf(directory: Directory, versions: readonly CompiledRule[], at: Instant): Phase[] {
  const found = versions.flatMap((compiled): Phase[] => {
    const phase = phaseAt(directory, compiled.rule.id, at);
    return phase?.compiled === compiled ? [phase] : [];
  });
  return found.sort((a, b) => (a.compiled.rule.id < b.compiled.rule.id ? -1 : 1));
}

/** Versions that keep a tally over a source; versions that look at the calendar, by source and by an item that a linked scope names; those whose alerts close by themselves. */
interface Lists {
  tallying: Map<string, CompiledRule[]>;
  scheduled: Map<string, CompiledRule[]>;
  naming: Map<string, CompiledRule[]>;
  closing: Map<string, CompiledRule[]>;
}

export function listsOf(directory: Directory): Lists {
  const known = lists.get(directory);
  if (known) return known;
  const made: Lists = { tallying: new Map(), scheduled: new Map(), naming: new Map(), closing: new Map() };
  const add = (list: Map<string, CompiledRule[]>, key: string, compiled: CompiledRule) =>
    list.set(key, [...(list.get(key) ?? []), compiled]);
  for (const compiled of [...directory.versions.values()].flatMap((versions) => [...versions.values()])) {
    const { rule } = compiled;
    const byCalendar = isScheduled(rule);
    const closes = rule.ack?.closeWhenCeased === true && becameOf(rule) !== null;
    for (const source of rule.scope.sources) {
      if (rule.tally) add(made.tallying, source, compiled);
      if (byCalendar) add(made.scheduled, source, compiled);
      if (closes) add(made.closing, source, compiled);
    }
    if (byCalendar && rule.scope.linked) for (const item of rule.scope.items) add(made.naming, item, compiled);
  }
  lists.set(directory, made);
  return made;
}

/** Asked for at every change, and the same while one directory stands. */
const lists = new WeakMap<Directory, Lists>();

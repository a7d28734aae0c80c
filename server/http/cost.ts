import type { Cost } from '../../contract/api.ts';
import { hearings } from '../../core/decide/index.ts';
import { mayRead } from '../../core/people/index.ts';
import { compileRule, type Rule } from '../../core/rules/index.ts';
import { changesFromQuery, rows, toChange, worldOf } from '../store/index.ts';
import { type Caller, type Context, when } from './context.ts';

/** What a rule would have caught of the last days' changes that the caller may read, step by step, and whom it would have told. */
export async function costOf(context: Context, rule: Rule, { me, directory }: Caller, days: number): Promise<Cost> {
  const from = context.clock.now() - days * 86_400_000;
  const world = worldOf(directory, new Map());
  const found = (await rows(context.pool, changesFromQuery(rule.scope.sources, from))).map(toChange);
  const changes = found.filter((change) => mayRead(me.id, { source: change.source, folder: change.folder, fields: change.after ?? change.before ?? {} }, world));
  const compiled = compileRule(rule, directory.sources, { version: 0, from, until: null });
  const inScope = changes.filter((change) => compiled.inScope(change, world));
  const ofKind = inScope.filter(compiled.ofKind);
  const byActor = ofKind.filter((change) => compiled.byActor(change, world));
  const caught = byActor.filter((change) => compiled.holds(change) && compiled.inDates(change));
  const told = caught.flatMap((change) => hearings(compiled, [change], world));
  const heard = told.filter((hearing) => hearing.reason === null);
  const counts = new Map<string, number>();
  for (const { person } of heard) counts.set(person, (counts.get(person) ?? 0) + 1);
  return {
    days,
    steps: [
      { step: 'changes', left: changes.length }, { step: 'scope', left: inScope.length }, { step: 'kinds', left: ofKind.length },
      { step: 'actor', left: byActor.length }, { step: 'condition', left: caught.length }, { step: 'alerts', left: caught.length },
    ],
    messages: heard.length, withheld: told.length - heard.length,
    all: changes.map((change) => when(change.at)), caught: caught.map((change) => when(change.at)),
    people: [...counts].map(([person, messages]) => ({ person, messages })).sort((a, b) => b.messages - a.messages),
  };
}

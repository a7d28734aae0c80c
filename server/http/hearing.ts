import type { ReachingMessage, ScenarioInput } from '../../core/decide/index.ts';
import type { Mute, Person, Plan } from '../../core/people/index.ts';
import type { Rule } from '../../core/rules/index.ts';
import {
  inTransaction,
  livePhases,
  raiseWorldQuery,
  readInstantsQuery,
  replaceMutesQueries,
  rows,
  runAll,
  savePlanQuery,
} from '../store/index.ts';
import type { Caller, Context } from './context.ts';
import { pastOfAll } from './past.ts';

/** A way of hearing: somebody's plan, what they muted, and perhaps a rule as it would be in place of the live one. */
export interface Hearing {
  plan: Plan | null;
  mutes: readonly Mute[];
  instead?: Rule;
}

/** Keeps somebody's plan and what they muted; both hold from then on. */
export async function keepHearing(context: Context, person: string, { plan, mutes }: Hearing): Promise<void> {
  await inTransaction(context.pool, (on) =>
    runAll(on, [savePlanQuery(person, plan), ...replaceMutesQueries(person, mutes), raiseWorldQuery()]),
  );
}

/** What would have reached somebody in the last days under each of several ways of hearing: of all live rules, or of one. */
export async function heardUnder(
  context: Context,
  { me, directory }: Caller,
  hearings: Hearing[],
  days: number,
  only?: string,
): Promise<ReachingMessage[][]> {
  const rules = livePhases(directory, context.clock.now())
    .filter(({ isPaused }) => !isPaused)
    .map(({ compiled }) => compiled.rule)
    .filter((rule) => only === undefined || rule.id === only);
  const { setting, changes } = await pastOfAll(context, directory, rules, days);
  const reads = (await rows<{ read_at: number }>(context.pool, readInstantsQuery(me.id, setting.start))).map(
    (row): ScenarioInput => ({ do: 'read', at: row.read_at, person: me.id }),
  );
  const inputs = [...changes, ...reads].sort((a, b) => a.at - b.at);
  const settings = hearings.map(({ plan, mutes, instead }) => ({
    ...setting,
    people: setting.people.map((person): Person => (person.id === me.id ? { ...person, plan, mutes } : person)),
    rules: setting.rules.map((known) =>
      instead && known.rule.id === instead.id ? { ...known, rule: instead } : known,
    ),
  }));
  return context.counter.ask(me.id, 'heard', { person: me.id, settings, inputs });
}

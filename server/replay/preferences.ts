import type { ReachingMessage, ScenarioInput } from '../../core/decide/index.ts';
import { type Mute, type Person, type Plan, planUpon } from '../../core/people/index.ts';
import type { Rule } from '../../core/rules/index.ts';
import type { Caller } from '../access/index.ts';
import { livePhases, rows, store } from '../store/index.ts';
import type { ReplayContext } from './context.ts';
import { pastOfAll } from './past.ts';

/** A way of being reached: what somebody chooses of their plan, what they muted, and perhaps a rule as it would be in place of the live one. */
export interface DeliveryPreferences {
  plan: Plan | null;
  mutes: readonly Mute[];
  instead?: Rule;
}

/** What would have reached somebody in the last days under each of several preferences: of all live rules, or of one. */
export async function replayPreferences(
  context: ReplayContext,
  { me, directory }: Caller,
  preferences: readonly DeliveryPreferences[],
  days: number,
  only?: string,
): Promise<ReachingMessage[][]> {
  const rules = livePhases(directory, context.clock.now())
    .filter(({ isPaused }) => !isPaused)
    .map(({ compiled }) => compiled.rule)
    .filter((rule) => only === undefined || rule.id === only);
  const { setting, changes } = await pastOfAll(context, directory, rules, days);
  const reads = (await rows(context.pool, store.messages.readInstants(me.id, setting.start))).map(
    (at): ScenarioInput => ({ do: 'read', at, person: me.id }),
  );
  const inputs = [...changes, ...reads].sort((a, b) => a.at - b.at);
  const settings = preferences.map(({ plan, mutes, instead }) => ({
    ...setting,
    people: setting.people.map(
      (person): Person => (person.id === me.id ? { ...person, plan: planUpon(plan, me.start), mutes } : person),
    ),
    rules: setting.rules.map((known) =>
      instead && known.rule.id === instead.id ? { ...known, rule: instead } : known,
    ),
  }));
  return context.counter.ask(me.id, 'reaching', { person: me.id, settings, inputs });
}

import type { Mute, Plan } from '../../core/people/index.ts';
import { inTransaction, runAll, store } from '../store/index.ts';
import type { ActContext } from './context.ts';

/** Keeps somebody's plan and what they muted; both hold from then on. */
export async function savePreferences(
  { pool }: Pick<ActContext, 'pool'>,
  person: string,
  { plan, mutes }: { plan: Plan | null; mutes: readonly Mute[] },
): Promise<void> {
  await inTransaction(pool, (on) =>
    runAll(on, [store.people.savePlan(person, plan), ...store.people.replaceMutes(person, mutes), store.world.raise()]),
  );
}

/** Speaks to somebody in another language from then on: in pages, messages and dates. */
export async function saveLocale({ pool }: Pick<ActContext, 'pool'>, person: string, locale: string): Promise<void> {
  await inTransaction(pool, (on) => runAll(on, [store.people.saveLocale(person, locale), store.world.raise()]));
}

import { keepPreviousData, type MutationMeta, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { AnyLessWay, DeliveryPreferences, LessTaken } from '../../contract/wire/index.ts';
import type { BodyOf } from '../../contract/routes.ts';
import { call } from './api.ts';
import { keys } from './keys.ts';
import { SHOWN } from './shown.ts';

export const usePlan = () => useQuery({ queryKey: keys.plan.all, queryFn: () => call('plan.read') });

/** The last week under the plan that is kept, and under the one that is being edited. */
export const usePlanWeek = (preferences: DeliveryPreferences) =>
  useQuery({
    queryKey: keys.plan.week(JSON.stringify(preferences)),
    queryFn: () => call('plan.week', { body: preferences }),
    placeholderData: keepPreviousData,
    staleTime: 60_000,
  });

/** Something that changes how one is reached; what shows that is asked for again. */
function usePreferencesAct<T, R>(act: (input: T) => Promise<R>, meta: MutationMeta = SHOWN) {
  const client = useQueryClient();
  return useMutation({
    meta,
    mutationFn: act,
    onSuccess: () => {
      for (const queryKey of [keys.plan.all, keys.less.all, keys.rules.all])
        void client.invalidateQueries({ queryKey });
    },
  });
}

/** Addresses of one's own: asked for, confirmed, taken away; and a message by each channel to see how it comes. */
export function useAddressActs() {
  return {
    ask: usePreferencesAct((body: BodyOf<'addresses.ask'>) => call('addresses.ask', { body })),
    confirm: usePreferencesAct((code: string) => call('addresses.confirm', { body: { code } })),
    forget: usePreferencesAct((channel: 'email' | 'text') => call('addresses.forget', { params: { channel } }), {}),
    remove: usePreferencesAct((channel: 'email' | 'text') => call('addresses.remove', { params: { channel } }), {}),
    removeFurther: usePreferencesAct((address: string) => call('addresses.removeFurther', { params: { address } })),
    trial: usePreferencesAct((channel: 'inApp' | 'email' | 'text') => call('addresses.trial', { params: { channel } })),
  };
}

export const useKeepPlan = () =>
  usePreferencesAct((preferences: DeliveryPreferences) => call('plan.save', { body: preferences }));

/** The ways to hear less of a rule, or of one item of it, each with what it would have left of the last month. */
export const useLess = (rule: string, item: string | null) =>
  useQuery({
    queryKey: keys.less.of(rule, item),
    queryFn: () => call('less.read', { query: { rule, item: item ?? undefined } }),
    staleTime: 60_000,
  });
export const useTakeLess = () =>
  usePreferencesAct((body: { way: AnyLessWay; rule: string; item: string | null; until?: string | null }) =>
    call('less.take', { body }),
  );
export const useLessBack = () =>
  usePreferencesAct(
    ({ rule, ...before }: LessTaken) => call('less.back', { body: { ...before, rule: rule && { ...rule } } }),
    {},
  );

import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { AnyLessWay, LessPage, LessTaken, PlanPage, WeekPage } from '../../contract/api.ts';
import type { Mute, Plan } from '../../core/people/index.ts';
import { api } from './api.ts';

export interface Hearing {
  plan: Plan | null;
  mutes: Mute[];
}

export const usePlan = () => useQuery({ queryKey: ['plan'], queryFn: () => api<PlanPage>('/me/plan') });

/** The last week under the plan that is kept, and under the one that is being edited. */
export const usePlanWeek = (hearing: Hearing) =>
  useQuery({
    queryKey: ['plan', 'week', JSON.stringify(hearing)],
    queryFn: () => api<WeekPage>('/me/plan/week', 'POST', hearing),
    placeholderData: keepPreviousData,
    staleTime: 60_000,
  });

function useHearingAct<T, R>(act: (input: T) => Promise<R>) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: act,
    onSuccess: () => {
      for (const key of ['plan', 'less', 'rules']) void client.invalidateQueries({ queryKey: [key] });
    },
  });
}

/** Addresses of one's own: asked for, confirmed, taken away; and a message by each channel to see how it comes. */
export function useAddressActs() {
  return {
    ask: useHearingAct((body: { channel: 'email' | 'text'; address: string }) =>
      api<void>('/me/addresses', 'POST', body),
    ),
    confirm: useHearingAct((code: string) => api<void>('/me/addresses/code', 'POST', { code })),
    remove: useHearingAct((channel: 'email' | 'text') => api<void>(`/me/addresses/${channel}`, 'DELETE')),
    trial: useHearingAct((channel: 'inApp' | 'email' | 'text') =>
      api<{ address: string }>(`/me/trial/${channel}`, 'POST', {}),
    ),
  };
}

export const useKeepPlan = () => useHearingAct((hearing: Hearing) => api<PlanPage>('/me/plan', 'PUT', hearing));

/** The ways to hear less of a rule, or of one item of it, each with what it would have left of the last month. */
export const useLess = (rule: string, item: string | null) =>
  useQuery({
    queryKey: ['less', rule, item],
    queryFn: () => api<LessPage>(`/less?${new URLSearchParams({ rule, ...(item ? { item } : {}) })}`),
    staleTime: 60_000,
  });
export const useTakeLess = () =>
  useHearingAct((body: { way: AnyLessWay; rule: string; item: string | null; until?: string | null }) =>
    api<LessTaken>('/less', 'POST', body),
  );
export const useLessBack = () => useHearingAct((before: LessTaken) => api<void>('/less/back', 'POST', before));

import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { Cost, RuleRow } from '../../contract/api.ts';
import type { Rule } from '../../core/rules/index.ts';
import { api } from './api.ts';

export const useRules = () => useQuery({ queryKey: ['rules'], queryFn: () => api<RuleRow[]>('/rules') });
export const useRule = (id: string | null) => useQuery({ queryKey: ['rules', id], queryFn: () => api<RuleRow>(`/rules/${id}`), enabled: id !== null });

/** What the rule, as it is being edited, would have done in the last days; the last answer stays until the next is there. */
export const useCost = (document: Rule, isSound: boolean) =>
  useQuery({
    queryKey: ['cost', JSON.stringify({ ...document, name: '' })],
    queryFn: () => api<Cost>('/rules/cost', 'POST', { document: { ...document, id: 'draft', name: document.name || 'A new rule' } }),
    enabled: isSound, placeholderData: keepPreviousData, staleTime: 30_000, retry: false,
  });

function useRuleAct<T, R = RuleRow>(act: (input: T) => Promise<R>) {
  const client = useQueryClient();
  return useMutation({ mutationFn: act, onSuccess: () => client.invalidateQueries({ queryKey: ['rules'] }) });
}

export const useCreateRule = () => useRuleAct((document: Rule) => api<RuleRow>('/rules', 'POST', { document }));
export const useKeepDraft = () => useRuleAct(({ document, revision }: { document: Rule; revision: number }) => api<RuleRow>(`/rules/${document.id}/draft`, 'PUT', { document, revision }));
export const useDropDraft = () => useRuleAct((id: string) => api<void>(`/rules/${id}/draft`, 'DELETE'));
export const usePutLive = () => useRuleAct(({ id, revision }: { id: string; revision: number }) => api<RuleRow>(`/rules/${id}/live`, 'POST', { revision }));
export const useEndRule = () => useRuleAct((id: string) => api<RuleRow>(`/rules/${id}/end`, 'POST'));

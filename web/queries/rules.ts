import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type {
  Cost,
  CountedMend,
  Directory,
  RuleAct,
  RuleRow,
  RuleVersion,
  Sample,
  TryPage,
} from '../../contract/api.ts';
import type { Rule } from '../../core/rules/index.ts';
import { api } from './api.ts';

export const useRules = () => useQuery({ queryKey: ['rules'], queryFn: () => api<RuleRow[]>('/rules') });
/** What a paused rule keeps grows without a word from the server: it is asked for again and again. */
export const useRule = (id: string | null) =>
  useQuery({
    queryKey: ['rules', id],
    queryFn: () => api<RuleRow>(`/rules/${id}`),
    enabled: id !== null,
    refetchInterval: ({ state }) => (state.data?.isPaused ? 4000 : false),
  });

export type Days = 7 | 30 | 90;

/** A rule as the server counts and tries it: without the name, which costs nothing. */
const counted = (document: Rule) => ({ ...document, id: 'draft', name: 'A rule' });

/** What the rule, as it is being edited, would have done in the last days; the last answer stays until the next is there. */
export const useCost = (document: Rule, days: Days, isSound: boolean) =>
  useQuery({
    queryKey: ['cost', days, JSON.stringify(counted(document))],
    queryFn: () => api<Cost>('/rules/cost', 'POST', { document: counted(document), days }),
    enabled: isSound,
    placeholderData: keepPreviousData,
    staleTime: 30_000,
    retry: false,
  });

/** What would make the rule cheaper, each with its own count. */
export const useMends = (document: Rule, days: Days, isWanted: boolean) =>
  useQuery({
    queryKey: ['mends', days, JSON.stringify(counted(document))],
    queryFn: () => api<CountedMend[]>('/rules/mends', 'POST', { document: counted(document), days }),
    enabled: isWanted,
    placeholderData: keepPreviousData,
    staleTime: 30_000,
    retry: false,
  });

/** The rule tried on one past change, or an item; the newest that it would catch where none is chosen. */
export const useTry = (document: Rule, on: { change: string | null; person: string | null }, isSound: boolean) =>
  useQuery({
    queryKey: ['try', on.change, on.person, JSON.stringify({ ...document, id: 'draft' })],
    queryFn: () =>
      api<TryPage>('/rules/try', 'POST', {
        document: { ...document, id: 'draft', name: document.name.trim() || 'A new rule' },
        ...(on.change ? { change: on.change } : {}),
        ...(on.person ? { person: on.person } : {}),
      }),
    enabled: isSound,
    placeholderData: keepPreviousData,
    staleTime: 30_000,
    retry: false,
  });

/** A past change by its id, to start a rule from. */
export const pastChangeQuery = (source: string, change: string) => ({
  queryKey: ['change', source, change],
  queryFn: () => api<Sample>(`/changes/${encodeURIComponent(source)}/${encodeURIComponent(change)}`),
});

export const useVersions = (id: string | null) =>
  useQuery({
    queryKey: ['rules', id, 'versions'],
    queryFn: () => api<RuleVersion[]>(`/rules/${id}/versions`),
    enabled: id !== null,
  });

/** Says every so often that the rule is open here, and learns who else has it open. */
export const useEditing = (id: string | null) =>
  useQuery({
    queryKey: ['editing', id],
    queryFn: () => api<string[]>(`/rules/${id}/editing`, 'PUT', {}),
    enabled: id !== null,
    refetchInterval: 15_000,
    retry: false,
  });

function useRuleAct<T, R = RuleRow>(act: (input: T) => Promise<R>) {
  const client = useQueryClient();
  return useMutation({ mutationFn: act, onSuccess: () => client.invalidateQueries({ queryKey: ['rules'] }) });
}

export const useCreateRule = () => useRuleAct((document: Rule) => api<RuleRow>('/rules', 'POST', { document }));
export const useKeepDraft = () =>
  useRuleAct(({ document, revision }: { document: Rule; revision: number }) =>
    api<RuleRow>(`/rules/${document.id}/draft`, 'PUT', { document, revision }),
  );
export const useDropDraft = () => useRuleAct((id: string) => api<void>(`/rules/${id}/draft`, 'DELETE'));
export const usePutLive = () =>
  useRuleAct(({ id, ...body }: { id: string; revision: number; why?: string | null; isSure?: boolean }) =>
    api<RuleRow>(`/rules/${id}/live`, 'POST', body),
  );
/** Acts on several rules at once. */
export const useRuleActs = () => useRuleAct((act: RuleAct) => api<RuleRow[]>('/rules/acts', 'POST', act));

/** Edits a rule so that it leaves somebody out; the edit gathers beside what is live. */
export const useLeaveOut = () =>
  useRuleAct(async ({ rule, person }: { rule: string; person: string }) => {
    const { draft, live, draftRevision } = await api<RuleRow>(`/rules/${rule}`);
    const document = (draft ?? live) as Rule;
    return api<RuleRow>(`/rules/${rule}/draft`, 'PUT', {
      document: { ...document, except: [...document.except, { person }] },
      revision: draftRevision,
    });
  });

type Wording = Directory['wordings'][number];

/** Shared wordings stand in the directory: it is read anew once one is written. */
export function useSaveWording() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (wording: Wording) =>
      wording.id ? api<Wording>(`/wordings/${wording.id}`, 'PUT', wording) : api<Wording>('/wordings', 'POST', wording),
    onSuccess: () => client.invalidateQueries({ queryKey: ['directory'] }),
  });
}
export function useDropWording() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (id: string) => api<void>(`/wordings/${id}`, 'DELETE'),
    onSuccess: () => client.invalidateQueries({ queryKey: ['directory'] }),
  });
}

import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { RuleRow, View } from '../../contract/api.ts';
import type { Rule } from '../../core/rules/index.ts';
import { api } from './api.ts';

/** Keeps an eye on something: a personal rule that is live at once. */
export function useKeepAnEye() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: { document: Rule; person?: string }) => api<RuleRow>('/eyes', 'POST', body),
    onSuccess: () =>
      Promise.all([
        client.invalidateQueries({ queryKey: ['rules'] }),
        client.invalidateQueries({ queryKey: ['item'] }),
        client.invalidateQueries({ queryKey: ['sources'] }),
      ]),
  });
}

/** The named views of a source. */
export const useViews = (source: string) =>
  useQuery({ queryKey: ['views', source], queryFn: () => api<View[]>(`/sources/${encodeURIComponent(source)}/views`) });

export function useNameView(source: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: { name: string; asked: View['asked'] }) =>
      api<View>(`/sources/${encodeURIComponent(source)}/views`, 'POST', body),
    onSuccess: () => client.invalidateQueries({ queryKey: ['views', source] }),
  });
}

export function useDropView(source: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (id: string) => api<void>(`/views/${id}`, 'DELETE'),
    onSuccess: () => client.invalidateQueries({ queryKey: ['views', source] }),
  });
}

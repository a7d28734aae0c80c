import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { View } from '../../contract/wire/index.ts';
import type { Rule } from '../../core/rules/index.ts';
import { call } from './api.ts';
import { keys } from './keys.ts';
import { SHOWN } from './shown.ts';

/** Keeps an eye on something: a personal rule that is live at once. */
export function useKeepAnEye() {
  const client = useQueryClient();
  return useMutation({
    meta: SHOWN,
    mutationFn: ({ document, person }: { document: Rule; person?: string }) =>
      call('eyes.keep', { body: { document: { ...document }, person } }),
    onSuccess: () =>
      Promise.all(
        [keys.rules.all, keys.items.every, keys.sources].map((queryKey) => client.invalidateQueries({ queryKey })),
      ),
  });
}

/** The named views of a source. */
export const useViews = (source: string) =>
  useQuery({ queryKey: keys.views(source), queryFn: () => call('views.list', { params: { source } }) });

export function useNameView(source: string) {
  const client = useQueryClient();
  return useMutation({
    meta: SHOWN,
    mutationFn: (body: { name: string; asked: View['asked'] }) => call('views.name', { params: { source }, body }),
    onSuccess: () => client.invalidateQueries({ queryKey: keys.views(source) }),
  });
}

export function useDropView(source: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (id: string) => call('views.drop', { params: { id } }),
    onSuccess: () => client.invalidateQueries({ queryKey: keys.views(source) }),
  });
}

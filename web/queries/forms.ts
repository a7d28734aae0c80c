import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { FormDefined } from '../../contract/wire/index.ts';
import { call } from './api.ts';
import { keys } from './keys.ts';
import { SHOWN } from './shown.ts';

/** The forms behind links of a source, for those who look after it. */
export const useForms = (source: string) =>
  useQuery({
    queryKey: keys.forms(source),
    queryFn: () => call('forms.list', { params: { source } }),
    retry: false,
  });

function useFormAct<T, R>(source: string, act: (input: T) => Promise<R>) {
  const client = useQueryClient();
  return useMutation({
    meta: SHOWN,
    mutationFn: act,
    onSuccess: () => client.invalidateQueries({ queryKey: keys.forms(source) }),
  });
}
/** Makes a form behind a link, or puts one as it is to be. */
export const useSaveForm = (source: string, id: string | null) =>
  useFormAct(source, (body: FormDefined) =>
    id === null ? call('forms.add', { params: { source }, body }) : call('forms.save', { params: { id }, body }),
  );
export const useDropForm = (source: string) =>
  useFormAct(source, (id: string) => call('forms.drop', { params: { id } }));

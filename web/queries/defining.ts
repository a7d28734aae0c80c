import { useMutation, useQueryClient } from '@tanstack/react-query';
import type { FieldsGuessed, SourceDefined } from '../../contract/wire/index.ts';
import { addressOf } from '../../contract/paths.ts';
import { call, refusalOf } from './api.ts';
import { SHOWN } from './shown.ts';

/** Makes a source, or gives one other fields; answers its id. Whatever is shown may look otherwise from then on. */
export function useDefineSource(known: string | null) {
  const client = useQueryClient();
  return useMutation({
    meta: SHOWN,
    mutationFn: async (body: SourceDefined): Promise<string> => {
      if (known === null) return (await call('sources.define', { body })).id;
      await call('sources.redefine', { params: { source: known }, body });
      return known;
    },
    onSuccess: () => client.invalidateQueries(),
  });
}

/** What the columns of a file seem to hold. */
export const useGuessFields = () =>
  useMutation({
    meta: SHOWN,
    mutationFn: async (file: File): Promise<FieldsGuessed> => {
      const { method, path } = addressOf('sources.guess', {});
      const response = await fetch(`/api${path}?${new URLSearchParams({ name: file.name })}`, {
        method,
        headers: { 'content-type': 'application/octet-stream' },
        body: file,
      });
      if (!response.ok) throw await refusalOf(response);
      return (await response.json()) as FieldsGuessed;
    },
  });

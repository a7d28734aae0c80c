import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { TokenAsked } from '../../contract/wire/index.ts';
import { call } from './api.ts';
import { keys } from './keys.ts';
import { SHOWN } from './shown.ts';

/** One's own tokens. */
export const useTokens = () => useQuery({ queryKey: keys.tokens, queryFn: () => call('tokens.list') });

function useTokenAct<T, R>(act: (input: T) => Promise<R>) {
  const client = useQueryClient();
  return useMutation({
    meta: SHOWN,
    mutationFn: act,
    onSuccess: () => client.invalidateQueries({ queryKey: keys.tokens }),
  });
}
/** Makes a token, which is told once. */
export const useMakeToken = () => useTokenAct((body: TokenAsked) => call('tokens.make', { body }));
export const useEndToken = () => useTokenAct((id: string) => call('tokens.end', { params: { id } }));

/** What the description of the API holds, as far as it is shown. */
export interface Described {
  paths: Record<
    string,
    Record<
      string,
      {
        operationId: string;
        tags: string[];
        summary?: string;
        description?: string;
        parameters?: { name: string; in: string; required: boolean; schema: unknown }[];
        requestBody?: { content: Record<string, { schema: unknown }> };
        responses: Record<string, { description: string; content?: Record<string, { schema: unknown }> }>;
      }
    >
  >;
}
/** The description of the API (OpenAPI 3.1). */
export const useDescribed = () =>
  useQuery({
    queryKey: keys.described,
    queryFn: async (): Promise<Described> => (await fetch('/api/openapi.json')).json() as Promise<Described>,
    staleTime: Number.POSITIVE_INFINITY,
  });

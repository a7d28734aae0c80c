import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { Demo, Me } from '../../contract/api.ts';
import { ApiError, api } from './api.ts';

/** Who is signed in; `null` where nobody is. */
export function useMe() {
  return useQuery({
    queryKey: ['me'],
    staleTime: 60_000,
    queryFn: () =>
      api<Me>('/session').catch((error: unknown) => {
        if (error instanceof ApiError && error.problem.status === 401) return null;
        throw error;
      }),
  });
}

/** The demo's people to choose from; `null` where this is no demo. */
export const useDemo = () =>
  useQuery({
    queryKey: ['demo'],
    queryFn: () => api<Demo>('/demo').catch(() => null),
    staleTime: Number.POSITIVE_INFINITY,
  });

export function useSignIn() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: { name: string; password: string }) => api<void>('/session', 'POST', body),
    onSuccess: () => client.resetQueries(),
  });
}

export function useSignOut() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: () => api<void>('/session', 'DELETE'),
    onSuccess: () => {
      client.clear();
      client.setQueryData(['me'], null);
    },
  });
}

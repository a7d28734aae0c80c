import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { SignIn } from '../../contract/wire/index.ts';
import type { Language } from '../../core/locales/index.ts';
import { ApiError, call } from './api.ts';
import { keys } from './keys.ts';
import { SHOWN } from './shown.ts';

/** Who is signed in; `null` where nobody is. */
export function useMe() {
  return useQuery({
    queryKey: keys.me,
    staleTime: 60_000,
    queryFn: () =>
      call('session.me').catch((error: unknown) => {
        if (error instanceof ApiError && error.problem.status === 401) return null;
        throw error;
      }),
  });
}

/** The demo's people to choose from; `null` where this is no demo. */
export const useDemo = () =>
  useQuery({
    queryKey: keys.demo,
    queryFn: () => call('session.demo').catch(() => null),
    staleTime: Number.POSITIVE_INFINITY,
  });

/** What there is to sign in by beside a password. */
export const useWays = () =>
  useQuery({
    queryKey: keys.ways,
    queryFn: () => call('session.ways').catch(() => null),
    staleTime: Number.POSITIVE_INFINITY,
  });

export function useSignIn() {
  const client = useQueryClient();
  return useMutation({
    meta: SHOWN,
    mutationFn: (body: SignIn) => call('session.open', { body }),
    onSuccess: () => client.resetQueries(),
  });
}

export function useSignOut() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: () => call('session.close'),
    onSuccess: () => {
      client.clear();
      client.setQueryData(keys.me, null);
    },
  });
}

/** Pages and messages speak another language from then on. */
export function useSpeak() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (language: Language) => call('session.speak', { body: { language } }),
    onSuccess: () => client.invalidateQueries(),
  });
}

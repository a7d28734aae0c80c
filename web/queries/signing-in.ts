import { type QueryClient, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { SigningInPage } from '../../contract/wire/index.ts';
import { call } from './api.ts';
import { keys } from './keys.ts';
import { SHOWN } from './shown.ts';

/** How one signs in oneself, and where one is signed in. */
export const useSigningIn = () => useQuery({ queryKey: keys.signingIn, queryFn: () => call('signingIn.read') });

const fetchAnew = (client: QueryClient) => client.invalidateQueries({ queryKey: keys.signingIn });

function useSigningInAct<T, R>(act: (input: T) => Promise<R>, after = fetchAnew) {
  const client = useQueryClient();
  return useMutation({ meta: SHOWN, mutationFn: act, onSuccess: () => after(client) });
}
export const useChangePassword = () =>
  useSigningInAct((body: { old: string; password: string }) => call('signingIn.password', { body }));
/** Begins a second factor; nothing is on yet. */
export const useBeginSecond = () =>
  useSigningInAct(
    (body: { old: string }) => call('signingIn.beginSecond', { body }),
    async () => undefined,
  );
/** Puts it on; answers the spare codes. What it opens is fetched once those have been read. */
export const usePutOnSecond = () =>
  useSigningInAct(
    (body: { code: string }) => call('signingIn.putOnSecond', { body }),
    async () => undefined,
  );
export const useDropSecond = () => useSigningInAct((body: { old: string }) => call('signingIn.dropSecond', { body }));
export const useEndSession = () => useSigningInAct((id: string) => call('signingIn.end', { params: { id } }));
export const useEndOtherSessions = () => useSigningInAct(() => call('signingIn.endOthers'));
/** Of whom a second factor is asked from now on. */
export const useAskSecond = () =>
  useSigningInAct((of: SigningInPage['second']['askedOf']) => call('signingIn.ask', { body: { of } }));
/** What stood behind a second factor that was asked. */
export function useAfterSecond() {
  const client = useQueryClient();
  return () => void client.invalidateQueries({ queryKey: keys.me }).then(() => client.invalidateQueries());
}

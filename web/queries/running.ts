import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { KeptFor } from '../../contract/wire/index.ts';
import { call } from './api.ts';
import { keys } from './keys.ts';
import { SHOWN } from './shown.ts';

/** How Ojo runs, looked at anew every few seconds while the page is open. */
export const useRunning = () =>
  useQuery({ queryKey: keys.running, queryFn: () => call('running.read'), refetchInterval: 5000 });
/** Has mail go to an address again that it came back from. */
export function useResumeAddress() {
  const client = useQueryClient();
  return useMutation({
    meta: SHOWN,
    mutationFn: (address: string) => call('running.resumeAddress', { body: { address } }),
    onSuccess: () => client.invalidateQueries({ queryKey: keys.running }),
  });
}
/** Chooses for how long things are kept. */
export function useKeep() {
  const client = useQueryClient();
  return useMutation({
    meta: SHOWN,
    mutationFn: (body: KeptFor) => call('running.keep', { body }),
    onSuccess: () => client.invalidateQueries({ queryKey: keys.running }),
  });
}

import { useQuery } from '@tanstack/react-query';
import { call } from './api.ts';
import { keys } from './keys.ts';

/** How Ojo runs, looked at anew every few seconds while the page is open. */
export const useRunning = () =>
  useQuery({ queryKey: keys.running, queryFn: () => call('running.read'), refetchInterval: 5000 });

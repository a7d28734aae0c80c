import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { MachineDefined } from '../../contract/wire/index.ts';
import { call } from './api.ts';
import { keys } from './keys.ts';
import { SHOWN } from './shown.ts';

/** Machines that rules may tell, for stewards. */
export const useMachines = () => useQuery({ queryKey: keys.machines, queryFn: () => call('machines.list') });

function useMachineAct<T, R>(act: (input: T) => Promise<R>) {
  const client = useQueryClient();
  return useMutation({
    meta: SHOWN,
    mutationFn: act,
    onSuccess: () => {
      for (const queryKey of [keys.machines, keys.directory]) void client.invalidateQueries({ queryKey });
    },
  });
}
/** Makes a machine known; answers its secret, once. */
export const useAddMachine = () => useMachineAct((body: MachineDefined) => call('machines.add', { body }));
export const useSaveMachine = (id: string) =>
  useMachineAct((body: MachineDefined & { isPaused: boolean }) => call('machines.save', { params: { id }, body }));
/** Another secret, told once; the one before signs as well for a day. */
export const useRotateSecret = (id: string) => useMachineAct(() => call('machines.rotate', { params: { id } }));
/** Posts an event that says nothing, and tells what came of it. */
export const useTryMachine = (id: string) => useMachineAct(() => call('machines.try', { params: { id } }));
export const useDropMachine = (id: string) => useMachineAct(() => call('machines.drop', { params: { id } }));
/** How a message would look to a machine that is told by such a template. */
export const useMachinePreview = (kind: 'event' | 'json' | 'text', template: string) =>
  useQuery({
    queryKey: keys.machinePreview(kind, template),
    queryFn: () => call('machines.preview', { body: { kind, template } }),
    placeholderData: keepPreviousData,
    enabled: template !== '',
  });

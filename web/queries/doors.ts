import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { DoorDefined } from '../../contract/wire/index.ts';
import { call } from './api.ts';
import { keys } from './keys.ts';
import { SHOWN } from './shown.ts';

/** The doors into a source. */
export const useDoors = (source: string) =>
  useQuery({ queryKey: keys.doors(source), queryFn: () => call('doors.list', { params: { source } }), retry: false });

function useDoorAct<T, R>(source: string, act: (input: T) => Promise<R>) {
  const client = useQueryClient();
  return useMutation({
    meta: SHOWN,
    mutationFn: act,
    onSuccess: () => client.invalidateQueries({ queryKey: keys.doors(source) }),
  });
}
/** Makes a door, and answers its key, which is told once. */
export const useAddDoor = (source: string) =>
  useDoorAct(source, (body: DoorDefined) => call('doors.add', { params: { source }, body }));
export const useSaveDoor = (source: string, id: string) =>
  useDoorAct(source, (body: DoorDefined) => call('doors.save', { params: { id }, body }));
export const useRekeyDoor = (source: string, id: string) =>
  useDoorAct(source, () => call('doors.rekey', { params: { id } }));
export const useDropDoor = (source: string, id: string) =>
  useDoorAct(source, () => call('doors.drop', { params: { id } }));
/** What a sample would come to; nothing is kept. */
export const useTryDoor = (source: string) =>
  useMutation({
    meta: SHOWN,
    mutationFn: (body: { mappings: DoorDefined['mappings']; sample: string }) =>
      call('doors.try', { params: { source }, body }),
  });

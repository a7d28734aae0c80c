import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { call } from './api.ts';
import { keys } from './keys.ts';
import { SHOWN } from './shown.ts';

export const usePeople = () => useQuery({ queryKey: keys.people.all, queryFn: () => call('people.list') });
export const useHears = (person: string) =>
  useQuery({ queryKey: keys.people.hears(person), queryFn: () => call('people.hears', { params: { id: person } }) });

/** Outside addresses, for those who look after rules. */
export const useContacts = (isOn: boolean) =>
  useQuery({ queryKey: keys.contacts, queryFn: () => call('contacts.list'), enabled: isOn });
/** Something done to outside addresses; the list, and whom rules may name, are asked for again. */
function useContactAct<T, R>(act: (input: T) => Promise<R>) {
  const client = useQueryClient();
  return useMutation({
    meta: SHOWN,
    mutationFn: act,
    onSuccess: () => {
      for (const queryKey of [keys.contacts, keys.directory]) void client.invalidateQueries({ queryKey });
    },
  });
}
/** Keeps an outside address, and asks it whether it may be written to. */
export const useAddContact = () =>
  useContactAct((body: { name: string; email: string }) => call('contacts.add', { body }));
export const useRenameContact = (id: string) =>
  useContactAct((body: { name: string }) => call('contacts.rename', { params: { id }, body }));
export const useDropContact = (id: string) => useContactAct(() => call('contacts.drop', { params: { id } }));
/** Asks an outside address once more whether it may be written to. */
export const useAskContact = () => useContactAct((id: string) => call('contacts.ask', { params: { id } }));

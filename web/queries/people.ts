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
/** Asks an outside address once more whether it may be written to. */
export function useAskContact() {
  const client = useQueryClient();
  return useMutation({
    meta: SHOWN,
    mutationFn: (id: string) => call('contacts.ask', { params: { id } }),
    onSuccess: () => client.invalidateQueries({ queryKey: keys.contacts }),
  });
}

import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { ContactRow, HearsPage, PersonRow } from '../../contract/api.ts';
import { api } from './api.ts';

export const usePeople = () => useQuery({ queryKey: ['people'], queryFn: () => api<PersonRow[]>('/people') });
export const useHears = (person: string) =>
  useQuery({
    queryKey: ['people', person, 'hears'],
    queryFn: () => api<HearsPage>(`/people/${encodeURIComponent(person)}/hears`),
  });

/** Outside addresses, for those who look after rules. */
export const useContacts = (isOn: boolean) =>
  useQuery({ queryKey: ['contacts'], queryFn: () => api<ContactRow[]>('/contacts'), enabled: isOn });
/** Asks an outside address once more whether it may be written to. */
export function useAskContact() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (id: string) => api<{ askedAt: string }>(`/contacts/${encodeURIComponent(id)}/ask`, 'POST', {}),
    onSuccess: () => client.invalidateQueries({ queryKey: ['contacts'] }),
  });
}

import { useQuery } from '@tanstack/react-query';
import type { HearsPage, PersonRow } from '../../contract/api.ts';
import { api } from './api.ts';

export const usePeople = () => useQuery({ queryKey: ['people'], queryFn: () => api<PersonRow[]>('/people') });
export const useHears = (person: string) => useQuery({ queryKey: ['people', person, 'hears'], queryFn: () => api<HearsPage>(`/people/${encodeURIComponent(person)}/hears`) });

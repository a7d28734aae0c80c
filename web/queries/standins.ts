import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { Mail, Mailbox, MailRow, Phone, TextRow } from '../../contract/api.ts';
import { api } from './api.ts';

const part = encodeURIComponent;
// The stand-ins are other programs: nothing pushes what they receive, so their open pages look again.
const LIVE = { refetchInterval: 2000 };

export const useMailboxes = () =>
  useQuery({ queryKey: ['mail'], queryFn: () => api<Mailbox[]>('/standins/mail'), ...LIVE });
export const useMailbox = (address: string | null) =>
  useQuery({
    queryKey: ['mail', address],
    queryFn: () => api<MailRow[]>(`/standins/mail/${part(address ?? '')}`),
    enabled: address !== null,
    ...LIVE,
  });
export const useMail = (address: string | null, id: string | null) =>
  useQuery({
    queryKey: ['mail', address, id],
    queryFn: () => api<Mail>(`/standins/mail/${part(address ?? '')}/${id}`),
    enabled: address !== null && id !== null,
  });
export const usePhones = () =>
  useQuery({ queryKey: ['phones'], queryFn: () => api<Phone[]>('/standins/phones'), ...LIVE });
export const usePhone = (number: string | null) =>
  useQuery({
    queryKey: ['phones', number],
    queryFn: () => api<TextRow[]>(`/standins/phones/${part(number ?? '')}`),
    enabled: number !== null,
    ...LIVE,
  });

/** Answers from a stand-in's telephone. */
export function useAnswerText(number: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (words: string) => api<void>(`/standins/phones/${part(number)}`, 'POST', { words }),
    onSuccess: () => client.invalidateQueries({ queryKey: ['phones', number] }),
  });
}

import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { Moods } from '../../contract/wire/index.ts';
import { call } from './api.ts';
import { keys } from './keys.ts';
import { SHOWN } from './shown.ts';

// The stand-ins are other programs: nothing pushes what they receive, so their open pages look again.
const LIVE = { refetchInterval: 2000 };

export const useMailboxes = () =>
  useQuery({ queryKey: keys.mail.all, queryFn: () => call('standins.mailboxes'), ...LIVE });
export const useMailbox = (address: string | null) =>
  useQuery({
    queryKey: keys.mail.box(address),
    queryFn: () => call('standins.mailbox', { params: { address: address ?? '' } }),
    enabled: address !== null,
    ...LIVE,
  });
export const useMail = (address: string | null, id: string | null) =>
  useQuery({
    queryKey: keys.mail.one(address, id),
    queryFn: () => call('standins.mail', { params: { address: address ?? '', id: id ?? '' } }),
    enabled: address !== null && id !== null,
  });
export const usePhones = () => useQuery({ queryKey: keys.phones.all, queryFn: () => call('standins.phones'), ...LIVE });
export const usePhone = (number: string | null) =>
  useQuery({
    queryKey: keys.phones.one(number),
    queryFn: () => call('standins.phone', { params: { number: number ?? '' } }),
    enabled: number !== null,
    ...LIVE,
  });

/** Answers from a stand-in's telephone. */
export function useAnswerText(number: string) {
  const client = useQueryClient();
  return useMutation({
    meta: SHOWN,
    mutationFn: (words: string) => call('standins.answer', { params: { number }, body: { words } }),
    onSuccess: () => client.invalidateQueries({ queryKey: keys.phones.one(number) }),
  });
}

export const useHooksTaken = () => useQuery({ queryKey: keys.hooks, queryFn: () => call('standins.hooks'), ...LIVE });
export const useMoods = () => useQuery({ queryKey: keys.moods, queryFn: () => call('standins.moods') });
/** Has the stand-ins behave otherwise. */
export function useSetMoods() {
  const client = useQueryClient();
  return useMutation({
    meta: SHOWN,
    mutationFn: (moods: Moods) => call('standins.setMoods', { body: moods }),
    onSuccess: () => client.invalidateQueries({ queryKey: keys.moods }),
  });
}

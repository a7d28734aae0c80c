import { type QueryKey, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { Account, GroupDefined, StartsPage } from '../../contract/wire/index.ts';
import { call } from './api.ts';
import { keys } from './keys.ts';
import { SHOWN } from './shown.ts';

/** Somebody's account, for stewards. */
export const useAccount = (person: string | null) =>
  useQuery({
    queryKey: keys.people.account(person),
    queryFn: () => call('accounts.read', { params: { id: person ?? '' } }),
    enabled: person !== null,
  });

/** Something that a steward sets up; whatever anybody sees may be another from then on. */
function useSettingUp<T, R>(act: (input: T) => Promise<R>, stale: QueryKey = []) {
  const client = useQueryClient();
  return useMutation({
    meta: SHOWN,
    mutationFn: act,
    // What somebody else changed meanwhile is fetched, so that what was typed stands on it.
    onError: () => client.invalidateQueries({ queryKey: stale }),
    onSuccess: () => client.invalidateQueries(),
  });
}

/** Makes an account; answers its id, and the page on which a password is chosen. */
export const useAddAccount = () => useSettingUp((body: Account) => call('accounts.add', { body }));
export const useSaveAccount = (id: string) =>
  useSettingUp(
    (body: { account: Account; seal: string }) => call('accounts.save', { params: { id }, body }),
    keys.people.account(id),
  );
/** A new page on which somebody chooses a password. */
export const useWelcome = (id: string) => useSettingUp(() => call('accounts.welcome', { params: { id } }));

/** Takes somebody's second factor off, who has lost it. */
export const useDropTheirSecond = (id: string) => useSettingUp(() => call('accounts.dropSecond', { params: { id } }));

/** What a change of somebody's account comes to; nothing is asked while there is no change. */
export const useAccountPreview = (id: string, account: Account | null) =>
  useQuery({
    queryKey: keys.people.preview(id, JSON.stringify(account)),
    queryFn: ({ signal }) => call('accounts.preview', { params: { id }, body: account as Account, signal }),
    enabled: account !== null,
    retry: false,
    gcTime: 0,
  });

/** All groups, for stewards. */
export const useGroups = () => useQuery({ queryKey: keys.groups.all, queryFn: () => call('groups.list') });
export const useAddGroup = () => useSettingUp((body: GroupDefined) => call('groups.add', { body }));
export const useSaveGroup = (id: string) =>
  useSettingUp(
    (body: { group: GroupDefined; seal: string }) => call('groups.save', { params: { id }, body }),
    keys.groups.all,
  );
export const useDropGroup = (id: string) => useSettingUp(() => call('groups.drop', { params: { id } }));
/** What a change of a group comes to; nothing is asked while there is no change. */
export const useGroupPreview = (id: string, group: GroupDefined | null) =>
  useQuery({
    queryKey: keys.groups.preview(id, JSON.stringify(group)),
    queryFn: ({ signal }) => call('groups.preview', { params: { id }, body: group as GroupDefined, signal }),
    enabled: group !== null,
    retry: false,
    gcTime: 0,
  });

/** The plans that people start with, for stewards. */
export const useStarts = () => useQuery({ queryKey: keys.starts, queryFn: () => call('starts.read') });
export const useSaveStarts = () =>
  useSettingUp((body: Pick<StartsPage, 'starts' | 'seal'>) => call('starts.save', { body }), keys.starts);

/** Whose page to choose a password on it is. */
export const useWelcomed = (token: string) =>
  useQuery({
    queryKey: keys.welcome(token),
    queryFn: () => call('welcome.read', { params: { token } }),
    retry: false,
    staleTime: Number.POSITIVE_INFINITY,
  });
export const useChoosePassword = (token: string) =>
  useMutation({
    meta: SHOWN,
    mutationFn: (body: { password: string }) => call('welcome.choose', { params: { token }, body }),
  });

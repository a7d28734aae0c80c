import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { BodyOf } from '../../contract/routes.ts';
import { call } from './api.ts';
import { keys } from './keys.ts';
import { SHOWN } from './shown.ts';

/** Who may read, add and edit at a place; `null` where it goes by what stands above it. */
export type AccessAsked = BodyOf<'access.save'>;

/** Who may do what in a source, for those who may know. */
export const useAccess = (source: string) =>
  useQuery({
    queryKey: keys.access.of(source),
    queryFn: () => call('access.read', { params: { source } }),
    retry: false,
  });

/** Whom a change of access would shut out, and which rules then reach nobody. */
export const useAccessPreview = (source: string, asked: AccessAsked | null) =>
  useQuery({
    queryKey: keys.access.preview(source, JSON.stringify(asked)),
    queryFn: ({ signal }) =>
      call('access.preview', { params: { source }, body: asked ?? { folder: null, rights: null }, signal }),
    enabled: asked !== null,
    retry: false,
    gcTime: 0,
  });

/** Changes who may do what; whatever anybody sees may be another from then on. */
export function useSaveAccess(source: string) {
  const client = useQueryClient();
  return useMutation({
    meta: SHOWN,
    mutationFn: (body: AccessAsked) => call('access.save', { params: { source }, body }),
    onSuccess: () => client.invalidateQueries(),
  });
}

/** Has it noted who opens what lies in a folder, or no longer. */
export function useNoteLooks(source: string) {
  const client = useQueryClient();
  return useMutation({
    meta: SHOWN,
    mutationFn: (body: BodyOf<'access.noteLooks'>) => call('access.noteLooks', { params: { source }, body }),
    onSuccess: () => client.invalidateQueries(),
  });
}

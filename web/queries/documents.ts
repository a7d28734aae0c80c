import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { z } from 'zod';
import type { Source } from '../../core/values/index.ts';
import type { HandedIn, itemActSchema } from '../../contract/wire/index.ts';
import { call, handIn, refusalOf } from './api.ts';
import { keys } from './keys.ts';
import { SHOWN } from './shown.ts';
import { useItemsWhere } from './sources.ts';

/** What somebody does to items beside editing their fields, as it is sent. */
export type ItemActAsked = z.input<typeof itemActSchema>;

/** Has asked anew whatever changes with items of a source: each of them, their lists, the Trail. What was done is done before they are there. */
export function useItemsChanged(source: string) {
  const client = useQueryClient();
  return () => {
    for (const queryKey of [keys.items.every, keys.items.of(source), keys.sources, keys.trail.all])
      void client.invalidateQueries({ queryKey });
  };
}

/** Does one thing to items of a source; of several as one batch. */
export function useItemActs(source: string) {
  return useMutation({
    meta: SHOWN,
    mutationFn: ({ ids, act }: { ids: string[]; act: ItemActAsked }) =>
      call('items.acts', { params: { source }, body: { ids, act } }),
    onSuccess: useItemsChanged(source),
  });
}

export const useDocumentVersions = (item: string) =>
  useQuery({
    queryKey: keys.items.versions(item),
    queryFn: () => call('documents.versions', { params: { id: item } }),
  });

/** What a version of a document holds, as text. */
export const useDocumentText = (item: string, number: number) =>
  useQuery({
    queryKey: keys.items.text(item, number),
    queryFn: async ({ signal }) => {
      const response = await fetch(fileAddress(item, number, 'text'), { signal });
      if (!response.ok) throw await refusalOf(response);
      return response.text();
    },
    // A version never changes.
    staleTime: Number.POSITIVE_INFINITY,
  });

/** Where a document's contents are: of one version, or the newest; to be looked at, to be kept, or as text. */
export const fileAddress = (item: string, number?: number, as?: 'download' | 'text'): string => {
  const asked = new URLSearchParams({
    ...(number === undefined ? {} : { number: String(number) }),
    ...(as === undefined ? {} : { as }),
  });
  return `/api/items/${encodeURIComponent(item)}/file${asked.size > 0 ? `?${asked}` : ''}`;
};

/** What was handed in, and the document that it is a new version of; a new document where there is none. */
export interface Placed {
  given: HandedIn;
  item: string | null;
}

/** Makes documents, and new versions of those that are there, of what was handed in; hears of each that is done, since the next may be refused. */
export function useAddDocuments(source: string, onPlaced: (given: readonly HandedIn[]) => void) {
  return useMutation({
    meta: SHOWN,
    mutationFn: async ({ folder, files }: { folder: string; files: readonly Placed[] }) => {
      const fresh = files.filter(({ item }) => item === null).map(({ given }) => given);
      if (fresh.length > 0) {
        const body = { folder, files: fresh.map(({ upload, name }) => ({ upload, name })) };
        await call('documents.add', { params: { source }, body });
        onPlaced(fresh);
      }
      for (const { given, item } of files) {
        if (item === null) continue;
        await call('documents.addVersion', { params: { id: item }, body: { upload: given.upload } });
        onPlaced([given]);
      }
    },
    onSettled: useItemsChanged(source),
  });
}

/** The documents of a folder that bear one of these names, by name. */
export function useNamesakes(source: Source, folder: string, names: readonly string[]) {
  const where = JSON.stringify({ field: source.titleField, op: 'oneOf', value: names, matchCase: true });
  const found = useItemsWhere(source.id, where, names.length > 0);
  const here = (found.data?.items ?? []).filter((item) => item.folder === folder);
  return new Map(here.map((item) => [item.title, item.id]));
}

/** A new version of a document: of a file, or of what an earlier version held. */
export function useAddVersion(source: string, item: string) {
  return useMutation({
    meta: SHOWN,
    mutationFn: async (given: { file: File } | { number: number }) => {
      const body =
        'file' in given ? { upload: (await handIn(source, given.file, {})).upload } : { number: given.number };
      return call('documents.addVersion', { params: { id: item }, body });
    },
    onSuccess: useItemsChanged(source),
  });
}

import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { BodyOf } from '../../contract/routes.ts';
import type { HandedIn, TableLooked } from '../../contract/wire/index.ts';
import { call, handIn } from './api.ts';
import { useItemsChanged } from './documents.ts';
import { keys } from './keys.ts';
import { SHOWN } from './shown.ts';

/** Which column goes to which field, and by which rows are known again. */
export type TableMapping = BodyOf<'tables.plan'>['mapping'];

/** A file that was handed in, and what it holds. */
export interface TableFile {
  given: HandedIn;
  sheet: string | null;
  looked: TableLooked;
}

/** Hands a file of rows in and looks at it, or at another sheet of one that is in already. */
export function useLookAtTable(source: string) {
  return useMutation({
    meta: SHOWN,
    mutationFn: async (asked: { file: File } | { given: HandedIn; sheet: string }): Promise<TableFile> => {
      const given = 'file' in asked ? await handIn(source, asked.file, {}) : asked.given;
      const sheet = 'file' in asked ? null : asked.sheet;
      const looked = await call('tables.look', { params: { source }, body: { upload: given.upload, sheet } });
      return { given, sheet, looked };
    },
  });
}

/** What a file would come to, row by row. */
export const usePlannedTable = (source: string, { given, sheet }: TableFile, mapping: TableMapping) =>
  useQuery({
    queryKey: keys.items.planned(source, given.upload, JSON.stringify({ sheet, mapping })),
    queryFn: ({ signal }) =>
      call('tables.plan', { params: { source }, body: { upload: given.upload, sheet, mapping }, signal }),
    retry: false,
    gcTime: 0,
  });

/** Takes a file in, as it was looked at. */
export function useTakeTable(source: string) {
  const client = useQueryClient();
  const changed = useItemsChanged(source);
  return useMutation({
    meta: SHOWN,
    mutationFn: (body: BodyOf<'tables.take'>) => call('tables.take', { params: { source }, body }),
    onSuccess: changed,
    onError: () => client.invalidateQueries({ queryKey: keys.items.plannedOf(source) }),
  });
}

/** How far a file that is being taken in has come; asked again and again while it is. */
export const useTakeProgress = (source: string, upload: string, isTaking: boolean) =>
  useQuery({
    queryKey: keys.items.progress(source, upload),
    queryFn: () => call('tables.progress', { params: { source }, query: { upload } }),
    enabled: isTaking,
    refetchInterval: 700,
    gcTime: 0,
    retry: false,
  });

/** Where what is asked of a source's items can be had as a file. */
export function tableAddress(source: string, asked: Record<string, string | undefined>, as: string): string {
  const given = Object.entries({ ...asked, as }).filter((pair): pair is [string, string] => Boolean(pair[1]));
  return `/api/sources/${encodeURIComponent(source)}/table?${new URLSearchParams(given)}`;
}

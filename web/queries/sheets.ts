import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { call } from './api.ts';
import { keys } from './keys.ts';
import { SHOWN } from './shown.ts';

/** What a table document holds, and whether its rows are watched. */
export const useSheet = (item: string, sheet: string | null) =>
  useQuery({
    queryKey: keys.items.sheet(item, sheet),
    queryFn: ({ signal }) =>
      call('sheets.look', { params: { id: item }, query: sheet === null ? {} : { sheet }, signal }),
    retry: false,
  });

/** Watches the rows of a table document, or leaves them as they are. */
export function useWatchSheet(item: string) {
  const client = useQueryClient();
  return useMutation({
    meta: SHOWN,
    mutationFn: async (wanted: { key: string; sheet: string | null } | null) => {
      if (wanted === null) await call('sheets.leave', { params: { id: item } });
      else await call('sheets.watch', { params: { id: item }, body: wanted });
    },
    // The rows are a source of their own, which the directory names.
    onSuccess: () =>
      Promise.all(
        [keys.items.one(item), keys.directory, keys.sources, keys.trail.all].map((queryKey) =>
          client.invalidateQueries({ queryKey }),
        ),
      ),
  });
}

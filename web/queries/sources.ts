import { keepPreviousData, useInfiniteQuery, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { Directory, Found, ItemPage, ItemRow, SourceRow } from '../../contract/api.ts';
import type { Fields } from '../../core/values/index.ts';
import { api } from './api.ts';

export const useDirectory = () =>
  useQuery({ queryKey: ['directory'], queryFn: () => api<Directory>('/directory'), staleTime: 5 * 60_000 });

export const useSources = () => useQuery({ queryKey: ['sources'], queryFn: () => api<SourceRow[]>('/sources') });

export interface ItemList {
  total: number;
  items: ItemRow[];
  names: Record<string, string>;
}

/** What is asked of a source's items: any word, the state they are in (as a JSON state test), their order. */
export interface ItemsAsked {
  text?: string;
  where?: string;
  sort?: string;
  down?: string;
}

export const useItems = (source: string, asked: ItemsAsked) => {
  const query = String(new URLSearchParams(Object.entries(asked).filter(([, value]) => value)));
  return useQuery({
    queryKey: ['items', source, query],
    queryFn: () => api<ItemList>(`/sources/${source}/items?${query}`),
    enabled: source !== '',
    placeholderData: keepPreviousData,
  });
};

export const itemQueryOf = (id: string) => ({ queryKey: ['item', id], queryFn: () => api<ItemPage>(`/items/${id}`) });
export const useItem = (id: string | null) => useQuery({ ...itemQueryOf(id ?? ''), enabled: id !== null });

export function useSaveItem(id: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: { from: number; set: Fields }) => api<ItemRow>(`/items/${id}`, 'PATCH', body),
    onSuccess: () => client.invalidateQueries({ queryKey: ['item', id] }),
  });
}

export function useCreateItem(source: string) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: { set: Fields; folder: string | null }) =>
      api<ItemRow>(`/sources/${source}/items`, 'POST', body),
    onSuccess: () => client.invalidateQueries({ queryKey: ['items', source] }),
  });
}

/** Takes an item away, or brings it back. */
export function useRemoveItem() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ id, from, isBack }: { id: string; from: number; isBack?: boolean }) =>
      isBack
        ? api<ItemRow>(`/items/${id}/restore`, 'POST', { from })
        : api<ItemRow>(`/items/${id}`, 'DELETE', { from }),
    onSuccess: (item) =>
      Promise.all([
        client.invalidateQueries({ queryKey: ['item', item.id] }),
        client.invalidateQueries({ queryKey: ['items', item.source] }),
      ]),
  });
}

export const useFind = (text: string) =>
  useQuery({
    queryKey: ['find', text],
    queryFn: () => api<Found>(`/find?${new URLSearchParams({ text })}`),
    enabled: text.trim() !== '',
    placeholderData: keepPreviousData,
  });

/** A source's items page by page, as they were asked for. */
export const useItemPages = (source: string, asked: ItemsAsked) => {
  const query = Object.entries(asked).filter((pair): pair is [string, string] => Boolean(pair[1]));
  return useInfiniteQuery({
    queryKey: ['items', source, 'pages', String(new URLSearchParams(query))],
    initialPageParam: 0,
    placeholderData: keepPreviousData,
    queryFn: ({ pageParam }) =>
      api<ItemList>(
        `/sources/${encodeURIComponent(source)}/items?${new URLSearchParams([...query, ['offset', String(pageParam)]])}`,
      ),
    getNextPageParam: (last: ItemList, pages) => {
      const loaded = pages.reduce((sum, page) => sum + page.items.length, 0);
      return last.items.length > 0 && loaded < last.total ? loaded : undefined;
    },
  });
};

import { keepPreviousData, useInfiniteQuery, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { ItemList } from '../../contract/wire/index.ts';
import type { Fields } from '../../core/values/index.ts';
import { call } from './api.ts';
import { keys } from './keys.ts';
import { SHOWN } from './shown.ts';

export const useDirectory = () =>
  useQuery({ queryKey: keys.directory, queryFn: () => call('directory.read'), staleTime: 5 * 60_000 });

/** Who may read an item, or something of a source: asked only by those who may know. */
export const useReaders = (source: string, item: string | null, isWanted: boolean) =>
  useQuery({
    queryKey: keys.readers(source, item),
    queryFn: () => call('sources.readers', { params: { source }, query: item === null ? {} : { item } }),
    enabled: isWanted,
    retry: false,
  });

/** How edits of a source, or of one item, follow each other; asked once, as it hardly changes. */
export const useRhythm = (source: string, item: string | null) =>
  useQuery({
    queryKey: keys.rhythm(source, item),
    queryFn: () => call('sources.rhythm', { params: { source }, query: item === null ? {} : { item } }),
    enabled: source !== '',
    staleTime: 10 * 60_000,
    retry: false,
  });

export const useSources = () => useQuery({ queryKey: keys.sources, queryFn: () => call('sources.list') });

/** What is asked of a source's items: any word, the state they are in (as a JSON state test), their order. */
export interface ItemsAsked {
  text?: string;
  where?: string;
  sort?: string;
  down?: string;
}

const listQuery = ({ text, where, sort, down }: ItemsAsked) => ({
  text: text || undefined,
  where: where || undefined,
  sort: sort || undefined,
  down: down === '1' ? ('1' as const) : undefined,
});

export const useItems = (source: string, asked: ItemsAsked) =>
  useQuery({
    queryKey: keys.items.asked(source, JSON.stringify(listQuery(asked))),
    queryFn: ({ signal }) => call('items.list', { params: { source }, query: listQuery(asked), signal }),
    enabled: source !== '',
    placeholderData: keepPreviousData,
  });

export const itemQueryOf = (id: string) => ({
  queryKey: keys.items.one(id),
  queryFn: () => call('items.read', { params: { id } }),
});
export const useItem = (id: string | null) => useQuery({ ...itemQueryOf(id ?? ''), enabled: id !== null });

export function useSaveItem(id: string) {
  const client = useQueryClient();
  return useMutation({
    meta: SHOWN,
    mutationFn: (body: { from: number; set: Fields }) => call('items.edit', { params: { id }, body }),
    onSuccess: () => client.invalidateQueries({ queryKey: keys.items.one(id) }),
  });
}

export function useCreateItem(source: string) {
  const client = useQueryClient();
  return useMutation({
    meta: SHOWN,
    mutationFn: (body: { set: Fields; folder: string | null }) => call('items.create', { params: { source }, body }),
    onSuccess: () => client.invalidateQueries({ queryKey: keys.items.of(source) }),
  });
}

/** Gives an item the fields that it had after one of its changes. */
export function useBringBack(id: string) {
  const client = useQueryClient();
  return useMutation({
    meta: SHOWN,
    mutationFn: (body: { from: number; change: string }) => call('items.bringBack', { params: { id }, body }),
    onSuccess: ({ source }) => {
      for (const queryKey of [keys.items.one(id), keys.items.of(source)]) void client.invalidateQueries({ queryKey });
    },
  });
}

/** The items of a source that are in a state (a JSON state test); none of what was asked before stands in their place. */
export const useItemsWhere = (source: string, where: string, isWanted = true) =>
  useQuery({
    queryKey: keys.items.asked(source, JSON.stringify({ where })),
    queryFn: ({ signal }) => call('items.list', { params: { source }, query: { where }, signal }),
    enabled: isWanted,
  });

/** Takes an item away, or brings it back. */
export function useRemoveItem() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ id, from, isBack }: { id: string; from: number; isBack?: boolean }) =>
      call(isBack ? 'items.restore' : 'items.remove', { params: { id }, body: { from } }),
    onSuccess: (item) =>
      Promise.all([
        client.invalidateQueries({ queryKey: keys.items.one(item.id) }),
        client.invalidateQueries({ queryKey: keys.items.of(item.source) }),
      ]),
  });
}

export const useFind = (text: string) =>
  useQuery({
    queryKey: keys.find(text),
    queryFn: ({ signal }) => call('find.text', { query: { text }, signal }),
    enabled: text.trim() !== '',
    placeholderData: keepPreviousData,
  });

/** A source's items page by page, as they were asked for. */
export const useItemPages = (source: string, asked: ItemsAsked) =>
  useInfiniteQuery({
    queryKey: keys.items.pages(source, JSON.stringify(listQuery(asked))),
    initialPageParam: 0,
    placeholderData: keepPreviousData,
    queryFn: ({ pageParam, signal }) =>
      call('items.list', { params: { source }, query: { ...listQuery(asked), offset: pageParam }, signal }),
    getNextPageParam: (last: ItemList, pages) => {
      const loaded = pages.reduce((sum, page) => sum + page.items.length, 0);
      return last.items.length > 0 && loaded < last.total ? loaded : undefined;
    },
  });

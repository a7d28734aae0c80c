import { useInfiniteQuery } from '@tanstack/react-query';
import type { TrailPage } from '../../contract/api.ts';
import { api } from './api.ts';

/** What is asked of the trail. */
export type TrailAsked = Partial<
  Record<'source' | 'person' | 'kind' | 'field' | 'item' | 'from' | 'until' | 'batch', string>
>;

/** The trail, page by page, newest first. */
export const useTrail = (asked: TrailAsked) =>
  useInfiniteQuery({
    queryKey: ['trail', asked],
    initialPageParam: '',
    getNextPageParam: (page: TrailPage) => page.next,
    queryFn: ({ pageParam }) =>
      api<TrailPage>(`/trail?${new URLSearchParams({ ...asked, ...(pageParam ? { before: pageParam } : {}) })}`),
  });

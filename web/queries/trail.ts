import { useInfiniteQuery } from '@tanstack/react-query';
import type { TrailPage } from '../../contract/wire/index.ts';
import { call } from './api.ts';
import { keys } from './keys.ts';

/** What is asked of the trail. */
export type TrailAsked = Partial<
  Record<'source' | 'person' | 'kind' | 'field' | 'item' | 'from' | 'until' | 'batch', string>
>;

/** The trail, page by page, newest first. */
export const useTrail = (asked: TrailAsked) =>
  useInfiniteQuery({
    queryKey: keys.trail.asked(asked),
    initialPageParam: '',
    getNextPageParam: (page: TrailPage) => page.next,
    queryFn: ({ pageParam }) => call('trail.list', { query: { ...asked, before: pageParam || undefined } }),
  });

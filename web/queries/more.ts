import { useCallback, useEffect, useState } from 'react';

/** A list that comes page by page, as TanStack Query keeps it. */
interface Paged {
  isFetching: boolean;
  hasNextPage: boolean;
  fetchNextPage: () => Promise<unknown>;
}

/**
 * Has a list go on, once what is being asked for now is there: to fetch a page at once would break off the asking again
 * of those that have gone stale, and they would stay as they were.
 */
export function useMore({ isFetching, hasNextPage, fetchNextPage }: Paged): () => void {
  const [isWanted, setWanted] = useState(false);
  useEffect(() => {
    if (!isWanted || isFetching) return;
    setWanted(false);
    if (hasNextPage) void fetchNextPage();
  }, [isWanted, isFetching, hasNextPage, fetchNextPage]);
  return useCallback(() => setWanted(true), []);
}

// @vitest-environment jsdom
import { QueryClient, QueryClientProvider, useInfiniteQuery } from '@tanstack/react-query';
import { act, renderHook, waitFor } from '@testing-library/react';
import type { ReactNode } from 'react';
import { expect, it } from 'vitest';
import { useMore } from './more.ts';

it('has a list go on only after what had gone stale is asked for again', async () => {
  const client = new QueryClient();
  const wrapper = ({ children }: { children: ReactNode }) => (
    <QueryClientProvider client={client}>{children}</QueryClientProvider>
  );
  const waiting: (() => void)[] = [];
  let edition = 'old';
  const { result } = renderHook(
    () => {
      const list = useInfiniteQuery({
        queryKey: ['list'],
        initialPageParam: 1,
        getNextPageParam: (_last: string, all: string[]) => all.length + 1,
        queryFn: ({ pageParam }) => {
          const answer = `${edition} ${pageParam}`;
          return new Promise<string>((resolve) => waiting.push(() => resolve(answer)));
        },
      });
      return { list, more: useMore(list) };
    },
    { wrapper },
  );
  const answer = () => act(async () => waiting.shift()?.());
  await answer();
  edition = 'new';
  act(() => void client.invalidateQueries({ queryKey: ['list'] }));
  act(() => result.current.more());
  await waitFor(() => expect(waiting).toHaveLength(1));
  await answer();
  await waitFor(() => expect(waiting).toHaveLength(1));
  await answer();
  await waitFor(() => expect(result.current.list.data?.pages).toEqual(['new 1', 'new 2']));
});

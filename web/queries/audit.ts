import { useInfiniteQuery } from '@tanstack/react-query';
import type { AuditedKind, AuditPage } from '../../contract/wire/index.ts';
import { call } from './api.ts';
import { keys } from './keys.ts';

/** What people did in Ojo itself, page by page, newest first. */
export const useAudit = (kind: AuditedKind | null) =>
  useInfiniteQuery({
    queryKey: keys.audit(kind),
    initialPageParam: 0,
    getNextPageParam: (page: AuditPage) => page.next,
    queryFn: ({ pageParam }) =>
      call('audit.list', { query: { ...(pageParam ? { before: pageParam } : {}), ...(kind ? { kind } : {}) } }),
  });

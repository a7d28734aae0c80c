import { useEffect, useRef } from 'react';
import type { RuleRow } from '../../../../contract/wire/index.ts';
import type { Rule } from '../../../../core/rules/index.ts';
import { useKeepDraft } from '../../../queries/index.ts';

/**
 * Keeps the edits of a known rule on the server, shortly after each, so that nothing is lost and others see them. What
 * others keep meanwhile is taken over where nothing is edited here.
 */
export function useKept(row: RuleRow | null, rule: Rule, mayKeep: boolean, onTheirs: (document: Rule) => void) {
  const keep = useKeepDraft();
  const revision = useRef(row?.draftRevision ?? 0);
  const json = JSON.stringify(rule);
  const last = useRef(JSON.stringify(row?.draft ?? row?.live ?? rule));
  const running = useRef<Promise<unknown>>(Promise.resolve());
  const { mutateAsync } = keep;

  const send = useRef(async () => undefined as unknown);
  send.current = async () => {
    await running.current.catch(() => undefined);
    if (!row || last.current === json) return;
    last.current = json;
    running.current = mutateAsync({ document: rule, revision: revision.current }).then((kept) => {
      revision.current = kept.draftRevision;
    });
    await running.current;
  };
  useEffect(() => {
    if (!row || !mayKeep || !row.mayEdit || last.current === json) return;
    const timer = setTimeout(() => void send.current().catch(() => undefined), 600);
    return () => clearTimeout(timer);
  }, [row, mayKeep, json]);

  const theirs = useRef(onTheirs);
  theirs.current = onTheirs;
  useEffect(() => {
    const document = row?.draft ?? row?.live;
    if (!row || !document || row.draftRevision <= revision.current || last.current !== json || keep.isPending) return;
    revision.current = row.draftRevision;
    last.current = JSON.stringify(document);
    if (last.current !== json) theirs.current(document);
  }, [row, json, keep.isPending]);

  return {
    error: keep.error,
    /** Waits until all edits are kept; gives the revision that holds them. */
    settle: async () => {
      await send.current();
      await running.current;
      return revision.current;
    },
    /** What is now live, or gathers, on the server: the page goes on from there. */
    follow: (done: RuleRow) => {
      revision.current = done.draftRevision;
      last.current = JSON.stringify(done.draft ?? done.live);
      keep.reset();
    },
    forget: () => {
      revision.current += 1;
      last.current = JSON.stringify(row?.live);
    },
  };
}
